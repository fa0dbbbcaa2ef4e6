#include "alpglow/space/pull_in.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double skin = 1e-3;
constexpr double smallestNear = 1e-3;
constexpr double unseen = 1e-3;  // metres from where it would be
constexpr double infinity = std::numeric_limits<double>::infinity();

// What is looked at ahead, as shares of the foresight.
constexpr double aheads[] = {0.022, 0.055, 0.11, 0.18, 0.27, 0.38, 0.51, 0.65, 0.82, 1};
constexpr double shoulderAheads[] = {0, 0.27, 0.55};
constexpr double closestForeseen = 0.6;  // metres: what is foreseen pulls in no closer
constexpr double widestWalker = 0.25;    // metres, of whom walls ahead stop
constexpr double standing = 0.05;        // m/s
constexpr double leastShoulder = 0.01;   // metres that are worth giving up
constexpr double shoulderShares[] = {1, 0.5, 0};
constexpr double noDifference = 1e-3;                             // metres, in what a share is worth
constexpr double staysPut = 0.15;                                 // metres that another shoulder must be better by
constexpr double shoulderBackAfter = 1, shoulderHalfLife = 0.12;  // seconds
constexpr double axisRate = 4;                                    // per second, between the line and the axis

}  // namespace

ClearFraction clearFraction(const Obstacles& obstacles, const Vector3d& from, const Vector3d& to, double radius) {
  const Vector3d displacement = to - from;
  const double length = displacement.norm();
  if (!(length > 1e-8)) return {};
  const Contact contact = obstacles.sweep(from, displacement, radius);
  if (!contact.hit()) return {};
  return {std::clamp((contact.distance - skin) / length, 0.0, 1.0), contact.obstacle};
}

/// The way that a subject will have walked: straight to where it will be at last, as a sweep can ask for it.
Vector3d wayIn(const WalkMotion& walk, double seconds, double foresight, double most = infinity) {
  const Vector3d last = walk.wayIn(foresight);
  const double length = last.norm();
  return length > 0 ? Vector3d(last * (std::min(walk.wayIn(seconds).norm(), most) / length)) : last;
}

/// What is foreseen pulls in no closer, and so where one is as close there is nothing to foresee.
bool foresees(const PullInRequest& request, const PullInSettings& settings, double seconds) {
  return seconds > 0 && settings.foresight > 0 && request.distance > closestForeseen * request.scale;
}

/// What is asked for, and what the head's own room makes of it; here, now and a little ahead.
class PullIn::Scene {
 public:
  struct Place {
    Vector3d head, anchor, right, back;
  };
  struct Room {
    double length = 0, clear = infinity;  // of the line, metres, and of that as far as it is clear; infinite if free
    ObstacleId obstacle = noObstacle;
  };

  Scene(const PullInRequest& request, const Obstacles& world, const PullInSettings& settings)
      : asked(request), world_(world) {
    const double margin = settings.margin * request.scale;
    clearance_ = world.clearance(request.head, request.radius + margin + skin);
    const double shrink = std::clamp(clearance_ / (request.radius + skin), 0.0, 1.0);
    nearPlane = std::max(request.nearPlane * shrink, std::min(smallestNear, request.nearPlane));
    headBlocked = request.nearPlane * shrink < nearPlane;
    radius_ =
        request.radius * (nearPlane / request.nearPlane) + std::clamp(clearance_ - request.radius - skin, 0.0, margin);
  }

  void setMotion(const WalkMotion& walk, const OrbitMotion& motion, double foresight) {
    motion_ = motion;
    walk_ = walk;
    foresight_ = foresight;
    const Vector3d way = walk.wayIn(foresight);
    walksUpTo_ = way.norm();
    moves_ = walksUpTo_ >= standing * foresight * asked.scale;
    if (!moves_) return;
    const double wide = std::min(widestWalker * asked.scale, 0.99 * std::max(clearance_, radius_));
    walksUpTo_ *= clearFraction(world_, asked.head, asked.head + way, wide).fraction;
  }
  bool moves() const { return moves_ || motion_.turns(); }

  static Place placeIn(const PullInRequest& asked, const Vector3d& walked, const LookAngles& turn) {
    const LookAngles orbit{asked.orbit.yaw + turn.yaw,
                           std::clamp(asked.orbit.pitch + turn.pitch, std::min(asked.pitch.low, asked.orbit.pitch),
                                      std::max(asked.pitch.high, asked.orbit.pitch))};
    const Eigen::Matrix3d axes = asked.level * rotationOf(orbit.yaw, orbit.pitch);
    return {asked.head + walked, asked.anchor + walked, axes.col(0), axes.col(2)};
  }
  Place now() const { return placeIn(asked, Vector3d::Zero(), {}); }
  Place in(double seconds) const {
    return placeIn(asked, wayIn(walk_, seconds, foresight_, walksUpTo_), motion_.turnIn(seconds));
  }

