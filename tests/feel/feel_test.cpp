#include "alpglow/feel/feel.hpp"
#include "alpglow/feel/plot.hpp"

#include "alpglow/base/angles.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

namespace alpglow::feel {
namespace {

/// Frames at 100 fps; `make` says what is different at a time.
io::Trace traceOf(double seconds, const std::function<void(io::TraceFrame&, double)>& make) {
  io::Trace trace;
  for (int i = 0; i < static_cast<int>(100 * seconds + 0.5); ++i) {
    io::TraceFrame frame;
    frame.time = 0.01 * i;
    frame.dt = 0.01;
    frame.head = {0, 1.7, 0};
    frame.camera = {0, 1.7, 3};
    frame.distance = frame.freeDistance = 3;
    make(frame, frame.time);
    trace.push_back(frame);
  }
  return trace;
}

Feel feelOf(const io::Trace& trace) {
  FeelMeter meter;
  meter.add(trace);
  return meter.feel();
}

TEST(Feel, APopIsAFrameThatLosesAQuarterOfAMetreAndKnowsHowFastTheLookTurned) {
  // At rest 0.3 m, in a slow turn (100°/s) 0.26 m, in a flick (400°/s) 1 m; 0.24 m are none.
  const auto trace = traceOf(10, [](io::TraceFrame& frame, double t) {
    frame.distance = 3;
    if (t > 1.005) frame.distance = 2.7;
    if (t > 4.005) frame.distance = 2.44;
    if (t > 7.005) frame.distance = 1.44;
    if (t > 9.005) frame.distance = 1.2;
    frame.yaw = 100 * std::clamp(t - 3.5, 0.0, 1.0) + 400 * std::clamp(t - 6.9, 0.0, 0.3);
    frame.obstacle = "larch";
  });
  const Feel feel = feelOf(trace);
  ASSERT_EQ(feel.pops.size(), 3u);
  EXPECT_EQ(feel.popsAt(LookRate::rest), 1);
  EXPECT_EQ(feel.popsAt(LookRate::slow), 1);
  EXPECT_EQ(feel.popsAt(LookRate::flick), 1);
  EXPECT_NEAR(feel.pops[0].loss, 0.3, 1e-12);
  EXPECT_NEAR(feel.pops[1].lookRate, 100, 1e-6);
  EXPECT_NEAR(feel.pops[2].lookRate, 400, 1e-6);
  EXPECT_EQ(feel.pops[2].obstacle, "larch");
  EXPECT_NEAR(feel.perMinute(3), 18, 1e-9);
  EXPECT_NEAR(feel.inSpeed, 100, 1e-9) << "the fastest of a thousand";
  EXPECT_NEAR(feel.calmInSpeed, 30, 1e-9);
}

TEST(Feel, WhatOneWantsOtherwiseIsNoLoss) {
  const auto zoomed = traceOf(2, [](io::TraceFrame& frame, double t) {
    frame.freeDistance = t < 1 ? 3 : 1;
    frame.distance = std::min(frame.freeDistance, t < 0.5 ? 3.0 : 2.8);
  });
  EXPECT_TRUE(feelOf(zoomed).pops.empty());
  const auto cut = traceOf(2, [](io::TraceFrame& frame, double t) {
    frame.distance = t < 0.995 ? 3 : 1;
    if (std::abs(t - 1) < 1e-9) frame.events = "pull-in-began cut";
  });
  EXPECT_TRUE(feelOf(cut).pops.empty());
  const auto eyes = traceOf(2, [](io::TraceFrame& frame, double t) {
    if (t > 0.995) frame.distance = frame.freeDistance = 0;
  });
  EXPECT_TRUE(feelOf(eyes).pops.empty());
  EXPECT_NEAR(feelOf(eyes).seconds, 1, 1e-9) << "first person does not count";
}

TEST(Feel, KeptAndCloseAreSharesOfTheTime) {
  const auto trace = traceOf(4, [](io::TraceFrame& frame, double t) { frame.distance = t < 0.995 ? 0.8 : 2.4; });
  EXPECT_NEAR(feelOf(trace).kept, (0.8 + 3 * 2.4) / 12, 1e-9);
  EXPECT_NEAR(feelOf(trace).close, 0.25, 1e-9);
  FeelMeter both;
  both.add(trace);
  both.add(traceOf(4, [](io::TraceFrame&, double) {}));
  EXPECT_NEAR(both.feel().close, 0.125, 1e-9);
  EXPECT_NEAR(both.feel().seconds, 8, 1e-9);
}

TEST(Feel, APumpIsInOutAndInAgainWithinOneAndAHalfSeconds) {
  const auto pumps = [](double outFor, double depth) {
    std::vector<double> times, lost;
    for (double t = 0; t < 8; t += 0.01) {
      times.push_back(t);
      lost.push_back(t < 1 ? 0 : t < 2 || (t >= 2 + outFor && t < 6) ? depth : 0.02);
    }
    return pumpsOf(times, lost, pumpDepth);
  };
  EXPECT_EQ(pumps(1.4, 0.5), 1);
  EXPECT_EQ(pumps(1.6, 0.5), 0) << "out for long";
  EXPECT_EQ(pumps(1.4, 0.11), 0) << "out by less than counts";
  EXPECT_EQ(pumps(1.4, 0.13), 1);
}

TEST(Feel, TheHeadMovesInThePictureAsTheCameraGoesAroundIt) {
  const auto aside = traceOf(20, [](io::TraceFrame& frame, double t) { frame.camera.x() = 3 * std::tan(degrees(t)); });
  EXPECT_NEAR(feelOf(aside).headSpeed, 1, 1e-3);
  const auto along = traceOf(20, [](io::TraceFrame& frame, double t) { frame.camera.z() = 3 - 0.1 * t; });
  EXPECT_NEAR(feelOf(along).headSpeed, 0, 1e-9);
}

TEST(Feel, EachLimitIsHeldAtItsValueAndBrokenBesideIt) {
  Feel feel;
  feel.seconds = 30;
  feel.pops = {{1, 0.4, LookRate::rest, 0, ""}, {2, 0.9, LookRate::slow, 0, ""}, {3, 0.3, LookRate::flick, 0, ""}};
  feel.pumps = 4, feel.deepPumps = 1;
  feel.inSpeed = 12, feel.calmInSpeed = 7, feel.headSpeed = 80;
  feel.close = 0.1, feel.kept = 0.8;
  const double values[io::feltCount] = {6, 4, 0.9, 8, 2, 12, 7, 80, 0.1, 0.8};
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    const io::LimitKey& key = io::limitKeys()[i];
    EXPECT_NEAR(valueOf(feel, static_cast<io::Felt>(i)), values[i], 1e-12) << key.key;
    io::Limits limits;
    limits.values[i] = values[i];
    EXPECT_TRUE(broken(feel, limits).empty()) << key.key;
    limits.values[i] = values[i] + (key.atLeast ? 0.01 : -0.01);
    const std::vector<std::string> lines = broken(feel, limits);
    ASSERT_EQ(lines.size(), 1u) << key.key;
    EXPECT_EQ(lines[0].rfind(key.key, 0), 0u) << lines[0];
  }
  EXPECT_TRUE(broken(feel, {}).empty());
}

TEST(Feel, WhoKnowsTheFutureComesInCalmlyAndKeepsWhatThereIsRoomFor) {
  // A wall takes 2 m at once, for a second: 0.5 s before it at 4 m/s, and out again at once.
  const auto trace = traceOf(6, [](io::TraceFrame& frame, double t) {
    frame.clearDistance = t > 2.995 && t < 3.995 ? 1 : 3;
    frame.distance = frame.clearDistance;
    if (t > 4.995 && t < 5.005) frame.events = "pull-in-ended cut";
    if (t > 4.995) frame.distance = frame.clearDistance = 0.5;
  });
  const io::Trace best = withPerfectForesight(trace);
  EXPECT_EQ(best[240].distance, 3);
  EXPECT_NEAR(best[275].distance, 2, 1e-9);
  EXPECT_EQ(best[350].distance, 1);
  EXPECT_EQ(best[420].distance, 3);
  EXPECT_EQ(best[499].distance, 3) << "nothing is foreseen across a cut";
  EXPECT_EQ(feelOf(trace).pops.size(), 1u);
  EXPECT_TRUE(feelOf(best).pops.empty());
  EXPECT_NEAR(feelOf(best).inSpeed, 4, 1e-9);
}

bool holds(const std::string& text, const std::string& what) { return text.find(what) != std::string::npos; }

TEST(Plot, DrawsWhatThereIsCirclesPopsAndGoesOnWhereAnAngleTurnsOver) {
  const io::Trace trace = traceOf(2, [](io::TraceFrame& frame, double t) {
    frame.clearDistance = frame.distance = t > 1.005 ? 2 : 3;
    frame.yaw = t < 0.505 ? 179 : -179;
    frame.fieldOfView = 60;
    frame.framing = t < 1.505 ? "trail" : "it's near";
    if (t > 1.495 && t < 1.505) frame.events = "framing-began pull-in-began";
  });
  const std::string script = plotScript({{"a", &trace}}, {});
  EXPECT_TRUE(holds(script, "title 'wanted'") && holds(script, "title 'possible'") && holds(script, "title 'shown'"));
  EXPECT_TRUE(holds(script, "title '1 pop'")) << script;
  EXPECT_TRUE(holds(script, "\n1.01 2\n")) << "the pop";
  EXPECT_TRUE(holds(script, "0.51 181\n")) << "beyond half a turn";
  EXPECT_FALSE(holds(script, "-179"));
  EXPECT_FALSE(holds(script, "stick")) << "nobody touched one";
  EXPECT_TRUE(holds(script, "'it''s near'"));
  EXPECT_TRUE(holds(script, "set ytics ('framing' 0, 'framing-began' -1, 'pull-in-began' -2)"))
      << script.substr(script.find("set ytics ("), 90);
}

TEST(Plot, LaysTracesOverEachOtherAndShowsAPartOfTheTime) {
  const auto at = [](double distance) {
    return traceOf(2, [distance](io::TraceFrame& frame, double) { frame.distance = distance; });
  };
  const io::Trace far = at(3), near = at(1.5);
  PlotOptions options;
  options.from = 0.5;
  options.to = 0.75;
  options.format = PictureFormat::svg;
  const std::string script = plotScript({{"far", &far}, {"near", &near}}, options);
  EXPECT_TRUE(holds(script, "title 'far: shown'") && holds(script, "title 'near: shown'"));
  EXPECT_TRUE(holds(script, "terminal svg") && holds(script, "set xrange [0.5:0.75]"));
  EXPECT_TRUE(holds(script, "0.5 1.5\n") && holds(script, "0.75 3\n"));
  EXPECT_FALSE(holds(script, "\n0.49 ") || holds(script, "\n0.76 "));
  options.from = 5;
  options.to = 6;
  EXPECT_TRUE(plotScript({{"far", &far}}, options).empty());
}

}  // namespace
}  // namespace alpglow::feel
