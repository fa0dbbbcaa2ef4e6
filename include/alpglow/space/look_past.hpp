#pragma once
// Large things: neither wall nor air. The camera keeps out of them and looks past them, and they fade where they cover
// the subject. A host marks one by `Purpose::large` in place of `Purpose::camera`.
//
//   LookPast past;
//   past.advance(dt);
//   const LookPastPose pose = past.place(head, camera, radius, rooms, settings);
//   for (const Covering& each : past.covers()) draw(each.thing, each.opacity);
//   camera = head + pose.along * (camera - head) + pose.back;
//
// Along the way from the head to the camera large things leave two pieces: before the first of them and behind the
// last. A camera that is behind stays there, and is pushed farther back as long as walls leave room; one for which
// there is none comes in before them, at once, and goes out again gently once nothing large is in its way.

#include "alpglow/base/span.hpp"
#include "alpglow/space/ease_out.hpp"
#include "alpglow/space/obstacles.hpp"

#include <Eigen/Core>

#include <array>

namespace alpglow {

struct LookPastSettings {
  /// How much farther than it would be the camera is pushed back, metres; by no more than it would be from the head.
  double push = 1;
  /// Half-life by which it comes back from there, seconds; and delay and half-life of going out again.
  double backHalfLife = 0.25;
  EaseOutSettings out = {0.3, 0.15};
  /// How much of a large or soft thing is drawn where it covers the subject, 0 … 1; and the half-life of fading,
  /// seconds.
  double opacity = 0.25, fadeHalfLife = 0.1;
};

/// Something large that is not fully drawn.
struct Covering {
  ObstacleId thing = noObstacle;
  double opacity = 1;
};
/// What fades, and what comes back from that; `noObstacle` where there are fewer.
using Coverings = std::array<Covering, 4>;

/// Time passes: each thing that covers comes to its opacity, all others come back and are forgotten. There must be
/// room for everything that covers.
void fadeCoverings(Span<Covering> things, Span<const ObstacleId> covering, double seconds,
                   const LookPastSettings& settings);

struct LookPastPose {
  /// Of the way from the head to the camera, 0 … 1; and how much farther it is pushed back, metres.
  double along = 1, pushed = 0;
  /// The way that it is pushed; none for a camera at the head, which is pushed nowhere.
  Eigen::Vector3d back = Eigen::Vector3d::Zero();
  /// The share of the way that large things leave.
  double clear = 1;
  /// What large thing it has come in before; `noObstacle` where it is behind or free.
  ObstacleId before = noObstacle;
};

/// Whether a sphere there touches what is large.
bool touchesLarge(const Eigen::Vector3d& point, double radius, const Obstacles& obstacles);

/// A trivially copyable value.
class LookPast {
 public:
  /// Time passes; it shows with the next place.
  void advance(double seconds) { seconds_ += seconds; }
  /// Where on the way from the head to a camera, which walls leave clear. May be tried for several places, each from a
  /// copy. `scale` is what the settings' metres are multiplied by.
  LookPastPose place(const Eigen::Vector3d& head, const Eigen::Vector3d& camera, double radius,
                     const Obstacles& obstacles, const LookPastSettings& settings, double scale = 1);
  void cut() { *this = LookPast(); }
  /// Of what is on the way the first thing and the last one fade.
  const Coverings& covers() const { return covers_; }
  /// It has come in before something large, or is going out again: by more than a millimetre.
  bool cameIn() const { return cameIn_; }
  /// Anything large has a say in where the camera is.
  bool limiting() const { return before_.limiting() || pushed_ > 0; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("before").part(before_);
    fields.named("pushed").number(pushed_, 0, 1e9);
    fields.named("seconds").times(seconds_);
    fields.named("last").number(last_, -1, 1e15);
    fields.named("cameIn").flags(cameIn_);
    for (Covering& each : covers_) {
      fields.named("covers.thing").ids(each.thing);
      fields.named("covers.opacity").number(each.opacity, 0, 1);
    }
  }

 private:
  struct Way;
  double pushedOn(const Way& way, double seconds, const LookPastSettings& settings, double scale) const;

  EaseOut before_;
  double pushed_ = 0, seconds_ = 0;
  double last_ = -1;  // metres from the head; negative at first
  bool cameIn_ = false;
  Coverings covers_;
};

}  // namespace alpglow
