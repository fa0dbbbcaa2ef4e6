#pragma once
// What a player notices of a camera among obstacles, in numbers, from traces.
//
//   FeelMeter meter;
//   for (const std::string& path : traces) meter.add(io::readTrace(path));
//   const Feel feel = meter.feel();           // pops, pumps, how much of the distance was kept …
//
// Distances are the camera's from its pivot. What counts is what obstacles do: where the distance that one wants
// changes by itself, in a zoom or a change of framing, that is left out. Frames of first person and cuts do not count.

#include "alpglow/io/limits_file.hpp"
#include "alpglow/io/trace.hpp"

#include <array>
#include <string>
#include <vector>

namespace alpglow::feel {

/// How fast the look turned during the last 50 ms.
enum class LookRate { rest, slow, flick };  // below 5°/s, below 180°/s, and faster
constexpr double restBelow = 5, slowBelow = 180;

/// A frame that loses more than this to an obstacle, metres.
constexpr double popLoss = 0.25;
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
  /// Seconds that count.
  double seconds = 0;
  std::vector<Pop> pops;
  int pumps = 0, deepPumps = 0;
  /// Mean distance over the mean of what one wanted, and the share of the time that was closer than `closeDistance`
  /// although more was wanted; 0 … 1.
  double kept = 1, close = 0;
  /// What 99.9 % of the frames stay below: how fast the distance shrank, metres per second, of all frames and of those
  /// that were no flick; and how fast the head moved in the picture, degrees per second.
  double inSpeed = 0, calmInSpeed = 0, headSpeed = 0;

  int popsAt(LookRate look) const;
  double perMinute(double count) const { return seconds > 0 ? 60 * count / seconds : 0; }
};

/// Adds up traces as if they were one, without what is between them.
class FeelMeter {
 public:
  void add(const io::Trace& trace);
  Feel feel() const;

 private:
  struct Stretch;
  void count(const Stretch& stretch);

  Feel sums_;
  double distance_ = 0, wanted_ = 0, closeTime_ = 0;
  std::vector<double> inSpeeds_, calmInSpeeds_, headSpeeds_;
};

/// What is limited, as it was.
double valueOf(const Feel& feel, io::Felt what);
/// One line for each limit that is broken: what is felt, and what it may be.
std::vector<std::string> broken(const Feel& feel, const io::Limits& limits);

/// The same with the distances of a camera that knows the future: never faster inward than this, metres per second, out
/// at once, and never beyond what there was room for. What a camera on the same path could come to at best.
io::Trace withPerfectForesight(const io::Trace& trace, double inSpeed = 4);

/// Pumps of a stretch: what obstacles have taken so far, less what they gave back (metres), at increasing times,
/// seconds.
int pumpsOf(const std::vector<double>& times, const std::vector<double>& lost, double depth);

}  // namespace alpglow::feel
