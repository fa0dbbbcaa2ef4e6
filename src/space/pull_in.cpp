#include "alpglow/space/pull_in.hpp"

#include "alpglow/base/capped_approach.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

// What taking each number out costs: docs/research/pull_in.md.
constexpr double bend = 2;             // the looks are closer together where they are soon
constexpr double grazing = 0.05;       // metres: the sphere that looks ahead is wider by this
constexpr double spare = 0.3;          // metres: room for a sphere that is wider by this is ample
constexpr double closest = 0.5;        // metres: a prediction pulls in no closer
constexpr double walkerRadius = 0.25;  // metres: walls stop the predicted head here
constexpr double fits = 0.95;          // of the room around the head: a predicted sphere does not start in contact
constexpr double steepest = 0.5;       // of a normal that is level: a walker goes along such a wall
constexpr double flick = 3.3;          // rad/s around which the look counts as fast
constexpr int axisHalvings = 5;        // of how far aside the way along the axis is clear
constexpr double axisRate = 4;         // per second, between the line to the head and the camera's axis
constexpr double stoopRate = 3;        // per second, of all that it may stoop
constexpr double early = 0.125;        // of a frame by which a look may be early: one in each frame of about 1/60 s
constexpr double skin = 1e-3;          // metres between the sphere and what it comes close to
constexpr double unseen = 1e-3;        // metres
constexpr double hair = 1e-6;          // metres
constexpr double hardlyLess = 0.01;    // metres

double timeOf(std::size_t look, std::size_t looks, double horizon) {
  return horizon * std::pow(static_cast<double>(look + 1) / static_cast<double>(looks), bend);
}

}  // namespace

PullInPose PullIn::step(const PullInRequest& request, const PullInMotion& motion, const Obstacles& obstacles,
                        double seconds, const PullInSettings& settings) {
  ClearLine line = PullIn::line(request, obstacles, settings);
  advance(plan(request, motion, seconds, settings), line, settings);
  return place(request, line, settings);
}

ClearLine PullIn::line(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings) {
  const double range = request.radius + (settings.margin + spare) * request.scale;
  return {obstacles, request.head, request.nearPlane, request.radius, settings.margin * request.scale, range};
}

double PullIn::room(const PullInRequest& request, const Obstacles& obstacles, const PullInSettings& settings) {
  ClearLine line = PullIn::line(request, obstacles, settings);
  const Vector3d camera = request.camera();
  return line.blocked() ? 0 : line.to(camera).fraction * (camera - request.head).norm();
}

/// From the shoulder that is asked for to the other one.
double PullIn::shoulderOf(const PullInRequest& request, double given) const {
  const double all = std::abs(request.shoulder);
  return std::copysign(1.0, request.shoulder) * std::max(all - given, -all);
}

/// The request `left` seconds before the end of the frame, or a little after it, as seen from what the subject stands
/// on.
PullInRequest PullIn::between(const PullInRequest& request, const PullInMotion& motion, double seconds,
                              double left) const {
  PullInRequest then = request;
  const double share = left / seconds;
  const Vector3d carried = seconds * motion.pace * motion.carried.velocity, toAnchor = request.anchor - request.head;
  then.head -= share * (request.head - last_.head.vector() - carried);
  then.anchor = then.head + toAnchor - share * (toAnchor - last_.toAnchor.vector());
  then.orbit.yaw += share * shortestTurn(request.orbit.yaw, last_.orbit.yaw);
  then.orbit.pitch += share * (last_.orbit.pitch - request.orbit.pitch);
  then.shoulder += share * (last_.shoulder - request.shoulder);
  then.distance = std::max(then.distance + share * (last_.distance - request.distance), 0.0);
  return then;
}

