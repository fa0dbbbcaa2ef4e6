#pragma once
// A camera that stands: on a point of its own or on a moving thing, looking at a point or at a thing.
//
//   StandingSettings gate;
//   gate.stand.point = {4, 3, -2};
//   gate.look = {{0, 1.5, 0}, PointAxes::world};             // 1.5 m above the origin of what it looks at
//   StandingCamera camera(gate);
//   const View view = camera.view(nullptr, &warden, aspect, &obstacles);
//
// Degenerate cases are defined and reported in `View::faults`, and the view is good all the same. With the look point
// in the stand point the camera keeps its direction. Looking straight up or down it keeps its yaw. Inside something, or
// closer to it than its near plane is wide, it shows what is there with the near distance that is left.

#include "alpglow/base/saved_state.hpp"
#include "alpglow/follow/reference_frame.hpp"
#include "alpglow/framing/framing.hpp"
#include "alpglow/look/look.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/last_view.hpp"

namespace alpglow {

/// What an offset from a thing is stated in.
enum class PointAxes { world, thing };

/// A point of the world, or an offset from a thing's origin.
struct StandPoint {
  Eigen::Vector3d point = Eigen::Vector3d::Zero();
  PointAxes axes = PointAxes::thing;

  Eigen::Vector3d on(const ReferenceFrame* thing) const;
};

struct StandingSettings {
  StandPoint stand, look;
  /// Trim on top of looking at the point: positive pan turns left, positive tilt looks up; radians.
  double pan = 0, tilt = 0;
  /// Radians, clockwise as the camera sees itself; for cut-scenes.
  double roll = 0;
  LensSpec lens;
  double nearPlane = 0.08, farPlane = 2000;
};

class StandingCamera : public Saveable<StandingCamera> {
 public:
  explicit StandingCamera(const StandingSettings& settings) : settings_(settings) {}

  /// `standsOn` and `looksAt` are null for points of the world. Without obstacles nothing is said about bodies. With a
  /// bad frame or aspect: the last good view, with a fault.
  View view(const ReferenceFrame* standsOn, const ReferenceFrame* looksAt, double aspect,
            const Obstacles* obstacles = nullptr);

  /// Trim by hand, radians.
  void trim(double pan, double tilt);
  const StandingSettings& settings() const { return settings_; }

  static constexpr std::uint64_t savedVersion = 1;
  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("pan tilt").numbers(1e9, settings_.pan, settings_.tilt);
    fields.named("look").angles(pi, look_);
    fields.named("last").part(last_);
  }

 private:
  StandingSettings settings_;
  LookAngles look_;
  LastView last_;
};

}  // namespace alpglow
