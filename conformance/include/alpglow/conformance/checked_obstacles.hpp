#pragma once
// Debug builds: cross-checks a share of all answers while the game runs, without any truth but the host's own other
// answers, and calls back.
//
//   const conformance::CheckedObstacles checked(
//       world, 0.01, [](const char* what, const Sweep& asked, const Contact& got) { use(what, asked, got); });
//   View view = camera.update(dt, subject, checked, aspect);
//
// A sphere that was stopped must touch something there, one that was not must be clear at its end; a ray along its way
// must not be shorter than its own. Costs three more questions for each answer that is checked.

#include "alpglow/space/obstacles.hpp"

#include <cstdint>
#include <functional>
#include <utility>

namespace alpglow::conformance {

class CheckedObstacles final : public Obstacles {
 public:
  /// What is wrong, what was asked (radius 0 for a ray) and what was answered.
  using Report = std::function<void(const char* what, const Sweep& asked, const Contact& got)>;

  /// Refers to the host's world. `share` of all answers are checked, 0 … 1; `tolerance` in metres.
  CheckedObstacles(const Obstacles& host, double share, Report report, double tolerance = 2e-3)
      : host_(host), share_(share), report_(std::move(report)), tolerance_(tolerance) {}

  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override;
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override;
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override {
    return host_.clearance(point, range);
  }
  void sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept override;
  void gather(const Bounds& bounds) const noexcept override { host_.gather(bounds); }
  bool nothingNear() const noexcept override { return host_.nothingNear(); }
  bool overflowed() const noexcept override { return host_.overflowed(); }
  Contact sweepLater(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                     const MomentAhead& later) const noexcept override {
    return host_.sweepLater(from, displacement, radius, later);
  }
  bool moves(const RigidMotion& from) const noexcept override { return host_.moves(from); }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return host_.sweepLarge(from, displacement, radius);
  }
  bool anyLarge() const noexcept override { return host_.anyLarge(); }

 private:
  bool due() const noexcept;
  void check(const Sweep& asked, const Contact& got) const noexcept;

  const Obstacles& host_;
  double share_;
  Report report_;
  double tolerance_;
  mutable double owed_ = 0;
};

}  // namespace alpglow::conformance
