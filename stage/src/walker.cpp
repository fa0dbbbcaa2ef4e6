#include "world.hpp"

#include "alpglow/base/angles.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double gravity = 9.81;
constexpr double acceleration = 14;
constexpr double turnRate = degrees(540);
constexpr double bending = 0.25;  // seconds, down or up
constexpr double gap = 0.01;      // kept free around the capsule
const double steepest = std::cos(degrees(50));

btVector3 toBullet(const Vector3d& v) { return {v.x(), v.y(), v.z()}; }
Vector3d fromBullet(const btVector3& v) { return {v.x(), v.y(), v.z()}; }

struct ClosestSolid final : btCollisionWorld::ClosestConvexResultCallback {
  using Base = btCollisionWorld::ClosestConvexResultCallback;
  const Stage::World& stage;

  explicit ClosestSolid(const Stage::World& world) : Base(btVector3(0, 0, 0), btVector3(0, 0, 0)), stage(world) {}
  bool needsCollision(btBroadphaseProxy* proxy) const override {
    return stage.solid(*static_cast<const btCollisionObject*>(proxy->m_clientObject));
  }
};

/// What a capsule is deepest in, and which way out of it is the shortest.
struct DeepestSolid final : btCollisionWorld::ContactResultCallback {
  const Stage::World& stage;
  const btCollisionObject& body;
  double depth = 0;
  Vector3d outward = Vector3d::Zero();

  DeepestSolid(const Stage::World& world, const btCollisionObject& capsule) : stage(world), body(capsule) {}
  bool needsCollision(btBroadphaseProxy* proxy) const override {
    return stage.solid(*static_cast<const btCollisionObject*>(proxy->m_clientObject));
  }
  btScalar addSingleResult(btManifoldPoint& point, const btCollisionObjectWrapper* first, int, int,
                           const btCollisionObjectWrapper*, int, int) override {
    if (-point.getDistance() <= depth) return 0;
    depth = -point.getDistance();
    outward = (first->getCollisionObject() == &body ? 1 : -1) * fromBullet(point.m_normalWorldOnB);
    return 0;
  }
};

/// Toward `goal` by at most `most`.
Vector3d moved(const Vector3d& from, const Vector3d& goal, double most) {
  const Vector3d displacement = goal - from;
  const double length = displacement.norm();
  return length <= most ? goal : Vector3d(from + displacement * (most / length));
}

}  // namespace

Walker::Walker(const Stage& stage)
    : stage_(stage),
      feet_(stage.level().spawn.position),
      heading_(stage.level().spawn.heading),
      height_(stage.level().body.height) {
  stage.moveTo(0);
  place(feet_, heading_);
}

void Walker::place(const Vector3d& feet, double heading) {
  feet_ = feet;
  heading_ = heading;
  platform_ = -1;
  comeOut();
  fall(-stage_.level().body.stepHeight * Vector3d::UnitY());
  velocity_.setZero();
}

void Walker::comeOut() {
  constexpr int mostSolids = 32;
  const double radius = stage_.level().body.radius;
  btCapsuleShape capsule(radius, height_ - 2 * radius);
  btCollisionObject body;
  body.setCollisionShape(&capsule);
  for (int i = 0; i < mostSolids; ++i) {
    btTransform at;
    at.setIdentity();
    at.setOrigin(toBullet(feet_ + Vector3d(0, height_ / 2 + gap, 0)));
    body.setWorldTransform(at);
    DeepestSolid deepest(stage_.world(), body);
    stage_.world().world.contactTest(&body, deepest);
    if (deepest.depth <= gap) return;
    feet_ += (deepest.depth + gap) * deepest.outward;
  }
}

Walker::Hit Walker::sweep(const Vector3d& from, const Vector3d& displacement) const {
  Hit hit;
  if (displacement.norm() < 1e-9) return hit;
  const io::Body& body = stage_.level().body;
  btCapsuleShape capsule(body.radius, height_ - 2 * body.radius);
  btTransform start, end;
  start.setIdentity();
  end.setIdentity();
  start.setOrigin(toBullet(from + Vector3d(0, height_ / 2 + gap, 0)));
  end.setOrigin(start.getOrigin() + toBullet(displacement));
  ClosestSolid closest(stage_.world());
  stage_.world().world.convexSweepTest(&capsule, start, end, closest, 0);
  if (!closest.hasHit()) return hit;
  hit = {closest.m_closestHitFraction, fromBullet(closest.m_hitNormalWorld).normalized(),
         fromBullet(closest.m_hitPointWorld), true,
         stage_.level().objects[static_cast<std::size_t>(closest.m_hitCollisionObject->getUserIndex())].platform};
  return hit;
}

/// Whether one can stand there: the surface is flat enough, or the capsule's round end rests on the edge of one that
/// is.
bool Walker::walkable(const Hit& hit, const Vector3d& at) const {
  if (hit.normal.y() >= steepest) return true;
  const Vector3d outward = Vector3d(hit.point.x() - at.x(), 0, hit.point.z() - at.z()).normalized();
  const Vector3d from = hit.point + 0.03 * outward + 0.08 * Vector3d::UnitY();
  const Vector3d to = from - 0.16 * Vector3d::UnitY();
  btCollisionWorld::ClosestRayResultCallback ray(toBullet(from), toBullet(to));
  stage_.world().world.rayTest(toBullet(from), toBullet(to), ray);
  return ray.hasHit() && ray.m_hitNormalWorld.y() >= steepest;
}

