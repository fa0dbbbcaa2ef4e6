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

  StoredVector3 position, head, pivot, aimPoint, velocity;
  StoredRotation level;
  ViewNumbers numbers;

  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.vectors(farthestPoint, position, head, pivot, aimPoint);
    fields.vectors(farthestPosition, velocity);
    fields.rotation(level);
    numbersState(fields);
  }

 private:
  template <class Fields>
  void numbersState(Fields& fields) {
    ViewNumbers& n = numbers;
    fields.numbers(pi, n.yaw, n.heading, n.steadyYaw, n.steadyPitch, n.swayYaw, n.swayPitch, n.pushYaw, n.pushPitch,
                   n.glancePitch, n.fromBody, n.roll);
    fields.numbers(pi / 2, n.pitch);
    fields.numbers(2 * pi, n.glanceYaw);
    fields.numbers(1e12, n.yawRate, n.pitchRate, n.swungBack, n.driftRate);
    fields.number(n.fieldOfView, 1e-6, pi);
    fields.number(n.aspect, 0.05, 20);
    fields.number(n.nearPlane, 1e-9, 1e5);
    fields.number(n.farPlane, 1e-3, 1e9);
    fields.require(n.nearPlane < n.farPlane);
    for (double* metres : {&n.distance, &n.freeDistance, &n.clearDistance}) fields.number(*metres, 0, longestDistance);
    constexpr double rounding = 1e-9;
    fields.require(n.clearDistance >= n.distance * (1 - rounding) &&
                   n.clearDistance <= std::max(n.freeDistance, n.distance) * (1 + rounding));
    fields.number(n.aimDistance, 0, 1e6);
    fields.number(n.shoulderGivenUp, 0, longestDistance);
    for (double* seconds : {&n.foreseenIn, &n.outIn}) fields.number(*seconds, 0, 1e6);
    for (int* framing : {&n.framing, &n.framingFrom}) fields.whole(*framing, 255);
    for (double* share : {&n.framingBlend, &n.firstPerson, &n.opacity, &n.handShare}) fields.number(*share, 0, 1);
    fields.number(n.lookScale, leastLookScale, 1 / leastLookScale);
    for (double* angle : {&n.aimError, &n.lockError}) fields.number(*angle, 0, pi);
    fields.numbers(1e3, n.bobRight, n.bobUp, n.rest, n.restAside);
    fields.number(n.holdoff, 0, 1e12);
    fields.numbers(1, n.flick.x, n.flick.y);
    fields.require(n.flick.x * n.flick.x + n.flick.y * n.flick.y <= 1 + 1e-9);
    fields.flags(n.pulledIn, n.aimKept, n.cut, n.interpolable);
    for (Covering& each : n.covers) {
      fields.ids(each.thing);
      fields.number(each.opacity, 0, 1);
    }
    fields.ids(n.obstacle, n.foreseen, n.aimObstacle, n.lock, n.events, n.faults, n.blocked);
  }
};

}  // namespace alpglow
