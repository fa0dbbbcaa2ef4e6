// What a camera sees coming, and what it does about it before it must.

#include "pull_in_scene.hpp"

#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

// What is looked at ahead, as shares of the foresight; and in how many halvings it is found when exactly this much is
// lost at once, metres.
constexpr double aheads[] = {0.07, 0.2, 0.34, 0.5, 0.72, 1};
constexpr std::size_t imminent = 2;  // of them: looked at in the frames between as well
constexpr int halvings = 4;
constexpr double suddenLoss = 0.5;
constexpr double judgedAheads[Concession::moments] = {0, 0.27, 0.55};
constexpr double closestForeseen = 0.6, closestSoon = 0.2;  // metres: what is foreseen pulls in no closer; nor what
constexpr double soonest = 0.22;                            // seconds for which one keeps farther away
constexpr double closestBeside = 1.245;                     // metres: nor closer for what is beside in a narrow place
constexpr double hardlyLess = 0.01;                         // metres of the line that they must take for that
constexpr double calmLook = degrees(175), flick = degrees(205);  // a second
constexpr double soon = 0.15;                                    // is imminent, which is certain: seconds
constexpr double leastShoulder = 0.01;                           // metres that are worth giving up
constexpr double staysPut = 0.15;                                // metres that what else is given up must be better by
constexpr double stoopPrice = 3.5, stoopSpeed = degrees(30);     // metres a radian; a second
constexpr double axisRate = 4;                                   // per second, between the line and the axis
constexpr double hardlyBent = 0.25;                              // radians that a turn may be for a straight line
constexpr int mostSteps = 6;                                     // lines at most for one that is more
constexpr double ampleAheads[] = {1, 0.43};                      // shares of the foresight
constexpr double spare = 0.312;                                  // metres between what is ample room and things

/// What is foreseen pulls in no closer, and so where one is as close there is nothing to foresee.
bool foresees(const PullInRequest& request, const PullInSettings& settings, double seconds) {
  return seconds > 0 && settings.foresight > 0 && request.distance > closestForeseen * request.scale;
}

/// While the look turns fast the whole picture moves, and one may come in faster.
PullInSettings hurriedAt(double lookRate, PullInSettings settings) {
  const double share = std::clamp((lookRate - calmLook) / (flick - calmLook), 0.0, 1.0);
  settings.fastest += share * (settings.fastestInFlicks - settings.fastest);
  return settings;
}

}  // namespace

/// Radius of the widest sphere that is asked for, with room to spare or without.
double PullIn::sphere(const PullInRequest& request, bool ample, const PullInSettings& settings) {
  return request.radius + (settings.margin + (ample ? spare : grazingSoon)) * request.scale;
}

/// How far around the head it matters what is there: for that sphere, and for a walker.
double PullIn::aside(const PullInRequest& request, const PullInSettings& settings) const {
  const double walker = settings.foresight > 0 ? widestWalker * request.scale : 0;
  return std::max(walker, sphere(request, limiting(), settings)) + skin;
}

/// What is ahead comes closer until it is there.
void PullIn::Ahead::pass(double seconds) {
  std::uint32_t left = 0;
  for (std::uint32_t i = 0; i < count; ++i) {
    rooms[left] = {rooms[i].seconds - seconds, rooms[i].room};
    whom[left] = whom[i];
    left += rooms[left].seconds > 0 ? 1 : 0;
  }
  count = left;
}

void PullIn::Ahead::addUrgent(const RoomAhead& room, ObstacleId obstacle, double length) {
  if (count < mostAhead) return add(room, obstacle);
  const auto need = [length](const RoomAhead& each) { return (length - each.room) / each.seconds; };
  const auto least =
      std::min_element(rooms.begin(), rooms.end(), [&](const auto& a, const auto& b) { return need(a) < need(b); });
  if (need(room) <= need(*least)) return;
  *least = room;
  whom[static_cast<std::size_t>(least - rooms.begin())] = obstacle;
}

