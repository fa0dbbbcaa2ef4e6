#pragma once
// The commands behind the command line. Each returns the exit code: 0 done, 1 a check found something. Bad input is
// thrown as io::InputError.

#include "alpglow/feel/plot.hpp"
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
  double framesPerSecond = 60, ticksPerSecond = 60;
  std::string frames;
  double aspect = 16.0 / 9.0;
  std::string controls, preferences;
  stage::WorldKind world = stage::WorldKind::bullet;
};

struct RehearseRequest {
  RehearsalFiles files;
  std::string trace;   // where it goes; nowhere without a name
  std::string motion;  // likewise
  std::string limits;
  bool json = false;
};
/// Prints what a player feels. With limits: 1 if any is broken, one line for each.
int runRehearse(const RehearseRequest& request);
struct StoryboardRequest {
  RehearsalFiles files;
  std::string output;
  std::vector<double> times;
  bool outside = false;
  int width = 1616;  // pixels
};
int runStoryboard(const StoryboardRequest& request);
/// Prints why the camera is where it is: at these times, or each time that it changes.
int runExplain(const RehearsalFiles& files, const std::vector<double>& times, bool json);

struct FeelRequest {
  std::vector<std::string> traces;
  /// Lists every pop; what there was room for at best; every number of all together with its verdict; or all as JSON.
  bool pops = false, bound = false, details = false, json = false;
  std::string limits;
};
/// Prints what a player notices of obstacles, a row for each trace and for all. With limits: 1 if any is broken by all
/// of them together, one line for each.
int runFeel(const FeelRequest& request);

struct PlotRequest {
  std::vector<std::string> traces;
  std::string output;
  int width = 1280, height = 800;  // pixels
  double from = 0, to = std::numeric_limits<double>::infinity();
};
/// Draws traces over time, laid over each other.
int runPlot(const PlotRequest& request);
/// By the ending of a file; throws where that is neither of the two.
feel::PictureFormat pictureFormatOf(const std::string& path);
/// The picture that a script of gnuplot's makes. Throws where that cannot be drawn.
std::string drawnByGnuplot(const std::string& script);

struct CompareRequest {
  /// Designs and traces; level and take are for the designs.
  std::vector<std::string> compared;
  RehearsalFiles files;
  std::vector<double> rates;  // frames a second
  std::string vary;           // such as "follow_half_life_s=0:0.25:6"
  std::string output, limits;
  bool json = false;
};
/// Prints what is felt side by side, and where things differ most; draws them over each other, or against the setting
/// that is varied. With limits: 1 if any is broken by any of them.
int runCompare(const CompareRequest& request);

struct AuditRequest {
  std::string design, level;
  double step = 0.5;  // metres
  int directions = 16;
  std::size_t mostPlaces = 20000;
  double aspect = 16.0 / 9.0;
  stage::WorldKind world = stage::WorldKind::bullet;
  /// Heat maps, a folder for the takes of the worst places, limits.
  std::string output, takes, limits;
  int width = 1280, height = 800;  // pixels
  bool json = false;
};
/// Stands everywhere in a level and looks around. With limits: 1 if any is broken.
int runAudit(const AuditRequest& request);

int runTake(const std::string& path);

/// Prints what every device sends, and what becomes of it, until Escape or for some seconds (0 = without end).
int runListen(const std::string& controls, double seconds);

}  // namespace alpglow::cli
