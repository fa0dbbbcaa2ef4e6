#pragma once
// The view: where the camera is, where it looks and through which lens, for one frame.
//
//   const View view = camera.update(dt, subject, obstacles, aspect);
//   const Matrix4d toClip = view.projection({DepthRange::reversed, ClipUp::down}) * view.worldToView();
//   const Matrix4f near0 = view.cameraRelativeView();            // for positions relative to view.position

#include "alpglow/base/angles.hpp"
#include "alpglow/base/axes.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/follow/reference_frame.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/space/look_past.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/projection.hpp"

#include <Eigen/Core>
#include <Eigen/Geometry>

#include <array>
#include <cstdint>
#include <optional>

namespace alpglow {

/// What was wrong with a frame's input. What cannot be left out keeps the last good view: badTime, badSubject,
/// subjectMissing and badAspect, as each says. With all others the view is this frame's.
struct Fault {
  enum Bit : std::uint32_t {
    badTime = 1,     ///< a frame time is negative, longer than 1e6 s, or not a number; the last good view
    badIntent = 2,   ///< a number of the intent is not finite or beyond 1e9; it was left out
    badSubject = 4,  ///< the subject's numbers are not finite or beyond 1e9, or took the camera out of reach; the last
                     ///< good view. `problemOf` says which number it is
    subjectMissing = 8,  ///< there is no subject; the last good view
    badAspect = 16,      ///< the aspect is not finite or not within 0.05 … 20; the last good view
    badTarget = 32,      ///< a target's numbers are not finite or beyond 1e9 m; it was left out
    samePoint = 64,      ///< a standing camera's look point is its stand point: it keeps its direction
    noYaw = 128,         ///< it looks straight up or down: it keeps its yaw
    inBody = 256,        ///< it stands inside something, or closer than its near plane is wide
    badObstacles = 512,  ///< the host's world answered nonsense; each such answer counted as an obstacle right there
    badGuide = 2048,     ///< a goal of a guide with a bad number; it was left out
    badUnits = 4096,     ///< the head is more than 20 m of its scale above the feet: are these centimetres? (HostAxes)
    costly = 8192,       ///< more is near than the host's list holds (`Neighbourhood`), the frame's questions reach
                         ///< farther than a kilometre, or its time is so long that the end of it passed at once
    badPush = 1024,      ///< a push of no kind that the design has, or with a bad number; it was left out
  };
};

/// What began or ended in this frame.
struct Event {
  enum Bit : std::uint32_t {
    cut = 1,                   ///< the view is not connected to the one before: first update, set pose, or teleport
    teleport = 2,              ///< the subject jumped farther than its design allows to chase
    pullInBegan = 4,           ///< something came between head and camera
    pullInEnded = 8,           ///< the camera has eased out to its full distance again
    headBlocked = 16,          ///< the head came to touch something: the camera stays at the head
    headFreed = 32,            ///< it came free again
    swingBackBegan = 64,       ///< the view began to turn by itself
    swingBackEnded = 128,      ///< it is behind the subject, or the player took over
    lockBegan = 256,           ///< locked on, or changed to another target
    lockEnded = 512,           ///< the host let go
    lockLost = 1024,           ///< the target is out of range, was hidden for too long, or its numbers are bad
    targetFlick = 2048,        ///< the player asks for the next target in the direction of `View::flick`
    platformChanged = 4096,    ///< the subject got on or off something that moves
    transitionEnded = 8192,    ///< a transition between views has arrived
    framingChanged = 16384,    ///< another framing applies
    eyesTookOver = 32768,      ///< an obstacle left no room: the eyes show, whatever perspective is chosen
    eyesGaveBack = 65536,      ///< there is room again
    shoulderSwapped = 131072,  ///< the camera went over to the other shoulder by itself
  };
};

constexpr std::uint32_t noTarget = 0xffffffff;

/// What of a view is plain numbers.
struct ViewNumbers {
  /// Where it looks, radians: yaw in (−π, π], pitch within its limits, roll 0 but for pushes and unrest.
  double yaw = 0, pitch = 0, roll = 0;
  /// How fast the view turns by itself or by a stick, radians per second. For what takes over from it.
  double yawRate = 0, pitchRate = 0;
  /// The horizontal direction that movement refers to, radians.
  double heading = 0;

