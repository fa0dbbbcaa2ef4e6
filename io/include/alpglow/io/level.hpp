#pragma once
// A level: the geometry of a demo or test world, where the subject starts, and how it moves.

#include "alpglow/base/setting.hpp"
#include "alpglow/camera/group_camera.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "alpglow/follow/reference_frame.hpp"
#include "alpglow/framing/regions.hpp"

#include <Eigen/Core>

#include <array>
#include <string>
#include <vector>

namespace alpglow::io {

/// Triangles over shared vertices, metres, outsides counter-clockwise.
struct Mesh {
  std::vector<Eigen::Vector3d> vertices;
  std::vector<std::array<int, 3>> triangles;
};

struct LevelObject {
  std::string name;
  /// What it is made of, for pictures.
  std::string group;
  /// The labels "walk-through" (does not stop the character), "see-through" (stops the crosshair only), "large" (is
  /// looked past) and "soft" (lets the camera pass, and fades) have a meaning here; others are the level's own.
  std::vector<std::string> labels;
  Mesh mesh;
  /// The mesh is the closed surface of a convex solid.
  bool convex = false;
  /// The platform that carries it (its place in the level), or −1; the mesh is where it is at time 0.
  int platform = -1;

  bool labelled(std::string_view label) const;
};

/// Something that moves along a path and back, for ever: rests, goes, rests, returns; with the least jerk on the way.
struct MovingPlatform {
  std::string name;
  std::vector<Eigen::Vector3d> path;
  /// Mean speed on the way, metres per second; rest at either end, seconds; turn from one end to the other, radians.
  double speed = 1, pause = 3, turn = 0;
  /// Height of the eyes when it is filmed, metres.
  double eyeHeight = 1;

  /// Where it is at a time, as a reference frame with this id; the velocity is that of its origin.
  ReferenceFrame at(double time, std::uint32_t id) const;
};

/// Something to lock on to, on a platform or at rest.
struct LevelTarget {
  std::string name;
  Eigen::Vector3d position = Eigen::Vector3d::Zero();
  int platform = -1;
  double radius = 0.4;
};

/// What a standing camera stands on or looks at: nothing (a place in the world), the character, or a platform.
struct Thing {
  enum class Kind { world, character, platform };
  Kind kind = Kind::world;
  int platform = -1;
};

/// A standing camera.
struct LevelCamera {
  std::string name;
  StandingSettings settings;
  Thing standsOn, looksAt;
};

/// A camera that holds the character and targets of the level in one picture.
struct LevelGroup {
  std::string name;
  /// Places of targets, −1 for the character. The first one is never lost.
  std::vector<int> members;
  /// Of the ball around the character's eyes that has to be seen, metres.
  double characterRadius = 0.6;
  LookAngles look = {0, degrees(-15)};
  GroupSettings settings;
};

/// A region in which a condition of the design's framings holds while the character's feet are in it. Its bits are set
/// by the code that knows the design.
struct LevelRegion {
  std::string flag;
  Region region;
};

struct Spawn {
  Eigen::Vector3d position = Eigen::Vector3d::Zero();
  /// Yaw in radians.
  double heading = 0;
};

/// The character's body, metres and metres per second.
struct Body {
  double height = 1.8;
  double eyeHeight = 1.68;
  double radius = 0.3;
  double stepHeight = 0.35;
  double walkSpeed = 1.6;
  double runSpeed = 4.5;
  /// Crouching: height, eyes, speed.
  double crouchHeight = 1.15, crouchEyeHeight = 1.0, crouchSpeed = 0.9;
  /// How high a jump takes the feet.
  double jumpHeight = 0.6;
};

struct Level {
  std::string name;
  std::vector<LevelObject> objects;
  Spawn spawn;
  Body body;
  std::vector<MovingPlatform> platforms;
  std::vector<LevelTarget> targets;
  std::vector<LevelCamera> cameras;
  std::vector<LevelGroup> groups;
  std::vector<LevelRegion> regions;
};

Mesh boxMesh(const Eigen::Vector3d& baseCentre, const Eigen::Vector3d& size, double yaw);
/// A slab whose top runs from the middle of one edge to the middle of the other; `thickness` is vertical.
Mesh rampMesh(const Eigen::Vector3d& from, const Eigen::Vector3d& to, double width, double thickness);
/// An upright prism of 16 sides; a top radius of 0 makes a cone.
Mesh cylinderMesh(const Eigen::Vector3d& baseCentre, double height, double radius, double topRadius);

}  // namespace alpglow::io

namespace alpglow {
template <>
Span<const Setting<io::Body>> settings<io::Body>();
template <>
Span<const Setting<GroupSettings>> settings<GroupSettings>();
}  // namespace alpglow
