#pragma once
// Clear space: where the camera may be, so that its near plane is never inside anything and nothing opaque stands
// between head and camera; and how it gets there without a jump.
//
// A sphere that encloses the near plane is swept from the head to where the camera would like to be. Along that one
// line camera and shoulder come toward the head together, so the head keeps its place in the picture. Every prefix of a
// clear sweep is clear: the room of the moment is a hard limit, always the last word. Before it comes foresight: the
// same sweep from where subject and look will be in a few steps up to 0.6 s ahead, and an `UrgentLimit` that
// comes in early enough. Where the shoulder costs much distance it is given up first; and where a design wants that,
// the camera stoops: it orbits lower than it looks, under a beam or a low ceiling.
//
//   PullIn space;
//   const PullInPose pose = space.step(request, {walk}, obstacles, dt, settings);
//
// While one aims the crosshair must not slide: then the camera comes in along its axis and the shoulder stays, as long
// as the line to the head is clear.

#include "alpglow/base/span.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/space/bounds.hpp"
#include "alpglow/space/concession.hpp"
#include "alpglow/space/line_motion.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/space/orbit_motion.hpp"
#include "alpglow/space/urgent_limit.hpp"
#include "alpglow/space/walk_motion.hpp"

#include <Eigen/Core>

#include <array>
#include <cstdint>

namespace alpglow {

/// What one would like to have.
struct PullInRequest {
  Eigen::Vector3d head = Eigen::Vector3d::Zero();
  /// What the camera orbits but for the shoulder.
  Eigen::Vector3d anchor = Eigen::Vector3d::Zero();
  /// Where it orbits, in axes that `level` turns into the world's; radians, the pitch within `pitch`.
  LookAngles orbit;
  Rotation level = Rotation::Identity();
  PitchLimits pitch{-pi / 2, pi / 2};
  /// Of the pivot to the right of the anchor, and from the pivot to the camera, metres.
  double shoulder = 0, distance = 0;
  /// Near distance and the radius of its near-plane sphere, metres.
  double nearPlane = 0.1, radius = 0.15;
  /// What the settings' metres are multiplied by.
  double scale = 1;
  /// The crosshair must not slide; the shoulder is kept, as it also is while a look is solved for where the camera is.
  bool aims = false, keepsShoulder = false;
};

/// What will be asked for at some moment ahead, metres.
struct AskedAhead {
  double shoulder = 0, distance = 0;
};

/// How what is asked for moves.
struct PullInMotion {
  /// Of the subject relative to what it stands on, metres per second of the player's clock.
  WalkMotion::Gait gait;
  /// How fast what it stands on turns the orbit, radians per second.
  double carriedYawRate = 0;
  /// Of the head above the feet, metres: lower while it crouches.
  double headHeight = 0;
  /// Of what it stands on, by the world's clock; and how much of that a second of the player's is.
  RigidMotion carried;
  double pace = 1;
  /// What shoulder and distance will be at even times, so many seconds apart, from the first after now on, where that
  /// is known: as a framing changes. Where there are none they go on as they have.
  Span<const AskedAhead> asked;
  double askedEvery = 0;
};

/// What clear space allows.
struct PullInPose {
  Eigen::Vector3d pivot = Eigen::Vector3d::Zero();
  Eigen::Vector3d camera = Eigen::Vector3d::Zero();
  /// Where the camera would be with nothing in the way.
  Eigen::Vector3d free = Eigen::Vector3d::Zero();
  /// From the pivot to the camera, metres; and of the pivot to the right of the anchor, what is left of that.
  double distance = 0, shoulder = 0;
  /// The distance for which there is room, however far it has come in for what is foreseen and gone out again.
  double clearDistance = 0;
  /// The near distance; smaller than asked for while the head is closer to something than the sphere's radius.
  double nearPlane = 0;
  /// What is in the way to where it would be; `noObstacle` while free and while easing out.
  ObstacleId obstacle = noObstacle;
  /// It comes in because of this, which it will meet in so many seconds.
  ObstacleId foreseen = noObstacle;
  double foreseenIn = 0;
  /// Of the shoulder that is asked for, metres; and how long it waits before it goes out, seconds.
  double givenUp = 0, wait = 0;
  /// How much lower it orbits than is asked for, radians, ≥ 0.
  double stooped = 0;
  /// The head itself touches something or is inside it: the camera is at the head and nothing can be promised. Once it
  /// is free the camera eases out as after any other obstacle.
  bool headBlocked = false;
};

/// How far the sphere may go of a whole displacement: 1, or the fraction until 1 mm before the first contact.
struct ClearFraction {
  double fraction = 1;
  ObstacleId obstacle = noObstacle;
  bool startsApart = false;
};
/// Asks for one sweep of a sphere of this radius (metres, ≥ 0) on the straight line between two points of the world.
/// Points at most 1e-8 m apart, or not finite, ask for nothing and give 1. Now, or as it will be.
ClearFraction clearFraction(const Obstacles& obstacles, const Eigen::Vector3d& from, const Eigen::Vector3d& to,
                            double radius, const MomentAhead& later = {});

/// What has been asked about the moment: how near the head is to anything, up to some range, and how far one sweep from
/// it goes. It holds in the frame in which it was asked.
struct KnownRoom {
  Eigen::Vector3d head = Eigen::Vector3d::Zero(), end = Eigen::Vector3d::Zero();
  double range = -1, clearance = 0;
  double radius = -1;
  ClearFraction clear;
};

/// The part with a memory. A trivially copyable value.
class PullIn {
 public:
  /// A frame: time passes, and then there is a place.
  PullInPose step(const PullInRequest& request, const PullInMotion& motion, const Obstacles& obstacles, double seconds,
                  const PullInSettings& settings) {
    const KnownRoom known = foresee(request, motion, obstacles, seconds, settings);
    return place(request, obstacles, settings, known);
  }
  /// Time passes; only then anything moves but by the room of the moment. What it knows of that `place` need not ask.
  KnownRoom foresee(const PullInRequest& request, const PullInMotion& motion, const Obstacles& obstacles,
                    double seconds, const PullInSettings& settings);
  /// Where the camera is: as far as `foresee` left it, and as the room of the moment allows. May be tried for several
  /// looks, each from a copy.
  PullInPose place(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings,
                   const KnownRoom& known = {});
  /// How much of the line from the head to where the camera would be is clear, metres; all of it, if it is free.
  static double room(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings);
  /// Where the questions of a coming frame will be.
  Bounds reach(const PullInRequest& request, const PullInMotion& motion, double seconds,
               const PullInSettings& settings) const;