/// In the frame that is nearest to every sixtieth of a second: so at high frame rates the same things are seen, at the
/// same times and from the same rates, as at that one. A thin thing stands between two looks ahead in one frame and not
/// in the next. Only what is imminent is looked for in every frame.
bool PullIn::looksIn(double seconds) const { return seconds > 0 && sinceLook_ + 1.5 * seconds >= untilLook_; }

LookAngles PullIn::turnedSince(const PullInRequest& request, const PullInMotion& motion, double seconds) const {
  if (!(oriented_ && seconds > 0)) return turned_;
  return {turned_.yaw + shortestTurn(lastOrbit_.yaw, request.orbit.yaw) - motion.carriedYawRate * seconds,
          turned_.pitch + request.orbit.pitch - lastOrbit_.pitch};
}

OrbitMotion PullIn::turning(const LookAngles& turned, double seconds) const {
  OrbitMotion now = motion_;
  if (oriented_ && looksIn(seconds)) now.step(turned.yaw, turned.pitch, sinceLook_ + seconds);
  return now;
}

WalkMotion PullIn::walked(const PullInMotion& motion, double seconds) const {
  WalkMotion now = walk_;
  if (!(seconds > 0)) now.step(motion.gait, 0);
  if (looksIn(seconds)) now.step(motion.gait, sinceLook_ + seconds);
  return now;
}

LineMotion PullIn::changed(const PullInRequest& request, const PullInMotion& motion, double seconds) const {
  LineMotion now = change_;
  const bool looks = looksIn(seconds);
  if (!looks && seconds > 0) return now;
  const Vector3d offset = request.level.conjugate() * Vector3d(request.anchor - request.head);
  now.step({motion.headHeight, offset, request.shoulder, request.distance}, looks ? sinceLook_ + seconds : 0,
           request.scale);
  return now;
}

Bounds PullIn::reach(const PullInRequest& request, const PullInMotion& motion, double seconds,
                     const PullInSettings& settings) const {
  const Scene::Course course{walked(motion, seconds),           turning(turnedSince(request, motion, seconds), seconds),
                             changed(request, motion, seconds), settings.foresight,
                             Scene::future(request, motion),    wall_};
  const double stoop = std::max(settings.stoop, stoop_.given());
  const Scene::Places places(request);
  Bounds bounds;
  const auto withStoop = [&](double ahead, const LookAngles& turn, double stooped) {
    const Scene::Place place = places.at(course.wayIn(ahead), turn, stooped, course.changeIn(ahead));
    const Vector3d beside = Scene::pivot(place, request.shoulder),
                   back = (request.distance + place.farther) * place.back;
    bounds = bounds.with(place.head).with(place.anchor).with(beside).with(place.anchor + back).with(beside + back);
  };
  const auto with = [&](double ahead, const LookAngles& turn) {
    withStoop(ahead, turn, 0);
    if (stoop > 0) withStoop(ahead, turn, stoop);
  };
  with(0, {});
  const double arm = request.distance + std::abs(request.shoulder);
  double around = skin + arm * stoop * stoop / 8;
  Bounds walk;
  if (foresees(request, settings, seconds)) {
    const bool changes = course.changes(request.scale);
    const auto between = [](const LookAngles& a, const LookAngles& b) {
      return std::abs(b.yaw - a.yaw) + std::abs(b.pitch - a.pitch);
    };
    const LookAngles last = course.turn.turnIn(settings.foresight);
    const double turns = between({}, last);
    if (course.turn.turns() || changes || course.length >= standing * settings.foresight * request.scale) {
      double widest = 0;
      LookAngles from;
      const auto turnsTo = [&](double ahead, const LookAngles& turn) {
        widest = std::max(widest, between(from, turn));
        from = turn;
        with(ahead, turn);
      };
      const bool bends = changes || !(turns < mostSteps * hardlyBent);
      const int steps = bends ? mostSteps : std::max(static_cast<int>(std::ceil(turns / hardlyBent)), 1);
      for (int step = 1; step < steps; ++step) {
        const double share = static_cast<double>(step) / steps;
        const double ahead = share * share * settings.foresight;  // most of a turn comes soon
        turnsTo(ahead, course.turn.turnIn(ahead));
      }
      turnsTo(settings.foresight, last);
      around += arm * widest * widest / 8;  // an arc is not farther than that from its chord
      const Vector3d hits = request.head + wall_.upTo * course.way, slide = wall_.slide.vector();
      walk = Bounds::around(request.head).with(request.head + course.way).with(hits + slide);
      walk = walk.grown(widestWalker * request.scale);
    } else {  // it hardly moves
      around += course.length + turns * arm;
    }
  }
  return bounds.grown(sphere(request, line_.awaitsAmple(seconds, settings), settings) + around)
      .with(walk)
      .with(Bounds::around(request.head, aside(request, settings)));
}

