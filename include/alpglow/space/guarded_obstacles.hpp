#pragma once
// A host's world whose answers have been checked, so that no bad one gets into a state.
//
//   const GuardedObstacles guarded(world);
//   ClearLine line = PullIn::line(request, guarded, settings);
//   const PullInPose pose = placement.place(request, line, settings, large);
//   if (guarded.bad()) report.faultNow(Fault::badObstacles);

#include "alpglow/space/obstacles.hpp"

namespace alpglow {

/// Refers to the host's world; lives for a frame. An answer that breaks what `Obstacles` asks for counts as an obstacle
/// right there: a distance that is not a number, negative or longer than the way stops at once; a contact without an id
/// gets `unnamedObstacle`; a normal that is neither zero nor of unit length becomes zero. Rounding of single precision
/// (1e-5 of the way, 1e-3 of a normal) is no mistake.
class GuardedObstacles final : public Obstacles {
 public:
  explicit GuardedObstacles(const Obstacles& host) : host_(host) {}
  GuardedObstacles(const GuardedObstacles&) = delete;
  GuardedObstacles& operator=(const GuardedObstacles&) = delete;
  /// What was gathered was for this frame: later questions are not answered from it.
  ~GuardedObstacles() override {
    if (gathered_) host_.gather(Bounds());
  }

  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override {
    return checked(host_.sweep(from, displacement, radius), displacement.norm());
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return checked(host_.cast(from, displacement, purpose), displacement.norm());
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override {
    return checked(host_.clearance(point, range), range);
  }
  void sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept override;
  Contact sweepLater(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                     const MomentAhead& later) const noexcept override {
    return checked(host_.sweepLater(from, displacement, radius, later), displacement.norm());
  }
  bool moves(const RigidMotion& from) const noexcept override { return host_.moves(from); }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return checked(host_.sweepLarge(from, displacement, radius), displacement.norm());
  }
  bool anyLarge() const noexcept override { return host_.anyLarge(); }
  void gather(const Bounds& bounds) const noexcept override {
    gathered_ = true;
    host_.gather(bounds);
    overflowed_ = overflowed_ || host_.overflowed();
  }
  /// At any time of the frame.
  bool overflowed() const noexcept override { return overflowed_; }
  bool nothingNear() const noexcept override { return host_.nothingNear(); }

  /// An answer was bad.
  bool bad() const { return bad_; }

 private:
  Contact checked(Contact contact, double length) const noexcept;
  double checked(double clearance, double range) const noexcept;

  const Obstacles& host_;
  mutable bool bad_ = false, gathered_ = false, overflowed_ = false;
};

}  // namespace alpglow
