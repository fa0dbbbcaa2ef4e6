#pragma once
// The commands behind the command line. Each returns the exit code: 0 done, 1 a check found something. Bad input is
// thrown as io::InputError.

#include "alpglow/stage/stage.hpp"

#include <limits>
#include <string>
#include <vector>

namespace alpglow::cli {

int runNew(const std::string& output);

struct CheckOptions {
  /// Designs, controls and preferences, told apart by their endings.
  std::vector<std::string> files;
  bool reference = false;
};
int runCheck(const CheckOptions& options);

struct RehearsalFiles {
  std::string design, level, take;
  double framesPerSecond = 60;
  std::string frames;
  double aspect = 16.0 / 9.0;
  std::string controls, preferences;
  stage::WorldKind world = stage::WorldKind::bullet;
};

int runRehearse(const RehearsalFiles& files, const std::string& trace);
int runStoryboard(const RehearsalFiles& files, const std::string& output, const std::vector<double>& times,
                  bool outside);
/// Prints why the camera is where it is: at these times, or each time that it changes.
int runExplain(const RehearsalFiles& files, const std::vector<double>& times, bool json);

/// Prints what a player notices, in numbers, of each trace and of all; every pop; and what there was room for at best.
/// With limits: 1 if any is broken by all of them together, one line for each.
int runFeel(const std::vector<std::string>& traces, bool pops, bool bound, const std::string& limits);

struct PlotRequest {
  std::vector<std::string> traces;
  std::string output;
  int width = 1280, height = 800;  // pixels
  double from = 0, to = std::numeric_limits<double>::infinity();
};
/// Draws traces over time, laid over each other.
int runPlot(const PlotRequest& request);
/// The picture that a script of gnuplot's makes. Throws where that cannot be drawn.
std::string drawnByGnuplot(const std::string& script);

int runTake(const std::string& path);

/// Prints what every device sends, and what becomes of it, until Escape or for some seconds (0 = without end).
int runListen(const std::string& controls, double seconds);

}  // namespace alpglow::cli
