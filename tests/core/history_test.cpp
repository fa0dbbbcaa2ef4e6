// What is drawn between ticks, however they come.

#include "alpglow/follow/history.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "support/camera_run.hpp"
#include "support/jitter.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;
using testing::wide;

constexpr double dt = 1.0 / 50;

TEST(History, DrawsStraightBetweenTicksAndGoesOnForAWhile) {
  History history({0.1, 0.05, 1.5});
  for (int tick = 0; tick <= 10; ++tick) {
    const double x = tick * tick * 0.01;
    history.add(tick * dt, wardenAt({x, 0, 0}, degrees(170) + 0.1 * tick, {5, 0, 0}));
  }
  EXPECT_TRUE(history.at(0.08).teleported) << "the first frame";
  const Subject drawn = history.at(4.25 * dt);
  EXPECT_FALSE(drawn.teleported);
  EXPECT_NEAR(drawn.feet.x(), 0.16 + 0.25 * 0.09, 1e-12);
  EXPECT_NEAR(drawn.head.x(), drawn.feet.x(), 1e-12);
  EXPECT_NEAR(drawn.velocity.x(), 0.09 / dt, 1e-9) << "of what is drawn";
  EXPECT_NEAR(shortestTurn(degrees(170) + 0.425, drawn.heading), 0, 1e-12);
  EXPECT_NEAR(history.at(0.2 + 0.06).feet.x(), 1 + 0.06 * 5, 1e-12);
  EXPECT_NEAR(history.at(0.2 + 5).feet.x(), 1 + 0.1 * 5, 1e-12) << "and stands";
  EXPECT_EQ(history.at(0.2 + 5).velocity.x(), 0);
}

TEST(History, SaysOnceThatSomethingJumped) {
  History history;
  for (int tick = 0; tick < 40; ++tick) {
    Subject warden = wardenAt({tick < 20 ? 0.0 : 0.5, 0, 0});
    warden.teleported = tick == 20;
    history.add(tick * dt, warden);
    const Subject drawn = history.at((tick - 1.5) * dt);
    EXPECT_EQ(drawn.teleported, tick == 0 || tick == 22) << tick;
    EXPECT_EQ(drawn.feet.x(), tick < 22 ? 0.0 : 0.5) << "never in between";
  }
}

TEST(History, RidesWithWhatBothTicksStandOn) {
  History history;
  const auto riding = [](double time) {
    Subject warden = wardenAt({0, 0, 0});
    warden.frame.id = 3;
    warden.frame.rotation = Rotation(Eigen::AngleAxisd(0.8 * time, Vector3d::UnitY()));
    warden.frame.origin = Vector3d(2 * time, 0, 1);
    warden.frame.velocity = {2, 0, 0};
    warden.feet = warden.frame.toWorld({3, 0.2, time});
    warden.head = warden.frame.toWorld({3, 1.9, time});
    warden.heading = 0.8 * time + 0.3;
    return warden;
  };
  for (int tick = 0; tick < 12; ++tick) history.add(0.25 * tick, riding(0.25 * tick));
  for (double time = 0.1; time < 2.7; time += 0.03) {
    const Subject drawn = history.at(time), due = riding(time);
    EXPECT_LT((drawn.feet - due.feet).norm(), 1e-12) << "a circle is no polygon to who rides on it";
    EXPECT_LT((drawn.head - due.head).norm(), 1e-12);
    EXPECT_NEAR(drawn.heading, due.heading, 1e-12);
    EXPECT_LT((drawn.frame.origin - due.frame.origin).norm(), 1e-12);
    if (std::fmod(time, 0.25) > 0.249) continue;
    const double moment = 1e-6;
    const Subject next = history.at(time + moment);
    EXPECT_LT((drawn.velocity - (next.feet - drawn.feet) / moment).norm(), 1e-4) << "of what is drawn";
    const Vector3d local = drawn.frame.toLocal(drawn.feet), carried = next.frame.toWorld(local) - drawn.feet;
    EXPECT_LT((drawn.frame.velocity - carried / moment).norm(), 1e-4);
    EXPECT_NEAR(drawn.frame.yawRate, 0.8, 1e-9);
  }
}