  /// Forgets every limit, as after a cut.
  void cut() { *this = PullIn(); }
  /// Whether the camera is more than a millimetre from where it would be, be it pulled in or easing out.
  bool pulledIn() const { return pulledIn_; }
  /// Whether anything limits it, by however little.
  bool limiting() const { return line_.limiting() || shoulder_.given() > 0 || stoop_.given() > 0; }

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("line motion walk change").part(line_, motion_, walk_, change_);
    fields.named("lastOrbit.yaw lastOrbit.pitch").numbers(1e9, lastOrbit_.yaw, lastOrbit_.pitch);
    fields.named("shoulder stoop").part(shoulder_, stoop_);
    fields.named("alongAxis").number(alongAxis_, 0, 1);
    fields.named("foreseenIn").times(foreseenIn_);
    fields.named("foreseen").ids(foreseen_);
    fields.named("ahead").part(ahead_);
    fields.named("sinceLook untilLook").within(0, 1, sinceLook_, untilLook_);
    fields.named("turned.yaw turned.pitch").numbers(1e9, turned_.yaw, turned_.pitch);
    fields.named("wall").part(wall_);
    fields.named("pulledIn oriented").flags(pulledIn_, oriented_);
  }

 private:
  class Scene;
  static constexpr double lookEvery = 1 / 60.0;  // seconds
  static constexpr std::size_t mostAhead = 8;
  /// What has been seen ahead since it looked last, in how much time from now.
  struct Ahead {
    std::array<RoomAhead, mostAhead> rooms;
    std::array<ObstacleId, mostAhead> whom = {};
    std::uint32_t count = 0;
    void pass(double seconds);
    void add(const RoomAhead& room, ObstacleId obstacle) { rooms[count] = room, whom[count++] = obstacle; }
    /// Instead of what is least urgent for so long a line, if there is no room for more.
    void addUrgent(const RoomAhead& room, ObstacleId obstacle, double length);

    template <class Fields>
    void state(Fields& fields) {
      fields.named("count").whole(count, mostAhead);
      for (RoomAhead& each : rooms) {
        fields.named("seconds").numbers(1e15, each.seconds);
        fields.named("room").number(each.room, 0, UrgentLimit::unlimited);
      }
      for (ObstacleId& each : whom) fields.named("whom").ids(each);
    }
  };

  /// Up to where the subject will walk straight on, as a share of its way; and how far along the wall from there on,
  /// metres of the world.
  struct Wall {
    double upTo = 1;
    StoredVector3 slide;

    template <class Fields>
    void state(Fields& fields) {
      fields.named("upTo").number(upTo, 0, 1);
      fields.named("slide").vectors(1e12, slide);
    }
  };

  static double sphere(const PullInRequest& request, bool ample, const PullInSettings& settings);
  double aside(const PullInRequest& request, const PullInSettings& settings) const;
  double ampleRoom(const Scene& scene, bool ahead, double least, double most, const PullInSettings& settings) const;
  /// How far it has turned since it looked last, and how it turns for who looks in this frame.
  LookAngles turnedSince(const PullInRequest& request, const PullInMotion& motion, double seconds) const;
  OrbitMotion turning(const LookAngles& turned, double seconds) const;
  WalkMotion walked(const PullInMotion& motion, double seconds) const;
  LineMotion changed(const PullInRequest& request, const PullInMotion& motion, double seconds) const;
  /// From the room of the moment and the length of the line, metres; so many looks, the soonest first.
  Ahead lookAhead(const Scene& scene, double enough, const PullInSettings& settings, std::size_t looks,
                  bool rests) const;
  /// Whether the frame that is so long is one that looks ahead.
  bool looksIn(double seconds) const;
  /// Judges so many moments.
  void chooseShoulder(const Scene& scene, int looks, double seconds, const PullInSettings& settings);
  void chooseStoop(const Scene& scene, int looks, double seconds, const PullInSettings& settings);
  template <class Kept>
  static void judge(Concession& concession, const Scene& scene, int looks, const PullInSettings& settings,
                    const Kept& kept);
  double shoulderLeft(double shoulder) const;

  UrgentLimit line_;  // metres from the head to the camera
  OrbitMotion motion_;
  WalkMotion walk_;
  LineMotion change_;
  LookAngles lastOrbit_;
  Concession shoulder_, stoop_;  // metres; radians
  double alongAxis_ = 0;         // 1: the shoulder stays while the camera comes in
  ObstacleId foreseen_ = noObstacle;
  double foreseenIn_ = 0;
  Ahead ahead_;
  double sinceLook_ = 0, untilLook_ = lookEvery;  // seconds: that have passed, and after which the next one is due
  LookAngles turned_;                             // since then
  Wall wall_;                                     // in the frame before
  bool pulledIn_ = false, oriented_ = false;
};

}  // namespace alpglow
