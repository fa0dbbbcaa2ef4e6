#pragma once
// A storyboard: pictures through the camera beside a plan of the level with the paths of subject and camera, and a view
// of both from the side.

#include "alpglow/io/trace.hpp"
#include "alpglow/stage/stage.hpp"
#include "alpglow/view/view.hpp"

#include <string>
#include <vector>

namespace alpglow::stage {

constexpr std::size_t fewestPictures = 6;

/// The times that are shown: those asked for, and in between as many more as it takes to have six. All within the
/// trace.
std::vector<double> storyboardTimes(const io::Trace& trace, std::vector<double> askedFor);

enum class SheetFormat { png, jpeg };
constexpr int sheetWidth = 1616;

struct SheetOptions {
  /// With the view of each frame the pictures show the camera from outside, with what limits it drawn in.
  std::vector<View> outside;
  int width = sheetWidth;  // pixels; the height follows
  SheetFormat format = SheetFormat::png;
};

/// The sheet as a file's content. Throws std::runtime_error when nothing can be painted.
std::string storyboard(const Stage& stage, const io::Trace& trace, const std::vector<double>& times,
                       const std::string& title, const SheetOptions& options = {});

}  // namespace alpglow::stage
