#pragma once
// A zone in which a subject may move before it is followed: in the air up and down, along the ground in a circle.
//
//   RestZone zone;
//   RestZoneSettings settings;
//   settings.radius = 0.6;
//   zone.step(walked, Vector3d::UnitY(), onGround, dt, settings, [&](const Vector3d& way, double seconds) {
//     followed += way;                                         // a few straight pieces, in their order
//   });
//
// What is followed is at `offset` from the subject. Within the zone it rests; at the edge it goes along: upward and
// downward as the subject does, along the ground as something towed on a rope of the zone's radius, whose angle to the
// way decays in closed form (a tractrix). A step is cut where an edge is met, which is the root of a linear and of a
// quadratic equation; so it does not depend on how time is cut, but for the towing's bend, which its pieces follow by
// chords.

#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"

#include <Eigen/Core>

#include <algorithm>

namespace alpglow {

/// What is pulled along at the end of a rope of this length whose other end moves straight by `moved`; both from that
/// end. The angle between rope and way decays as tan(θ/2) ~ e^(−way/length): it must not be slack, nor become so.
Eigen::Vector3d towed(const Eigen::Vector3d& lag, const Eigen::Vector3d& moved, double length);

struct RestZoneSettings {
  /// In the air the subject may be this much higher, and this much lower, than what is followed before that moves,
  /// metres; 0 = followed at once.
  double above = 0, below = 0;
  /// Along the ground it may be this far from what is followed, metres; 0 = followed at once.
  double radius = 0;
  /// The same as a share of half of the picture's height, at the subject's distance; the larger of the two counts.
  /// `ActiveFraming` makes a radius of it, as it knows distance and lens.
  double screen = 0;
  /// What has rested beside a subject that stands for so long is made up for, seconds; 0 = never.
  double after = 0;
  /// What is left on landing, or then, is made up for within this time, seconds; 0 = at once.
  double catchUp = 0.4;

  bool aside() const { return radius > 0 || screen > 0; }
};

/// A trivially copyable value.
class RestZone {
 public:
  /// The subject goes straight by `moved` (metres) in `seconds`; `up` is a unit vector. `each(way, seconds)` is told
  /// how what is followed moves meanwhile.
  template <class Each>
  void step(const Eigen::Vector3d& moved, const Eigen::Vector3d& up, bool onGround, double seconds,
            const RestZoneSettings& settings, Each&& each) {
    const Course course = courseOf(moved, up, onGround, settings);
    Eigen::Vector3d before = offset(up);
    double done = 0;
    if (aside_.vector() != course.aside) {  // the zone has become smaller than that
      aside_ = course.aside;
      each(Eigen::Vector3d(offset(up) - before), 0);
      before = offset(up);
    }
    for (const double share : {course.first(), course.second(), 1.0}) {
      if (share <= done && share < 1) continue;
      at(course, share, up);
      const Eigen::Vector3d after = offset(up);
      each(Eigen::Vector3d((share - done) * moved + after - before), (share - done) * seconds);
      before = after;
      done = share;
    }
    stand(course.walks, seconds);
  }

  /// From the subject to what is followed, metres.
  Eigen::Vector3d offset(const Eigen::Vector3d& up) const { return rise_ * up + aside_.vector(); }
  double rise() const { return rise_; }
  Eigen::Vector3d aside() const { return aside_; }
  bool resting() const { return rise_ != 0 || aside_.vector().squaredNorm() != 0; }

  /// How fast what is followed moves while the subject does at `velocity`.
  Eigen::Vector3d velocity(const Eigen::Vector3d& velocity, const Eigen::Vector3d& up, bool onGround,
                           const RestZoneSettings& settings) const;
  /// How long ago the subject had stood for as long as it takes, seconds; negative while it has not.
  double due(const RestZoneSettings& settings) const {
    return settings.after > 0 && aside_.vector().squaredNorm() > 0 ? stood_ - settings.after : -1;
  }

  /// Whatever is beyond is brought within.
  void limit(const RestZoneSettings& settings);
  void land() { rise_ = 0; }
  void gather() { aside_ = Eigen::Vector3d::Zero(); }
  /// The unit of its coordinates changes: all of them are multiplied by this.
  void scale(double by) {
    rise_ = std::clamp(rise_ * by, -most, most);
    aside_ = aside_.vector() * by;
    if (!(aside_.vector().norm() <= most)) gather();
  }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("rise").numbers(most, rise_);
    fields.named("aside").vectors(most, aside_);
    fields.require(aside_.vector().norm() <= most);
    fields.named("stood").times(stood_);
  }

 private:
  struct Course {
    double rises, rise, above, below;  // of the step; at its beginning; of the zone
    Eigen::Vector3d walks, aside;
    double radius;
    double upward, along;  // the shares of the step at which edges are met

    double first() const { return std::min(upward, along); }
    double second() const { return std::max(upward, along); }
  };
  Course courseOf(const Eigen::Vector3d& moved, const Eigen::Vector3d& up, bool onGround,
                  const RestZoneSettings& settings) const;
  void at(const Course& course, double share, const Eigen::Vector3d& up);
  void stand(const Eigen::Vector3d& walks, double seconds);

  static constexpr double most = 1e3, widest = most * (1 - 1e-9);  // towed along its edge by less than rounding
  double rise_ = 0;
  StoredVector3 aside_;  // along the ground
  double stood_ = 0;     // seconds
};

}  // namespace alpglow
