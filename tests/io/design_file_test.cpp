#include "alpglow/io/design_file.hpp"

#include "alpglow/design/settings.hpp"
#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

namespace alpglow::io {
namespace {

using testing::temporaryFile;

CameraDesign parsed(const std::string& content) { return readDesign(temporaryFile("a.camera.toml", content)); }

void expectRefused(const std::string& content, std::initializer_list<const char*> words) {
  testing::expectError([&] { parsed(content); }, words);
}

TEST(DesignFile, KeysThatAreLeftOutTakeTheirDefaults) {
  EXPECT_EQ(CompiledDesign(parsed("format = 1\n")).digest(), CompiledDesign(CameraDesign()).digest());
}

TEST(DesignFile, AConditionIsNotInheritedAndNumbersAre) {
  const CameraDesign design = parsed(
      "format = 1\n[[framing]]\nname = \"a\"\n[[framing]]\nname = \"b\"\nwhen = \"aiming\"\nshoulder_m = 0.7\n"
      "[[framing]]\nname = \"c\"\nbase = \"b\"\nperspective = \"first\"\n");
  EXPECT_EQ(design.framings[2].when, "");
  EXPECT_EQ(design.framings[2].framing.shoulder, 0.7);
  EXPECT_EQ(design.framings[1].framing.distance, Framing().distance);
}

TEST(DesignFile, AConditionJoinsNames) {
  const std::string start = "format = 1\n[[framing]]\n[[framing]]\nname = \"b\"\n";
  EXPECT_EQ(parsed(start + "when = \"aiming and not hurt\"\n").framings[1].when, "aiming and not hurt");
  expectRefused(start + "when = \"aiming and\"\n", {":5:19", "\"aiming and\"", "lacks a name"});
  expectRefused(start + "when = \"aiming && hurt\"\n", {":5:16", "needs and or or"});
}

TEST(DesignFile, ANumberMayBeRelativeToTheBase) {
  const std::string start = "format = 1\n[[framing]]\ndistance_m = 4\ndistance_max_m = 6\ntilt_deg = 5\n";
  const std::string over = start + "[[framing]]\nname = \"b\"\nwhen = \"aiming\"\n";
  const CameraDesign design = parsed(over +
                                     "distance_m = \"+0.6\"\ntilt_deg = \"-2.5\"\ndistance_max_m = \"*1.5\"\n"
                                     "[[framing]]\nname = \"c\"\nbase = \"b\"\nwhen = \"hurt\"\ndistance_m = \"+1\"\n");
  EXPECT_NEAR(design.framings[1].framing.distance, 4.6, 1e-12);
  EXPECT_NEAR(design.framings[1].framing.tilt, degrees(2.5), 1e-12);
  EXPECT_NEAR(design.framings[1].framing.distanceRange.farthest, 9, 1e-12);
  EXPECT_NEAR(design.framings[2].framing.distance, 5.6, 1e-12);
  for (const char* text : {"1", "+", "+ 1", "+-1", "+1m", "/2", "*nan", "*inf", "+1e999"})
    expectRefused(over + "distance_m = \"" + text + "\"\n", {"distance_m is \"", "relative to its base"});
  expectRefused(over + "distance_m = \"*1000\"\n", {"makes 4000 of its base's 4", "[0, 100]"});
  expectRefused("format = 1\n[[framing]]\ndistance_m = \"+1\"\n", {"must be a number in"});
}

TEST(DesignFile, ANumberOfAFramingMayBeACurve) {
  const std::string start = "format = 1\n[[framing]]\n";
  const CameraDesign design =
      parsed(start +
             "distance_m = { over = \"pitch_deg\", points = [[-60, 5.0], [0, 3.2], [50, 1.6]] }\n"
             "fov_deg = { over = \"fear\", points = [[0, 60], [1, 75]] }\n"
             "[[framing]]\nname = \"b\"\nwhen = \"aiming\"\ndistance_m = 2\n");
  ASSERT_EQ(design.framings[0].curves.size(), 2u);
  EXPECT_EQ(design.framings[0].framing.distance, 3.2) << "at pitch 0";
  EXPECT_NEAR(design.framings[0].curves[0].curve.at(degrees(-60)), 5, 1e-12);
  EXPECT_EQ(design.framings[0].curves[1].number, "fear");
  ASSERT_EQ(design.framings[1].curves.size(), 1u) << "a number takes the place of the base's curve";
  EXPECT_EQ(design.framings[1].framing.lens.fieldOfView, degrees(60));
  const std::string written = writeDesign(design);
  EXPECT_NE(written.find("distance_m = { over = \"pitch_deg\", points = [[-60, 5], [0, 3.2], [50, 1.6]] }"),
            std::string::npos);
  EXPECT_EQ(CompiledDesign(parsed(written)).digest(), CompiledDesign(design).digest());

  const auto refused = [&](const std::string& curve, std::initializer_list<const char*> words) {
    expectRefused(start + "distance_m = " + curve + "\n", words);
  };
  refused("{ over = \"pitch_deg\", points = [[0, 1]] }", {":3:", "points are 1", "2 to 8"});
  refused("{ over = \"pitch_deg\", points = [[0, 1], [0, 2]] }", {"from 0 to 0", "farther than the one before"});
  refused("{ over = \"pitch_deg\", points = [[0, 1], [1, 200]] }", {"points is 200", "[0, 100]"});
  refused("{ over = \"fear\", points = [[0, 1], [2, 2]] }", {"points is 2", "[0, 1]"});
  refused("{ over = \"pitch_deg\", points = [[0, 1], [1]] }", {"pairs"});
  refused("{ over = \"pitch_deg\", point = [[0, 1], [1, 2]] }", {"points is missing"});
  refused("{ over = \"pitch_deg\", points = [[0, 1], [1, 2]], smooth = 1 }", {"unknown key smooth"});
  refused("{ over = \"distance_m\", points = [[0, 1], [1, 2]] }", {"over itself"});
  refused("{ over = \"The Fear\", points = [[0, 1], [1, 2]] }", {"a number that the game sets"});
  refused("{ points = [[0, 1], [1, 2]] }", {"over is missing"});
  refused("{ over = \"pitch_deg\", points = [[0, 0.1], [1, 2]] }", {"distance_m must be between"});
  expectRefused(start + "lens = \"focal_length\"\nfov_deg = { over = \"fear\", points = [[0, 60], [1, 75]] }\n",
                {"needs lens = \"vertical_fov\""});
  expectRefused(start + "near_m = { over = \"fear\", points = [[0, 1], [1, 2]] }\n", {"near_m is a table"});
}

TEST(DesignFile, AFlightHasItsSection) {
  const CameraDesign design = parsed("format = 1\n[look]\nyaw_deg_per_count = 0.1\n[flight]\ntop_speed_mps = 12\n");
  EXPECT_EQ(design.flight.topSpeed, 12);
  EXPECT_EQ(CompiledDesign(design).design().flight.look.yawPerCount, degrees(0.1));
  expectRefused("format = 1\n[flight]\npitch_min_deg = 20\npitch_max_deg = 10\n", {"pitch_min_deg", "pitch_max_deg"});
}

TEST(DesignFile, ReadsBackWhatItWrites) {
  CameraDesign design;
  design.name = "ridge";
  design.look.invertPitch = true;
  design.look.yawPerCount = degrees(0.022);
  design.framings[0].name = "far";
  design.framings[0].framing.lens.kind = LensKind::focalLength;
  design.framings[0].framing.lens.focalLength = 0.035;
  design.framings[0].framing.pitch.high = degrees(90);
  const CameraDesign again = parsed(writeDesign(design));
  EXPECT_EQ(again.name, "ridge");
  EXPECT_EQ(again.framings[0].name, "far");
  EXPECT_EQ(writeDesign(again), writeDesign(design));
  EXPECT_TRUE(again.look.invertPitch);
  EXPECT_EQ(again.framings[0].framing.lens.kind, LensKind::focalLength);
  EXPECT_NEAR(again.look.yawPerCount, degrees(0.022), 1e-15);
}

TEST(DesignFile, AnglesAreDegreesAndNinetyIsLegal) {
  const CameraDesign design = parsed("format = 1\n[[framing]]\npitch_min_deg = -90\npitch_max_deg = 90\n");
  EXPECT_NEAR(design.framings[0].framing.pitch.high, pi / 2, 1e-15);
}

TEST(DesignFile, SaysWhereWhatAndWhatIsAllowed) {
  expectRefused("format = 1\n[[framing]]\npitch_max_deg = 120\n",
                {"a.camera.toml:3:17", "pitch_max_deg is 120", "[-90, 90]"});
  expectRefused("format = 1\n[look]\nyaw_deg_per_cuont = 1\n",
                {":3:1", "unknown key yaw_deg_per_cuont in [look]", "yaw_deg_per_count"});
  expectRefused("format = 1\n[loook]\n", {":2:", "unknown key loook", "look"});
  expectRefused("format = 1\n[look]\ninvert_yaw = 1\n", {":3:14", "invert_yaw is 1", "true or false"});
  expectRefused("format = 1\n[zoom]\nhalf_life_s = \"soon\"\n",
                {":3:15", "half_life_s is \"soon\"", "number in [0, 5]"});
  expectRefused("format = 1\n[zoom]\nhalf_life_s = nan\n", {":3:15", "half_life_s is nan", "[0, 5]"});
  expectRefused("format = 1\n[[framing]]\nlens = \"fisheye\"\n",
                {":3:8", "lens is \"fisheye\"", "vertical_fov, horizontal_fov, focal_length"});
  expectRefused("format = 1\n[[framing]]\ndistance_min_m = 5\ndistance_m = 6\ndistance_max_m = 4\n",
                {":3:18", "distance_min_m", "distance_max_m"});
  expectRefused("format = 1\nlook = 3\n", {":2:8", "look is 3", "table"});
  expectRefused("format = 1\n[[framing]]\n[[framing]]\n", {":3:", "name is missing in [[framing]]"});
  expectRefused("format = 1\n[[framing]]\nname = \"a\"\n[[framing]]\nname = \"a\"\n", {":5:8", "has already"});
  expectRefused("format = 1\n[[framing]]\nname = \"trail\"\n[[framing]]\nname = \"b\"\nbase = \"trial\"\n",
                {":6:8", "base is \"trial\"", "\"trail\""});
  expectRefused("format = 1\n[[framing]]\nperspective = \"third person\"\n", {":3:15", "\"first\" or \"third\""});
}

TEST(DesignFile, WhatAFramingLeavesOutItInheritsFromItsBase) {
  const CameraDesign design = parsed(
      "format = 1\n[[framing]]\nname = \"trail\"\nshoulder_m = 0.4\nfov_deg = 55\n"
      "[[framing]]\nname = \"scope\"\nwhen = \"aiming\"\nlens = \"magnification\"\nmagnification = 4\n"
      "[[framing]]\nname = \"far-scope\"\nbase = \"scope\"\nwhen = \"looking-far\"\nmagnification = 8\n");
  ASSERT_EQ(design.framings.size(), 3u);
  EXPECT_EQ(design.framings[2].framing.shoulder, 0.4);
  EXPECT_EQ(design.framings[2].framing.lens.kind, LensKind::magnification);
  const CompiledDesign compiled(design);
  EXPECT_EQ(compiled.select(Perspective::third, 0), 0u);
  EXPECT_EQ(compiled.select(Perspective::third, Condition::aiming | compiled.flag("looking-far")), 1u) << "in order";
  EXPECT_EQ(compiled.select(Perspective::third, compiled.flag("looking-far")), 2u);
  EXPECT_EQ(compiled.flag("swimming"), 0u);
  EXPECT_NEAR(std::tan(compiled.fieldOfView(2) / 2) * 8, std::tan(degrees(55) / 2), 1e-12);
}

TEST(DesignFile, KnowsItsFormat) {
  expectRefused("name = \"x\"\n", {"format is missing", "format = 1"});
  expectRefused("format = 2\n", {":1:10", "format is 2", "format = 1"});
  expectRefused("format = 4e36\n", {":1:10", "format is 4e+36", "format = 1"});
}

TEST(DesignFile, ReportsSyntaxEmptyAndMissingFiles) {
  expectRefused("format = 1\n[look\n", {":2:"});
  expectRefused(" \n\n", {"is empty"});
  testing::expectError([] { readDesign("/nowhere/a.camera.toml"); }, {"/nowhere/a.camera.toml", "cannot be read"});
  testing::expectError([] { readDesign(ALPGLOW_DEMO); }, {"directory"});
}

TEST(DesignFile, TheReferenceNamesEveryKey) {
  const std::string reference = designReference();
  CameraDesign design;
  forEachSection(design, [&](const char*, auto&, auto settings) {
    for (const auto& setting : settings) EXPECT_NE(reference.find(setting.key), std::string::npos) << setting.key;
  });
  for (const auto& setting : settings<Framing>())
    EXPECT_NE(reference.find(setting.key), std::string::npos) << setting.key;
}

TEST(WriteWhole, LeavesTheTargetAloneWhenItCannotFinish) {
  const std::string path = temporaryFile("kept.txt", "before");
  testing::expectError([] { writeWhole("/nowhere/at/all.txt", "x"); }, {"/nowhere/at/all.txt", "cannot be written"});
  writeWhole(path, "after");
  EXPECT_EQ(readWhole(path), "after");
  EXPECT_FALSE(std::filesystem::exists(path + ".unfinished"));
}

TEST(DesignFile, ANumberRelativeToACurveMovesEachOfItsPoints) {
  const std::string over =
      "format = 1\n[[framing]]\nname = \"a\"\ndistance_m = { over = \"pitch_deg\", points = [[-60, 5], [0, 3]] "
      "}\n[[framing]]\n"
      "name = \"b\"\nwhen = \"crouched\"\n";
  const CameraDesign design = readDesign(testing::temporaryFile("r.camera.toml", over + "distance_m = \"*0.8\"\n"));
  ASSERT_EQ(design.framings[1].curves.size(), 1u);
  EXPECT_NEAR(design.framings[1].curves[0].curve.at(degrees(-60)), 4, 1e-12);
  EXPECT_NEAR(design.framings[1].framing.distance, 2.4, 1e-12);
  EXPECT_NEAR(design.framings[0].curves[0].curve.at(degrees(-60)), 5, 1e-12);
  testing::expectError([&] { readDesign(testing::temporaryFile("r.camera.toml", over + "distance_m = \"*80\"\n")); },
                       {"distance_m is \"*80\"", "must lie in"});
}

constexpr char inJson[] = R"({
  "format": 1, "name": "calm", "zoom_into_eyes": true,
  "look": {"yaw_deg_per_count": 0.05},
  "push": [{"name": "recoil", "pitch_deg": 1.5}],
  "framing": [
    {"name": "walk", "distance_m": {"over": "pitch_deg", "points": [[-60, 5.0], [0, 3.2]]}},
    {"name": "talk", "base": "walk", "when": "talking", "fov_deg": 40, "distance_m": "*0.8"}
  ]})";