PullIn::Plan PullIn::plan(const PullInRequest& request, const PullInMotion& motion, double seconds,
                          const PullInSettings& settings) const {
  Plan plan;
  plan.request_ = request;
  plan.motion_ = motion;
  plan.seconds_ = std::max(seconds, 0.0);
  plan.untilLook_ = untilLook_;
  if (!(plan.seconds_ > 0)) return plan;
  Prediction prediction = prediction_;
  const double upTo = seconds + early * std::min(seconds, lookEvery);
  double due = untilLook_;
  const double skipped = std::ceil((upTo - due) / lookEvery) - double{Plan::mostLooks};
  due += lookEvery * std::max(skipped, 0.0);
  for (; due <= upTo && plan.count_ < Plan::mostLooks; due += lookEvery) {
    if (!known_) continue;
    Look& look = plan.looks_[plan.count_++];
    look.after = std::min(due, seconds);
    look.asked = between(request, motion, seconds, seconds - due);
    prediction.observe(look.asked, motion, lookEvery);
    look.prediction = prediction;
    for (std::size_t i = 0; settings.horizon > 0 && i < looksAhead; ++i) {
      const double time = timeOf(i, looksAhead, settings.horizon);
      const PullInRequest then = prediction.ahead(look.asked, motion, time);
      const double given = side_.in(2 * std::abs(then.shoulder), settings.shoulderSpeed * then.scale, time);
      const double lower = stoop_.in(settings.stoop, stoopRate * settings.stoop, time);
      look.lines[i] = {then.head - look.asked.head, then.camera(shoulderOf(then, given), lower) - then.head};
    }
  }
  plan.untilLook_ = std::clamp(due - seconds, 0.0, 2 * lookEvery);
  return plan;
}

Bounds PullIn::Plan::reach(const PullInSettings& settings) const {
  const double scale = request_.scale;
  Bounds bounds = Bounds::around(request_.head);
  const auto withLines = [&bounds](const Bounds& heads, const Bounds& arms) {
    bounds = bounds.with(heads).with(Bounds{heads.low + arms.low, heads.high + arms.high});
  };
  const auto armsOf = [](const PullInRequest& asked, double lower) {
    const Vector3d toHead = -asked.head;
    return Bounds::around(asked.camera(asked.shoulder, lower) + toHead)
        .with(asked.camera(-asked.shoulder, lower) + toHead);
  };
  const auto allArmsOf = [&](const PullInRequest& asked) {
    const Bounds arms = armsOf(asked, 0);
    return settings.stoop > 0 ? arms.with(armsOf(asked, settings.stoop)) : arms;
  };
  double bulge = 0;
  withLines(bounds, allArmsOf(request_));
  for (std::size_t i = 0; i < count_; ++i) {
    Bounds heads = Bounds::around(looks_[i].asked.head), arms = allArmsOf(looks_[i].asked);
    Vector3d before = looks_[i].asked.camera() - looks_[i].asked.head;
    for (const Look::Line& line : looks_[i].lines) {
      heads = heads.with(looks_[i].asked.head + line.walked);
      arms = arms.with(line.arm);
      // An arc is not farther than that from its chord.
      const double length = std::max(line.arm.norm(), request_.radius);
      bulge = std::max(bulge, (line.arm - before).squaredNorm() / (4 * length));
      before = line.arm;
    }
    withLines(heads, arms);
  }
  return bounds.grown(request_.radius + (settings.margin + spare) * scale + skin + std::min(bulge, request_.distance));
}

void PullIn::advance(const Plan& plan, ClearLine& line, const PullInSettings& settings) {
  const PullInRequest& request = plan.request_;
  const double axis = request.aims ? 1 : 0, rate = axisRate * plan.seconds_;
  alongAxis_ = known_ ? alongAxis_ + std::clamp(axis - alongAxis_, -rate, rate) : axis;
  if (!known_) prediction_.observe(request, plan.motion_, 0);
  if (request.shoulder * last_.shoulder < 0) side_ = GiveWay();  // the other shoulder is asked for
  last_ = {request.head, request.anchor - request.head, request.orbit, request.shoulder, request.distance};
  untilLook_ = plan.untilLook_;
  known_ = true;
  double passed = 0;
  for (std::size_t i = 0; i < plan.count_; ++i) {
    look(plan.looks_[i], plan.motion_, line, settings);
    pass(plan.looks_[i].after - passed, request, settings);
    passed = plan.looks_[i].after;
  }
  pass(plan.seconds_ - passed, request, settings);
}

/// Time passes between two looks, or none: what is given up is never more than the settings of this frame allow.
void PullIn::pass(double seconds, const PullInRequest& request, const PullInSettings& settings) {
  const double scale = request.scale;
  if (seconds > 0) {
    const Vector3d arm = request.camera(shoulderOf(request, side_.given()), stoop_.given()) - request.head;
    const double whole = arm.norm(), length = std::min(length_, whole);
    if (in_.speed() > 0) {
      shorten(length, std::min(in_.speed() * seconds, length), settings, scale);
    } else if (length_ < unlimited) {
      length_ = out_.step(length, {whole, room_, ample_}, seconds, settings, scale);
      if (length_ >= whole - hair * std::max(whole, 1.0) && room_ >= whole) length_ = unlimited;
    }
  }
  side_.move(2 * std::abs(request.shoulder), settings.shoulderSpeed * scale, seconds, hair * scale);
  if (settings.stoop > 0 || stoop_.given() > 0) stoop_.move(settings.stoop, stoopRate * settings.stoop, seconds, hair);
}

