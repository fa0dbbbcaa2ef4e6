#pragma once
// What holds for every view, whatever happened before.

#include "alpglow/base/log_scales.hpp"
#include "alpglow/camera/character_camera.hpp"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <string>

namespace alpglow::testing {

/// The farthest that the framings of a design put the pivot from the subject, metres of its scale: anchor, shoulder,
/// lag, lead, bob and dip; where framings change while the lag is long, it swings to three times its leash. `eyes` is
/// the longest way from feet to eyes.
inline double pivotReach(const CompiledDesign& design, double eyes) {
  double farthest = 0;
  for (const NamedFraming& named : design.design().framings) {
    const Framing& f = named.framing;
    const auto most = [&design](FramingParameter parameter) {
      const ParameterRange range = design.ranges()[indexOf(parameter)];
      return std::max(std::abs(range.low), std::abs(range.high));
    };
    farthest = std::max(
        farthest,
        most(FramingParameter::anchorHeight) * eyes + most(FramingParameter::anchorRise) +
            most(FramingParameter::shoulder) + 3 * (f.follow.leash + f.follow.verticalLeash) + f.follow.rest.above +
            f.follow.rest.below +
            std::max(f.follow.rest.radius, f.follow.rest.screen * distanceFromLog(most(FramingParameter::distance)) *
                                               std::tan(std::max(design.widest(), design.design().lock.widest) / 2)));
  }
  return farthest + 2 * design.design().large.push + design.design().lead.longest + design.design().pushLimits.place +
         3 + design.design().unrest.right + design.design().unrest.up + design.design().unrest.back;
}

/// What is wrong with it; empty if nothing is.
inline std::string whatIsWrong(const View& view, const CompiledDesign& design) {
  const auto says = [](const char* what, double value) {
    char text[40];
    std::snprintf(text, sizeof text, " is %.9g", value);
    return std::string(what) + text;
  };
  const PushLimits& pushes = design.design().pushLimits;
  const UnrestSettings& unrest = design.design().unrest;
  const bool changing = view.designBlend < 1;  // and so within neither design's limits
  const double rolls = changing ? pi : (design.pushes().empty() ? 0 : pushes.roll + 2e-6) + unrest.roll * (1 + 2e-9),
               lens = design.pushes().empty() ? 0 : std::log(pushes.lens);
  const struct {
    const char* name;
    double value, low, high;
  } numbers[] = {
      {"yaw", view.yaw, -pi, pi},
      {"pitch", view.pitch, -pi / 2, pi / 2},
      {"roll", view.roll, -rolls, rolls},
      {"yaw rate", view.yawRate, -1e12, 1e12},
      {"pitch rate", view.pitchRate, -1e12, 1e12},
      {"heading", view.heading, -pi, pi},
      {"field of view", logTanHalfFov(view.fieldOfView),
       changing ? -15 : logTanHalfFov(design.narrowest()) - lens - 1e-9,
       changing ? 15 : logTanHalfFov(std::max(design.widest(), design.design().lock.widest)) + lens + 1e-9},
      {"design blend", view.designBlend, 0, 1},
      {"aspect", view.aspect, 0.05, 20},
      {"near plane", view.nearPlane, 1e-9, 1e5},
      {"far plane", view.farPlane, view.nearPlane * (1 + 1e-9), 1e9},
      {"distance", view.distance, 0, longestDistance},
      {"free distance", view.freeDistance, 0, longestDistance},
      {"clear distance", view.clearDistance, view.distance * (1 - 1e-9),
       std::max(view.freeDistance, view.distance) * (1 + 1e-9)},
      {"framing", static_cast<double>(view.framing), 0, static_cast<double>(design.design().framings.size()) - 1},
      {"framing from", static_cast<double>(view.framingFrom), 0,
       static_cast<double>(design.design().framings.size()) - 1},
      {"framing blend", view.framingBlend, 0, 1},
      {"first person", view.firstPerson, 0, 1},
      {"look scale", view.lookScale, leastLookScale, 1 / leastLookScale},
      {"aim distance", view.aimDistance, 0, 1e6},
      {"aim error", view.aimError, 0, pi},
      {"bob right", view.bobRight, -1e3, 1e3},
      {"bob up", view.bobUp, -1e3, 1e3},
      {"push yaw", view.pushYaw, -pushes.turn - 2e-6, pushes.turn + 2e-6},
      {"push pitch", view.pushPitch, -pushes.turn - 2e-6, pushes.turn + 2e-6},
      {"steady yaw", view.steadyYaw, -pi, pi},
      {"steady pitch", view.steadyPitch, -pi, pi},
      {"sway yaw", view.swayYaw, -pi, pi},
      {"sway pitch", view.swayPitch, -pi, pi},
      {"glance yaw", view.glanceYaw, -2 * pi, 2 * pi},
      {"glance pitch", view.glancePitch, -pi, pi},
      {"from body", view.fromBody, -pi, pi},
      {"swung back", view.swungBack, -1e12, 1e12},
      {"holdoff", view.holdoff, 0, 1e12},
      {"lock error", view.lockError, 0, pi},
      {"flick", std::hypot(view.flick.x, view.flick.y), 0, 1 + 1e-9},
      {"opacity", view.opacity, 0, 1},
      {"stooped", view.stooped, 0, design.design().pullIn.stoop + 1e-12},
  };
  for (const auto& number : numbers) {
    if (!(number.value >= number.low && number.value <= number.high)) return says(number.name, number.value);
  }
  for (const Eigen::Vector3d* point : {&view.position, &view.head, &view.pivot, &view.aimPoint}) {
    if (!(point->norm() < 1e10)) return says("a point's distance from the origin", point->norm());
  }
  for (const Covering& each : view.covers) {
    if (!(each.opacity >= 0 && each.opacity <= 1)) return says("opacity of what covers", each.opacity);
  }
  if (!(view.velocity.norm() < 1e14)) return says("speed", view.velocity.norm());
  if (!(std::abs(view.level.norm() - 1) < 1e-6)) return says("length of level", view.level.norm());
  return {};
}

}  // namespace alpglow::testing