  Vector3d pivot(const Place& place, double shoulder) const { return place.anchor + shoulder * place.right; }
  Vector3d ideal(const Place& place, double shoulder) const {
    return pivot(place, shoulder) + asked.distance * place.back;
  }
  Room room(const Place& place, double shoulder) const {
    const Vector3d end = ideal(place, shoulder);
    const double length = (end - place.head).norm();
    const ClearFraction clear = clearFraction(world_, place.head, end, radius_);
    return {length, clear.obstacle == noObstacle ? infinity : clear.fraction * length, clear.obstacle};
  }
  /// What a shoulder leaves of the distance, to the camera and to what the crosshair is cast from.
  double worth(const Place& place, double shoulder) const {
    const Room line = room(place, shoulder);
    const Vector3d from = pivot(place, shoulder);
    double axis = 1;
    if (clearFraction(world_, place.head, from, radius_).fraction == 1)
      axis = clearFraction(world_, from, from + asked.distance * place.back, radius_).fraction;
    return std::min({line.clear, axis * asked.distance, line.length});
  }
  double clearPart(const Vector3d& to, ObstacleId& obstacle) const {
    const ClearFraction clear = clearFraction(world_, asked.head, to, radius_);
    if (clear.obstacle != noObstacle) obstacle = clear.obstacle;
    return clear.fraction;
  }

  const PullInRequest& asked;
  double nearPlane = 0;
  bool headBlocked = false;

 private:
  const Obstacles& world_;
  double clearance_ = 0, radius_ = 0;
  WalkMotion walk_;
  OrbitMotion motion_;
  double foresight_ = 0, walksUpTo_ = 0;  // seconds; metres, before a wall
  bool moves_ = false;
};

OrbitMotion PullIn::turned(const PullInRequest& request, const PullInMotion& motion, double seconds) const {
  OrbitMotion now = motion_;
  if (oriented_)
    now.step(shortestTurn(lastOrbit_.yaw, request.orbit.yaw) - motion.carriedYawRate * seconds,
             request.orbit.pitch - lastOrbit_.pitch, seconds);
  return now;
}

WalkMotion PullIn::walked(const PullInMotion& motion, double seconds) const {
  WalkMotion now = walk_;
  now.step(motion.velocity, seconds);
  return now;
}

Bounds PullIn::reach(const PullInRequest& request, const PullInMotion& motion, double seconds,
                     const PullInSettings& settings) const {
  const OrbitMotion turning = turned(request, motion, seconds);
  const WalkMotion walking = walked(motion, seconds);
  Bounds bounds;
  const auto with = [&](double ahead) {
    const Scene::Place place =
        Scene::placeIn(request, wayIn(walking, ahead, settings.foresight), turning.turnIn(ahead));
    bounds = bounds.with(place.head).with(place.anchor).with(place.anchor + request.shoulder * place.right);
    const Vector3d end = place.anchor + request.distance * place.back;
    bounds = bounds.with(end).with(end + request.shoulder * place.right);
  };
  with(0);
  if (foresees(request, settings, seconds)) {
    for (const double share : aheads) with(share * settings.foresight);
  }
  return bounds.grown(std::max(request.radius + settings.margin * request.scale, widestWalker * request.scale) + skin);
}

double PullIn::shoulderLeft(double shoulder) const {
  return std::copysign(std::max(std::abs(shoulder) - givenUp_, 0.0), shoulder);
}

void PullIn::foresee(const PullInRequest& request, const PullInMotion& motion, const Obstacles& obstacles,
                     double seconds, const PullInSettings& settings) {
  motion_ = turned(request, motion, seconds);
  walk_ = walked(motion, seconds);
  lastOrbit_ = request.orbit;
  const double axis = request.aims ? 1 : 0;
  alongAxis_ = oriented_ ? alongAxis_ + std::clamp(axis - alongAxis_, -axisRate * seconds, axisRate * seconds) : axis;
  oriented_ = true;
  foreseen_ = noObstacle;
  foreseenIn_ = 0;
  if (!(seconds > 0)) return;
  Scene scene(request, obstacles, settings);
  if (scene.headBlocked) return line_.close();
  const bool looksAhead = foresees(request, settings, seconds);
  if (looksAhead) scene.setMotion(walk_, motion_, settings.foresight);

  chooseShoulder(scene, seconds, settings);
  moveShoulder(scene, seconds, settings);
  const Scene::Room room = scene.room(scene.now(), shoulderLeft(request.shoulder));
  std::array<RoomAhead, std::size(aheads)> ahead;
  std::array<ObstacleId, std::size(aheads)> whom;
  std::size_t count = 0;
  if (looksAhead && scene.moves()) {
    const double goal = std::abs(request.shoulder) * (1 - shoulderShare_);
    double before = 0;
    for (const double share : aheads) {
      const double time = share * settings.foresight, way = 0.7 * settings.shoulderSpeed * request.scale * time;
      const double givenUp = givenUp_ + std::clamp(goal - givenUp_, -way, way);
      const double shoulder = std::copysign(std::max(std::abs(request.shoulder) - givenUp, 0.0), request.shoulder);
      const Scene::Room next = scene.room(scene.in(time), shoulder);
      const bool free = next.obstacle == noObstacle;
      // It may come at any time since the last look ahead.
      ahead[count] = {(time + before) / 2, free ? infinity : std::max(next.clear, closestForeseen * request.scale)};
      whom[count++] = next.obstacle;
      before = time;
    }
  }
  line_.advance(room.length, room.clear, Span<const RoomAhead>(ahead.data(), count), seconds, settings, request.scale);
  if (!line_.goingIn()) return;
  double most = 0;
  for (std::size_t i = 0; i < count; ++i) {
    const double need = (room.length - ahead[i].room) / ahead[i].seconds;
    if (need > most) most = need, foreseen_ = whom[i], foreseenIn_ = ahead[i].seconds;
  }
}