void PullIn::shorten(double length, double by, const PullInSettings& settings, double scale) {
  length_ = length - by;
  out_.wentIn(by, settings, scale);
}

/// What is seen at one look: sweeps from where the head will be, which walls stop and turn aside.
class PullIn::Seeing {
 public:
  Seeing(const Look& look, const PullInMotion& motion, const ClearLine& line)
      : look_(look),
        motion_(motion),
        line_(line),
        world_(line.obstacles()),
        things_(world_.moves(motion.carried)),
        way_(look.lines.back().walked),
        far_(way_.norm()),
        wide_(std::min(walkerRadius * look.asked.scale, 0.99 * std::max(line.clearance(), line.radius()))) {}

  bool thingsMove() const { return things_; }
  /// Of a line only so many metres matter from now on.
  void matters(double enough) { enough_ = enough; }
  /// Finds the wall that stops the head, and how far it goes along that.
  void findWall() {
    if (!(far_ > hardlyLess * look_.asked.scale)) return;
    const Contact contact = world_.sweep(look_.asked.head, way_, wide_);
    if (!contact.hit()) return;
    upTo_ = std::clamp((contact.distance - skin) / far_, 0.0, 1.0);
    const Vector3d level = contact.normal - contact.normal.dot(motion_.up) * motion_.up;
    if (!(level.norm() >= steepest && level.norm() <= 1 + 1e-3)) return;
    const Vector3d normal = level.normalized(), from = look_.asked.head + upTo_ * way_;
    slide_ = (1 - upTo_) * way_;
    slide_ -= std::min(normal.dot(slide_), 0.0) * normal;
    slide_ *= clearFraction(world_, from, from + slide_, fits * wide_).fraction;
  }
  /// Metres along a line ahead and what is met there, of as much as matters; unlimited where it is clear.
  std::pair<double, ObstacleId> along(const Look::Line& ahead, double radius, double seconds) const {
    const Sweep sweep = sweepOf(ahead, radius);
    return roomOf(
        sweep, things_ && seconds > 0 ? later(sweep, seconds) : world_.sweep(sweep.from, sweep.displacement, radius));
  }
  /// Along all lines of the look. The host may answer the sweeps side by side where nothing moves.
  std::array<std::pair<double, ObstacleId>, looksAhead> alongAll(double radius,
                                                                 const std::array<double, looksAhead>& times) const {
    std::array<Sweep, looksAhead> sweeps;
    std::array<Contact, looksAhead> contacts;
    for (std::size_t i = 0; i < looksAhead; ++i) {
      sweeps[i] = sweepOf(look_.lines[i], radius);
      if (things_) contacts[i] = later(sweeps[i], times[i]);
    }
    if (!things_) world_.sweepAll(sweeps, contacts.data());
    std::array<std::pair<double, ObstacleId>, looksAhead> rooms;
    for (std::size_t i = 0; i < looksAhead; ++i) rooms[i] = roomOf(sweeps[i], contacts[i]);
    return rooms;
  }
  /// The sphere with so much to spare, as far as it fits around the head now; and around one ahead.
  double radiusNow(double more) const {
    return std::max(line_.radius(), std::min(line_.radius() + more * look_.asked.scale, 0.99 * line_.clearance()));
  }
  double radiusAhead(double more) const { return std::min(line_.radius() + more * look_.asked.scale, fits * wide_); }

  /// How far the head gets of a free way, metres.
  Vector3d walked(const Vector3d& free) const {
    const double share = far_ > 0 ? std::min(free.norm() / far_, 1.0) : 0;
    if (share <= upTo_) return share * way_;
    return upTo_ * way_ + (share - upTo_) / (1 - upTo_) * slide_;
  }

