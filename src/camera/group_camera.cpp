#include "alpglow/camera/group_camera.hpp"

#include "../base/save_state.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/limits.hpp"
#include "alpglow/base/rotation.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/space/guarded_obstacles.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double around = 0.3;      // metres
constexpr double opening = 0.1;     // half-life, seconds
constexpr int halvings = 24;        // of the lens
constexpr double backIn = 0.9;      // of the farthest distance, at which somebody is let in again
constexpr double seen = 0.05;       // metres in front of a member that may be in the way of its sight
constexpr double perRadian = 0.06;  // what turning away costs, in members that are hidden
constexpr double worthIt = 0.15;    // likewise, what another direction must be better by
constexpr double yawsTried[] = {0, 0.35, -0.35, 0.7, -0.7, 1.05, -1.05, 1.6, -1.6, 2.2, -2.2, pi};
constexpr double pitchesTried[] = {0, -0.35, -0.8};

bool legalMember(const GroupMember& member) {
  return legalPosition(member.centre) && legalPosition(member.velocity) && member.radius >= 0 &&
         legalNumber(member.radius) && member.importance > 0 && legalNumber(member.importance);
}

/// A group goes nowhere behind what is large: to its camera that is a wall.
class LargeAsWalls final : public Obstacles {
 public:
  explicit LargeAsWalls(const Obstacles& world) : world_(world) {}
  Contact sweep(const Vector3d& from, const Vector3d& displacement, double radius) const noexcept override {
    return nearer(world_.sweep(from, displacement, radius), from, displacement, radius);
  }
  Contact sweepLater(const Vector3d& from, const Vector3d& displacement, double radius,
                     const MomentAhead& later) const noexcept override {
    return nearer(world_.sweepLater(from, displacement, radius, later), from, displacement, radius);
  }
  Contact cast(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept override {
    return world_.cast(from, displacement, purpose);
  }
  double clearance(const Vector3d& point, double range) const noexcept override {
    return world_.clearance(point, range);
  }
  bool moves(const RigidMotion& from) const noexcept override { return world_.moves(from); }
  void gather(const Bounds& bounds) const noexcept override { world_.gather(bounds); }
  bool nothingNear() const noexcept override { return world_.nothingNear(); }

 private:
  Contact nearer(const Contact& wall, const Vector3d& from, const Vector3d& displacement,
                 double radius) const noexcept {
    const Contact large = world_.sweepLarge(from, displacement, radius);
    return large.distance < wall.distance ? large : wall;
  }

  const Obstacles& world_;
};

}  // namespace

GroupCamera::GroupCamera(const GroupSettings& settings, const LookAngles& look) : settings_(settings) {
  const GroupSettings usual;
  const auto within = [&](double GroupSettings::*number, double low, double high) {
    double& value = settings_.*number;
    value = std::isfinite(value) ? std::clamp(value, low, high) : usual.*number;
  };
  within(&GroupSettings::margin, 0, 0.9);
  within(&GroupSettings::nearPlane, 1e-3, 10);
  within(&GroupSettings::farPlane, 2 * settings_.nearPlane, 1e9);
  within(&GroupSettings::nearest, 2 * settings_.nearPlane, 1e4);
  within(&GroupSettings::farthest, settings_.nearest, 1e5);
  within(&GroupSettings::narrow, degrees(1), degrees(150));
  within(&GroupSettings::wide, settings_.narrow, degrees(150));
  for (double GroupSettings::*seconds : {&GroupSettings::halfLife, &GroupSettings::lensHalfLife,
                                         &GroupSettings::turnHalfLife, &GroupSettings::join, &GroupSettings::patience})
    within(seconds, 0, 1e3);
  within(&GroupSettings::turnRate, 0, 1e3);
  turnTo(look);
  look_ = goal_ = wish_;
  lens_ = settings_.narrow;
}

void GroupCamera::turnTo(const LookAngles& look) {
  if (!legalNumber(look.yaw) || !legalNumber(look.pitch)) return;
  wish_ = limited(look, settings_.pitch);
  goal_ = wish_;
  sinceSearch_ = 0;
}

/// Of the member with this id; else a free one, or that of a member that is being let out.
GroupCamera::Slot* GroupCamera::slotOf(std::uint32_t id) {
  const auto same = [id](const Slot& s) { return s.taken && s.id == id; };
  if (const auto known = std::find_if(slots_.begin(), slots_.end(), same); known != slots_.end()) return &*known;
  Slot* least = nullptr;
  for (Slot& slot : slots_) {
    if (!slot.present && (least == nullptr || slot.weight < least->weight)) least = &slot;
  }
  if (least == nullptr) return nullptr;
  *least = Slot();
  least->id = id;
  least->weight = fresh_ ? 1 : 0;
  return least;
}

