#pragma once
// What a player notices of a camera, in numbers, from traces: of obstacles, of how it answers the hand, of the picture.
//
//   FeelMeter meter;
//   for (const std::string& path : traces) meter.add(io::readTrace(path));
//   const Feel feel = meter.feel();
//   const double worst = feel.of(io::Felt::worstPop);
//
// docs/feel.md defines every number. Of obstacles: distances are the camera's from its pivot, and what counts is what
// obstacles do. Where the distance that one wants changes by itself, in a zoom or a change of framing, that is left
// out. Frames of first person and cuts do not count there.

#include "alpglow/io/limits_file.hpp"
#include "alpglow/io/trace.hpp"

#include <Eigen/Core>

#include <array>
#include <limits>
#include <memory>
#include <string>
#include <vector>

namespace alpglow::feel {

/// How fast the look turned during the last 50 ms.
enum class LookRate { rest, slow, flick };  // below 5°/s, below 180°/s, and faster
constexpr double restBelow = 5, slowBelow = 180;

/// What loses more than this to an obstacle within a sixtieth of a second, metres. Of a longer frame the part counts
/// that falls into one.
constexpr double popLoss = 0.25, popTime = 1.0 / 60;
/// In, out and in again by at least this much each, metres, the way out within so many seconds.
constexpr double pumpDepth = 0.1, deepPumpDepth = 0.3, pumpTime = 1.5;
/// Closer than this is close, metres.
constexpr double closeDistance = 0.9;

struct Pop {
  double time = 0;  // seconds
  double loss = 0;  // metres
  LookRate look = LookRate::rest;
  double lookRate = 0;  // degrees per second
  std::string obstacle;
};

struct Feel {
  /// Seconds that count among obstacles.
  double seconds = 0;
  std::vector<Pop> pops;
  /// By `io::Felt`; NaN where there was nothing to measure it by: nobody looks, or nobody stops.
  std::array<double, io::feltCount> values;
  /// Where the head is in the picture on average, while it is: 0 in the middle, 1 at the right and upper edge.
  Eigen::Vector2d headInPicture = Eigen::Vector2d::Zero();

  Feel() { values.fill(std::numeric_limits<double>::quiet_NaN()); }
  double& of(io::Felt what) { return values[static_cast<std::size_t>(what)]; }
  double of(io::Felt what) const { return values[static_cast<std::size_t>(what)]; }
  int popsAt(LookRate look) const;
  double perMinute(double count) const { return seconds > 0 ? 60 * count / seconds : 0; }
};

struct FeelSums;

/// Adds up traces as if they were one, without what is between them.
class FeelMeter {
 public:
  FeelMeter();
  ~FeelMeter();
  FeelMeter(FeelMeter&&) noexcept;
  FeelMeter& operator=(FeelMeter&&) noexcept;
  void add(const io::Trace& trace);
  Feel feel() const;

 private:
  std::unique_ptr<FeelSums> sums_;
};

enum class Verdict { unmeasured, fine, noticeable, bad };
Verdict verdictOf(double value, io::Felt what, const io::Limits& limits);
/// "fine", "noticeable", "bad"; "-" where nothing was measured.
const char* nameOf(Verdict verdict);

/// One line for each limit that is broken: what is felt, and what it may be.
std::vector<std::string> broken(const Feel& feel, const io::Limits& limits);
/// The limits that hold nothing, as there was nothing to measure them by: their keys.
std::vector<std::string> unmeasured(const Feel& feel, const io::Limits& limits);

/// Where two traces of the same take are farthest apart, at the moments of the first one.
struct Difference {
  const char *what, *unit;
  double value = 0, time = 0;
};
std::vector<Difference> largestDifferences(const io::Trace& first, const io::Trace& other);

/// The same with the distances of a camera that knows the future: never faster inward than this, metres per second, out
/// at once, and never beyond what there was room for. What a camera on the same path could come to at best.
io::Trace withPerfectForesight(const io::Trace& trace, double inSpeed = 4);

/// Pumps of a stretch: what obstacles have taken so far, less what they gave back (metres), at increasing times,
/// seconds.
int pumpsOf(const std::vector<double>& times, const std::vector<double>& lost, double depth);

}  // namespace alpglow::feel
