// Random games with random designs come to what they came to before: every number of every view counts.

#include "alpglow/camera/flying_camera.hpp"
#include "alpglow/camera/inspection.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "alpglow/view/hand_aim.hpp"
#include "alpglow/view/view_transition.hpp"
#include "fuzz/random_play.hpp"
#include "recorded/record.hpp"

namespace alpglow::testing {
namespace {

const std::vector<std::string> games = {"place", "turn", "rates", "lens", "distance", "framing",
                                        "aim",   "hand", "body",  "lock", "flags",    "velocity"};

void addView(const View& v, Record& record) {
  const auto id = [](std::uint32_t number) { return number >= 0xfffffffe ? -1.0 : number; };
  const auto bits = [](std::uint32_t flags) { return static_cast<double>(flags); };
  record.add(0, {v.position.x(), v.position.y(), v.position.z(), v.head.y(), v.pivot.x(), v.pivot.y(), v.pivot.z()});
  record.add(1, {v.yaw, v.pitch, v.roll, v.heading, v.fromBody, v.glanceYaw, v.glancePitch, v.level.x(), v.level.w(),
                 v.rotation()(0, 1), v.forward().y()});
  record.add(2, {v.yawRate, v.pitchRate, v.swungBack, v.holdoff});
  record.add(3, {v.fieldOfView, v.aspect, v.nearPlane, v.farPlane, v.lookScale});
  record.add(4, {v.distance, v.freeDistance, id(v.obstacle), bits(v.pulledIn), id(v.foreseen), v.foreseenIn,
                 v.shoulderGivenUp, v.outIn});
  record.add(5, {bits(static_cast<unsigned>(v.framing)), bits(static_cast<unsigned>(v.framingFrom)), v.framingBlend,
                 v.firstPerson, v.opacity});
  record.add(6, {id(v.aimObstacle), v.aimDistance, bits(v.aimKept), v.aimError, v.aimPoint.x(), v.aimPoint.y()});
  record.add(7, {v.steadyYaw, v.steadyPitch, v.swayYaw, v.swayPitch, v.pushYaw, v.pushPitch});
  record.add(8, {v.bobRight, v.bobUp, v.rest, v.restAside});
  record.add(9, {id(v.lock), v.lockError, v.flick.x, v.flick.y});
  record.add(10, {bits(v.cut), bits(v.interpolable), bits(v.events), bits(v.faults), bits(v.blocked)});
  record.add(11, {v.velocity.x(), v.velocity.y(), v.velocity.z()});
}

TEST(Recorded, Games) {
  compareWithRecord(ALPGLOW_RECORDS "/games.txt", games, 240, [](unsigned seed, Record& record) {
    RandomPlay play(seed, seed % 4 == 3 ? Style::reborn : Style::ordinary, seed % 8 == 0);
    play.watch = [&](const View& view) { addView(view, record); };
    EXPECT_EQ(play.play(250), "") << "seed " << seed;
  });
}

/// The cameras without a character, from one to another and back, and a hand that aims.
TEST(Recorded, FreeCameras) {
  compareWithRecord(ALPGLOW_RECORDS "/free_cameras.txt", games, 60, [](unsigned seed, Record& record) {
    Random random(seed);
    FlightSettings flight;
    randomize(flight, random);
    randomize(flight.look, random);
    InspectionSettings inspected;
    randomize(inspected.look, random);
    randomize(inspected.zoom, random);
    const Eigen::Vector3d start = random.point(5);
    FlyingCamera flying(flight, start, {random.between(-3, 3), random.between(-1, 1)});
    Inspection inspection(inspected, random.chance(0.5) ? InspectionTurns::camera : InspectionTurns::thing);
    StandingSettings stand;
    stand.stand = {random.point(3), random.chance(0.5) ? PointAxes::world : PointAxes::thing};
    stand.look = {random.point(3), random.chance(0.5) ? PointAxes::world : PointAxes::thing};
    stand.pan = random.between(-0.4, 0.4), stand.tilt = random.between(-0.4, 0.4), stand.roll = random.between(-1, 1);
    StandingCamera standing(stand);
    ViewTransition change;
    ReferenceFrame thing;
    const Balls balls(random, 20, 0);
    std::vector<View> views(3);
    std::size_t live = 0;
    for (int frame = 0; frame < 200; ++frame) {
      const double dt = random.chance(0.05) ? 0 : random.between(1e-3, 0.05);
      std::vector<IntentSample> samples;
      for (int i = random.whole(0, 3); i > 0; --i) {
        const double time = random.between(0, dt);
        const Displacement moved{random.between(-60, 60), random.between(-40, 40)};
        switch (random.whole(0, 4)) {
          case 0: samples.push_back(IntentSample::zoom(time, random.whole(-2, 2))); break;
          case 1: samples.push_back(IntentSample::zoomRate(time, random.between(-1, 1))); break;
          case 2: samples.push_back(IntentSample::turn(time, {moved.x / 60, moved.y / 60})); break;
          default: samples.push_back(IntentSample::look(time, moved));
        }
      }
      Intent intent{samples};
      if (random.chance(0.1)) intent.turn = {random.between(-1, 1), random.between(-1, 1)};
      const Rate move{random.between(-1, 1), random.between(-1, 1)};
      const double rise = random.between(-1, 1);
      flying.step(dt, intent, move, rise, random.chance(0.3));
      inspection.step(dt, intent);
      thing.origin += dt * random.point(4);
      thing.rotation = (Rotation(Eigen::AngleAxisd(dt, Eigen::Vector3d::UnitY())) * thing.rotation).normalized();
      if (random.chance(0.02)) flying.store();
      if (random.chance(0.02)) flying.reset();
      if (random.chance(0.02)) standing.trim(random.between(-0.3, 0.3), 0.1);
      const double aspect = random.chance(0.05) ? random.between(0.5, 3) : wide;
      const ReferenceFrame* on = random.chance(0.8) ? &thing : nullptr;
      const ReferenceFrame* at = random.chance(0.3) ? &thing : nullptr;
      const Balls* near = random.chance(0.8) ? &balls : nullptr;
      views = {flying.view(aspect), inspection.view(thing.origin, aspect), standing.view(on, at, aspect, near)};
      views[1].head = inspection.thing().vec(), views[1].velocity = thing.origin;
      views[0].velocity = flying.velocity();
      for (const View& view : views) addView(view, record);
      if (random.chance(0.05)) {
        live = (live + 1) % 3;
        const double seconds = random.between(0, 1);
        if (random.chance(0.5))
          change.begin(views[live == 0 ? 2 : live - 1], seconds);
        else
          change.begin(seconds);
      }
      const View shown = change.step(dt, views[live], random.chance(0.9) ? &balls : nullptr);
      addView(shown, record);
      const HandAim hand = handAim(shown, shown.position + random.point(0.5), balls);
      record.add(6, {hand.direction.x(), hand.difference, hand.point.y(), static_cast<double>(hand.obstructed)});
      record.add(5, {change.progress(), static_cast<double>(change.done())});
    }
  });
}

}  // namespace
}  // namespace alpglow::testing