/// The share of the shoulder that keeps the most distance, at a price; more than now only after it has been better for
/// a while.
void PullIn::chooseShoulder(const Scene& scene, double seconds, const PullInSettings& settings) {
  const double shoulder = scene.asked.shoulder, scale = scene.asked.scale;
  const bool worthIt = settings.shoulderSpeed > 0 && std::abs(shoulder) > leastShoulder * scale &&
                       scene.asked.distance > closestForeseen * scale;
  double best = 1, most = -infinity;
  for (const double share : shoulderShares) {
    if (!worthIt) break;
    double worth = infinity;
    for (const double ahead : shoulderAheads) {
      worth = std::min(worth,
                       scene.worth(ahead == 0 ? scene.now() : scene.in(ahead * settings.foresight), share * shoulder));
      if (ahead == 0 && !scene.moves()) break;
    }
    const double whole = (scene.ideal(scene.now(), share * shoulder) - scene.asked.head).norm();
    const bool free = worth >= std::min(whole, scene.asked.distance) - noDifference;
    worth -=
        settings.shoulderPrice * std::abs(shoulder) * (1 - share) - (share == shoulderShare_ ? staysPut * scale : 0);
    if (worth > most + noDifference) most = worth, best = share;
    if (share == 1 && free) break;  // free everywhere
  }
  prefers_ = best > shoulderShare_ ? prefers_ + seconds : 0;
  if (best < shoulderShare_ || prefers_ >= shoulderBackAfter) {
    shoulderShare_ = best;
    prefers_ = 0;
  }
}

/// Critically damped, and never faster than its speed.
void PullIn::moveShoulder(const Scene& scene, double seconds, const PullInSettings& settings) {
  const double goal = std::abs(scene.asked.shoulder) * (1 - shoulderShare_),
               most = settings.shoulderSpeed * scene.asked.scale;
  const double rate = criticalRate / shoulderHalfLife, decayed = std::exp(-rate * seconds);
  const double error = givenUp_ - goal, drift = givingUp_ + rate * error;
  const double next = goal + (error + drift * seconds) * decayed;
  const double way = std::clamp(next - givenUp_, -most * seconds, most * seconds);
  givingUp_ = std::clamp((givingUp_ - rate * drift * seconds) * decayed, -most, most);
  givenUp_ = std::max(givenUp_ + way, 0.0);
  if (goal == 0 && givenUp_ < 1e-6 * scene.asked.scale) givenUp_ = givingUp_ = 0;
}

PullInPose PullIn::place(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings) {
  const Scene scene(request, obstacles, settings);
  PullInPose pose;
  pose.nearPlane = scene.nearPlane;
  pose.headBlocked = scene.headBlocked;
  if (scene.headBlocked) {  // no way at all; the camera eases out again
    line_.close();
    pulledIn_ = true;
    pose.pivot = pose.camera = request.head;
    return pose;
  }
  const double shoulder = shoulderLeft(request.shoulder);
  const Scene::Place now = scene.now();
  const Scene::Room room = scene.room(now, shoulder);
  const double length = line_.shorten(room.length, room.clear, settings, request.scale);
  const double share = room.length > 1e-8 ? std::min(length / room.length, 1.0) : 1;
  pose.obstacle = room.obstacle;
  pose.foreseen = foreseen_;
  pose.foreseenIn = foreseenIn_;

  const Vector3d toPivot = scene.pivot(now, shoulder) - request.head;
  double pivotShare = share + alongAxis_ * (1 - share), all = 1;
  Vector3d way = pivotShare * toPivot + share * request.distance * now.back;
  if (alongAxis_ > 0 && share < 1) all = scene.clearPart(request.head + way, pose.obstacle);
  pose.camera = request.head + all * way;
  pose.pivot = request.head + all * pivotShare * toPivot;
  pose.distance = all * share * request.distance;
  pose.shoulder = all * pivotShare * shoulder;
  pulledIn_ = limiting() && (pose.camera - scene.ideal(now, request.shoulder)).norm() > unseen;
  return pose;
}

}  // namespace alpglow