KnownRoom PullIn::foresee(const PullInRequest& request, const PullInMotion& motion, const Obstacles& obstacles,
                          double seconds, const PullInSettings& settings) {
  const bool looks = looksIn(seconds);
  turned_ = turnedSince(request, motion, seconds);
  motion_ = turning(turned_, seconds);
  walk_ = walked(motion, seconds);
  change_ = changed(request, motion, seconds);
  lastOrbit_ = request.orbit;
  const double axis = request.aims ? 1 : 0;
  alongAxis_ = oriented_ ? alongAxis_ + std::clamp(axis - alongAxis_, -axisRate * seconds, axisRate * seconds) : axis;
  oriented_ = true;
  foreseen_ = noObstacle;
  foreseenIn_ = 0;
  if (!(seconds > 0)) return {};
  sinceLook_ += seconds;
  if (looks) {
    untilLook_ = std::clamp(untilLook_ + lookEvery - sinceLook_, lookEvery / 2, lookEvery * 3 / 2);
    sinceLook_ = 0;
    turned_ = {};
  }
  ahead_.pass(seconds);
  Scene scene(request, obstacles, settings, aside(request, settings));
  if (scene.headBlocked) {
    line_.close();
    ahead_.count = 0;
    return scene.known();
  }
  const bool looksAhead = foresees(request, settings, seconds);
  if (looksAhead)
    scene.setCourse({walk_, motion_, change_, settings.foresight, Scene::future(request, motion), {}}, motion);
  wall_ = scene.wall();

  const double moments = std::clamp(std::round(seconds / lookEvery), 1.0, double{Concession::moments});
  const int judged = looks ? static_cast<int>(moments) : 0;
  chooseShoulder(scene, judged, seconds, settings);
  chooseStoop(scene, judged, seconds, settings);
  const Scene::Room room = scene.room(stoop_.given(), shoulderLeft(request.shoulder));
  const double givesUp = shoulder_.goal(std::abs(request.shoulder)) - shoulder_.given(),
               stoops = stoop_.goal(settings.stoop) - stoop_.given();
  const bool rests =
      scene.rests() && !(std::abs(givesUp) > unseen * request.scale) && !(std::abs(stoops) * request.distance > unseen);
  const bool moves = scene.moves() || !rests;
  const double length = line_.length(room.length), now = std::max(length, std::min(room.clear, room.length));
  const bool anything = !scene.nothingNear();
  const Ahead seen = looksAhead && moves && anything
                         ? lookAhead(scene, now, settings, looks ? std::size(aheads) : imminent, rests)
                         : Ahead();
  if (looks) {
    ahead_ = seen;
  } else {
    for (std::size_t i = 0; i < seen.count; ++i) {
      if (seen.whom[i] != noObstacle) ahead_.addUrgent(seen.rooms[i], seen.whom[i], room.length);
    }
  }
  const Span<const RoomAhead> rooms(ahead_.rooms.data(), ahead_.count);
  double ample = 0;
  if (line_.awaitsAmple(seconds, settings) && line_.hasRoom(room.length, room.clear, rooms, settings, request.scale))
    ample = anything ? ampleRoom(scene, looksAhead && moves, length, now, settings) : noLimit;
  line_.advance(room.length, {room.clear, ample}, rooms, seconds, hurriedAt(motion_.rate(), settings), request.scale);
  if (!line_.goingIn()) return scene.known();
  double most = 0;
  for (std::size_t i = 0; i < ahead_.count; ++i) {
    const double need = (room.length - ahead_.rooms[i].room) / ahead_.rooms[i].seconds;
    if (need > most) most = need, foreseen_ = ahead_.whom[i], foreseenIn_ = ahead_.rooms[i].seconds;
  }
  return scene.known();
}

