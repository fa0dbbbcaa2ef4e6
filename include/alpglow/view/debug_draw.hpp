#pragma once
// A camera drawn from outside: for a developer's overlay, or for a picture from another camera.
//
//   drawCamera(view, explain(view, world), lines, {nameOfObstacle, {}, {}});   // `lines`: three calls of yours

#include "alpglow/view/explanation.hpp"
#include "alpglow/view/view.hpp"

#include <Eigen/Core>

#include <string>

namespace alpglow {

/// The host's renderer, in the world, metres. What has one meaning has one colour, which is the host's choice.
class DebugDraw {
 public:
  enum class Meaning {
    subject,  ///< the head, and what the camera orbits
    camera,   ///< where the camera is and what it sees
    without,  ///< where it would be with nothing in the way
    limit,    ///< what stops it, with the surface there
    ahead,    ///< what it foresees
    aim,      ///< the crosshair's ray
  };
  virtual ~DebugDraw() = default;
  virtual void line(const Eigen::Vector3d& from, const Eigen::Vector3d& to, Meaning meaning) = 0;
  virtual void sphere(const Eigen::Vector3d& middle, double radius, Meaning meaning) = 0;
  virtual void label(const Eigen::Vector3d& at, const std::string& text, Meaning meaning) = 0;
};

/// Head and pivot, camera with its near plane's sphere and the corners of its picture, where it would be, what stops it
/// and the crosshair's ray; a view that is not finite draws nothing.
void drawCamera(const View& view, const Explanation& why, DebugDraw& lines, const ExplanationNames& names = {});

}  // namespace alpglow
