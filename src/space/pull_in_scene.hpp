#pragma once
// What is asked of clear space, and what the head's own room makes of it; here, now and a little ahead.

#include "alpglow/base/rotation.hpp"
#include "alpglow/space/pull_in.hpp"

#include <algorithm>
#include <array>
#include <limits>

namespace alpglow {

/// Between the sphere and what it may come close to, metres.
constexpr double skin = 1e-3;

constexpr double shortestWay = 1e-8;  // metres that are asked for

inline ClearFraction fractionOf(const Contact& contact, double length) {
  if (!contact.hit()) return {};
  return {std::clamp((contact.distance - skin) / length, 0.0, 1.0), contact.obstacle, contact.startsApart};
}

constexpr double unseen = 1e-3;  // metres from where it would be

constexpr double smallestNear = 1e-3;
constexpr double grazing = 0.036;  // metres that what is foreseen is wider by; and where that is soon
constexpr double grazingSoon = 0.062, grazingBeside = 0.02;
constexpr double standing = 0.05;      // m/s
constexpr double widestWalker = 0.25;  // metres, of whom walls ahead stop
constexpr double narrower = 0.95;      // share of that who walks along a wall
constexpr double steepest = 0.5;       // of how level the normal of something is along which one walks
constexpr double noLimit = std::numeric_limits<double>::infinity();

/// What is asked for, and what the head's own room makes of it; here, now and a little ahead.
class PullIn::Scene {
 public:
  struct Place {
    Eigen::Vector3d head, anchor, right, back;
    double wider = 0, farther = 0;  // metres that are added to a shoulder, unless it is none, and to the distance
    double stooped = 0;             // radians that it orbits lower than is asked for
    double seconds = 0;             // ahead
  };
  /// What will be asked for, where that is known.
  struct Future {
    Span<const AskedAhead> asked;
    double every = 0;  // seconds
    AskedAhead now;
    bool known() const { return !asked.empty() && every > 0; }
    AskedAhead in(double seconds) const {
      const double at = std::min(seconds / every, static_cast<double>(asked.size()));
      const auto after = std::min(static_cast<std::size_t>(at), asked.size() - 1);
      const AskedAhead from = after == 0 ? now : asked[after - 1], to = asked[after];
      const double share = at - static_cast<double>(after);
      return {from.shoulder + share * (to.shoulder - from.shoulder),
              from.distance + share * (to.distance - from.distance)};
    }
  };
  static Future future(const PullInRequest& request, const PullInMotion& motion) {
    return {motion.asked, motion.askedEvery, {request.shoulder, request.distance}};
  }
  /// How everything goes on.
  struct Course {
    WalkMotion walk;
    OrbitMotion turn;
    LineMotion change;
    double foresight = 0;  // seconds
    Future future;
    Wall wall;
    Eigen::Vector3d way = walk.wayIn(foresight);
    double length = way.norm();
    /// Straight to where it will be at last, as a sweep can ask for it, or to a wall and along that.
    Eigen::Vector3d wayIn(double seconds) const {
      if (!(length > 0)) return way;
      const double share = walk.wayIn(seconds).norm() / length;
      if (share <= wall.upTo || wall.upTo >= 1) return std::min(share, wall.upTo) * way;
      return wall.upTo * way + std::min((share - wall.upTo) / (1 - wall.upTo), 1.0) * wall.slide.vector();
    }
    LineMotion::Line changeIn(double seconds) const {
      LineMotion::Line line = change.changeIn(seconds);
      if (!future.known()) return line;
      const AskedAhead then = future.in(seconds);
      line.shoulder = then.shoulder - future.now.shoulder;
      line.distance = then.distance - future.now.distance;
      return line;
    }
    bool changes(double scale) const { return future.known() || change.moves(scale); }
  };
  /// Where one is and will be, in axes that are made once.
  class Places {
   public:
    explicit Places(const PullInRequest& request) : asked_(request), level_(request.level.toRotationMatrix()) {}
    Place at(const Eigen::Vector3d& walked, const LookAngles& turn, double stoop,
             const LineMotion::Line& change = {}) const {
      const auto limited = [&](double pitch) {
        return std::clamp(pitch, std::min(asked_.pitch.low, asked_.orbit.pitch),
                          std::max(asked_.pitch.high, asked_.orbit.pitch));
      };
      const double looks = limited(asked_.orbit.pitch + turn.pitch), pitch = stoop > 0 ? limited(looks + stoop) : looks;
      const Eigen::Matrix3d turned = rotationOf(asked_.orbit.yaw + turn.yaw, pitch);
      const Eigen::Vector3d moved = walked + change.headHeight * level_.col(1);
      return {asked_.head + moved,    asked_.anchor + moved + level_ * change.offset.vector(),
              level_ * turned.col(0), level_ * turned.col(2),
              change.shoulder,        std::max(change.distance, -asked_.distance),
              pitch - looks};
    }