/// The room for a camera that keeps away from everything, now and as far as is foreseen: who goes out no farther hardly
/// has to come in again soon. It does not matter how much it is unless between `least` and `most`.
double PullIn::ampleRoom(const Scene& scene, bool ahead, double least, double most,
                         const PullInSettings& settings) const {
  const double shoulder = shoulderLeft(scene.asked.shoulder), wider = spare * scene.asked.scale;
  double ample = noLimit;
  const auto look = [&](const Scene::Place& place) {
    if (ample > least) ample = std::min(ample, scene.room(scene.lineTo(place, shoulder, wider, most)).clear);
  };
  for (const double share : ampleAheads) {
    const double seconds = share * settings.foresight;
    if (ahead) look(scene.in(seconds, stoop_.in(settings.stoop, stoopSpeed, seconds)));
  }
  look(scene.now(stoop_.given()));
  return ample;
}

/// The rooms ahead, where they are less than `enough`, which there is now: more does not matter. Between two looks it
/// may come at any time; but when it is that much is lost at once is found more exactly, as the speed depends on it.
/// Where the widest sphere would graze something already, as in a corridor, what only it meets pulls in no closer; and
/// for who rests only what comes counts.
PullIn::Ahead PullIn::lookAhead(const Scene& scene, double enough, const PullInSettings& settings, std::size_t looks,
                                bool rests) const {
  static_assert(std::size(aheads) <= mostAhead);
  const PullInRequest& asked = scene.asked;
  const double closestOfSides = closestBeside * asked.scale;
  const auto isNarrow = [&] {
    const double shoulder = shoulderLeft(asked.shoulder), wider = grazingSoon * asked.scale;
    const Scene::Line widest = scene.lineTo(scene.now(stoop_.given()), shoulder, wider, enough);
    return scene.room(widest).clear < enough - hardlyLess * asked.scale;
  };
  std::optional<bool> narrow;  // once that matters
  if (enough <= closestOfSides) narrow = isNarrow();
  const bool slim = narrow.value_or(false);  // who is that close comes in for nothing else
  const auto lineIn = [&](double time, double upTo) {
    const double givenUp = shoulder_.in(std::abs(asked.shoulder), settings.shoulderSpeed * asked.scale, time);
    const double shoulder = std::copysign(std::max(std::abs(asked.shoulder) - givenUp, 0.0), asked.shoulder);
    const Scene::Place place = scene.in(time, stoop_.in(settings.stoop, stoopSpeed, time));
    const double wider = slim ? grazingBeside : time <= soonest ? grazingSoon : grazing;
    return scene.lineTo(place, shoulder, wider * asked.scale, upTo);
  };
  const auto roomOf = [&](const Scene::Line& line, Scene::Room seen) {
    if (seen.obstacle == noObstacle) return seen;
    if (rests && seen.clear >= scene.roomNow(line).clear - hardlyLess * asked.scale) return Scene::Room{line.length};
    const double closest = closestSoon + (closestForeseen - closestSoon) * std::min(line.seconds / soon, 1.0);
    if (!slim && seen.clear < closestOfSides) {
      if (!narrow) narrow = isNarrow();
      const Scene::Line slimmer = scene.along(line, grazingBeside * asked.scale, closestOfSides);
      if (*narrow) seen.clear = std::max(seen.clear, std::min(scene.room(slimmer).clear, closestOfSides));
    }
    seen.clear = std::max(seen.clear, closest * asked.scale);
    return seen;
  };
  std::array<Scene::Line, mostAhead> lines;
  std::array<Scene::Room, mostAhead> rooms;
  for (std::size_t i = 0; i < looks; ++i) lines[i] = lineIn(aheads[i] * settings.foresight, enough);
  scene.rooms({lines.data(), looks}, rooms.data());
  Ahead ahead;
  double before = 0, last = enough;
  bool sought = false;
  while (ahead.count < looks) {
    const double time = aheads[ahead.count] * settings.foresight, sudden = last - suddenLoss * asked.scale;
    Scene::Room next = roomOf(lines[ahead.count], rooms[ahead.count]);
    double from = before, to = time;
    for (int i = 0; i < halvings && !sought && next.clear < sudden; ++i) {
      const double middle = (from + to) / 2;
      const Scene::Line line = lineIn(middle, sudden);
      const Scene::Room between = roomOf(line, scene.room(line));
      if (between.clear >= sudden) {
        from = middle;
      } else {
        to = middle;
        if (between.clear < next.clear) next = between;
      }
    }
    sought = sought || next.clear < sudden;
    ahead.add({(from + to) / 2, next.clear}, next.obstacle);
    before = time;
    last = std::min(next.clear, enough);
  }
  return ahead;
}

