// Files as other programs and other systems write them, and what an interrupted program leaves behind.

#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/design_text.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/io/take_file.hpp"
#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

#include <csignal>
#include <filesystem>
#include <string>

#include <sys/wait.h>
#include <unistd.h>

namespace alpglow {
namespace {

namespace fs = std::filesystem;
using io::DesignText;
using io::SettingName;
using testing::expectError;
using testing::temporaryFile;
using testing::temporaryPath;

const SettingName horizon{"", "pull_in", "horizon_s"}, distance{"framing", "trail", "distance_m"};
constexpr char trail[] = "[[framing]]\nname = \"trail\"\n";

TEST(Strange, ASectionInDottedKeysTakesANewKey) {
  DesignText text(std::string("format = 1\npull_in.calm_mps = 3.5  # calm\nlook.yaw_deg_per_count = 0.05\n") + trail,
                  "dotted.camera.toml");
  text.set(horizon, 0.5);
  EXPECT_EQ(text.design().pullIn.horizon, 0.5);
  EXPECT_EQ(text.design().pullIn.speed, 3.5);
  EXPECT_NE(text.text().find("pull_in.calm_mps = 3.5  # calm\npull_in.horizon_s = 0.5\n"), std::string::npos)
      << text.text();
}

TEST(Strange, NewLinesOfAFileOfWindowsEndAsItsOthersDo) {
  std::string written = std::string("format = 1\n[pull_in]\ncalm_mps = 3.5\n") + trail;
  for (std::size_t at = 0; (at = written.find('\n', at)) != std::string::npos; at += 2) written.insert(at, 1, '\r');
  DesignText text(written, "windows.camera.toml");
  text.set(horizon, 0.5);
  text.set(distance, 2.5);
  text.set(SettingName{"", "large", "push_m"}, 0.5);
  for (std::size_t at = 0; (at = text.text().find('\n', at)) != std::string::npos; ++at)
    EXPECT_EQ(text.text()[at - 1], '\r') << at;
  EXPECT_EQ(text.design().pullIn.horizon, 0.5);
}

TEST(Strange, AByteOrderMarkIsNoPartOfTheFirstLine) {
  const std::string mark = "\xEF\xBB\xBF";
  DesignText text(mark + "pull_in = { calm_mps = 3.5 }\nformat = 1\n" + trail, "marked.camera.toml");
  text.set(SettingName{"", "pull_in", "calm_mps"}, 3);
  text.set(horizon, 0.5);
  EXPECT_EQ(text.text().substr(0, 49), mark + "pull_in = { calm_mps = 3.0, horizon_s = 0.5 }\n");
  const std::string json = temporaryFile("marked.json", mark + "{\"format\": 1, \"framing\": [{\"name\": \"trail\"}]}");
  EXPECT_EQ(io::readDesign(json).framings.size(), 1u);
}

TEST(Strange, WhatIsNoTextShowsByItsNumbers) {
  EXPECT_EQ(io::plainText("caf\xe9.take"), "caf\\xe9.take");
  EXPECT_EQ(io::plainText("\xc3("), "\\xc3(");
  EXPECT_EQ(io::plainText("\xe2\x82"), "\\xe2\\x82");
  EXPECT_EQ(io::plainText("\xed\xa0\x80|\xc0\xaf|\xf5\x80\x80\x80"), "\\xed\\xa0\\x80|\\xc0\\xaf|\\xf5\\x80\\x80\\x80")
      << "halves of pairs, detours and beyond the last character";
  EXPECT_EQ(io::plainText("Hütte → ⛰ 🏔"), "Hütte → ⛰ 🏔");
}

TEST(Strange, AKeyTwiceInJsonIsRefusedByItsPath) {
  const std::string file = temporaryFile(
      "twice.json", "{\"format\": 1,\n \"framing\": [{\"name\": \"trail\", \"tilt_deg\": 1,\n \"tilt_deg\": 2}]}");
  expectError([&] { io::readDesign(file); }, {"twice.json", "tilt_deg", "twice"});
  const std::string level =
      temporaryFile("twice.gltf", "{\"asset\": {\"version\": \"2.0\"}, \"nodes\": [], \"nodes\": []}");
  expectError([&] { io::readLevel(level); }, {"twice.gltf", "nodes", "twice"});
}

TEST(Strange, ATransformOfANodeIsNumbers) {
  for (const char* wrong : {"\"matrix\": [\"1\",0,0,0,0,1,0,0,0,0,1,0,0,0,0,1]", "\"matrix\": [1,0,0]",
                            "\"translation\": \"1 2 3\"", "\"rotation\": [0,0,1]", "\"scale\": [1,null,1]"}) {
    const std::string level = temporaryFile(
        "words.gltf",
        std::string("{\"asset\": {\"version\": \"2.0\"}, \"nodes\": [{\"name\": \"hut\", ") + wrong + "}]}");
    expectError([&] { io::readLevel(level); }, {"words.gltf", "node 0", "numbers"});
  }
}

TEST(Strange, FrameTimesHaveALeast) {
  expectError([] { io::readFrameTimes(temporaryFile("tiny.frames", "0.016\n1e-300\n")); }, {":2", "1e-300", "0.0001"});
  EXPECT_EQ(io::readFrameTimes(temporaryFile("least.frames", "0.0001\n")).size(), 1u);
}

/// Killed at any moment: the target is untouched or complete, and the next writer takes away what lies about. What
/// somebody is writing at that time stays.
TEST(Strange, WhatAKilledWriterLeftIsGoneAfterTheNext) {
  const std::string target = temporaryPath("killed.csv"), folder = fs::path(target).parent_path().string();
  fs::remove_all(folder);
  fs::create_directories(folder);
  const std::string old(1000, 'o'), all(8 << 20, 'n');
  io::writeWhole(target, old);
  int left = 0;
  for (int i = 0; i < 60; ++i) {
    const pid_t child = ::fork();
    ASSERT_GE(child, 0);
    if (child == 0) {
      for (;;) io::writeWhole(target, all);
    }
    ::usleep(static_cast<useconds_t>(1000 + 700 * i));
    ::kill(child, SIGKILL);
    ::waitpid(child, nullptr, 0);
    for (const auto& each : fs::directory_iterator(folder)) left += each.path().filename() == "killed.csv" ? 0 : 1;
    const auto size = fs::file_size(target);
    ASSERT_TRUE(size == old.size() || size == all.size());
  }
  EXPECT_GT(left, 0) << "or nothing is shown";
  io::writeWhole(target, old);
  int about = 0;
  for (const auto& each : fs::directory_iterator(folder)) about += each.path().filename() == "killed.csv" ? 0 : 1;
  EXPECT_EQ(about, 0);
}

}  // namespace
}  // namespace alpglow
