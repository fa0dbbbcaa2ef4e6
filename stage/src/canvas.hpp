#pragma once
// A sheet to draw on: a thin owner of a Cairo surface.

#include "alpglow/stage/picture.hpp"

#include <cairo.h>

#include <string>
#include <vector>

namespace alpglow::stage {

struct Ink {
  double red, green, blue, alpha = 1;
};

struct Point2 {
  double x, y;
};

struct Rectangle {
  double x, y, width, height;
};

enum class Align { left, centre, right };

class Canvas {
 public:
  /// In units of its own, each of which is so many pixels.
  Canvas(int width, int height, Ink paper, double scale = 1);
  ~Canvas();
  Canvas(const Canvas&) = delete;
  Canvas& operator=(const Canvas&) = delete;

  void text(Point2 baseline, const std::string& words, double size, Ink ink, Align align = Align::left,
            bool bold = false);
  void image(const Image& image, Rectangle area);
  void fillRectangle(Rectangle area, Ink ink);
  void strokeRectangle(Rectangle area, Ink ink, double width);
  void polygon(const std::vector<Point2>& corners, Ink fill);
  /// Dashes of 0 draw a whole line.
  void line(const std::vector<Point2>& points, Ink ink, double width, double dash = 0, bool closed = false);
  void disc(Point2 centre, double radius, Ink ink);
  void clip(Rectangle area);
  void unclip();
  std::string png() const;
  /// Throws std::runtime_error where it cannot be made.
  std::string jpeg() const;

 private:
  void outline(const std::vector<Point2>& points, bool closed);
  void ink(Ink ink);

  cairo_surface_t* surface_;
  cairo_t* pen_;
};

}  // namespace alpglow::stage