/// What shares of something are worth takes many questions, so a frame looks at one moment: here, or a little ahead. As
/// long as the whole is free at every moment, what the others are worth is neither known nor needed. `kept` tells what
/// shoulder and what stoop a share of it leaves.
template <class Kept>
void PullIn::judge(Concession& concession, const Scene& scene, int looks, const PullInSettings& settings,
                   const Kept& kept) {
  for (; looks > 0; --looks) {
    const double ahead = judgedAheads[concession.nextMoment()] * settings.foresight;
    Concession::Worths& worths = concession.worths();
    worths.fill(noLimit);
    if (ahead > 0 && !scene.moves()) continue;
    if (scene.nothingNear() && concession.free()) {
      std::fill(worths.begin() + 1, worths.end(), 0.0);
      continue;
    }
    for (std::size_t i = 0; i < worths.size(); ++i) {
      const auto [shoulder, stoop] = kept(Concession::shares[i]);
      const Scene::Place place = ahead == 0 ? scene.now(stoop) : scene.in(ahead, stoop);
      worths[i] = scene.worth(place, shoulder);
      if (i > 0) continue;
      if (scene.isWhole(place, shoulder, worths[0])) worths[0] = noLimit;
      if (!concession.free()) continue;
      std::fill(worths.begin() + 1, worths.end(), 0.0);
      break;
    }
  }
}

/// The share of the shoulder that keeps the most distance, at a price.
void PullIn::chooseShoulder(const Scene& scene, int looks, double seconds, const PullInSettings& settings) {
  const double shoulder = std::abs(scene.asked.shoulder), scale = scene.asked.scale;
  const bool keeps = scene.asked.aims || scene.asked.keepsShoulder;  // who aims needs to see past the head
  const bool worthIt = settings.shoulderSpeed > 0 && shoulder > leastShoulder * scale &&
                       scene.asked.distance > closestForeseen * scale && !keeps;
  if (keeps) shoulder_.takeBack();
  const double stoop = stoop_.goal(settings.stoop);
  const auto kept = [&](double share) { return std::make_pair(share * scene.asked.shoulder, stoop); };
  worthIt ? judge(shoulder_, scene, looks, settings, kept) : shoulder_.forget();
  shoulder_.choose(settings.shoulderPrice * shoulder, staysPut * scale, seconds);
  shoulder_.move(shoulder, settings.shoulderSpeed * scale, seconds, 1e-6 * scale);
}

/// And how high it orbits, with the shoulder that is left in the end.
void PullIn::chooseStoop(const Scene& scene, int looks, double seconds, const PullInSettings& settings) {
  const double scale = scene.asked.scale, shoulder = std::abs(scene.asked.shoulder);
  if (settings.stoop <= 0 && stoop_.given() <= 0) return;
  const bool worthIt = settings.stoop > 0 && scene.asked.distance > closestForeseen * scale && !scene.asked.aims;
  if (!worthIt) stoop_.takeBack();
  const double left = std::copysign(shoulder - shoulder_.goal(shoulder), scene.asked.shoulder);
  const auto kept = [&](double share) { return std::make_pair(left, (1 - share) * settings.stoop); };
  worthIt ? judge(stoop_, scene, looks, settings, kept) : stoop_.forget();
  stoop_.choose(stoopPrice * settings.stoop * scale, staysPut * scale, seconds);
  stoop_.move(settings.stoop, stoopSpeed, seconds, 1e-6);
}

}  // namespace alpglow
