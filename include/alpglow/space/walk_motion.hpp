#pragma once
// How a subject walks, from its velocity in each frame; and so how far it will have come.
//
//   WalkMotion walk;
//   walk.step(velocity, dt);
//   const Eigen::Vector3d soon = head + walk.wayIn(0.3);       // where it will be in 0.3 s
//
// Who speeds up or turns aside goes on doing so for a moment, and who brakes comes to rest. A trivially copyable value.

#include "alpglow/base/stored_vector.hpp"

namespace alpglow {

class WalkMotion {
 public:
  /// Metres per second; nothing is learnt from frames without time, and not from the first.
  void step(const Eigen::Vector3d& velocity, double seconds);
  /// Metres.
  Eigen::Vector3d wayIn(double seconds) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.vectors(1e12, velocity_, acceleration_);
    fields.flag(known_);
  }

 private:
  StoredVector3 velocity_, acceleration_;
  bool known_ = false;
};

}  // namespace alpglow
