// Real X events, through the real adapter, in a real program: what it prints, and that its recording replays.

#include "cli/program.hpp"

#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/take_file.hpp"
#include "alpglow/io/trace.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

TEST(XEvents, DriveTheExampleAndItsRecordingReplaysToTheByte) {
  const std::string prefix = testing::temporaryPath("walk"), level = ALPGLOW_DEMO "/refuge.level.toml";
  const std::string controls = ALPGLOW_DEMO "/keyboard.controls.toml";
  const testing::Ran ran = testing::run(std::string("bash " ALPGLOW_DRIVER " ") + prefix + " " + ALPGLOW_EXAMPLES +
                                        "/example_walk_with_sdl " + level + " " + controls + " 20 " + prefix);
  ASSERT_EQ(ran.code, 0) << ran.output;
  const io::Trace trace = io::readTrace(prefix + ".csv");
  double counts = 0, fastest = 0;
  for (const io::TraceFrame& frame : trace) {
    counts += frame.lookX;
    fastest = std::max(fastest, frame.moveY);
  }
  EXPECT_EQ(fastest, 1) << "W walked";
  EXPECT_EQ(trace.back().moveY, 0) << "and was released";
  EXPECT_GT(trace.front().subject.z() - trace.back().subject.z(), 0.5) << "ahead is −z";
  EXPECT_GT(counts, 60) << "the mouse looked to the right";
  EXPECT_NEAR(trace.back().yaw, -counts * 0.05, 1e-6) << "0.05° a count, never scaled by time";
  EXPECT_EQ(trace.back().device, "keyboard-and-mouse");

  const std::string design = testing::temporaryFile("plain.camera.toml", io::writeDesign(CameraDesign()));
  const testing::Ran again =
      testing::alpglow("rehearse " + design + " --level " + level + " --take " + prefix + ".take --frames " + prefix +
                       ".frames --controls " + controls + " --trace " + prefix + ".again.csv");
  ASSERT_EQ(again.code, 0) << again.output;
  EXPECT_EQ(io::readWhole(prefix + ".again.csv"), io::readWhole(prefix + ".csv"));
}

TEST(XEvents, ListenShowsWhatEachControlBecomes) {
  const std::string prefix = testing::temporaryPath("listen");
  const testing::Ran ran =
      testing::run(std::string("bash " ALPGLOW_DRIVER " ") + prefix + " " + ALPGLOW_PROGRAM + " listen --seconds 20");
  EXPECT_EQ(ran.code, 0) << ran.output;
  EXPECT_NE(ran.output.find("KeyW"), std::string::npos) << ran.output;
  EXPECT_NE(ran.output.find("→ move y"), std::string::npos);
  EXPECT_NE(ran.output.find("MouseMove"), std::string::npos);
}

}  // namespace
}  // namespace alpglow