  /// Vertical field of view, radians; aspect is width over height; near and far plane in metres.
  double fieldOfView = degrees(60);
  double aspect = 16.0 / 9.0;
  double nearPlane = 0.1, farPlane = 1000;

  /// From the pivot to the camera, as it is and as it would be with nothing in the way, metres; more than that only
  /// where a large thing pushes the camera back.
  double distance = 0, freeDistance = 0;
  /// What there was room for in this frame, whatever is foreseen and however long going out waits: at least the
  /// distance, and at most what it would be with nothing in the way, or the distance.
  double clearDistance = 0;
  /// What limits the distance in this frame.
  ObstacleId obstacle = noObstacle;
  /// The camera is closer than it would be with nothing in the way, pulled in or easing out.
  bool pulledIn = false;
  /// Large things that are not fully drawn: the first and the last that stand between subject and camera, and those
  /// that come back from that.
  Coverings covers;
  /// It comes in because of what it would meet in so many seconds; nothing while it does not, or only by what is there.
  ObstacleId foreseen = noObstacle;
  double foreseenIn = 0;
  /// How far the camera is from the framing's shoulder because that keeps more distance, metres; how long it still
  /// waits before it goes out, seconds.
  double shoulderGivenUp = 0, outIn = 0;
  /// How much lower than it looks it orbits because that keeps more distance, radians.
  double stooped = 0;

  /// Which of the design's framings applies, which one the view comes from, and how far it has come in time, 0 … 1.
  int framing = 0, framingFrom = 0;
  double framingBlend = 1;
  /// How far a change of design has come in time, 0 … 1; meanwhile the view is on its way from the old design's.
  double designBlend = 1;
  /// How much of it is first person, 0 … 1, for swapping arms and body; 0 and 1 while no perspective is being switched.
  double firstPerson = 0;
  /// What look input is multiplied by under this lens, 1e-6 … 1e6.
  double lookScale = 1;
  /// How much of look input counts beside what guides the look, 0 … 1.
  double handShare = 1;

  /// What the ray through the crosshair hits, and how far from the eye point; nothing: a point far ahead.
  ObstacleId aimObstacle = noObstacle;
  double aimDistance = 0;
  /// While a framing changes the crosshair stays on the point that it was on, unless that came too close to the subject
  /// or to a pitch limit meanwhile; and by how much it is off, radians.
  bool aimKept = false;
  double aimError = 0;

  /// Where bob, dip and breathing have moved the eye, metres to the right and up.
  double bobRight = 0, bobUp = 0;
  /// How far what is followed rests above the subject's feet in the air, below them if negative; metres of its scale.
  double rest = 0;
  /// And how far beside them along the ground.
  double restAside = 0;
  /// How far steadying has turned the view, radians; part of yaw and pitch, not of the heading.
  double steadyYaw = 0, steadyPitch = 0;
  /// The same of the hand's sway and unrest.
  double swayYaw = 0, swayPitch = 0;
  /// The same of pushes that move the picture only: the crosshair's ray goes where the view would without them.
  double pushYaw = 0, pushPitch = 0;
  /// The signed offset of a glance from the heading, while it is held or returning, and the yaw from the body; radians.
  double glanceYaw = 0, glancePitch = 0, fromBody = 0;
  /// By how much swinging back turned yaw in this frame, radians; and until it may, seconds.
  double swungBack = 0, holdoff = 0;
  /// How fast idle drift turns yaw at this moment, radians per second.
  double driftRate = 0;
  /// The target that the view is locked on, or `noTarget`; the turn that is missing, radians; the flick of this frame,
  /// to the right and up, of length 1.
  std::uint32_t lock = noTarget;
  double lockError = 0;
  Rate flick;

