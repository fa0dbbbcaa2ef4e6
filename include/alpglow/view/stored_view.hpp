#pragma once
// A view as part of a camera's state: trivially copyable, and it comes back as it was.
//
//   StoredView last(view);
//   draw(last.view());

#include "alpglow/base/limits.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/view/view.hpp"

#include <algorithm>
#include <initializer_list>

namespace alpglow {

struct StoredView {
  StoredView() = default;
  explicit StoredView(const View& view);
  View view() const;

  StoredVector3 position, head, pivot, freePosition, aimPoint, velocity;
  StoredRotation level;
  ViewNumbers numbers;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("position head pivot freePosition aimPoint")
        .vectors(farthestPoint, position, head, pivot, freePosition, aimPoint);
    fields.named("velocity").vectors(farthestPosition, velocity);
    fields.named("level").rotation(level);
    numbersState(fields);
  }

 private:
  template <class Fields>
  void numbersState(Fields& fields) {
    ViewNumbers& n = numbers;
    fields.named("yaw heading steadyYaw steadyPitch swayYaw swayPitch pushYaw pushPitch glancePitch fromBody roll")
        .numbers(pi, n.yaw, n.heading, n.steadyYaw, n.steadyPitch, n.swayYaw, n.swayPitch, n.pushYaw, n.pushPitch,
                 n.glancePitch, n.fromBody, n.roll);
    fields.named("pitch").numbers(pi / 2, n.pitch);
    fields.named("glanceYaw").numbers(2 * pi, n.glanceYaw);
    fields.named("yawRate pitchRate swungBack driftRate")
        .numbers(1e12, n.yawRate, n.pitchRate, n.swungBack, n.driftRate);
    fields.named("fieldOfView").number(n.fieldOfView, 1e-6, pi);
    fields.named("aspect").number(n.aspect, narrowestAspect, widestAspect);
    fields.named("nearPlane").number(n.nearPlane, 1e-9, 1e5);
    fields.named("farPlane").number(n.farPlane, 1e-3, 1e9);
    fields.require(n.nearPlane < n.farPlane);
    fields.named("distance freeDistance clearDistance")
        .within(0, longestDistance, n.distance, n.freeDistance, n.clearDistance);
    constexpr double rounding = 1e-9;
    fields.require(n.clearDistance >= n.distance * (1 - rounding) &&
                   n.clearDistance <= std::max(n.freeDistance, n.distance) * (1 + rounding));
    fields.named("aimDistance").number(n.aimDistance, 0, 1e6);
    fields.named("shoulderGivenUp").number(n.shoulderGivenUp, 0, longestDistance);
    fields.named("stooped").number(n.stooped, 0, pi);
    fields.named("foreseenIn outIn").within(0, 1e6, n.foreseenIn, n.outIn);
    fields.named("framing").whole(n.framing, 255);
    fields.named("framingFrom").whole(n.framingFrom, 255);
    fields.named("framingBlend designBlend firstPerson opacity handShare")
        .within(0, 1, n.framingBlend, n.designBlend, n.firstPerson, n.opacity, n.handShare);
    fields.named("lookScale").number(n.lookScale, leastLookScale, 1 / leastLookScale);
    fields.named("aimError lockError").within(0, pi, n.aimError, n.lockError);
    fields.named("bobRight bobUp rest restAside").numbers(1e3, n.bobRight, n.bobUp, n.rest, n.restAside);
    fields.named("holdoff").number(n.holdoff, 0, 1e12);
    fields.named("flick.x flick.y").numbers(1, n.flick.x, n.flick.y);
    fields.require(n.flick.x * n.flick.x + n.flick.y * n.flick.y <= 1 + 1e-9);
    fields.named("pulledIn aimKept cut interpolable").flags(n.pulledIn, n.aimKept, n.cut, n.interpolable);
    for (Covering& each : n.covers) {
      fields.named("covers.thing").ids(each.thing);
      fields.named("covers.opacity").number(each.opacity, 0, 1);
    }
    fields.named("obstacle foreseen aimObstacle lock events faults blocked")
        .ids(n.obstacle, n.foreseen, n.aimObstacle, n.lock, n.events, n.faults, n.blocked);
  }
};

}  // namespace alpglow