   private:
    const PullInRequest& asked_;
    const Eigen::Matrix3d level_;
  };
  /// What is asked for to know how far it is clear: of the whole length only so much.
  struct Line {
    Eigen::Vector3d from, end;
    double radius = 0, length = 0, asks = 0;
    double seconds = 0;  // ahead
  };
  struct Room {
    double length = 0, clear = noLimit;  // of the line, metres, and of that as far as it is clear; infinite if free
    ObstacleId obstacle = noObstacle;
  };

  /// Asks what is how near the head up to `aside`, metres, at least as far as the sphere reaches; unless it is known.
  Scene(const PullInRequest& request, const Obstacles& world, const PullInSettings& settings, double aside = 0,
        const KnownRoom& known = {})
      : asked(request), known_(known), world_(world), places_(request) {
    const double margin = settings.margin * request.scale;
    const double range = std::max(request.radius + margin + skin + grazingSoon * request.scale, aside);
    const bool isKnown = known.range >= range && known.head == request.head;
    clearance_ = isKnown ? std::min(known.clearance, range) : world.clearance(request.head, range);
    if (!isKnown) known_.head = request.head, known_.range = range, known_.clearance = clearance_, known_.radius = -1;
    const double shrink = std::clamp(clearance_ / (request.radius + skin), 0.0, 1.0);
    nearPlane = std::max(request.nearPlane * shrink, std::min(smallestNear, request.nearPlane));
    headBlocked = request.nearPlane * shrink < nearPlane;
    radius_ =
        request.radius * (nearPlane / request.nearPlane) + std::clamp(clearance_ - request.radius - skin, 0.0, margin);
  }

  void setCourse(const Course& course, const PullInMotion& told) {
    pace_ = told.pace;
    carried_ = told.carried;
    thingsMove_ = world_.moves(carried_);
    course_ = course;
    course_.wall = Wall();
    moves_ = course.length >= standing * course.foresight * asked.scale;
    if (moves_) course_.wall = wallAhead(course.way, course.length);
  }
  const Wall& wall() const { return course_.wall; }
  bool nothingNear() const { return world_.nothingNear(); }
  /// Whether nothing about the subject and its look changes.
  bool rests() const { return !(moves_ || course_.turn.turns() || course_.changes(asked.scale)); }
  bool moves() const { return thingsMove_ || !rests(); }

  Place now(double stoop) const { return stoop == 0 ? now_ : places_.at(Eigen::Vector3d::Zero(), {}, stoop); }
  Place in(double seconds, double stoop) const {
    Place place = places_.at(course_.wayIn(seconds), course_.turn.turnIn(seconds), stoop, course_.changeIn(seconds));
    place.seconds = seconds;
    return place;
  }

  static Eigen::Vector3d pivot(const Place& place, double shoulder) {
    return place.anchor + (shoulder + (shoulder != 0 ? place.wider : 0)) * place.right;
  }
  Eigen::Vector3d ideal(const Place& place, double shoulder) const {
    return pivot(place, shoulder) + (asked.distance + place.farther) * place.back;
  }
  /// With so much more radius what would be grazed counts; what is farther than `enough` metres does not.
  Line lineTo(const Place& place, double shoulder, double more = 0, double enough = noLimit) const {
    const Eigen::Vector3d way = ideal(place, shoulder) - place.head;
    const double length = way.norm(), asks = std::min(length, enough + skin);
    const Eigen::Vector3d end = place.head + (length > asks ? asks / length : 1.0) * way;
    return {place.head, end, radiusWith(more), length, asks, place.seconds};
  }
  /// The same line with another radius, no farther than `enough`.
  Line along(Line line, double more, double enough) const {
    const double asks = std::min(line.asks, enough + skin);
    if (asks < line.asks) line.end = line.from + asks / line.asks * (line.end - line.from);
    line.asks = asks;
    line.radius = radiusWith(more);
    return line;
  }
  Room room(const Line& line) const { return roomOf(line, clearIn(line.from, line.end, line.radius, line.seconds)); }
  Room roomNow(const Line& line) const { return roomOf(line, clearIn(line.from, line.end, line.radius, 0)); }
  /// At most as many as are looked at ahead, which a host may answer side by side unless something moves.
  void rooms(Span<const Line> lines, Room* found) const {
    if (thingsMove_) {
      for (const Line& line : lines) *found++ = room(line);
      return;
    }
    std::array<Sweep, mostAhead> sweeps;
    std::array<Contact, mostAhead> contacts;
    std::size_t count = 0, answered = 0;
    const auto wayOf = [](const Line& line) { return Eigen::Vector3d(line.end - line.from); };
    for (const Line& line : lines) {
      if (wayOf(line).norm() > shortestWay) sweeps[count++] = {line.from, wayOf(line), line.radius};
    }
    if (count > 0) world_.sweepAll({sweeps.data(), count}, contacts.data());
    for (const Line& line : lines) {
      const double length = wayOf(line).norm();
      const ClearFraction clear = length > shortestWay ? fractionOf(contacts[answered++], length) : ClearFraction();
      *found++ = roomOf(line, fitting(clear, line.from, line.end, line.radius, line.seconds));
    }
  }
  /// Of the moment; of a line that is known nothing is asked.
  Room room(double stoop, double shoulder) {
    const Place place = now(stoop);
    const Eigen::Vector3d end = ideal(place, shoulder);
    if (!(known_.radius == radius_ && known_.end == end))
      known_.end = end, known_.radius = radius_, known_.clear = clearFraction(world_, place.head, end, radius_);
    const double length = (end - place.head).norm();
    return {length, clearOf(known_.clear, length), known_.clear.obstacle};
  }
  const KnownRoom& known() const { return known_; }
  /// From the head to a camera that has come in to this share of the distance: `axis` of the way along its own axis, on
  /// which the shoulder stays.
  Eigen::Vector3d wayTo(const Place& place, double shoulder, double share, double axis) const {
    return (share + axis * (1 - share)) * (pivot(place, shoulder) - place.head) + share * asked.distance * place.back;
  }
  /// Nothing is in the way as far as it is asked for.
  bool isWhole(const Place& place, double shoulder, double worth) const {
    constexpr double rounding = 1e-3;
    return worth >= std::min((ideal(place, shoulder) - place.head).norm(), asked.distance) - rounding;
  }
  /// What a shoulder leaves of the distance, to the camera and to what the crosshair is cast from.
  double worth(const Place& place, double shoulder) const {
    const Room line = room(lineTo(place, shoulder));
    const Eigen::Vector3d from = pivot(place, shoulder);
    const double most = std::min(line.clear, line.length), asks = std::min(asked.distance, most + skin);
    if (clearIn(place.head, from, radius_, place.seconds).fraction < 1) return std::min(most, asked.distance);
    return std::min(most, asks * clearIn(from, from + asks * place.back, radius_, place.seconds).fraction);
  }
  bool isClear(const Eigen::Vector3d& way) const {
    return clearFraction(world_, asked.head, asked.head + way, radius_).fraction == 1;
  }

