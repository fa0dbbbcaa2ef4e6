#pragma once
// A trace: what a camera did, frame by frame, as CSV. Numbers read back to the same value; later columns go to the end.

#include <Eigen/Core>

#include <string>
#include <vector>

namespace alpglow::io {

/// One frame in the units of the file: metres, seconds, degrees.
struct TraceFrame {
  double frame = 0, time = 0, dt = 0;
  Eigen::Vector3d subject = Eigen::Vector3d::Zero();
  double subjectHeading = 0;
  Eigen::Vector3d head = Eigen::Vector3d::Zero(), pivot = Eigen::Vector3d::Zero(), camera = Eigen::Vector3d::Zero();
  double yaw = 0, pitch = 0, roll = 0;
  double fieldOfView = 0, aspect = 0, near = 0;
  double distance = 0, freeDistance = 0;
  /// Distance from the camera to the nearest obstacle, looked for up to 10 m.
  double clearance = 0;
  std::string framing;
  double opacity = 1;
  /// What limits the distance; empty while nothing does.
  std::string obstacle;
  /// What began or ended in this frame, separated by spaces.
  std::string events;
  /// The intent: counts that looked, the shaped stick, its turn rates, movement, notches, active blocks, device.
  double lookX = 0, lookY = 0, stickX = 0, stickY = 0, lookRateX = 0, lookRateY = 0, moveX = 0, moveY = 0, zoom = 0;
  std::string blocks, device;
  /// Bob, dip and breathing; the turn of steadying; the free look's offset from the heading; the heading.
  double bobX = 0, bobY = 0, steadyYaw = 0, steadyPitch = 0, freeLookYaw = 0, freeLookPitch = 0, heading = 0;
  /// How much recentring turned in this frame, and the hold-off that is left; the target and the turn that is missing.
  double recentre = 0, holdoff = 0;
  std::string lock;
  double lockError = 0;
  /// Which camera is shown, and whom the character's camera films.
  std::string cameraName, filmed;
  /// From which framing to which, how far; the point under the crosshair, how far it drifted, and the look's scale.
  std::string framingFrom, framingTo;
  double framingBlend = 1;
  Eigen::Vector3d aim = Eigen::Vector3d::Zero();
  double aimError = 0, lookScale = 1;
};

using Trace = std::vector<TraceFrame>;

/// The column names in order.
std::vector<std::string> traceColumns();
std::string writeTrace(const Trace& trace);
/// Reads a trace by its column names; unknown columns are passed over. Throws InputError.
Trace readTrace(const std::string& path);

}  // namespace alpglow::io