 private:
  Sweep sweepOf(const Look::Line& ahead, double radius) const {
    const double most = ahead.arm.norm(), asks = std::min(most, enough_ + skin);
    return {look_.asked.head + walked(ahead.walked), most > asks ? asks / most * ahead.arm : ahead.arm, radius};
  }
  Contact later(const Sweep& sweep, double seconds) const {
    return world_.sweepLater(sweep.from, sweep.displacement, sweep.radius, {seconds * motion_.pace, motion_.carried});
  }
  static std::pair<double, ObstacleId> roomOf(const Sweep& sweep, const Contact& contact) {
    if (!contact.hit()) return {unlimited, noObstacle};
    return {std::clamp(contact.distance - skin, 0.0, sweep.displacement.norm()), contact.obstacle};
  }

  const Look& look_;
  const PullInMotion& motion_;
  const ClearLine& line_;
  const Obstacles& world_;
  double enough_ = unlimited;  // metres of a line that matter
  const bool things_;
  const Vector3d way_;  // of the head to the horizon
  const double far_, wide_;
  double upTo_ = 1;  // the share of it up to a wall
  Vector3d slide_ = Vector3d::Zero();
};

void PullIn::look(const Look& look, const PullInMotion& motion, ClearLine& line, const PullInSettings& settings) {
  const PullInRequest& asked = look.asked;
  const double scale = asked.scale;
  prediction_ = look.prediction;
  ample_ = 0;
  const auto nothingAhead = [this] {
    in_.stop();
    foreseen_ = noObstacle;
  };
  if (line.blocked()) return nothingAhead();
  giveWay(look, motion, line, settings);
  const Look::Line now{Vector3d::Zero(), asked.camera(shoulderOf(asked, side_.given()), stoop_.given()) - asked.head};
  const double whole = now.arm.norm(), length = std::min(length_, whole);
  room_ = unlimited;
  if (length_ < unlimited) {
    const ClearFraction clear = line.to(line.head() + now.arm);
    if (clear.obstacle != noObstacle) room_ = clear.fraction * whole;
  }
  const double enough = std::max(length, std::min(room_, whole));
  Seeing seeing(look, motion, line);
  seeing.matters(enough);
  const Obstacles& world = line.obstacles();
  const bool changes = !motion.asked.empty() || side_.gives() || side_.given() > 0;
  const bool looks = settings.horizon > 0 && asked.distance > closest * scale && !world.nothingNear() &&
                     (seeing.thingsMove() || changes || prediction_.moves(scale));
  const bool fitsAround = line.clearance() > line.radius() + skin;  // a head that almost touches has no ample room
  if (length_ < unlimited && room_ > length && fitsAround) ample_ = seeing.along(now, seeing.radiusNow(spare), 0).first;
  if (!looks) return nothingAhead();
  seeing.findWall();
  // Where a wider sphere grazes something already, as in a corridor, what it would graze ahead says nothing.
  const bool narrow = seeing.along(now, seeing.radiusAhead(grazing), 0).first < enough - hardlyLess * scale;
  const double radius = seeing.radiusAhead(narrow ? 0 : grazing);
  std::array<double, looksAhead> times;
  for (std::size_t i = 0; i < looksAhead; ++i) times[i] = timeOf(i, looksAhead, settings.horizon);
  const auto met = seeing.alongAll(radius, times);
  std::array<RoomAhead, looksAhead> rooms;
  for (std::size_t i = 0; i < looksAhead; ++i) {
    rooms[i] = {i > 0 ? times[i - 1] : 0, times[i], std::max(met[i].first, closest * scale)};
    room_ = std::min(room_, rooms[i].room);
  }
  for (const std::size_t i : {looksAhead / 2, looksAhead - 1}) {
    if (ample_ > length && room_ > length)
      ample_ = std::min(ample_, seeing.along(look.lines[i], seeing.radiusAhead(spare), rooms[i].to).first);
  }
  const double fast = eased((prediction_.turnRate() / flick - 1) * 6 + 0.5);
  const double fastest = settings.fastest + fast * (settings.fastestInFlicks - settings.fastest);
  const std::size_t urgent = in_.look(length, rooms, lookEvery, {settings.speed * scale, fastest * scale});
  if (!(in_.speed() > 0)) {
    foreseen_ = noObstacle;
  } else if (urgent < looksAhead) {
    foreseen_ = met[urgent].second;
  }
}

