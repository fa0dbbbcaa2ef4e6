#include "alpglow/feel/feel.hpp"
#include "alpglow/feel/plot.hpp"
#include "alpglow/feel/telling.hpp"

#include "alpglow/base/angles.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

namespace alpglow::feel {
namespace {

using Eigen::Vector3d;
using io::Felt;

/// Frames at 100 fps; `make` says what is different at a time.
io::Trace traceOf(double seconds, const std::function<void(io::TraceFrame&, double)>& make) {
  io::Trace trace;
  for (int i = 0; i < static_cast<int>(100 * seconds + 0.5); ++i) {
    io::TraceFrame frame;
    frame.time = 0.01 * i;
    frame.dt = 0.01;
    frame.head = {0, 1.7, 0};
    frame.camera = frame.free = {0, 1.7, 3};
    frame.headX = frame.headY = 0;
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
  EXPECT_NEAR(feel.of(Felt::inSpeed), 100, 1e-9) << "the fastest of a thousand";
  EXPECT_NEAR(feel.of(Felt::calmInSpeed), 30, 1e-9);
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
  EXPECT_NEAR(feelOf(trace).of(Felt::kept), (0.8 + 3 * 2.4) / 12, 1e-9);
  EXPECT_NEAR(feelOf(trace).of(Felt::close), 0.25, 1e-9);
  FeelMeter both;
  both.add(trace);
  both.add(traceOf(4, [](io::TraceFrame&, double) {}));
  EXPECT_NEAR(both.feel().of(Felt::close), 0.125, 1e-9);
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

TEST(Feel, TheHeadMovesInThePictureWhereObstaclesPushTheCameraAround) {
  const auto speed = [](const std::function<void(io::TraceFrame&, double)>& make) {
    return feelOf(traceOf(20, make)).of(Felt::headSpeed);
  };
  const auto around = [](double t) { return Vector3d(3 * std::tan(degrees(t)), 1.7, 3); };
  EXPECT_NEAR(speed([&](io::TraceFrame& frame, double t) { frame.camera = around(t); }), 1, 1e-3);
  EXPECT_NEAR(speed([](io::TraceFrame& frame, double t) { frame.camera.z() = 3 - 0.1 * t; }), 0, 1e-9);
  EXPECT_NEAR(speed([&](io::TraceFrame& frame, double t) { frame.camera = frame.free = around(t); }), 0, 1e-9)
      << "it is meant to";
  EXPECT_TRUE(std::isnan(speed([&](io::TraceFrame& frame, double t) {
    frame.camera = around(t);
    frame.opacity = 0;
  }))) << "who is not drawn is nowhere";
  EXPECT_TRUE(std::isnan(speed([&](io::TraceFrame& frame, double t) {
    frame.camera = around(t);
    frame.headX = 1.1;
  }))) << "nor who is outside";
  EXPECT_TRUE(std::isnan(speed([&](io::TraceFrame& frame, double t) {
    frame.camera = around(t);
    frame.free.setConstant(std::nan(""));
  }))) << "what a trace does not say is not guessed";
}

TEST(Feel, EachLimitIsHeldAtItsValueAndBrokenBesideIt) {
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    const io::LimitKey& key = io::limitKeys()[i];
    Feel feel;
    io::Limits limits;
    EXPECT_TRUE(broken(feel, limits).empty());
    limits.values[i] = 0.5;
    EXPECT_EQ(unmeasured(feel, limits), std::vector<std::string>{key.key});
    EXPECT_TRUE(broken(feel, limits).empty());
    feel.values[i] = 0.5;
    EXPECT_TRUE(broken(feel, limits).empty() && unmeasured(feel, limits).empty()) << key.key;
    feel.values[i] = key.atLeast ? 0.49 : 0.51;
    const std::vector<std::string> lines = broken(feel, limits);
    ASSERT_EQ(lines.size(), 1u) << key.key;
    EXPECT_EQ(lines[0].rfind(key.key, 0), 0u) << lines[0];
    const auto verdict = [&](double value) { return verdictOf(value, static_cast<Felt>(i), limits); };
    const double beside = key.atLeast ? -1e-6 : 1e-6;
    EXPECT_EQ(verdict(key.verdicts.fine), Verdict::fine) << key.key;
    EXPECT_EQ(verdict(key.verdicts.fine + beside), Verdict::noticeable) << key.key;
    EXPECT_EQ(verdict(key.verdicts.bad + beside), Verdict::bad) << key.key;
    EXPECT_EQ(verdict(std::nan("")), Verdict::unmeasured);
  }
}

TEST(Feel, APopIsTheSameAtAnyFrameRate) {
  // 0.6 m within 5 ms; 0.5 m at 14 m/s, which is none; 1.2 m at 20 m/s, which are one after the other.
  for (const int rate : {30, 60, 144, 240, 1000}) {
    io::Trace trace;
    for (int i = 0; i < 4 * rate; ++i) {
      io::TraceFrame frame;
      frame.dt = 1.0 / rate;
      frame.time = (i + 1) * frame.dt;
      frame.head = {0, 1.7, 0}, frame.camera = {0, 1.7, 3};
      frame.freeDistance = 6;
      const auto ramp = [&](double from, double speed, double metres) {
        return std::clamp(speed * (frame.time - from), 0.0, metres);
      };
      frame.distance = 6 - ramp(1, 120, 0.6) - ramp(2, 14, 0.5) - ramp(3, 20, 1.2);
      trace.push_back(frame);
    }
    const Feel feel = feelOf(trace);
    ASSERT_GE(feel.pops.size(), rate < 60 ? 2u : 4u) << rate;
    EXPECT_LE(feel.pops.size(), 5u) << rate;
    EXPECT_NEAR(feel.pops[0].loss, rate < 60 ? 0.6 * rate / 60 : 0.6, 0.01) << rate;
    EXPECT_NEAR(feel.pops[0].time, 1, 0.05);
    for (std::size_t k = 1; k < feel.pops.size(); ++k) EXPECT_NEAR(feel.pops[k].loss, 20.0 / 60, 0.08) << rate;
    EXPECT_GT(feel.pops[1].time, 2.9);
  }
}

TEST(Feel, LatencyIsTheFramesFromTheHandToTheAnswer) {
  for (const int late : {0, 1, 3}) {
    const auto trace = traceOf(3, [late](io::TraceFrame& frame, double t) {
      if (t > 0.995 && t < 1.495) frame.lookX = 5, frame.device = "pad";
      frame.yaw = std::clamp(-20 * (t - 0.995 - 0.01 * late), -10.0, 0.0);
      if (t > 1.995) frame.moveY = 1;
      frame.camera.z() = 3 - std::max(1.6 * (t - 1.995 - 0.02 * late), 0.0);
    });
    EXPECT_EQ(feelOf(trace).of(Felt::latency), late);
    EXPECT_EQ(feelOf(trace).of(Felt::walkLatency), 2 * late);
  }
  EXPECT_TRUE(std::isnan(feelOf(traceOf(3, [](io::TraceFrame&, double) {})).of(Felt::latency))) << "nobody looks";
}

TEST(Feel, LagsSettleWhereTheyAreWithinATenthOfADegreeOrACentimetre) {
  // A look that decays with a half-life of 0.1 s from 8°: within 0.1° after log2(80) half-lives.
  const auto look = traceOf(3, [](io::TraceFrame& frame, double t) {
    frame.lookX = t < 0.995 ? 1 : 0;
    frame.yaw = t < 0.995 ? -10 * t : -18 + 8 * std::exp2(-(t - 0.99) / 0.1);
  });
  EXPECT_NEAR(feelOf(look).of(Felt::lookSettle), std::log2(80) * 0.1, 0.015);
  // A pivot that arrives 0.3 s late, and one that goes 0.08 m beyond.
  const auto follow = [](double beyond) {
    return traceOf(4, [beyond](io::TraceFrame& frame, double t) {
      frame.speed = t < 0.995 ? 1.6 : 0;
      const double late = std::clamp((t - 1) / 0.3, 0.0, 1.0);
      frame.pivot.z() = t < 0.995 ? -0.4 - 1.6 * (1 - t) : -0.4 * (1 - late) + beyond * std::sin(late * pi);
    });
  };
  EXPECT_NEAR(feelOf(follow(0)).of(Felt::followSettle), 0.29, 0.011);
  EXPECT_EQ(feelOf(follow(0)).of(Felt::followOvershoot), 0);
  EXPECT_NEAR(feelOf(follow(0.3)).of(Felt::followOvershoot), 0.3 * std::sin(0.55 * pi) - 0.4 * 0.45, 0.02);
}

TEST(Feel, AChangeOfFramingSettlesAndOvershoots) {
  // A step of −1 m within 0.4 s that goes 5 % beyond; a lens that goes straight.
  const auto trace = traceOf(4, [](io::TraceFrame& frame, double t) {
    if (std::abs(t - 1) < 1e-9) frame.events = "framing-changed";
    const double s = std::clamp((t - 0.99) / 0.4, 0.0, 1.0);
    frame.freeDistance = 3 - s - (s < 1 ? 0.3 * s * std::sin(pi * s) : 0);
    frame.distance = frame.freeDistance;
    frame.fieldOfView = 60 - 20 * std::min(2 * s, 1.0);
  });
  double most = 0, last = 0;
  for (double s = 0; s < 1; s += 1e-3) {
    const double beyond = s + 0.3 * s * std::sin(pi * s) - 1;
    most = std::max(most, beyond);
    if (std::abs(beyond) > 0.01) last = s;
  }
  EXPECT_NEAR(feelOf(trace).of(Felt::changeSettle), 0.4 * last, 0.011);
  EXPECT_NEAR(feelOf(trace).of(Felt::changeOvershoot), most, 2e-3);
  EXPECT_TRUE(std::isnan(feelOf(traceOf(2, [](io::TraceFrame&, double) {})).of(Felt::changeSettle)));
}

TEST(Feel, WhatTurnsUnaskedIsMeasuredAndTheHandIsNot) {
  const auto trace = traceOf(4, [](io::TraceFrame& frame, double t) {
    const double since = std::max(t - 1.005, 0.0);
    frame.yaw = 0.5 * 90 * since * since;
  });
  EXPECT_NEAR(feelOf(trace).of(Felt::unaskedTurn), 90, 1);
  const auto hand = traceOf(4, [](io::TraceFrame& frame, double t) {
    frame.lookX = 1;
    frame.yaw = 30 * std::sin(40 * t);
  });
  EXPECT_TRUE(std::isnan(feelOf(hand).of(Felt::unaskedTurn)) || feelOf(hand).of(Felt::unaskedTurn) == 0);
}

TEST(Feel, JitterIsNoiseAndNoMotion) {
  unsigned state = 1;
  const auto noise = [&state] {
    return static_cast<double>((state = state * 1664525u + 1013904223u) >> 8) / (1 << 24) - 0.5;
  };
  double squares = 0;
  const auto restless = traceOf(30, [&](io::TraceFrame& frame, double t) {
    const double x = noise() * 2 / 540 / 1.5, y = noise() * 2 / 540;
    squares += (x * 540 * 1.5) * (x * 540 * 1.5) + (y * 540) * (y * 540);
    frame.aspect = 1.5;
    frame.speed = 1.6;
    frame.headX = 0.2 * std::sin(2 * t) + x, frame.headY = -0.1 + 0.1 * t / 30 + y;
  });
  EXPECT_NEAR(feelOf(restless).of(Felt::jitter), std::sqrt(squares / 3000), 0.06);
  const auto smooth = traceOf(30, [&](io::TraceFrame& frame, double t) {
    frame.aspect = 1.5;
    frame.speed = 1.6;
    frame.headX = 0.2 * std::sin(2 * t), frame.headY = 0;
  });
  EXPECT_LT(feelOf(smooth).of(Felt::jitter), 1e-3);
}

TEST(Feel, ThePictureHoldsTheSubjectAndTheHorizonRests) {
  const auto trace = traceOf(10, [](io::TraceFrame& frame, double t) {
    frame.visible = t < 4.995 ? 1 : 0.4;
    frame.headX = t < 7.495 ? 0.2 : 1.4, frame.headY = -0.1;
    frame.roll = 0.5 * 6 * std::max(t - 9, 0.0) * std::max(t - 9, 0.0);
    frame.camera.z() = 3 - 0.5 * 2 * t * t;
  });
  const Feel feel = feelOf(trace);
  EXPECT_NEAR(feel.of(Felt::visible), 0.7, 1e-9);
  EXPECT_NEAR(feel.of(Felt::outOfPicture), 0.25, 1e-9);
  EXPECT_NEAR(feel.headInPicture.x(), 0.2, 1e-9);
  EXPECT_NEAR(feel.headInPicture.y(), -0.1, 1e-9);
  EXPECT_NEAR(feel.of(Felt::horizonSpeed), 6, 0.1);
  EXPECT_NEAR(feel.of(Felt::viewAcceleration), 2, 1e-6);
}

TEST(Feel, WhatIsPulledInAndHowFastItGoesOutAgain) {
  const auto trace =
      traceOf(10, [](io::TraceFrame& frame, double t) { frame.distance = std::clamp(1 + 2.5 * (t - 4), 1.0, 3.0); });
  EXPECT_NEAR(feelOf(trace).of(Felt::pulledIn), 0.48, 0.01);
  EXPECT_NEAR(feelOf(trace).of(Felt::outSpeed), 2.5, 1e-6);
  EXPECT_EQ(feelOf(trace).of(Felt::worstPop), 0);
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
  EXPECT_NEAR(feelOf(best).of(Felt::inSpeed), 4, 1e-9);
}

TEST(Telling, MomentsArePopsChangesHalfWayAndWhereTheCameraIsClosest) {
  const auto trace = traceOf(10, [](io::TraceFrame& frame, double t) {
    const auto at = [t](double time) { return std::abs(t - time) < 1e-9; };
    frame.events = at(0) ? "cut" : at(2) ? "framing-changed" : at(8) ? "shoulder-swapped" : "";
    frame.framingBlend = std::clamp((t - 2) / 0.5, 0.0, 1.0);
    frame.distance = t > 3.995 && t < 6.995 ? 1.5 : 3;
    if (at(7)) frame.distance = 1.2;
    frame.visible = at(9) ? 0.1 : 1;
  });
  const std::vector<double> all = tellingMoments(trace, 10);
  ASSERT_EQ(all.size(), 5u);
  const double expected[] = {4, 7, 2.25, 9, 8};  // the pop, the closest, half of the change, hidden, the other shoulder
  for (std::size_t i = 0; i < all.size(); ++i) EXPECT_NEAR(all[i], expected[i], 1e-9) << i;
  EXPECT_EQ(tellingMoments(trace, 2).size(), 2u);
  EXPECT_EQ(tellingMoments(trace, 10, 1.2).size(), 4u) << "no two within 1.2 s";
  EXPECT_TRUE(tellingMoments(traceOf(3, [](io::TraceFrame&, double) {}), 10).empty());
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
