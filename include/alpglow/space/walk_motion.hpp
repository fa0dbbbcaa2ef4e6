#pragma once
// How a subject walks, from its velocity in each frame; and so how far it will have come.
//
//   WalkMotion walk;
//   walk.step({velocity}, dt);
//   const Eigen::Vector3d soon = head + walk.wayIn(0.3);       // where it will be in 0.3 s
//
// Who speeds up or turns aside goes on doing so for a moment, and who brakes comes to rest. On the ground one goes
// along it: stairs are a ramp. A trivially copyable value.

#include "alpglow/base/stored_vector.hpp"

#include <Eigen/Core>

namespace alpglow {

class WalkMotion {
 public:
  /// How it goes, metres per second; and whether along the ground, where this is up.
  struct Gait {
    Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
    bool onGround = false;
    Eigen::Vector3d up = Eigen::Vector3d::UnitY();
  };

  /// Nothing is learnt from frames without time, and not from the first.
  void step(const Gait& gait, double seconds);
  /// Metres.
  Eigen::Vector3d wayIn(double seconds) const;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("velocity acceleration").vectors(1e12, velocity_, acceleration_);
    fields.named("climb").numbers(1e12, climb_);
    fields.named("known").flag(known_);
  }

 private:
  StoredVector3 velocity_, acceleration_;
  double climb_ = 0;  // m/s
  bool known_ = false;
};

}  // namespace alpglow
