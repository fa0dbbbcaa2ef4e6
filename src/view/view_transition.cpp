#include "alpglow/view/view_transition.hpp"

#include "alpglow/base/log_scales.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/space/ease_out.hpp"
#include "alpglow/space/pull_in.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr EaseOutSettings givingWay{0.1, 0.15};

Vector3d shortest(const Vector3d& turn) { return {wrapAngle(turn.x()), turn.y(), wrapAngle(turn.z())}; }

}  // namespace

ViewTransition::Pose ViewTransition::poseOf(const View& view) {
  Pose pose;
  pose.position = view.position;
  pose.velocity = view.velocity;
  pose.rates = Vector3d(view.yawRate, view.pitchRate, 0);
  pose.angles = Vector3d(view.yaw, view.pitch, view.roll);
  pose.level = view.level;
  pose.lens = logTanHalfFov(view.fieldOfView);
  pose.nearPlane = view.nearPlane;
  pose.farPlane = view.farPlane;
  return pose;
}

void ViewTransition::begin(double seconds, double since) {
  waiting_ = any_;
  seconds_ = seconds;
  since_ = std::isfinite(since) ? std::max(since, 0.0) : 0;
}

void ViewTransition::begin(const View& from, double seconds, double since) {
  if (!from.position.allFinite() || !std::isfinite(from.yaw + from.pitch + from.roll + from.fieldOfView)) return;
  shown_ = poseOf(from);
  any_ = true;
  begin(seconds, since);
}

/// From the pose that was shown when it began to where the live one was then, `left` seconds ago.
void ViewTransition::plan(double left, const Pose& live) {
  waiting_ = false;
  clear_.release();
  const Vector3d start = live.position.vector() - left * live.velocity.vector(),
                 shown = shown_.position.vector() + since_ * shown_.velocity.vector();
  place_.begin(shown - start, shown_.velocity.vector() - live.velocity.vector(), seconds_);
  const Vector3d angles = live.angles.vector() - left * live.rates.vector();
  angles_.begin(shortest(shown_.angles.vector() - angles), shown_.rates.vector() - live.rates.vector(), seconds_);
  tipping_.begin(rotationVector(Rotation(shown_.level.rotation() * live.level.rotation().conjugate())), seconds_);
  lens_.begin(shown_.lens - live.lens, shown_.lensSpeed, lens_.acceleration(), seconds_);
  near_ = shown_.nearPlane;
  far_ = shown_.farPlane;
}

View ViewTransition::step(double dt, const View& live, const Obstacles* keepClear) {
  const Pose now = poseOf(live);
  const bool fresh = waiting_;
  const double left = fresh ? std::max((std::isfinite(dt) ? dt : 0) - since_, 0.0) : dt;  // of this step
  if (fresh) plan(left, now);
  const bool ran = !done();
  if (live.cut && !fresh) place_.finish(), angles_.finish(), tipping_.finish(), lens_.finish();
  place_.advance(left);
  angles_.advance(left);
  tipping_.advance(left);
  lens_.advance(left);

  View view = live;
  if (!done()) {
    const Vector3d angles = now.angles.vector() + angles_.difference();
    view.position = now.position.vector() + place_.difference();
    view.freePosition = live.freePosition + place_.difference();
    view.velocity = now.velocity.vector() + place_.speed();
    view.yaw = wrapAngle(angles.x());
    view.pitch = std::clamp(angles.y(), -pi / 2, pi / 2);
    view.roll = wrapAngle(angles.z());
    view.level = (rotationBy(tipping_.difference()) * now.level.rotation()).normalized();
    view.fieldOfView = fieldOfViewFromLog(now.lens + lens_.difference());
    view.nearPlane = std::min(near_, live.nearPlane);
    view.farPlane = std::max(far_, live.farPlane);
    if (keepClear != nullptr) {
      // Through a wider lens the near plane comes closer, so that its sphere has room wherever the live one's has.
      const double room = nearPlaneRadius(live.nearPlane, live.fieldOfView, live.aspect),
                   needed = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
      if (needed > room) view.nearPlane *= room / needed;
      const double radius = std::min(needed, room);
      const ClearFraction clear = clearFraction(*keepClear, live.position, view.position, radius);
      const double limit = clear.obstacle == noObstacle ? std::numeric_limits<double>::infinity() : clear.fraction;
      view.position = live.position + clear_.step(1.0, limit, dt, givingWay) * (view.position - live.position);
    }
  }
  if (ran || fresh) {
    view.cut = live.cut && !fresh;
    view.events = view.cut ? view.events | Event::cut : view.events & ~std::uint32_t{Event::cut};
    if (done()) view.events |= Event::transitionEnded;
  }

  shown_ = poseOf(view);
  shown_.rates = now.rates.vector() + angles_.speed();
  shown_.lensSpeed = lens_.speed();
  any_ = true;
  return view;
}

}  // namespace alpglow