TEST(History, WhoGetsOnOrOffGoesThroughTheWorldAndLeapsWithWhatTheyLeave) {
  History history;
  const auto standing = [](int tick, std::uint32_t on, double speed) {
    Subject warden = wardenAt({speed * tick * dt, 0, 0});
    warden.frame.id = on;
    if (on != 0) warden.frame.velocity = {speed, 0, 0}, warden.frame.origin = warden.feet;
    return warden;
  };
  for (int tick = 0; tick < 3; ++tick) history.add(tick * dt, standing(tick, 0, 0));
  for (int tick = 3; tick < 6; ++tick) history.add(tick * dt, standing(tick, 7, 4));
  for (int tick = 6; tick < 9; ++tick) history.add(tick * dt, standing(tick, 8, 4));
  for (int tick = 9; tick < 12; ++tick) history.add(tick * dt, standing(tick, 0, 4));
  const auto on = [&](double tick) { return history.at(tick * dt).frame.id; };
  EXPECT_EQ(on(2.5), 0u);
  EXPECT_EQ(on(3.5), 7u);
  const Subject leaps = history.at(5.5 * dt);
  EXPECT_EQ(leaps.frame.id, 7u);
  EXPECT_NEAR(leaps.frame.origin.x(), leaps.feet.x(), 1e-12) << "it goes on meanwhile";
  EXPECT_EQ(on(6), 8u);
  EXPECT_EQ(on(8.5), 0u);
  EXPECT_EQ(on(9), 0u);
}

TEST(History, APieceIsOnTheGroundAsAtItsStartAndAClockThatIsSetBackCutsNothing) {
  History history;
  for (int tick = 0; tick < 20; ++tick) {
    Subject warden = wardenAt({0.1 * tick, tick > 4 && tick < 8 ? 0.1 : 0.0, 0});
    warden.onGround = !(tick > 4 && tick < 8);
    history.add(tick * dt, warden);
  }
  EXPECT_TRUE(history.at(4 * dt).onGround);
  for (int tick = 4; tick < 8; ++tick) {
    const Subject drawn = history.at(tick * dt - 1e-15);
    EXPECT_EQ(drawn.onGround, tick == 4) << "rounding before a tick is the tick";
    EXPECT_NEAR(drawn.velocity.y() * dt, tick == 4 ? 0.1 : tick == 7 ? -0.1 : 0, 1e-9);
  }
  history.at(4 * dt);
  EXPECT_TRUE(history.at(4.9999 * dt).onGround);
  EXPECT_FALSE(history.at(5 * dt).onGround);
  EXPECT_FALSE(history.at(7.0001 * dt).onGround);
  EXPECT_TRUE(history.at(8 * dt).onGround);
  const Subject back = history.at(7.7 * dt);
  EXPECT_FALSE(back.teleported);
  EXPECT_NEAR(back.feet.x(), 0.77, 1e-12);
  EXPECT_TRUE(history.at(1 * dt).teleported) << "as in a replay";
}

TEST(History, RefusesBadNumbersAndKeepsWhatWasDrawn) {
  History history;
  EXPECT_EQ(history.at(1).feet, Vector3d::Zero());
  history.add(0, wardenAt({1, 0, 0}));
  const double nan = std::nan("");
  EXPECT_FALSE(history.add(nan, wardenAt({2, 0, 0})));
  EXPECT_FALSE(history.add(1, wardenAt({nan, 0, 0})));
  Subject squashed = wardenAt({0, 0, 0});
  squashed.frame.scale = 0;
  EXPECT_FALSE(history.add(1, squashed));
  EXPECT_EQ(history.at(0.5).feet.x(), 1);
  EXPECT_EQ(history.at(nan).feet.x(), 1);
  EXPECT_EQ(history.at(std::numeric_limits<double>::infinity()).feet.x(), 1);
  EXPECT_EQ(history.ticks(), 1u);
  for (int tick = 1; tick <= 40; ++tick) history.add(tick, wardenAt({0, 0, 0}));
  EXPECT_FALSE(history.add(3, wardenAt({9, 0, 0}))) << "so old that nobody sees it any more";
  EXPECT_TRUE(history.add(39.5, wardenAt({9, 0, 0})));
}

