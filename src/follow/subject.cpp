#include "alpglow/follow/subject.hpp"

#include <algorithm>
#include <cstdio>

namespace alpglow {

namespace {

std::string numberText(double value) {
  char text[32];
  std::snprintf(text, sizeof text, "%.9g", value);
  std::string result = text;
  std::replace(result.begin(), result.end(), ',', '.');  // whatever the program's locale is
  return result;
}

std::string vectorText(const Eigen::Vector3d& v) {
  return "(" + numberText(v.x()) + ", " + numberText(v.y()) + ", " + numberText(v.z()) + ")";
}

}  // namespace

std::string problemOf(const Subject& subject) {
  const ReferenceFrame& frame = subject.frame;
  const struct {
    const char* name;
    const Eigen::Vector3d& value;
  } vectors[] = {{"feet", subject.feet},
                 {"head", subject.head},
                 {"velocity", subject.velocity},
                 {"frame.origin", frame.origin},
                 {"frame.velocity", frame.velocity}};
  for (const auto& [name, value] : vectors) {
    if (!legalPosition(value)) return std::string(name) + " is " + vectorText(value) + ": allowed is -1e9 to 1e9 each";
  }
  if (!legalNumber(subject.heading)) return "heading is " + numberText(subject.heading) + ": allowed is -1e9 to 1e9";
  if (!(std::abs(frame.yawRate) <= 1e4))
    return "frame.yawRate is " + numberText(frame.yawRate) + " rad/s: allowed is -1e4 to 1e4";
  if (!ReferenceFrame::nearlyOne(frame.rotation.norm()))
    return "frame.rotation has length " + numberText(frame.rotation.norm()) + ": allowed is 0.999 to 1.001";
  if (!ReferenceFrame::nearlyOne(frame.up.norm()))
    return "frame.up has length " + numberText(frame.up.norm()) + ": allowed is 0.999 to 1.001";
  if (!frame.legal()) return "frame.scale is " + numberText(frame.scale) + ": allowed is 0.001 to 1000";
  return "";
}

}  // namespace alpglow
