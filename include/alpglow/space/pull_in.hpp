#pragma once
// The distance to the camera: in early enough before what the motion of subject and look will bring, out again when
// that can be kept, and always where `ClearLine` allows it.
//
//   PullIn space;
//   const PullInPose pose = space.step(request, {walk}, obstacles, dt, settings);
//
// Sixty times a second of its own clock the camera looks ahead: it sweeps a sphere from where the head will be to where
// the camera will be (`Prediction`). `ComeIn` makes a speed of what that finds, `GoOut` a length, `GiveWay` a side and
// a height. The clock starts with the camera and not with a frame, so every frame rate looks at the same moments:
// between two frames the request is interpolated. Camera and pivot come in together along the line to the head, so the
// head keeps its place in the picture. While a framing aims, the camera comes in along its axis instead, as far as the
// line to the head is clear, so that the crosshair does not slide.

#include "alpglow/base/stored_vector.hpp"
#include "alpglow/space/ahead.hpp"
#include "alpglow/space/bounds.hpp"
#include "alpglow/space/clear_line.hpp"
#include "alpglow/space/come_in.hpp"
#include "alpglow/space/give_way.hpp"
#include "alpglow/space/go_out.hpp"
#include "alpglow/space/pull_in_settings.hpp"

#include <Eigen/Core>

#include <array>
#include <limits>

namespace alpglow {

/// What clear space allows.
struct PullInPose {
  Eigen::Vector3d pivot = Eigen::Vector3d::Zero();
  Eigen::Vector3d camera = Eigen::Vector3d::Zero();
  /// Where the camera would be with nothing in the way.
  Eigen::Vector3d free = Eigen::Vector3d::Zero();
  /// From the pivot to the camera, metres; and of the pivot to the right of the anchor, what is left of that.
  double distance = 0, shoulder = 0;
  /// The distance for which there is room, however far it has come in for what is predicted and gone out again.
  double clearDistance = 0;
  /// The near distance; smaller than asked for while the head is closer to something than the sphere's radius.
  double nearPlane = 0;
  /// What is in the way to where it would be; `noObstacle` while free and while going out.
  ObstacleId obstacle = noObstacle;
  /// What it comes in for early, and in how many seconds it will meet that.
  ObstacleId foreseen = noObstacle;
  double foreseenIn = 0;
  /// How far it is from the shoulder that is asked for, metres; how long it waits before it goes out, seconds.
  double givenUp = 0, wait = 0;
  /// How much lower it orbits than is asked for, radians, ≥ 0.
  double stooped = 0;
  /// The head itself touches something or is inside it: the camera is at the head and nothing can be promised. Once it
  /// is free the camera goes out as after any other obstacle.
  bool headBlocked = false;
};

/// A trivially copyable value.
class PullIn {
 public:
  /// The lines ahead in one frame, computed once: for the box of the frame's questions and for its sweeps.
  class Plan;

  /// A frame: time passes, and then there is a place.
  PullInPose step(const PullInRequest& request, const PullInMotion& motion, const Obstacles& obstacles, double seconds,
                  const PullInSettings& settings);

  // The same in parts, for a host that lists its world in between or tries several looks.
  Plan plan(const PullInRequest& request, const PullInMotion& motion, double seconds,
            const PullInSettings& settings) const;
  static ClearLine line(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings);
  /// Time passes. The plan is this frame's, and so is the line.
  void advance(const Plan& plan, ClearLine& line, const PullInSettings& settings);
  /// The place: as far out as `advance` has left the camera and the clear line allows.
  PullInPose place(const PullInRequest& request, ClearLine& line, const PullInSettings& settings);

  /// How much of the line from the head to the camera is clear, metres.
  static double room(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings);
  /// Forgets every limit, as after a cut. The clock of the looks goes on.
  void cut() {
    const double untilLook = untilLook_;
    *this = PullIn();
    untilLook_ = untilLook;
  }
  /// Whether the camera is more than a millimetre from where it would be, be it pulled in or going out.
  bool pulledIn() const { return pulledIn_; }
  /// Whether anything limits the camera, by however little.
  bool limiting() const { return length_ < unlimited || side_.given() > 0 || stoop_.given() > 0; }
  /// Whether the camera is on its way to the other shoulder, or there.
  bool changesSide() const { return side_.gives(); }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("length room ample").within(0, unlimited, length_, room_, ample_);
    fields.named("prediction in out").part(prediction_, in_, out_);
    fields.named("side stoop last").part(side_, stoop_, last_);
    fields.named("untilLook alongAxis").within(0, 1, untilLook_, alongAxis_);
    fields.named("foreseen").ids(foreseen_);
    fields.named("pulledIn known").flags(pulledIn_, known_);
  }

 private:
  static constexpr double unlimited = std::numeric_limits<double>::infinity();
  static constexpr double lookEvery = 1 / 60.0;  // seconds
  static constexpr std::size_t looksAhead = 6;
  struct Look;
  class Seeing;
  /// The request of the frame before.
  struct Last {
    StoredVector3 head, toAnchor;
    LookAngles orbit;
    double shoulder = 0, distance = 0;

    template <class Fields>
    void state(Fields& fields) {
      fields.named("head toAnchor").vectors(1e12, head, toAnchor);
      fields.named("orbit").angles(1e9, orbit);
      fields.named("shoulder distance").numbers(1e15, shoulder, distance);
    }
  };

  PullInRequest between(const PullInRequest& request, const PullInMotion& motion, double seconds, double left) const;
  double shoulderOf(const PullInRequest& request, double given) const;
  void look(const Look& look, const PullInMotion& motion, ClearLine& line, const PullInSettings& settings);
  void giveWay(const Look& look, const PullInMotion& motion, const ClearLine& line, const PullInSettings& settings);
  void pass(double seconds, const PullInRequest& request, const PullInSettings& settings);
  void shorten(double length, double by, const PullInSettings& settings, double scale);

  double length_ = unlimited;            // from the head to the camera, metres
  double room_ = unlimited, ample_ = 0;  // at the last look, now and ahead, metres; and with room to spare
  Prediction prediction_;
  ComeIn in_;
  GoOut out_;
  GiveWay side_, stoop_;  // metres; radians
  Last last_;
  double untilLook_ = 0;  // seconds
  double alongAxis_ = 0;  // 1: the shoulder stays while the camera comes in
  ObstacleId foreseen_ = noObstacle;
  bool pulledIn_ = false, known_ = false;
};

/// A moment at which it looks ahead: the request then, and the lines ahead of it.
struct PullIn::Look {
  struct Line {
    Eigen::Vector3d walked = Eigen::Vector3d::Zero();  // of the head, walls left out
    Eigen::Vector3d arm = Eigen::Vector3d::Zero();     // from the head to the camera
  };
  double after = 0;  // seconds into the frame
  PullInRequest asked;
  Prediction prediction;
  std::array<Line, looksAhead> lines;
};

class PullIn::Plan {
 public:
  /// Where the questions of the frame will be.
  Bounds reach(const PullInSettings& settings) const;

 private:
  friend class PullIn;
  static constexpr std::size_t mostLooks = 4;  // in a longer frame the last ones
  PullInRequest request_;
  PullInMotion motion_;
  double seconds_ = 0, untilLook_ = 0;
  std::array<Look, mostLooks> looks_;
  std::size_t count_ = 0;
};

}  // namespace alpglow