TEST(DesignFile, IsReadFromMemoryAndAsJson) {
  const std::string toml =
      "format = 1\nname = \"calm\"\nzoom_into_eyes = true\n[look]\nyaw_deg_per_count = 0.05\n"
      "[[push]]\nname = \"recoil\"\npitch_deg = 1.5\n[[framing]]\nname = \"walk\"\n"
      "distance_m = { over = \"pitch_deg\", points = [[-60, 5.0], [0, 3.2]] }\n"
      "[[framing]]\nname = \"talk\"\nbase = \"walk\"\nwhen = \"talking\"\nfov_deg = 40\ndistance_m = \"*0.8\"\n";
  const CompiledDesign design(parseDesign(toml)), json(parseDesign(inJson));
  EXPECT_EQ(design.digest(), json.digest());
  EXPECT_EQ(json.design().framings[1].name, "talk");
  EXPECT_NE(json.digest(), CompiledDesign(CameraDesign()).digest());
  EXPECT_EQ(CompiledDesign(readDesign(temporaryFile("a.camera.json", inJson))).digest(), json.digest());
}

TEST(DesignFile, JsonErrorsNameThePathInTheDocument) {
  const auto refused = [](const std::string& what, const std::string& with, std::initializer_list<const char*> words) {
    std::string json = inJson;
    json.replace(json.find(what), what.size(), with);
    testing::expectError([&] { parseDesign(json, "pack:calm"); }, words);
  };
  refused("\"fov_deg\": 40", "\"fov_deg\": 400", {"pack:calm: framing[1].fov_deg: ", "400"});
  refused("0.05}", "\"fast\"}", {"pack:calm: look.yaw_deg_per_count: ", "\"fast\""});
  refused("\"pitch_deg\": 1.5", "\"pich_deg\": 1.5", {"push[0].pich_deg: ", "pitch_deg"});
  refused("[0, 3.2]", "[0, null]", {"framing[0].distance_m.points[1][1] is null"});
  refused("\"format\": 1, ", "", {"pack:calm: ", "format is missing"});
  refused("\"look\": {", "\"look\": {{", {"pack:calm:3:12: ", "no JSON"});
  refused("5.0", std::string(40, '[') + std::string(40, ']'), {"nested too deeply"});
  refused("0.05}", "1e999}", {"pack:calm: ", "too large"});
  testing::expectError([] { parseDesign(" \n"); }, {"design: is empty"});
}