  const PullInRequest& asked;
  double nearPlane = 0;
  bool headBlocked = false;

 private:
  double radiusWith(double more) const { return std::min(radius_ + more, std::max(radius_, 0.99 * clearance_)); }
  /// Who walks into a wall goes on along it.
  Wall wallAhead(const Eigen::Vector3d& way, double length) const {
    const double wide = std::min(widestWalker * asked.scale, 0.99 * std::max(clearance_, radius_));
    const Contact contact = world_.sweep(asked.head, way, wide);
    Wall wall{fractionOf(contact, length).fraction, {}};
    if (wall.upTo == 1) return wall;
    const Eigen::Vector3d up = asked.level * Eigen::Vector3d::UnitY();
    const Eigen::Vector3d level = contact.normal - contact.normal.dot(up) * up;
    if (!(level.norm() >= steepest && level.norm() <= 1 + 1e-3)) return wall;  // no wall, or none that a host may tell
    const Eigen::Vector3d normal = level.normalized(), from = asked.head + wall.upTo * way;
    Eigen::Vector3d slide = (1 - wall.upTo) * way;
    slide -= std::min(normal.dot(slide), 0.0) * normal;
    wall.slide = clearFraction(world_, from, from + slide, narrower * wide).fraction * slide;
    return wall;
  }
  static Room roomOf(const Line& line, const ClearFraction& clear) {
    return {line.length, clearOf(clear, line.asks), clear.obstacle};
  }
  static double clearOf(const ClearFraction& clear, double length) {
    return clear.obstacle == noObstacle ? noLimit : clear.fraction * length;
  }
  ClearFraction clearIn(const Eigen::Vector3d& from, const Eigen::Vector3d& to, double radius, double seconds) const {
    return fitting(sweptIn(from, to, radius, seconds), from, to, radius, seconds);
  }
  ClearFraction sweptIn(const Eigen::Vector3d& from, const Eigen::Vector3d& to, double radius, double seconds) const {
    if (!thingsMove_ || seconds == 0) return clearFraction(world_, from, to, radius);
    return clearFraction(world_, from, to, radius, MomentAhead{seconds * pace_, carried_});
  }
  /// The same; of a way that begins closer to something than the sphere is wide, as a head will be, of a sphere that
  /// just fits there. What touches at the start depends on the shapes that a wall is made of, what is met on the way
  /// does not.
  ClearFraction fitting(const ClearFraction& clear, const Eigen::Vector3d& from, const Eigen::Vector3d& to,
                        double radius, double seconds) const {
    constexpr double fits = 0.99, thinnest = 0.01;
    if (clear.obstacle == noObstacle || clear.startsApart || radius + (from - asked.head).norm() <= clearance_)
      return clear;
    const double there = world_.clearance(from, radius);
    if (there >= radius || there < thinnest * asked.scale) return clear;
    return sweptIn(from, to, fits * there, seconds);
  }

  KnownRoom known_;
  const Obstacles& world_;
  const Places places_;
  const Place now_ = places_.at(Eigen::Vector3d::Zero(), {}, 0);
  double clearance_ = 0, radius_ = 0;
  Course course_;
  bool moves_ = false, thingsMove_ = false;
  double pace_ = 1;
  RigidMotion carried_;
};

}  // namespace alpglow
