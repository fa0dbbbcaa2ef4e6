// What the pull-in sees at one look: sweeps from where the head will be, and what they make of speed, side and height.

#include "pull_in_numbers.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/space/pull_in.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;
using pull_in::skin;
using pull_in::spare;
using pull_in::timeOf;

namespace {

// What taking each number out costs: docs/research/pull_in.md.
constexpr double grazing = 0.05;       // metres: the sphere that looks ahead is wider by this
constexpr double closest = 0.5;        // metres: a prediction pulls in no closer
constexpr double walkerRadius = 0.25;  // metres: walls stop the predicted head here
constexpr double fits = 0.95;          // of the room around the head: a predicted sphere does not start in contact
constexpr double steepest = 0.5;       // of a normal that is level: a walker goes along such a wall
constexpr double flick = 3.3;          // rad/s around which the look counts as fast
constexpr double hardlyLess = 0.01;    // metres

}  // namespace

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

}  // namespace alpglow
