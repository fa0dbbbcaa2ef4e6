#include "program.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/limits_file.hpp"
#include "alpglow/io/trace.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <sstream>

namespace alpglow {
namespace {

using testing::demo;
using testing::temporaryFile;
using testing::temporaryPath;

const std::string cornerTake = " --level " + demo + "refuge.level.toml --take " + demo + "corner.take";
const std::string cornerFiles = demo + "trail.camera.toml" + cornerTake;

TEST(Command, NewWritesACompleteDesignAndNeverOverwrites) {
  const std::string path = temporaryPath("mine.camera.toml");
  std::filesystem::remove(path);
  EXPECT_EQ(testing::alpglow("new " + path).code, 0);
  EXPECT_EQ(CompiledDesign(io::readDesign(path)).digest(), CompiledDesign(CameraDesign()).digest());
  const std::string written = io::readWhole(path);
  const testing::Ran again = testing::alpglow("new " + path);
  EXPECT_EQ(again.code, 2);
  EXPECT_NE(again.output.find("never overwritten"), std::string::npos);
  EXPECT_EQ(io::readWhole(path), written);
}

TEST(Command, LevelsAreExplainedAndANewOneIsReadOnceItsExamplesAreIn) {
  const testing::Ran refuge = testing::alpglow("check " + demo + "refuge.level.toml");
  EXPECT_EQ(refuge.code, 0);
  // 16 m through a lens of 70°, an eighth less at the edges, without the warden's ball of 1.1 m at either.
  const double edge = 0.88 * std::tan(degrees(35)) * 16 / 9;
  const int apart = static_cast<int>(std::lround(2 * (16 * edge - 1.1 * std::hypot(1, edge))));
  EXPECT_NE(refuge.output.find("one picture up to " + std::to_string(apart) + " m apart"), std::string::npos)
      << refuge.output;
  EXPECT_NE(refuge.output.find("region cliff"), std::string::npos);

  const std::string path = temporaryPath("mine.level.toml");
  std::filesystem::remove(path);
  EXPECT_EQ(testing::alpglow("new " + path).code, 0);
  EXPECT_EQ(testing::alpglow("check " + path).code, 0);
  std::string text = io::readWhole(path), all;
  std::istringstream lines(text);
  for (std::string line; std::getline(lines, line);) {
    const bool example =
        line.rfind("# [[", 0) == 0 || (line.rfind("# ", 0) == 0 && line.find(" = ") != std::string::npos);
    all += (example ? line.substr(2) : line) + "\n";
  }
  const testing::Ran full = testing::alpglow("check " + temporaryFile("all.level.toml", all));
  EXPECT_EQ(full.code, 0);
  for (const char* word : {"1 large", "region indoors", "camera corner", "group company"})
    EXPECT_NE(full.output.find(word), std::string::npos) << full.output;
}

TEST(Command, CheckExplainsInNumbersThatOneCanPicture) {
  const testing::Ran ran = testing::alpglow("check " + demo + "trail.camera.toml");
  EXPECT_EQ(ran.code, 0);
  EXPECT_NE(ran.output.find("22.9 cm at 800 dpi"), std::string::npos) << "360°/0.05° counts at 800 to the inch";
  EXPECT_NE(ran.output.find("near-plane sphere"), std::string::npos);
  EXPECT_NE(ran.output.find("90 % covered after 0.17 s"), std::string::npos);
}

TEST(Command, CheckWarnsAboutWhatIsLegalButImplausible) {
  const std::string path =
      temporaryFile("wild.camera.toml", "format = 1\n[look]\nyaw_deg_per_count = 2.3\npitch_deg_per_count = 2.3\n");
  const testing::Ran ran = testing::alpglow("check " + path);
  EXPECT_EQ(ran.code, 1) << ran.output;
  EXPECT_NE(ran.output.find("warning: look.yaw_deg_per_count: a full turn takes only 0.5 cm"), std::string::npos)
      << ran.output;
}

TEST(Command, CheckWarnsAboutWhatADesignCannotDo) {
  const std::string framing = "[[framing]]\nname = \"a\"\n";
  const std::pair<std::string, const char*> cases[] = {
      {framing + "[[framing]]\nname = \"b\"\nwhen = \"sprintng\"\n", "\"sprinting\" is built in"},
      {framing + "[[framing]]\nname = \"b\"\nwhen = \"aiming and not (aiming or crouched)\"\n", "can never hold"},
      {framing + "[[framing]]\nname = \"b\"\nwhen = \"aiming or crouched\"\n[[framing]]\nname = \"c\"\nwhen = "
                 "\"crouched and hurt\"\n",
       "framing \"b\" stands above it with when = \"aiming or crouched\", which then holds, too"},
      {framing + "[[framing]]\nname = \"b\"\n", "a second base"},
      {framing + "[[framing]]\nname = \"b\"\nwhen = \"aiming\"\n[[framing]]\nname = \"c\"\nwhen = \"aiming\"\n",
       "framing \"b\" stands above it with when = \"aiming\""},
      {"[lead]\ntime_s = 0.2\nlongest_m = 0.9\n" + framing + "follow_half_life_s = 0.12\nleash_m = 2\n",
       "of the lead's 0.90 m at 4.5 m/s its lag leaves 0.12 m"},
      {framing + "distance_min_m = 0.05\nnear_m = 0.1\n", "in front of the near plane"}};
  for (const auto& [text, warning] : cases) {
    const testing::Ran ran = testing::alpglow("check " + temporaryFile("doubtful.camera.toml", "format = 1\n" + text));
    EXPECT_EQ(ran.code, 1) << ran.output;
    EXPECT_NE(ran.output.find(warning), std::string::npos) << warning << "\n" << ran.output;
  }
  const std::string own = framing + "[[framing]]\nname = \"b\"\nwhen = \"swimming\"\n";
  EXPECT_EQ(testing::alpglow("check " + temporaryFile("own.camera.toml", "format = 1\n" + own)).code, 0);
}

TEST(Command, CheckPrintsTheReference) {
  const testing::Ran ran = testing::alpglow("check --reference");
  EXPECT_EQ(ran.code, 0);
  EXPECT_NE(ran.output.find("vertical_leash_m"), std::string::npos);
}

TEST(Command, RehearseWritesATraceOfEveryFrame) {
  const std::string path = temporaryPath("corner.csv");
  const testing::Ran ran = testing::alpglow("rehearse " + cornerFiles + " --fps 30 --trace " + path);
  EXPECT_EQ(ran.code, 0) << ran.output;
  EXPECT_NE(ran.output.find("least clearance"), std::string::npos);
  const io::Trace trace = io::readTrace(path);
  EXPECT_EQ(trace.size(), 378u) << "12.6 s at 30 frames a second";
  EXPECT_EQ(trace.front().events.rfind("cut", 0), 0u);
  EXPECT_NEAR(trace.back().time, 12.6, 1e-12);
}

TEST(Command, RehearseTakesUnevenFrameTimesFromAFile) {
  const std::string path = temporaryPath("corner.csv");
  const std::string frames = temporaryFile("a.frames", "0.01\n0.03\n# a hitch\n0.2\n");
  EXPECT_EQ(testing::alpglow("rehearse " + cornerFiles + " --frames " + frames + " --trace " + path).code, 0);
  const io::Trace trace = io::readTrace(path);
  EXPECT_NEAR(trace[2].dt, 0.2, 1e-12);
  EXPECT_NEAR(trace[3].dt, 0.01, 1e-12);
}

TEST(Command, StoryboardPaintsASheet) {
  const std::string path = temporaryPath("corner.png");
  EXPECT_EQ(testing::alpglow("storyboard " + cornerFiles + " -o " + path + " --at 1,2.5").code, 0);
  EXPECT_EQ(io::readWhole(path).substr(1, 3), "PNG");
  EXPECT_GT(std::filesystem::file_size(path), 50000u);
  const std::string through = io::readWhole(path);
  EXPECT_EQ(testing::alpglow("storyboard " + cornerFiles + " --outside -o " + path + " --at 1,2.5").code, 0);
  EXPECT_EQ(io::readWhole(path).substr(1, 3), "PNG");
  EXPECT_NE(io::readWhole(path), through);
}

TEST(Command, SheetsAreAsWideAsAskedForAndJpegByTheirEnding) {
  const std::string png = temporaryPath("sheet.png"), jpeg = temporaryPath("sheet.jpg");
  EXPECT_EQ(testing::alpglow("storyboard " + cornerFiles + " --width 808 -o " + png).code, 0);
  const std::string content = io::readWhole(png);
  const auto byte = [&content](std::size_t at) { return static_cast<unsigned char>(content[at]); };
  EXPECT_EQ(byte(18) * 256 + byte(19), 808) << "as the header has it";
  EXPECT_EQ(testing::alpglow("storyboard " + cornerFiles + " --width 808 -o " + jpeg).code, 0);
  EXPECT_EQ(io::readWhole(jpeg).substr(0, 3), "\xff\xd8\xff");
  EXPECT_EQ(testing::alpglow("storyboard " + cornerFiles + " -o sheet.gif").code, 2);
}

TEST(Command, ExplainSaysWhyTheCameraIsThereWheneverThatChangesOrWhenAsked) {
  const testing::Ran all = testing::alpglow("explain " + cornerFiles);
  EXPECT_EQ(all.code, 0);
  EXPECT_NE(all.output.find("nothing limits it"), std::string::npos) << all.output;
  EXPECT_NE(all.output.find(" is in the way "), std::string::npos) << all.output;
  const testing::Ran asked = testing::alpglow("explain " + cornerFiles + " --at 1,2.5,2.5 --json 2>/dev/null");
  EXPECT_EQ(asked.code, 0);
  EXPECT_EQ(std::count(asked.output.begin(), asked.output.end(), '\n'), 2) << "a moment once";
  EXPECT_EQ(asked.output.rfind("{\"time_s\":1,\"visible\":", 0), 0u) << asked.output;
  EXPECT_NE(asked.output.find("\n{\"time_s\":2.5,"), std::string::npos);
  EXPECT_NE(asked.output.find("\"framing\":\"trail\""), std::string::npos) << asked.output;
}

TEST(Command, BadUsageIsExitCodeTwoInOneLine) {
  for (const char* arguments : {"", "rehearse", "dance", "check", "rehearse a --level b --take c --trace d --fps 0"}) {
    const testing::Ran ran = testing::alpglow(arguments);
    EXPECT_EQ(ran.code, 2) << arguments;
    EXPECT_EQ(std::count(ran.output.begin(), ran.output.end(), '\n'), 1) << ran.output;
  }
  EXPECT_EQ(testing::alpglow("rehearse " + cornerFiles + " --trace /nowhere/out.csv").code, 2);
}

TEST(Command, HelpShowsAnExample) {
  for (const char* command : {"new", "check", "rehearse", "storyboard", "explain"}) {
    const testing::Ran ran = testing::alpglow(std::string(command) + " --help");
    EXPECT_EQ(ran.code, 0);
    EXPECT_NE(ran.output.find("Example: alpglow " + std::string(command)), std::string::npos);
  }
}

TEST(Command, CheckTellsWhenEachFramingAppliesAndThroughWhichLens) {
  const testing::Ran ran = testing::alpglow("check " + demo + "warden.camera.toml");
  EXPECT_EQ(ran.code, 0) << ran.output;
  const auto says = [&](const char* text) { EXPECT_NE(ran.output.find(text), std::string::npos) << ran.output; };
  says("scope        aiming       third       34.2°       57.4°       39.0 mm       1.80×  0.556");
  says("                         first        9.3°       16.4°      147.8 mm       8.00×  0.125");
  says("sprint       sprinting    third");
  says("take over below 0.25 m because of an obstacle, until 0.60 m are free");
  says("into it within 0.25 s; the hand sways it by 0.12°");
}

TEST(Command, CheckExplainsControlsAndPreferences) {
  const testing::Ran ran = testing::alpglow("check " + demo + "trail.camera.toml " + demo + "pad.controls.toml " +
                                            demo + "player.preferences.toml");
  EXPECT_EQ(ran.code, 0) << ran.output;
  EXPECT_NE(ran.output.find("run                  PadButton10 (toggle)"), std::string::npos) << ran.output;
  EXPECT_NE(ran.output.find("a full turn in 16.3 cm at 800 dpi"), std::string::npos) << "22.9 cm / 1.4";
  EXPECT_NE(ran.output.find("half a turn takes 0.90 s"), std::string::npos);
}

TEST(Command, TakeSummarisesATake) {
  const testing::Ran ran = testing::alpglow("take " + demo + "pad.take");
  EXPECT_EQ(ran.code, 0);
  EXPECT_NE(ran.output.find("13.00 s, 17 events of 5 controls"), std::string::npos) << ran.output;
  EXPECT_NE(ran.output.find("6.60 s  block menu"), std::string::npos);
}

TEST(Command, RehearsalsObeyControlsPreferencesAndBlocks) {
  const std::string path = temporaryPath("pad.csv");
  const std::string files = demo + "trail.camera.toml --level " + demo + "refuge.level.toml --take " + demo +
                            "pad.take --controls " + demo + "pad.controls.toml --preferences " + demo +
                            "player.preferences.toml --trace " + path;
  ASSERT_EQ(testing::alpglow("rehearse " + files).code, 0);
  const io::Trace trace = io::readTrace(path);
  EXPECT_NEAR(trace.front().fieldOfView, 66, 1e-9) << "the player's own";
  double blocked = 0;
  for (const io::TraceFrame& frame : trace) {
    if (frame.blocks.empty()) continue;
    ++blocked;
    EXPECT_EQ(frame.moveY, 0);
    EXPECT_EQ(frame.stickX, 0);
  }
  EXPECT_NEAR(blocked, 0.8 * 60, 2) << "the menu was open for 0.8 s";
  EXPECT_EQ(trace.back().device, "pad");
}

TEST(Command, PlotDrawsTracesAndRefusesWhatItCannotDraw) {
  const std::string trace = temporaryPath("plotted.csv"), picture = temporaryPath("plot.png"),
                    drawing = temporaryPath("plot.svg");
  ASSERT_EQ(testing::alpglow("rehearse " + cornerFiles + " --trace " + trace).code, 0);
  const testing::Ran ran = testing::alpglow("plot " + trace + " " + trace + " -o " + picture + " --width 640");
  EXPECT_EQ(ran.code, 0) << ran.output;
  EXPECT_EQ(ran.output, "wrote " + picture + "\n");
  EXPECT_EQ(io::readWhole(picture).substr(1, 3), "PNG");
  EXPECT_EQ(testing::alpglow("plot " + trace + " -o " + drawing).code, 0);
  EXPECT_NE(io::readWhole(drawing).find("possible"), std::string::npos);
  const auto refused = [&](const std::string& arguments, const char* why) {
    const testing::Ran failed = testing::alpglow("plot " + trace + " -o " + arguments);
    EXPECT_EQ(failed.code, 2);
    EXPECT_NE(failed.output.find(why), std::string::npos) << failed.output;
  };
  refused("plot.gif", "a plot is a .png or a .svg");
  refused(picture + " --from 99", "no frame between 99 and");
  refused(picture + " --from 2 --to 1", "--from has to be before --to");
}

}  // namespace
}  // namespace alpglow
