#pragma once
// What feel numbers are made of: added up over stretches of traces, each without a cut.

#include "alpglow/base/span.hpp"
#include "alpglow/feel/feel.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace alpglow::feel {

using Frames = Span<const io::TraceFrame>;
constexpr double nothing = std::numeric_limits<double>::quiet_NaN();

/// What a share of the values stay below or at.
class Most {
 public:
  explicit Most(double share = 0.999) : share_(share) {}
  void add(double value) { values_.push_back(value); }
  double value() const {
    if (values_.empty()) return nothing;
    std::vector<double> all = values_;
    const auto place =
        all.begin() + static_cast<std::ptrdiff_t>(std::ceil(share_ * static_cast<double>(all.size()))) - 1;
    std::nth_element(all.begin(), place, all.end());
    return *place;
  }

 private:
  double share_;
  std::vector<double> values_;
};

class Worst {
 public:
  void add(double value) { worst_ = std::isnan(worst_) ? value : std::max(worst_, value); }
  double value() const { return worst_; }

 private:
  double worst_ = nothing;
};

class Mean {
 public:
  void add(double value, double weight) { sum_ += weight * value, weight_ += weight; }
  double value() const { return weight_ > 0 ? sum_ / weight_ : nothing; }

 private:
  double sum_ = 0, weight_ = 0;
};

struct FeelSums {
  double seconds = 0;
  std::vector<Pop> pops;
  int pumps = 0, deepPumps = 0;
  double distance = 0, wanted = 0;
  Mean close, pulledIn, visible, outOfPicture, headX, headY;
  Mean squaredAcceleration;
  Most squaredJitter{0.5};
  Most inSpeed, calmInSpeed, outSpeed, headSpeed, horizonSpeed;
  Worst latency, walkLatency, lookSettle, followSettle, followOvershoot, changeSettle, changeOvershoot, unaskedTurn,
      aimDrift;

  /// Of frames in which something is wanted between head and camera.
  void measureObstacles(const Frames& frames);
  /// What the camera makes of the hand and of the subject's steps, in frames of any person.
  void measureAnswers(const Frames& frames);
  void measurePicture(const Frames& frames);
};

/// Slower than this the subject stands, metres per second.
constexpr double standing = 0.05;
/// Farther than this is third person, metres that are wanted.
constexpr double thirdPersonFrom = 0.2;
inline bool showsSubject(const io::TraceFrame& frame) { return frame.freeDistance > thirdPersonFrom; }
inline bool headInPicture(const io::TraceFrame& frame) {
  return std::abs(frame.headX) <= 1 && std::abs(frame.headY) <= 1;
}
inline bool looks(const io::TraceFrame& frame) {
  return frame.lookX != 0 || frame.lookY != 0 || frame.lookRateX != 0 || frame.lookRateY != 0;
}
/// From the first value to the last, in degrees, without what shakes the view.
class Turn {
 public:
  explicit Turn(const Frames& frames);
  std::vector<double> yaw, pitch;
};

}  // namespace alpglow::feel
