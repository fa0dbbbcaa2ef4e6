#include "canvas.hpp"

#include <cmath>
#include <cstdio>  // jpeglib.h wants it first
#include <cstdlib>
#include <stdexcept>

#include <jpeglib.h>

namespace alpglow::stage {

Canvas::Canvas(int width, int height, Ink paper, double scale)
    : surface_(cairo_image_surface_create(CAIRO_FORMAT_RGB24, static_cast<int>(std::lround(width * scale)),
                                          static_cast<int>(std::lround(height * scale)))),
      pen_(cairo_create(surface_)) {
  cairo_scale(pen_, scale, scale);
  ink(paper);
  cairo_paint(pen_);
}

Canvas::~Canvas() {
  cairo_destroy(pen_);
  cairo_surface_destroy(surface_);
}

void Canvas::ink(Ink ink) { cairo_set_source_rgba(pen_, ink.red, ink.green, ink.blue, ink.alpha); }

/// Without any, cairo draws letters itself.
bool fontsMissing() {
  cairo_surface_t* surface = cairo_image_surface_create(CAIRO_FORMAT_RGB24, 1, 1);
  cairo_t* pen = cairo_create(surface);
  cairo_select_font_face(pen, "DejaVu Sans", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
  const bool missing = cairo_scaled_font_get_type(cairo_get_scaled_font(pen)) == CAIRO_FONT_TYPE_USER;
  cairo_destroy(pen);
  cairo_surface_destroy(surface);
  return missing;
}

void Canvas::text(Point2 baseline, const std::string& words, double size, Ink colour, Align align, bool bold) {
  cairo_select_font_face(pen_, "DejaVu Sans", CAIRO_FONT_SLANT_NORMAL,
                         bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
  cairo_set_font_size(pen_, size);
  cairo_text_extents_t extents;
  cairo_text_extents(pen_, words.c_str(), &extents);
  const double share = align == Align::left ? 0.0 : align == Align::centre ? 0.5 : 1.0;
  ink(colour);
  cairo_move_to(pen_, baseline.x - share * extents.x_advance, baseline.y);
  cairo_show_text(pen_, words.c_str());
}

void Canvas::image(const Image& source, Rectangle area) {
  cairo_surface_t* picture = cairo_image_surface_create(CAIRO_FORMAT_RGB24, source.width, source.height);
  unsigned char* rows = cairo_image_surface_get_data(picture);
  const int stride = cairo_image_surface_get_stride(picture);
  for (int y = 0; y < source.height; ++y) {
    auto* row = reinterpret_cast<std::uint32_t*>(rows + static_cast<std::ptrdiff_t>(y) * stride);
    for (int x = 0; x < source.width; ++x) {
      const std::uint8_t* p = &source.pixels[4 * (static_cast<std::size_t>(y) * static_cast<std::size_t>(source.width) +
                                                  static_cast<std::size_t>(x))];
      row[x] = (std::uint32_t{p[0]} << 16) | (std::uint32_t{p[1]} << 8) | p[2];
    }
  }
  cairo_surface_mark_dirty(picture);
  cairo_save(pen_);
  cairo_translate(pen_, area.x, area.y);
  cairo_scale(pen_, area.width / source.width, area.height / source.height);
  cairo_set_source_surface(pen_, picture, 0, 0);
  cairo_paint(pen_);
  cairo_restore(pen_);
  cairo_surface_destroy(picture);
}

void Canvas::fillRectangle(Rectangle area, Ink colour) {
  ink(colour);
  cairo_rectangle(pen_, area.x, area.y, area.width, area.height);
  cairo_fill(pen_);
}

void Canvas::strokeRectangle(Rectangle area, Ink colour, double width) {
  ink(colour);
  cairo_set_line_width(pen_, width);
  cairo_rectangle(pen_, area.x, area.y, area.width, area.height);
  cairo_stroke(pen_);
}

void Canvas::outline(const std::vector<Point2>& points, bool closed) {
  cairo_new_path(pen_);
  for (const Point2& point : points) cairo_line_to(pen_, point.x, point.y);
  if (closed) cairo_close_path(pen_);
}

void Canvas::polygon(const std::vector<Point2>& corners, Ink fill) {
  outline(corners, true);
  ink(fill);
  cairo_fill(pen_);
}

void Canvas::line(const std::vector<Point2>& points, Ink colour, double width, double dash, bool closed) {
  outline(points, closed);
  ink(colour);
  cairo_set_line_width(pen_, width);
  cairo_set_line_join(pen_, CAIRO_LINE_JOIN_ROUND);
  cairo_set_dash(pen_, &dash, dash > 0 ? 1 : 0, 0);
  cairo_stroke(pen_);
  cairo_set_dash(pen_, nullptr, 0, 0);
}

void Canvas::disc(Point2 centre, double radius, Ink colour) {
  ink(colour);
  cairo_new_path(pen_);
  cairo_arc(pen_, centre.x, centre.y, radius, 0, 6.283185307179586);
  cairo_fill(pen_);
}

void Canvas::clip(Rectangle area) {
  cairo_save(pen_);
  cairo_rectangle(pen_, area.x, area.y, area.width, area.height);
  cairo_clip(pen_);
}

void Canvas::unclip() { cairo_restore(pen_); }

std::string Canvas::png() const {
  std::string content;
  const auto append = [](void* to, const unsigned char* bytes, unsigned int count) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
  };
  if (cairo_surface_write_to_png_stream(surface_, append, &content) != CAIRO_STATUS_SUCCESS) {
    throw std::runtime_error("the sheet cannot be made a PNG");
  }
  return content;
}

namespace {

[[noreturn]] void failed(j_common_ptr) { throw std::runtime_error("the sheet cannot be made a JPEG"); }

}  // namespace

std::string Canvas::jpeg() const {
  constexpr int quality = 90;
  cairo_surface_flush(surface_);
  const int width = cairo_image_surface_get_width(surface_), height = cairo_image_surface_get_height(surface_);
  jpeg_error_mgr errors;
  jpeg_compress_struct file;
  file.err = jpeg_std_error(&errors);
  errors.error_exit = failed;
  jpeg_create_compress(&file);
  unsigned char* bytes = nullptr;
  unsigned long count = 0;
  jpeg_mem_dest(&file, &bytes, &count);
  file.image_width = static_cast<JDIMENSION>(width);
  file.image_height = static_cast<JDIMENSION>(height);
  file.input_components = 3;
  file.in_color_space = JCS_RGB;
  jpeg_set_defaults(&file);
  jpeg_set_quality(&file, quality, TRUE);
  jpeg_start_compress(&file, TRUE);
  std::vector<unsigned char> line(static_cast<std::size_t>(width) * 3);
  const unsigned char* const rows = cairo_image_surface_get_data(surface_);
  for (int y = 0; y < height; ++y) {
    const auto* row = reinterpret_cast<const std::uint32_t*>(rows + static_cast<std::ptrdiff_t>(y) *
                                                                        cairo_image_surface_get_stride(surface_));
    auto to = line.begin();
    for (int x = 0; x < width; ++x) {
      for (const int shift : {16, 8, 0}) *to++ = static_cast<unsigned char>(row[x] >> shift);
    }
    JSAMPROW start = line.data();
    jpeg_write_scanlines(&file, &start, 1);
  }
  jpeg_finish_compress(&file);
  std::string content(reinterpret_cast<const char*>(bytes), count);
  jpeg_destroy_compress(&file);
  std::free(bytes);
  return content;
}

}  // namespace alpglow::stage