/// Where somebody is who walks in curves, at most 4 m/s.
Subject wanderer(double time) {
  const Vector3d feet(3 * std::sin(time), 0, 2 * std::sin(1.3 * time));
  return wardenAt(feet, time, {3 * std::cos(time), 0, 2.6 * std::cos(1.3 * time)});
}

TEST(History, NeverJumpsHoweverTicksCome) {
  int late = 0;
  for (unsigned seed = 0; seed < 300; ++seed) {
    testing::Random random(seed);
    History history;
    // Each tick arrives some time after it was; some never do, some twice; the rate changes in between.
    struct Arrival {
      double at, time;
    };
    std::vector<Arrival> arrivals;
    double length = 1 / random.between(20, 120);
    const double lateness = random.between(0, 0.08), lost = random.between(0, 0.3);
    for (double time = 0; time < 4; time += length) {
      if (random.chance(0.01)) length = 1 / random.between(20, 120);
      const int copies = random.chance(lost) ? 0 : random.chance(0.1) ? 2 : 1;
      for (int i = 0; i < copies; ++i) arrivals.push_back({time + random.between(0, lateness), time});
    }
    arrivals.push_back({0, 0});
    std::sort(arrivals.begin(), arrivals.end(), [](const Arrival& a, const Arrival& b) { return a.at < b.at; });
    std::size_t next = 0;
    Subject last;
    double behind = random.between(0, 0.06), off = 0;
    for (double now = 0; now < 3.9;) {
      const double frame = random.chance(0.03) ? random.between(0, 0.15) : random.between(0.002, 0.02);
      now += frame;
      for (; next < arrivals.size() && arrivals[next].at <= now; ++next)
        EXPECT_TRUE(history.add(arrivals[next].time, wanderer(arrivals[next].time)));
      const Subject drawn = history.at(now - behind);
      if (!drawn.teleported) {
        const double gives = std::max(off, history.correction()) * (std::exp2(frame / 0.05) - 1);
        ASSERT_LE((drawn.feet - last.feet).norm(), 4.01 * frame + gives + 1e-9) << "seed " << seed << ", " << now;
        ASSERT_LT((drawn.feet - wanderer(now - behind).feet).norm(), 1.2) << "seed " << seed;
      }
      late += history.correction() > 0.01;
      off = history.correction();
      last = drawn;
    }
  }
  EXPECT_GT(late, 1000);
}

TEST(History, ACorrectionDiesAwayInFirstPersonTooAndALargeOneCuts) {
  for (const double wrong : {0.6, 1.4, 2.5}) {
    History history;
    CameraDesign plain;
    plain.framings[0].perspective = Perspective::first;
    plain.framings[0].framing.distance = plain.framings[0].framing.distanceRange.nearest = 0;
    plain.framings[0].framing.distanceRange.farthest = 0;
    plain.framings[0].framing.shoulder = 0;
    plain.framings[0].framing.follow.halfLife = 0;
    const CompiledDesign design(plain);
    CharacterCamera camera(design, wardenAt({0, 0, 0}));
    const NoObstacles open;
    double last = 0, fastest = 0;
    bool cut = false;
    for (int tick = 0; tick < 100; ++tick) {
      // The network says of tick 40, at tick 45, that somebody stood in the way; and so it was from then on.
      if (tick == 45) {
        for (int k = 40; k < 45; ++k) history.add(k * dt, wardenAt({0.06 * k - wrong, 0, 0}, 0, {3, 0, 0}));
      }
      history.add(tick * dt, wardenAt({0.06 * tick - (tick >= 45 ? wrong : 0), 0, 0}, 0, {3, 0, 0}));
      for (double share : {0.0, 0.35, 0.7}) {
        const View view = camera.step(dt / 3, {}, history.at((tick - 1 + share) * dt), open, wide);
        if (tick > 2) fastest = std::max(fastest, std::abs(view.position.x() - last));
        cut = cut || (tick > 2 && view.cut);
        last = view.position.x();
      }
    }
    EXPECT_NEAR(last, 0.06 * 98.7 - wrong, 1e-6);
    EXPECT_EQ(cut, wrong > 1.5) << wrong;
    if (cut) continue;
    EXPECT_LT(fastest, 0.021 + wrong * 0.1) << "of " << wrong << " m, no more than a tenth in a frame";
  }
}