/// Judges the side, and how high the camera orbits, for where it will be at half of the horizon.
void PullIn::giveWay(const Look& look, const PullInMotion& motion, const ClearLine& line,
                     const PullInSettings& settings) {
  const PullInRequest& asked = look.asked;
  const double scale = asked.scale, all = std::abs(asked.shoulder);
  const bool far = asked.distance > closest * scale, moves = settings.horizon > 0 && prediction_.moves(scale);
  const bool limited = length_ < unlimited;
  PullInRequest then = asked;
  Seeing seeing(look, motion, line);
  if (moves && (limited || side_.gives() || stoop_.gives())) {
    seeing.findWall();
    then = prediction_.ahead(asked, motion, settings.horizon / 2);
    const Vector3d turnedAside = seeing.walked(then.head - asked.head) - (then.head - asked.head);
    then.head += turnedAside;
    then.anchor += turnedAside;
  }
  const auto room = [&](double shoulder, double lower) {
    const Vector3d camera = then.camera(shoulder, lower);
    return clearFraction(line.obstacles(), then.head, camera, seeing.radiusAhead(0)).fraction *
           (camera - then.head).norm();
  };
  const auto judge = [&](GiveWay& way, double shoulder, double lower, double metres) {
    if (!limited && !way.gives()) return;
    way.judge(room(shoulder, lower), room(asked.shoulder, 0), settings.shoulderPrice * metres, lookEvery);
  };
  if (asked.aims || asked.keepsShoulder || settings.shoulderSpeed <= 0 || !far) {
    side_.takeBack();
  } else if (all > hardlyLess * scale) {
    judge(side_, -asked.shoulder, 0, all);
  }
  if (settings.stoop <= 0 || asked.aims || !far) {
    stoop_.takeBack();
  } else {
    judge(stoop_, asked.shoulder, settings.stoop, settings.stoop * asked.distance);
  }
}

PullInPose PullIn::place(const PullInRequest& request, ClearLine& line, const PullInSettings& settings) {
  PullInPose pose;
  pose.nearPlane = line.nearPlane();
  pose.headBlocked = line.blocked();
  pose.free = request.camera();
  if (line.blocked()) {  // no way at all; the camera goes out again
    length_ = room_ = 0;
    out_.wentIn(request.scale, settings, request.scale);
    pulledIn_ = true;
    pose.pivot = pose.camera = request.head;
    return pose;
  }
  const double shoulder = shoulderOf(request, side_.given());
  const Eigen::Matrix3d axes = request.axes(stoop_.given());
  const Vector3d toPivot = request.anchor + shoulder * axes.col(0) - request.head;
  const Vector3d back = request.distance * axes.col(2), arm = toPivot + back;
  const double whole = arm.norm();
  const auto allow = [&](double room) {
    const double length = std::min(length_, whole);
    if (room < length) shorten(length, length - room, settings, request.scale);
  };
  const auto share = [&] { return whole > shortestWay ? std::min(length_ / whole, 1.0) : 1.0; };
  const ClearFraction clear = line.to(request.head + arm);
  if (clear.obstacle != noObstacle) allow(clear.fraction * whole);
  // Coming in along its axis it swings aside as the head sees it, as far as that is clear; the line itself is.
  const double k = share();
  const auto isClear = [&](double axis) {
    const Vector3d aside = request.head + (k + axis * (1 - k)) * toPivot + k * back;
    return clearFraction(line.obstacles(), request.head, aside, line.radius()).fraction == 1;
  };
  if (alongAxis_ > 0 && k < 1 && !isClear(alongAxis_)) {
    double clearAxis = 0, blocked = alongAxis_;
    for (int i = 0; i < axisHalvings; ++i) {
      const double middle = (clearAxis + blocked) / 2;
      (isClear(middle) ? clearAxis : blocked) = middle;
    }
    alongAxis_ = clearAxis;
  }
  const double pivotShare = k + alongAxis_ * (1 - k);
  pose.pivot = request.head + pivotShare * toPivot;
  pose.camera = pose.pivot + k * back;
  pose.distance = k * request.distance;
  pose.clearDistance = std::max(clear.fraction * request.distance, pose.distance);
  pose.shoulder = pivotShare * shoulder;
  pose.obstacle = clear.obstacle;
  pose.foreseen = foreseen_;
  pose.foreseenIn = foreseen_ == noObstacle ? 0 : in_.seconds();
  pose.givenUp = std::abs(request.shoulder - shoulder);
  pose.wait = length_ < unlimited && !(in_.speed() > 0) ? out_.waits(share(), settings) : 0;
  pose.stooped = stoop_.given();
  pulledIn_ = limiting() && (pose.camera - pose.free).norm() > unseen;
  return pose;
}

}  // namespace alpglow