TEST(DesignFile, OneNumberIsChangedAsIfItStoodThereSo) {
  const std::string text =
      "format = 1\n[[push]]\nname = \"gust\"\n[[framing]]\nname = \"trail\"\ndistance_m = 3\n"
      "[[framing]]\nname = \"scope\"\nwhen = \"aiming\"\ndistance_m = \"-1\"\n";
  const auto with = [&](const std::string& number, double value) { return parseDesignWith(text, "d", number, value); };
  EXPECT_EQ(with("distance_m", 4).framings[0].framing.distance, 4);
  EXPECT_EQ(with("distance_m", 4).framings[1].framing.distance, 3) << "what is relative to it changes along";
  EXPECT_EQ(with("scope.distance_m", 4).framings[1].framing.distance, 4);
  EXPECT_EQ(with("scope.distance_m", 4).framings[0].framing.distance, 3);
  EXPECT_EQ(with("pull_in.horizon_s", 0).pullIn.horizon, 0) << "a section that the file does not have";
  EXPECT_EQ(with("gust.back_m", 0.1).pushes[0].push.back, 0.1);
  EXPECT_EQ(parseDesignWith("format = 1\n", "d", "distance_m", 4).framings[0].framing.distance, 4);
  EXPECT_EQ(parseDesignWith("{\"format\": 1}", "d", "bob.vertical_m", 0.01).motion.bob.vertical, 0.01);
  for (const char* unknown : {"distance", "rope.distance_m", "name", "zoom_into_eyes", "", "."})
    EXPECT_THROW(with(unknown, 1), InputError) << unknown;
  for (const double wrong : {-1.0, 1e9, std::nan("")}) EXPECT_THROW(with("distance_m", wrong), InputError) << wrong;
  EXPECT_THROW(with("distance_min_m", 5), InputError) << "nearer than the nearest";
}

}  // namespace
}  // namespace alpglow::io