TEST(History, LetsNothingJitterOnTheScreen) {
  for (const bool circles : {false, true}) {
    for (const double ticks : {30.0, 60.0, 120.0}) {
      for (const double display : {60.0, 75.0, 144.0, 240.0})
        EXPECT_LT(testing::jitterOf({circles, ticks, display, false}), 0.1) << circles << ticks << display;
      EXPECT_LT(testing::jitterOf({circles, ticks, 144, true}), 0.1) << circles << ticks;
    }
    EXPECT_GT(testing::jitterOf({circles, 60, 144, false, true}), 0.5) << "without it";
  }
}

ReferenceFrame carousel(double time, bool other = false) {
  ReferenceFrame frame;
  frame.id = 5;
  frame.origin = {4 * time, 1, 0};
  frame.rotation = Rotation(Eigen::AngleAxisd(1.2 * time, Vector3d::UnitY()));
  if (other) frame.rotation.coeffs() *= -1;
  frame.velocity = {4, 0, 0};
  frame.yawRate = 1.2;
  return frame;
}

TEST(PlatformHistory, DrawsAPlatformWithItsRotationSpeedAndYawRate) {
  PlatformHistory history;
  for (int tick = 0; tick < 200; ++tick) {
    EXPECT_TRUE(history.add(tick * dt, carousel(tick * dt, tick % 3 == 0)));
    for (const double before : {1.7, 1.2, 0.6, -2.0}) {  // between the ticks and beyond the last one
      if (tick < 3) continue;
      const double time = (tick - before) * dt;
      const ReferenceFrame drawn = history.at(time), exact = carousel(time);
      ASSERT_EQ(history.cut(), tick == 3 && before == 1.7);
      ASSERT_LT((drawn.origin - exact.origin).norm(), 1e-9);
      ASSERT_LT(drawn.rotation.angularDistance(exact.rotation), 1e-9) << tick;
      ASSERT_LT((drawn.velocity - exact.velocity).norm(), 1e-9);
      ASSERT_NEAR(drawn.yawRate, 1.2, 1e-9);
    }
  }
  const ReferenceFrame stands = history.at(199 * dt + 1);
  EXPECT_EQ(stands.velocity.norm(), 0);
  EXPECT_EQ(stands.yawRate, 0);
}

TEST(PlatformHistory, NeverJumpsUnlessItSaysSo) {
  testing::Random random(11);
  PlatformHistory history;
  ReferenceFrame last;
  int cuts = 0;
  for (int frame = 1; frame < 20000; ++frame) {
    const double now = frame * 0.002;
    if (frame % 10 == 0) {
      const double told = now - random.whole(0, 3) * dt;
      ReferenceFrame tick = carousel(told, random.chance(0.5));
      tick.origin += random.point(0.1);
      tick.rotation = Rotation(Eigen::AngleAxisd(random.between(-0.2, 0.2), Vector3d::UnitY())) * tick.rotation;
      history.add(told, tick, random.chance(0.005));
    }
    const ReferenceFrame drawn = history.at(now - dt);
    if (frame > 20 && !history.cut()) {
      ASSERT_LT((drawn.origin - last.origin).norm(), 0.09) << frame;
      ASSERT_LT(drawn.rotation.angularDistance(last.rotation), 0.12) << frame;
    }
    cuts += history.cut();
    last = drawn;
  }
  EXPECT_GT(cuts, 3);
}

TEST(PlatformHistory, IsNeverFasterThanAnythingMayBe) {
  PlatformHistory history;
  ReferenceFrame far = carousel(0);
  far.origin = {1e9, 0, 0};
  history.add(0, carousel(0));
  history.add(1e-7, far);
  EXPECT_TRUE(history.at(5e-8).legal());
}

}  // namespace
}  // namespace alpglow
