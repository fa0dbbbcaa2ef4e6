// What is felt, through the program: feel, compare, audit and their limits.

#include "program.hpp"

#include "alpglow/io/input_error.hpp"
#include "alpglow/io/limits_file.hpp"
#include "alpglow/io/trace.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <array>

namespace alpglow {
namespace {

using testing::demo;
using testing::temporaryFile;
using testing::temporaryPath;

const std::string cornerTake = " --level " + demo + "refuge.level.toml --take " + demo + "corner.take";
const std::string cornerFiles = demo + "trail.camera.toml" + cornerTake;

/// What a command says as JSON, without its line of progress.
nlohmann::json jsonOf(const std::string& arguments) {
  return nlohmann::json::parse(testing::alpglow(arguments + " 2>/dev/null").output);
}

TEST(Command, FeelHoldsTracesToLimitsEachOfWhichCanBeBroken) {
  const std::string trace = temporaryPath("held.csv");
  ASSERT_EQ(testing::alpglow("rehearse " + cornerFiles + " --trace " + trace).code, 0);
  const auto held = [&](const std::string& text) {
    return testing::alpglow("feel " + trace + " --limits " + temporaryFile("held.limits.toml", "format = 1\n" + text));
  };
  const nlohmann::json felt = jsonOf("feel --json " + trace)["all"]["feel"];
  for (const io::LimitKey& key : io::limitKeys()) {
    const std::string name = key.key;
    const testing::Ran loose = held(name + " = " + std::to_string(key.atLeast ? 0.0 : key.high));
    const nlohmann::json value = felt[name]["value"];
    EXPECT_EQ(loose.code, value.is_null() ? 1 : 0) << loose.output;
    if (value.is_null()) {
      EXPECT_NE(loose.output.find("not measured"), std::string::npos) << loose.output;
    } else if (value != (key.atLeast ? 1 : 0)) {
      EXPECT_EQ(held(name + " = " + (key.atLeast ? "1" : "0")).code, 1) << name;
    }
  }
  const testing::Ran mine = held("kept = 0\n[verdicts]\nkept = [0.1, 0.05]\n");
  EXPECT_EQ(mine.code, 0);
  const std::string limits =
      " --limits " + temporaryFile("mine.limits.toml", "format = 1\n[verdicts]\nkept = [1, 1]\n");
  EXPECT_NE(
      testing::alpglow("rehearse " + cornerFiles + limits).output.find("  bad         share of the distance that"),
      std::string::npos);
  EXPECT_EQ(testing::alpglow("rehearse " + cornerFiles + " --limits " +
                             temporaryFile("held.limits.toml", "format = 1\nkept = 1\n"))
                .code,
            1);
  EXPECT_NE(held("[verdicts]\nkept = [0.1, 0.5]\n").output.find("begin with what is fine, the larger one"),
            std::string::npos);
  EXPECT_NE(held("[verdicts]\nworst_pop_m = 3\n").output.find("must be two numbers"), std::string::npos);
  EXPECT_NE(held("[verdicts]\nworst_pop = [1, 2]\n").output.find("worst_pop_m"), std::string::npos)
      << "the nearest name";
  const testing::Ran kept = held("kept = 1\nin_speed_mps = 0\nhead_speed_dps = 0\n");
  EXPECT_EQ(kept.code, 1);
  EXPECT_NE(kept.output.find("held.limits.toml: kept is 0."), std::string::npos) << kept.output;
  EXPECT_NE(kept.output.find("but must be at least 1"), std::string::npos) << kept.output;
  EXPECT_NE(kept.output.find("in_speed_mps is "), std::string::npos) << kept.output;
  const testing::Ran said = testing::alpglow("check " + demo + "refuge.limits.toml");
  EXPECT_EQ(said.code, 0);
  EXPECT_NE(said.output.find("kept                   at least 0.6: "), std::string::npos) << said.output;
  EXPECT_EQ(held("kep = 1\n").code, 2);
  EXPECT_EQ(held("").code, 2) << "limits nothing";
  EXPECT_EQ(held("kept = 2\n").code, 2);
}

TEST(Command, FeelAgreesWithAMeasurementOfItsOwnFromTheWords) {
  const std::string script = "python3 " ALPGLOW_SOURCE "/tests/feel/independent.py ";
  const std::string path = temporaryPath("felt.csv");
  const std::array<const char*, 3> games[] = {{"trail", "refuge", "round"},  {"eyes", "refuge", "crouch"},
                                              {"wide", "refuge", "lock"},    {"warden", "refuge", "mind"},
                                              {"warden", "shed", "passage"}, {"trail", "shed", "cart"},
                                              {"wide", "refuge", "cameras"}};
  std::size_t measured = 0;
  for (const auto& [design, level, take] : games) {
    for (const char* fps : {"24", "60", "144"}) {
      ASSERT_EQ(testing::alpglow("rehearse " + demo + design + ".camera.toml --level " + demo + level +
                                 ".level.toml --take " + demo + take + ".take --fps " + fps + " --trace " + path)
                    .code,
                0);
      const nlohmann::json felt = jsonOf("feel --json " + path)["all"]["feel"];
      const nlohmann::json again = nlohmann::json::parse(testing::run(script + path).output);
      for (const auto& [key, value] : felt.items()) {
        const nlohmann::json one = value["value"], other = again.value(key, nlohmann::json());
        ASSERT_EQ(one.is_null(), other.is_null()) << take << ' ' << fps << ' ' << key;
        if (one.is_null()) continue;
        ++measured;
        EXPECT_NEAR(one.get<double>(), other.get<double>(), 1e-6 * std::max(1.0, one.get<double>()))
            << take << ' ' << fps << ' ' << key;
      }
    }
  }
  EXPECT_GT(measured, 400u);
}

TEST(Command, CompareLaysDesignsTracesAndFrameRatesSideBySide) {
  const std::string trace = temporaryPath("one.csv"), picture = temporaryPath("both.png");
  ASSERT_EQ(testing::alpglow("rehearse " + cornerFiles + " --fps 30 --trace " + trace).code, 0);
  const testing::Ran both =
      testing::alpglow("compare " + demo + "wide.camera.toml " + trace + cornerTake + " -o " + picture);
  EXPECT_EQ(both.code, 0) << both.output;
  for (const char* words :
       {"      wide ", "       one ", "worst_pop_m ", "one differs most from wide in distance ", "wrote "})
    EXPECT_NE(both.output.find(words), std::string::npos) << words << both.output;
  EXPECT_EQ(io::readWhole(picture).substr(1, 3), "PNG");
  const auto said = [&](const std::string& of) { return jsonOf("compare --json " + of); };
  const nlohmann::json rates = said(demo + "trail.camera.toml " + trace + cornerTake + " --fps 30,60");
  ASSERT_EQ(rates.size(), 3u);
  EXPECT_EQ(rates[0]["name"], "trail 30 fps");
  EXPECT_EQ(rates[0]["measured"]["feel"], rates[2]["measured"]["feel"]) << "what was rehearsed is what was traced";
  EXPECT_NE(rates[0]["measured"]["feel"], rates[1]["measured"]["feel"]);
  for (const nlohmann::json& each : rates[2]["differs"]) EXPECT_NEAR(each["value"].get<double>(), 0, 1e-9);
  EXPECT_GT(rates[1]["differs"][1]["value"].get<double>(), 0.001);
  const std::string limits = temporaryFile("kept.limits.toml", "format = 1\nkept = 1\n");
  const testing::Ran held = testing::alpglow("compare " + trace + " --limits " + limits);
  EXPECT_EQ(held.code, 1);
  EXPECT_NE(held.output.find("kept.limits.toml: one: kept is 0."), std::string::npos) << held.output;
  EXPECT_EQ(testing::alpglow("compare " + demo + "trail.camera.toml").code, 2) << "no level";
  EXPECT_EQ(testing::alpglow("compare " + trace + " -o both.jpg").code, 2);
}

TEST(Command, CompareVariesANumberAsIfItStoodInTheFile) {
  const std::string design = demo + "trail.camera.toml", picture = temporaryPath("lag.svg");
  const testing::Ran table =
      testing::alpglow("compare " + design + cornerTake + " --vary follow_half_life_s=0:0.3:3 -o " + picture);
  EXPECT_EQ(table.code, 0) << table.output;
  EXPECT_NE(table.output.find("        0       0.15        0.3 "), std::string::npos) << table.output;
  EXPECT_NE(io::readWhole(picture).find("<svg"), std::string::npos);
  const nlohmann::json varied = jsonOf("compare --json " + design + cornerTake + " --vary trail.distance_m=2:4:2");
  std::string text = io::readWhole(design);
  text.replace(text.find("distance_m = 2.9"), 16, "distance_m = 4.0");
  const nlohmann::json written = jsonOf("rehearse --json " + temporaryFile("four.camera.toml", text) + cornerTake);
  EXPECT_EQ(varied[1]["measured"], written);
  EXPECT_NE(varied[0]["measured"], written);
  const auto fails = [&](const std::string& vary, const char* words) {
    const testing::Ran ran = testing::alpglow("compare " + design + cornerTake + " --vary " + vary);
    EXPECT_EQ(ran.code, 2) << vary;
    EXPECT_NE(ran.output.find(words), std::string::npos) << ran.output;
    EXPECT_EQ(std::count(ran.output.begin(), ran.output.end(), '\n'), 1) << ran.output;
  };
  fails("folow_half_life_s=0:1:3", "nearest known one is follow_half_life_s");
  fails("trail.fov_deg=20:400:3", "must be from");
  fails("pull_in.calm=0:1:3", "pull_in.calm_mps");
  for (const char* wrong : {"fov_deg", "fov_deg=", "fov_deg=1:2", "fov_deg=40:60:2.5", "fov_deg=40:60:1",
                            "fov_deg=40:60:3:4", "fov_deg=nan:60:3", "=1:2:3", "fov_deg=50:50:3"})
    fails(wrong, "but must be such as");
  EXPECT_EQ(testing::alpglow("compare " + design + " " + design + cornerTake + " --vary fov_deg=40:60:3").code, 2);
}

TEST(Command, AuditPaintsALevelAndWritesItsWorstPlaces) {
  const std::string files = demo + "trail.camera.toml --level " + demo + "shed.level.toml --step 2 --directions 8";
  const std::string picture = temporaryPath("shed.png"), folder = temporaryPath("worst");
  const testing::Ran ran = testing::alpglow("audit " + files + " -o " + picture + " --takes " + folder);
  EXPECT_EQ(ran.code, 0) << ran.output;
  for (const char* words : {" places 2 m apart, 8 directions, framings trail: ", "  kept  ", "most lost from one pose",
                            "   1  2.90 m -> ", "wrote 10 takes to "})
    EXPECT_NE(ran.output.find(words), std::string::npos) << words << ran.output;
  EXPECT_EQ(io::readWhole(picture).substr(1, 3), "PNG");
  const nlohmann::json said = jsonOf("audit --json " + files);
  ASSERT_EQ(said["worst"].size(), 10u);
  for (int i = 0; i < 10; ++i) {
    const std::string take = folder + "/worst-" + (i < 9 ? "0" : "") + std::to_string(i + 1) + ".take",
                      trace = temporaryPath("w.csv");
    ASSERT_EQ(testing::alpglow("rehearse " + demo + "trail.camera.toml --level " + demo + "shed.level.toml --take " +
                               take + " --trace " + trace)
                  .code,
              0);
    const io::Trace replay = io::readTrace(trace);
    EXPECT_NEAR(replay[175].distance, said["worst"][static_cast<std::size_t>(i)]["before_m"].get<double>(), 0.01)
        << take;
    EXPECT_NEAR(replay.back().distance, said["worst"][static_cast<std::size_t>(i)]["after_m"].get<double>(), 0.01)
        << take;
  }
  const auto held = [&](const std::string& text) {
    return testing::alpglow("audit " + files + " --limits " + temporaryFile("a.limits.toml", "format = 1\n" + text));
  };
  EXPECT_EQ(held("kept = 0.5\n").code, 0);
  EXPECT_EQ(held("kept = 1\n").code, 1);
  EXPECT_EQ(held("worst_pop_m = 0.5\n").code, 1);
  EXPECT_EQ(held("latency_frames = 0\n").code, 1) << "nothing that is limited was measured";
  const testing::Ran shared = held("kept = 0.5\nlatency_frames = 0\n");
  EXPECT_EQ(shared.code, 0) << "a file for everything";
  EXPECT_NE(shared.output.find("not measured, as there is nothing to measure it by: latency_frames"),
            std::string::npos);
  EXPECT_EQ(testing::alpglow("audit " + files + " -o shed.jpg").code, 2);
  EXPECT_EQ(testing::alpglow("audit " + demo + "trail.camera.toml").code, 2);
  EXPECT_NE(testing::alpglow("audit " + files + " --most 20").output.find("there are more places"), std::string::npos);
}

TEST(Command, FeelMeasuresTracesAndListsPops) {
  const std::string blind =
      temporaryFile("blind.camera.toml", io::readWhole(demo + "trail.camera.toml") + "\n[pull_in]\nhorizon_s = 0\n");
  const std::string trace = temporaryPath("corner.csv"), other = temporaryPath("corner-blind.csv");
  ASSERT_EQ(testing::alpglow("rehearse " + cornerFiles + " --trace " + trace).code, 0);
  ASSERT_EQ(testing::alpglow("rehearse " + blind + cornerTake + " --trace " + other).code, 0);
  const auto pops = [](const std::string& of) { return of.find(" m lost, the look turns at 0") != std::string::npos; };
  EXPECT_FALSE(pops(testing::alpglow("feel " + trace + " --pops").output)) << "the walk through the door is foreseen";
  int early = 0, waiting = 0, foreseenBlindly = 0;
  for (const io::TraceFrame& frame : io::readTrace(trace)) {
    EXPECT_EQ(frame.foreseen.empty(), frame.foreseenIn == 0);
    EXPECT_LE(frame.foreseenIn, 0.58);
    early += !frame.foreseen.empty() && frame.obstacle.empty();
    waiting += frame.outIn > 0;
  }
  EXPECT_GT(early, 5) << "known before it is in the way";
  EXPECT_GT(waiting, 5);
  for (const io::TraceFrame& frame : io::readTrace(other)) foreseenBlindly += !frame.foreseen.empty();
  EXPECT_EQ(foreseenBlindly, 0);
  const testing::Ran ran = testing::alpglow("feel " + trace + " " + other + " --pops");
  EXPECT_EQ(ran.code, 0);
  EXPECT_NE(ran.output.find("corner-blind "), std::string::npos) << ran.output;
  EXPECT_NE(ran.output.find("\nall "), std::string::npos);
  EXPECT_TRUE(pops(ran.output));
  EXPECT_EQ(testing::alpglow("feel " + demo + "corner.take").code, 2) << "no trace";
  EXPECT_EQ(testing::alpglow("feel").code, 2);
}

}  // namespace
}  // namespace alpglow