/// Every reported member has a slot. One that is no longer reported keeps it until it has been let out. Those that have
/// one first, so that nobody new takes it.
void GroupCamera::keepSlots(double seconds, Span<const GroupMember> all) {
  const Span<const GroupMember> members(all.begin(), std::min(all.size(), mostMembers));
  for (Slot& slot : slots_) {
    slot.place = -1;
    slot.present = slot.taken && std::any_of(members.begin(), members.end(), [&](const GroupMember& member) {
                     return member.id == slot.id && legalMember(member);
                   });
  }
  for (std::size_t i = 0; i < members.size(); ++i) {
    const GroupMember& member = members[i];
    if (!legalMember(member)) continue;
    Slot* const slot = slotOf(member.id);
    if (slot == nullptr || slot->place >= 0) continue;
    slot->taken = slot->present = true;
    slot->place = static_cast<int>(i);
    slot->centre = member.centre;
    slot->radius = member.radius;
    slot->importance = member.importance;
  }
  const double step = settings_.join > 0 ? seconds / settings_.join : 1;
  for (Slot& slot : slots_) {
    if (!slot.taken) continue;
    const bool counts = slot.present && (!slot.out || slot.place == 0);
    slot.weight = std::clamp(slot.weight + (counts ? step : -step), 0.0, 1.0);
    if (!slot.present && slot.weight == 0) slot.taken = false;
  }
}

/// The members to leave out so that the others can be held from no farther than the camera may go.
void GroupCamera::chooseWhoIsOut(double aspect) {
  const auto distanceWith = [&](const Slot* more) {
    Balls balls;
    for (const Slot& slot : slots_) {
      if (slot.present && (!slot.out || &slot == more)) balls.all[balls.count++] = {slot.centre, slot.radius};
    }
    return fitGroup(balls.span(), look_, settings_.wide, aspect, settings_.margin).distance;
  };
  while (distanceWith(nullptr) > settings_.farthest) {
    Slot* least = nullptr;
    for (Slot& slot : slots_) {
      if (!slot.present || slot.out || slot.place == 0) continue;
      const auto away = [this](const Slot& s) { return (s.centre.vector() - lead_.vector()).norm(); };
      if (least == nullptr || slot.importance < least->importance ||
          (slot.importance == least->importance && away(slot) > away(*least)))
        least = &slot;
    }
    if (least == nullptr) break;
    least->out = true;
  }
  Slot* most = nullptr;
  for (Slot& slot : slots_) {
    if (slot.present && slot.out && (most == nullptr || slot.importance > most->importance)) most = &slot;
  }
  if (most != nullptr && distanceWith(most) <= backIn * settings_.farthest) most->out = false;
}

GroupCamera::Balls GroupCamera::weighted() const {
  Vector3d middle(0, 0, 0);
  double sum = 0;
  for (const Slot& slot : slots_) {
    if (!slot.taken) continue;
    const double weight = eased(slot.weight);
    middle += weight * (slot.centre.vector() - lead_.vector());
    sum += weight;
  }
  if (sum > 0) middle /= sum;
  middle += lead_.vector();
  Balls balls;
  for (const Slot& slot : slots_) {
    if (!slot.taken) continue;
    const double weight = eased(slot.weight);
    balls.all[balls.count++] = {middle + weight * (slot.centre.vector() - middle), weight * slot.radius};
  }
  return balls;
}

/// With the narrow lens as long as the distance allows, and then with one that is just as much wider as it takes.
GroupPlace GroupCamera::placeFor(Span<const Ball> balls, const LookAngles& look, double aspect, double openness) const {
  const double narrowest = settings_.narrow + openness * (settings_.wide - settings_.narrow);
  const auto with = [&](double lens) {
    return fitGroup(balls, look, lens, aspect, settings_.margin, settings_.nearPlane);
  };
  GroupPlace place = with(narrowest);
  if (place.distance > settings_.farthest) {
    double narrow = narrowest, wide = settings_.wide;
    for (int i = 0; i < halvings; ++i) {
      const double middle = (narrow + wide) / 2;
      (with(middle).distance > settings_.farthest ? narrow : wide) = middle;
    }
    place = with(wide);
  }
  const double wanted = std::clamp(place.distance, settings_.nearest, settings_.farthest);
  place.position += (wanted - place.distance) * rotationOf(look.yaw, look.pitch).col(2);
  place.distance = wanted;
  return place;
}

double GroupCamera::clearTo(const Vector3d& position, const Obstacles& obstacles, double aspect) const {
  return clearFraction(obstacles, lead_, position, nearPlaneRadius(settings_.nearPlane, settings_.wide, aspect))
      .fraction;
}