  /// How much of the subject to draw: 1 = whole, 0 = not at all.
  double opacity = 1;
  /// Not connected to the view before: reset what depends on the last frame (motion blur, temporal filters).
  bool cut = false;
  /// Views between the last one and this one may be shown (generated frames, motion blur). False at a cut, and where
  /// the straight way from the last position is not clear for the near plane of either view.
  bool interpolable = false;
  /// Bits of `Event` and `Fault`.
  std::uint32_t events = 0, faults = 0;
  /// What named blocks stop in this frame, bits of Blocked.
  std::uint32_t blocked = 0;
};

/// The points p with normal·p + offset ≥ 0 are inside.
struct FrustumPlane {
  Eigen::Vector3d normal{0, 1, 0};
  double offset = 0;
  double height(const Eigen::Vector3d& point) const;
};

struct View : ViewNumbers {
  /// The eye point, metres.
  Eigen::Vector3d position = Eigen::Vector3d::Zero();
  /// The subject's eyes and the point that the camera orbits, metres.
  Eigen::Vector3d head = Eigen::Vector3d::Zero();
  Eigen::Vector3d pivot = Eigen::Vector3d::Zero();
  /// Where the eye point would be with nothing in the way, metres.
  Eigen::Vector3d freePosition = Eigen::Vector3d::Zero();
  /// What the ray through the crosshair hits; otherwise a point far ahead. It begins beside the pivot, so that nothing
  /// behind the character is aimed at.
  Eigen::Vector3d aimPoint = Eigen::Vector3d::Zero();
  /// How fast the eye point moves with its subject and by a change of framing at this moment, metres per second, walls
  /// and the player's hand left out.
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
  /// Level axes to the world: yaw, pitch, roll and heading are in the level axes. The identity unless another up rules.
  Rotation level{1, 0, 0, 0};

  /// Of a host's own camera, as for a cut-scene: where it is, metres, and how it is turned (columns: its right, up and
  /// backward), through a lens of this vertical field of view, radians. Hosts with other axes: HostAxes::fromHost and
  /// rotationFromHost. A rotation that is not quite one is made one;
  /// of numbers that are not finite comes a view as it is by default.
  static View from(const Eigen::Vector3d& position, const Eigen::Matrix3d& rotation, double fieldOfView);
  static View from(const Eigen::Vector3d& position, const Eigen::Quaterniond& orientation, double fieldOfView);

  /// Columns: the camera's right, up and backward. Yaw about up, then pitch about the camera's right, then roll.
  Eigen::Matrix3d rotation() const;
  Eigen::Quaterniond orientation() const;
  Eigen::Vector3d forward() const;

  /// The rigid transform that puts the camera into the host's world, in the host's axes and units.
  Eigen::Vector3d positionIn(const HostAxes& axes) const { return axes.toHost(position); }
  Eigen::Quaterniond orientationIn(const HostAxes& axes) const;

  /// World to view space (x right, y up, looking along −z, or +z if the axes say so): the inverse of the camera's
  /// transform.
  Eigen::Matrix4d worldToView(const HostAxes& axes = {}) const;
  /// The same without the translation, in float: for positions given relative to the camera.
  Eigen::Matrix4f cameraRelativeView(const HostAxes& axes = {}) const;
  /// A point relative to the camera in the host's axes and units; precise however far out the camera is.
  Eigen::Vector3f relative(const Eigen::Vector3d& point, const HostAxes& axes = {}) const;
  /// Where the crosshair's ray begins, beside the pivot, and where it goes: forward, but for pushes that move the
  /// picture only.
  Eigen::Vector3d aimOrigin() const;
  Eigen::Vector3d aimDirection() const;
  /// The angle between the crosshair's ray and one from the character's hand or eye to the aim point, radians.
  double aimDifference(const Eigen::Vector3d& hand) const;
  /// Where a point of the world is on the screen: 0 in the middle, 1 at the right and at the upper edge; nothing where
  /// it is not in front of the camera, by at least a millionth of how far it is.
  std::optional<Eigen::Vector2d> onScreen(const Eigen::Vector3d& point) const;
  /// The way back: the direction from the eye point through a point of the screen, of length 1.
  Eigen::Vector3d rayThrough(const Eigen::Vector2d& screen) const;
  /// What is seen lies inside of all of these: left, right, bottom, top, near, far. In the world, metres.
  std::array<FrustumPlane, 6> frustum() const;
  /// View space to clip space.
  Eigen::Matrix4d projection(ClipSpace clip = {}, const HostAxes& axes = {}) const;
};

}  // namespace alpglow