/// Moves on, sliding along whatever is in the way.
Vector3d Walker::slide(Vector3d at, Vector3d displacement) const {
  const Vector3d goal = displacement;
  for (int i = 0; i < 4 && displacement.norm() > 1e-6; ++i) {
    const Hit hit = sweep(at, displacement);
    const double length = displacement.norm();
    const double fraction = hit.found ? std::max(hit.fraction - gap / length, 0.0) : 1.0;
    at += fraction * displacement;
    if (!hit.found) break;
    displacement *= 1 - fraction;
    displacement -= std::min(displacement.dot(hit.normal), 0.0) * hit.normal;
    if (displacement.dot(goal) <= 0) break;
  }
  return at;
}

/// Up a step, along, and down again: false if there is no ground to stand on.
bool Walker::walkAlong(const Vector3d& displacement) {
  const double step = stage_.level().body.stepHeight;
  const Vector3d up = step * Vector3d::UnitY();
  const Hit ceiling = sweep(feet_, up);
  const double risen = ceiling.found ? std::max(ceiling.fraction * step - gap, 0.0) : step;
  for (const double rise : {risen, 0.0}) {
    const Vector3d lifted = feet_ + rise * Vector3d::UnitY();
    const Vector3d along = slide(lifted, displacement);
    const double drop = rise + step;
    const Hit ground = sweep(along, -drop * Vector3d::UnitY());
    if (!ground.found || !walkable(ground, along)) continue;
    feet_ = along - std::max(ground.fraction * drop - gap / 2, 0.0) * Vector3d::UnitY();
    standOn(ground);
    return true;
  }
  return false;
}

void Walker::fall(const Vector3d& displacement) {
  const Vector3d along = slide(feet_, Vector3d(displacement.x(), 0, displacement.z()));
  const Vector3d down(0, displacement.y(), 0);
  const Hit hit = sweep(along, down);
  onGround_ = hit.found && down.y() < 0 && walkable(hit, along);
  standOn(onGround_ ? hit : Hit());
  feet_ = onGround_ ? Vector3d(along + std::max(hit.fraction - gap / 2 / down.norm(), 0.0) * down) : slide(along, down);
}

/// The velocity is relative to what one stands on.
void Walker::standOn(const Hit& ground) {
  if (ground.platform == platform_) return;
  const auto velocityOf = [this](int platform) {
    if (platform < 0) return Vector3d(0, 0, 0);
    const Vector3d v =
        stage_.level().platforms[static_cast<std::size_t>(platform)].at(ticks_ * stage_.tickLength(), 1).velocity;
    return Vector3d(v.x(), 0, v.z());
  };
  velocity_ += velocityOf(platform_) - velocityOf(ground.platform);
  platform_ = ground.platform;
}

/// Carried along by what one stands on.
void Walker::ride(double from, double to) {
  if (platform_ < 0) return;
  const io::MovingPlatform& platform = stage_.level().platforms[static_cast<std::size_t>(platform_)];
  const ReferenceFrame before = platform.at(from, 1), after = platform.at(to, 1);
  feet_ = after.toWorld(before.toLocal(feet_));
  heading_ = wrapAngle(heading_ + turnAbout(Vector3d::UnitY(), Rotation(after.rotation * before.rotation.conjugate())));
}

double Walker::eyeHeight() const {
  const io::Body& body = stage_.level().body;
  const double low = body.height - body.crouchHeight, share = low > 0 ? (body.height - height_) / low : 0;
  return body.eyeHeight + share * (body.crouchEyeHeight - body.eyeHeight);
}

/// With each tick gravity acts from its beginning, which takes half a tick's worth of the way up.
void Walker::jump(double height) {
  if (!onGround_ || !(height > 0)) return;
  onGround_ = false;
  velocity_.y() = std::sqrt(2 * gravity * height) + gravity * stage_.tickLength() / 2;
}

void Walker::tick(const Vector3d& direction, bool run, bool crouch) {
  const io::Body& body = stage_.level().body;
  const double tickLength = stage_.tickLength();
  ++ticks_;
  stage_.moveTo(ticks_ * tickLength);
  ride((ticks_ - 1) * tickLength, ticks_ * tickLength);
  const double bend = (body.height - body.crouchHeight) * tickLength / bending;
  height_ = std::min(height_, body.height);
  if (crouch) {
    height_ = std::max(height_ - bend, body.crouchHeight);
  } else if (height_ < body.height && !sweep(feet_, (body.height - height_) * Vector3d::UnitY()).found) {
    height_ = std::min(height_ + bend, body.height);
  }
  const bool low = height_ < body.height;
  const Vector3d goal = direction * (low ? body.crouchSpeed : run ? body.runSpeed : body.walkSpeed);
  const Vector3d level = moved({velocity_.x(), 0, velocity_.z()}, goal, acceleration * tickLength);
  const Vector3d before = feet_;

  if (!onGround_ || !walkAlong(level * tickLength)) {
    const double sinking = (onGround_ ? 0 : velocity_.y()) - gravity * tickLength;
    fall((level + sinking * Vector3d::UnitY()) * tickLength);
    const bool bumped = sinking > 0 && feet_.y() - before.y() < sinking * tickLength / 2;
    velocity_ = {0, onGround_ || bumped ? 0 : sinking, 0};
  } else {
    velocity_.y() = 0;
  }
  const Vector3d made = (feet_ - before) / tickLength;
  velocity_.x() = made.x();
  velocity_.z() = made.z();

  if (direction.norm() > 0.05) {
    const double turn = shortestTurn(heading_, std::atan2(-direction.x(), -direction.z()));
    heading_ = wrapAngle(heading_ + std::clamp(turn, -turnRate * tickLength, turnRate * tickLength));
  }
}

}  // namespace alpglow::stage
