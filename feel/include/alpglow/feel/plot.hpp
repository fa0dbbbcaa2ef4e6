#pragma once
// Traces over time, as a script for gnuplot: distance wanted, possible and shown with pops circled; yaw and pitch; the
// hand; speeds; the lens; framings and events. Several traces lie over each other.
//
//   const std::string script = plotScript({{"trail", &trail}, {"warden", &warden}}, {});
//   // gnuplot script > picture.png
//
// A script says everything: it holds its data.

#include "alpglow/feel/feel.hpp"
#include "alpglow/io/trace.hpp"

#include <limits>
#include <string>
#include <vector>

namespace alpglow::feel {

struct PlottedTrace {
  std::string name;
  const io::Trace* trace = nullptr;
};

enum class PictureFormat { png, svg };

struct PlotOptions {
  PictureFormat format = PictureFormat::png;
  int width = 1280, height = 800;  // pixels
  /// What part of the time is shown, seconds.
  double from = 0, to = std::numeric_limits<double>::infinity();
};

/// Nothing is plotted of a quantity that nothing has, such as a stick that never moved. Without any frame between
/// `from` and `to` the script is empty.
std::string plotScript(const std::vector<PlottedTrace>& traces, const PlotOptions& options);

/// What is felt at a value of a setting that is varied.
struct FeltAt {
  double value = 0;
  Feel feel;
};

/// Everything that is felt and changes with a setting (by a fiftieth of what is noticeable at least), a panel each,
/// with the values from which on it is noticeable and bad. Empty where nothing changes.
std::string curveScript(const std::string& setting, const std::vector<FeltAt>& felt, const io::Limits& limits,
                        const PlotOptions& options);

}  // namespace alpglow::feel