/// Where this frame's questions will be, but for those of another direction.
Bounds GroupCamera::reach(Span<const Ball> balls, double aspect) const {
  Bounds bounds = Bounds::around(lead_).with(position_);
  for (const Ball& ball : balls) bounds = bounds.with(ball.centre);
  for (const double openness : {0.0, 1.0}) bounds = bounds.with(placeFor(balls, look_, aspect, openness).position);
  return bounds.grown(nearPlaneRadius(settings_.nearPlane, settings_.wide, aspect) + around);
}

/// How far the lens has to open so that the way there is clear.
double GroupCamera::opennessFor(Span<const Ball> balls, const LookAngles& look, const Obstacles& obstacles,
                                double aspect) const {
  for (const double openness : {0.0, 0.33, 0.67}) {
    if (clearTo(placeFor(balls, look, aspect, openness).position, obstacles, aspect) == 1) return openness;
  }
  return 1;
}

/// How much of the group, by importance, something opaque hides from there.
double GroupCamera::hiddenFrom(const Vector3d& eye, const Obstacles& obstacles, std::uint32_t& who) const {
  double hidden = 0, all = 0;
  who = 0;
  for (const Slot& slot : slots_) {
    if (!slot.present || slot.out) continue;
    all += slot.importance;
    const Vector3d way = slot.centre.vector() - eye;
    const double length = way.norm();
    if (!(length > slot.radius + seen)) continue;
    const Vector3d until = way * ((length - std::min(slot.radius, seen)) / length);
    if (!obstacles.cast(eye, until, Purpose::sight).hit()) continue;
    hidden += slot.importance;
    who |= 1u << slot.place;
  }
  return all > 0 ? hidden / all : 0;
}

PullInRequest GroupCamera::requestFrom(const Vector3d& position, const LookAngles& look, double distance,
                                       double fieldOfView, double aspect) const {
  PullInRequest request;
  request.head = lead_;
  request.orbit = look;
  request.pitch = {-pi / 2, pi / 2};
  request.distance = distance;
  request.anchor = position - distance * rotationOf(look.yaw, look.pitch).col(2);
  request.nearPlane = settings_.nearPlane;
  request.radius = nearPlaneRadius(settings_.nearPlane, fieldOfView, aspect);
  return request;
}

/// Of a direction: which members are hidden, what of the way is lost, and how far it is from where one would like to
/// look.
double GroupCamera::costOf(const LookAngles& look, Span<const Ball> balls, const Obstacles& obstacles,
                           double aspect) const {
  const GroupPlace place = placeFor(balls, look, aspect, opennessFor(balls, look, obstacles, aspect));
  const double clear = clearTo(place.position, obstacles, aspect);
  const Vector3d eye = lead_.vector() + clear * (place.position - lead_.vector());
  std::uint32_t who = 0;
  const double hidden = hiddenFrom(eye, obstacles, who);
  const double lost = lensFor(balls, eye, look, aspect, 0) > settings_.wide ? 0.5 : 0.1 * (1 - clear);
  return hidden + lost +
         perRadian * (std::abs(shortestTurn(wish_.yaw, look.yaw)) + std::abs(look.pitch - wish_.pitch)) +
         perRadian / 2 * std::abs(shortestTurn(look_.yaw, look.yaw));
}

/// Looks for another direction once somebody has been hidden, or out of the picture, for some time; and back again.
void GroupCamera::search(double seconds, double hidden, Span<const Ball> balls, const Obstacles& obstacles,
                         double aspect) {
  hiddenFor_ = hidden > 0 ? hiddenFor_ + seconds : 0;
  sinceSearch_ += seconds;
  const bool away = std::abs(shortestTurn(wish_.yaw, goal_.yaw)) + std::abs(wish_.pitch - goal_.pitch) > 1e-6;
  if (!(settings_.patience > 0) || sinceSearch_ < settings_.patience) return;
  if (hiddenFor_ < settings_.patience && !away) return;
  sinceSearch_ = 0;
  LookAngles best = goal_;
  double least = costOf(goal_, balls, obstacles, aspect) - worthIt;
  for (const double yaw : yawsTried) {
    for (const double pitch : pitchesTried) {
      const LookAngles look = limited({wish_.yaw + yaw, wish_.pitch + pitch}, settings_.pitch);
      const double cost = costOf(look, balls, obstacles, aspect);
      if (cost < least) least = cost, best = look;
    }
  }
  goal_ = best;
}

