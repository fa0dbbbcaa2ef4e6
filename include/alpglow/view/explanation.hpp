#pragma once
// Why is the camera here? What limits it in a frame, where, and what it would be without. Meant for a
// question now and then, not for every frame.
//
//   const View view = camera.update(dt, subject, world, aspect);
//   const Explanation why = explain(view, world);
//   console << inWords(view, why, {nameOfObstacle, nameOfFraming, axes});   // 1.42 m of 2.60 m: post-3, …
//   socket << asJson(view, why);
//   drawCamera(view, why, lines);                                     // view/debug_draw.hpp

#include "alpglow/base/axes.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/view.hpp"

#include <Eigen/Core>

#include <functional>
#include <string>

namespace alpglow {

struct Explanation {
  enum class Why {
    asWanted,     ///< nothing limits it
    obstacle,     ///< something is in the way
    foreseen,     ///< it comes in before what it would meet
    waiting,      ///< there is room, and it waits before it goes out
    goingOut,     ///< there is room, and it is on its way
    large,        ///< it comes in before a large thing that it cannot look past
    pushedBack,   ///< behind a large thing, farther than it would be
    headBlocked,  ///< the head touches something: the camera is at the head
  };
  Why why = Why::asWanted;
  /// What is in the way, foreseen, or touched by the head.
  ObstacleId obstacle = noObstacle;
  /// The near plane's sphere: its radius; and where something stops it on the straight way from the head through
  /// the camera to where that would be: its middle, what it touches, and the surface there (a unit vector, to the
  /// sphere).
  double radius = 0;
  bool met = false;
  Eigen::Vector3d sphere = Eigen::Vector3d::Zero();
  Eigen::Vector3d point = Eigen::Vector3d::Zero();
  Eigen::Vector3d normal = Eigen::Vector3d::Zero();
};

/// Asks the world where the near plane's sphere is stopped: a sweep or two and, of a host that knows no normals, six
/// clearances.
/// The world has to be as it was in that frame. Of a view without an orbit nothing limits the distance.
Explanation explain(const View& view, const Obstacles& world);

/// What the host calls things; their numbers where it says nothing. Places are told in its axes and units.
struct ExplanationNames {
  std::function<std::string(ObstacleId)> obstacle;
  std::function<std::string(int)> framing;
  HostAxes axes = {};

  std::string of(ObstacleId id) const;
  std::string ofFraming(int index) const;
};

/// One line for a person: metres, seconds and degrees; what limits the distance, and what else goes on (transitions,
/// the lock, blocks, faults).
std::string inWords(const View& view, const Explanation& why, const ExplanationNames& names = {});
/// The same for a program: one object on one line, null where there is nothing; keys with their units, places without.
std::string asJson(const View& view, const Explanation& why, const ExplanationNames& names = {});

}  // namespace alpglow
