#include "alpglow/base/rotation.hpp"
#include "alpglow/stage/rehearsal.hpp"

#include <algorithm>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double headRadius = 0.13;  // metres

/// The ray of the crosshair passes through the head.
bool headInTheWay(const io::TraceFrame& frame) {
  const Vector3d ahead = -rotationOf(degrees(frame.yaw), degrees(frame.pitch)).col(2),
                 toHead = frame.head - frame.camera;
  const double along = ahead.dot(toHead);
  return along > 0 && (toHead - along * ahead).norm() < headRadius;
}

}  // namespace

Summary summarise(const io::Trace& trace) {
  Summary summary;
  summary.frames = trace.size();
  if (trace.empty()) return summary;
  const io::TraceFrame& first = trace.front();
  summary.length = trace.back().time;
  summary.lowestPitch = summary.highestPitch = first.pitch;
  summary.closest = summary.farthest = first.distance;
  summary.leastClearance = first.clearance;
  const io::TraceFrame* before = &first;
  for (const io::TraceFrame& frame : trace) {
    summary.subjectPath += (frame.subject - before->subject).norm();
    summary.cameraPath += (frame.camera - before->camera).norm();
    summary.lowestPitch = std::min(summary.lowestPitch, frame.pitch);
    summary.highestPitch = std::max(summary.highestPitch, frame.pitch);
    summary.closest = std::min(summary.closest, frame.distance);
    summary.farthest = std::max(summary.farthest, frame.distance);
    summary.leastClearance = std::min(summary.leastClearance, frame.clearance);
    if (!frame.obstacle.empty()) ++summary.framesPulledIn;
    if (frame.freeDistance > 0) {
      ++summary.framesOfThirdPerson;
      if (headInTheWay(frame)) ++summary.framesHeadInTheWay;
      if (frame.opacity < 0.5) ++summary.framesFaded;
    }
    before = &frame;
  }
  return summary;
}

}  // namespace alpglow::stage