void GroupCamera::turn(double seconds) {
  const auto toward = [&](double error) {
    return cappedApproach(error, 0, seconds, settings_.turnHalfLife, settings_.turnRate);
  };
  look_.yaw = wrapAngle(goal_.yaw + toward(shortestTurn(goal_.yaw, look_.yaw)));
  look_.pitch = goal_.pitch + toward(look_.pitch - goal_.pitch);
}

void GroupCamera::shift(const Vector3d& offset) {
  if (!legalPosition(offset)) return;
  for (StoredVector3* point :
       {&position_, &lead_, &last_.position, &last_.head, &last_.pivot, &last_.freePosition, &last_.aimPoint})
    *point = point->vector() + offset;
  for (Slot& slot : slots_) slot.centre = slot.centre.vector() + offset;
}

View GroupCamera::update(double told, Span<const GroupMember> members, const Obstacles& world, double aspect) {
  const bool badTime = !legalTime(told), badAspect = !legalAspect(aspect);
  const bool bad = badTime || badAspect || members.empty() || !legalMember(members[0]);
  if (bad) {
    View view = last_.view();
    view.events = 0;
    view.cut = false;
    view.faults = (badTime ? Fault::badTime : 0u) | (badAspect ? Fault::badAspect : 0u) |
                  (members.empty() ? Fault::subjectMissing : 0u) |
                  (!members.empty() && !legalMember(members[0]) ? Fault::badSubject : 0u);
    return view;
  }
  const double dt = countedTime(told);
  const GuardedObstacles guarded(world);
  const LargeAsWalls obstacles(guarded);
  lead_ = members[0].centre;
  leadVelocity_ = members[0].velocity;
  keepSlots(dt, members);
  chooseWhoIsOut(aspect);
  const bool cut = fresh_;
  if (cut) {
    look_ = goal_;
    pullIn_.cut();
    for (Slot& slot : slots_) {
      if (slot.taken) slot.weight = slot.present && !slot.out ? 1 : 0;
    }
  }
  turn(dt);
  const Balls balls = weighted();
  obstacles.gather(reach(balls.span(), aspect));
  const double openness = opennessFor(balls.span(), look_, obstacles, aspect);
  openness_ = cut ? openness : approach(openness_, openness, opening, dt);
  const GroupPlace place = placeFor(balls.span(), look_, aspect, openness_);
  const Vector3d behind = position_.vector() - place.position;
  position_ = cut ? place.position : Vector3d(place.position + behind * std::exp(-decay(settings_.halfLife, dt)));

  const PullInRequest request = requestFrom(position_, look_, place.distance, settings_.wide, aspect);
  PullInMotion motion;
  motion.velocity = leadVelocity_;
  const PullInPose pose = pullIn_.step(request, motion, obstacles, cut ? 0 : dt, settings_.pullIn);

  const double needed =
      std::clamp(lensFor(balls.span(), pose.camera, look_, aspect, settings_.margin), settings_.narrow, settings_.wide);
  lens_ = cut || needed > lens_ ? needed : approach(lens_, needed, settings_.lensHalfLife, dt);

  report_ = GroupReport();
  double lead = 0;
  for (const Slot& slot : slots_) lead = slot.taken && slot.place == 0 ? slot.importance : lead;
  for (const Slot& slot : slots_) {
    if (!slot.present || !slot.out) continue;
    report_.leftOut |= 1u << slot.place;
    report_.splits = report_.splits || slot.importance >= lead;
  }
  const double hidden = hiddenFrom(pose.camera, obstacles, report_.hidden);
  const bool lost = lensFor(balls.span(), pose.camera, look_, aspect, 0) > settings_.wide + 1e-9;
  search(dt, hidden + (lost ? 1 : 0), balls.span(), obstacles, aspect);

  View view;
  view.position = pose.camera;
  view.pivot = pose.pivot;
  view.freePosition = pose.free;
  view.head = lead_;
  view.velocity = leadVelocity_;
  view.yaw = view.heading = look_.yaw;
  view.pitch = look_.pitch;
  view.fieldOfView = lens_;
  view.aspect = aspect;
  view.nearPlane = pose.nearPlane;
  view.farPlane = settings_.farPlane;
  view.distance = pose.distance;
  view.freeDistance = place.distance;
  view.clearDistance = pose.clearDistance;
  view.obstacle = pose.obstacle;
  view.pulledIn = pullIn_.pulledIn();
  view.cut = cut;
  view.events = cut ? std::uint32_t{Event::cut} : 0u;
  if (pose.headBlocked) view.faults |= Fault::inBody;
  if (guarded.bad()) view.faults |= Fault::badObstacles;
  fresh_ = false;
  last_ = StoredView(view);
  return view;
}

template class Saveable<GroupCamera>;

}  // namespace alpglow
