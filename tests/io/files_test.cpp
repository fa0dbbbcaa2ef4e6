// Files that come from strangers and files that are somebody's: what is read is bounded, what is said is harmless, and
// what is written replaces nothing but the target.

#include "alpglow/input/control.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/io/take_file.hpp"
#include "alpglow/io/trace.hpp"
#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <gtest/gtest.h>
#include <sys/stat.h>
#include <unistd.h>

#include <thread>

namespace alpglow::io {
namespace {

namespace fs = std::filesystem;
using testing::temporaryFile;
using testing::temporaryPath;

TEST(WriteWhole, FollowsNoLinkThatSomebodyPlanted) {
  const std::string target = temporaryPath("target.csv"), victim = temporaryFile("victim.txt", "precious");
  fs::remove(target);
  fs::remove(target + ".unfinished");
  fs::create_symlink(victim, target + ".unfinished");
  writeWhole(target, "new");
  EXPECT_EQ(readWhole(target), "new");
  EXPECT_EQ(readWhole(victim), "precious");
  EXPECT_TRUE(fs::is_symlink(target + ".unfinished"));
}

TEST(WriteWhole, LinksStayLinksAndPermissionsStay) {
  const std::string real = temporaryFile("real.csv", "old"), link = temporaryPath("link.csv");
  ASSERT_EQ(chmod(real.c_str(), 0640), 0);
  fs::remove(link);
  fs::create_symlink("real.csv", link);
  writeWhole(link, "new");
  EXPECT_TRUE(fs::is_symlink(link));
  EXPECT_EQ(readWhole(real), "new");
  EXPECT_EQ(static_cast<int>(fs::status(real).permissions()), 0640);
  const std::string fresh = temporaryPath("fresh.csv");
  fs::remove(fresh);
  const mode_t mask = umask(027);
  writeWhole(fresh, "x");
  umask(mask);
  EXPECT_EQ(static_cast<int>(fs::status(fresh).permissions()), 0640);
  // A link that leads nowhere yet.
  const std::string later = temporaryPath("later.csv"), ahead = temporaryPath("ahead.csv");
  fs::remove(later);
  fs::remove(ahead);
  fs::create_symlink(later, ahead);
  writeWhole(ahead, "there");
  EXPECT_TRUE(fs::is_symlink(ahead));
  EXPECT_EQ(readWhole(later), "there");
}

TEST(WriteWhole, DevicesAndPipesAreWrittenToAndStay) {
  writeWhole("/dev/null", "gone");
  EXPECT_TRUE(fs::is_character_file("/dev/null"));
  testing::expectError([] { writeWhole("/dev/full", "x"); }, {"/dev/full", "No space left"});
  const std::string pipe = temporaryPath("pipe");
  fs::remove(pipe);
  ASSERT_EQ(mkfifo(pipe.c_str(), 0600), 0);
  std::string heard;
  std::thread reader([&] { heard = readWhole(pipe); });
  writeWhole(pipe, "through");
  reader.join();
  EXPECT_EQ(heard, "through");
  EXPECT_TRUE(fs::is_fifo(pipe));
}

TEST(WriteWhole, LeavesNothingBehindWhereItFails) {
  const std::string folder = temporaryPath("folder");
  fs::create_directories(folder);
  const auto count = [&] { return std::distance(fs::directory_iterator(fs::path(folder).parent_path()), {}); };
  const auto before = count();
  testing::expectError([&] { writeWhole(folder, "x"); }, {"cannot be written"});
  EXPECT_EQ(count(), before);
}

TEST(ReadWhole, EndsWhereAFileIsTooLong) {
  testing::expectError([] { readWhole("/dev/zero", 1 << 20); }, {"/dev/zero", "is longer than 1 MB"});
  EXPECT_EQ(readWhole(temporaryFile("short.txt", std::string(1000, 'x')), 1000).size(), 1000u);
}

TEST(PlainText, CannotMoveTheCursorNorTurnTheText) {
  EXPECT_EQ(plainText("a\x1b[2Jb\n\r\x7f"), "a\\x1b[2Jb\\x0a\\x0d\\x7f");
  EXPECT_EQ(plainText("\xc2\x9b"
                      "31m"),
            "\\xc2\\x9b31m")
      << "a control character of two bytes";
  EXPECT_EQ(plainText("\xe2\x80\xae"
                      "x"),
            "\\xe2\\x80\\xaex")
      << "turns what follows";
  EXPECT_EQ(plainText("Hütte … 雪"), "Hütte … 雪");
  EXPECT_EQ(plainText(std::string("a\0b", 3)), "a\\x00b");
  const std::string cut = plainText(std::string(200000, 'x') + "end", 90);
  EXPECT_LE(cut.size(), 95u);
  EXPECT_EQ(cut.substr(cut.size() - 3), "end");
  for (std::size_t most = 20; most < 60; ++most) {
    const std::string snow = plainText("雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪雪", most);
    for (std::size_t i = 0; i < snow.size(); i += 3) EXPECT_TRUE(snow[i] == "雪"[0] || snow[i] == "…"[0]) << most;
  }
}

TEST(PlainText, IsWhatErrorsSay) {
  const std::string long_ = std::string(200000, 'k');
  const std::string path = temporaryFile("t.camera.toml", "format = 1\n\"\\u001b[31m" + long_ + "\\n\" = 1\n");
  try {
    readDesign(path);
    FAIL();
  } catch (const InputError& error) {
    const std::string said = error.what();
    EXPECT_LT(said.size(), 1200u);
    for (const char c : said) EXPECT_GE(static_cast<unsigned char>(c), 0x20);
    EXPECT_NE(said.find("\\x1b[31mkkk"), std::string::npos) << said;
  }
}

TEST(Names, AreShownInTerminalsAndSoMayNotMoveTheCursor) {
  const std::string box = "base_m = [0, 0, 0]\nsize_m = [1, 1, 1]\n";
  const auto refused = [](const std::string& text, std::initializer_list<const char*> words) {
    testing::expectError([&] { readLevel(temporaryFile("n.level.toml", text)); }, words);
  };
  refused("format = 1\n[[box]]\nname = \"a\\u001b[2J\"\n" + box, {":3:", "name is \"a\\x1b[2J\"", "moves the cursor"});
  refused("format = 1\n[[box]]\nname = \"" + std::string(600, 'a') + "\"\n" + box, {":3:", "up to 500"});
  refused("format = 1\n[[box]]\nname = \"a\"\nlabels = [\"\\r\"]\n" + box, {":4:", "labels is"});
  testing::expectError([] { readTake(temporaryFile("n.take", "alpglow take 1\n1 set \x1b[2J\n2 end\n")); },
                       {":2", "is no name"});
}

TEST(NearestName, PrefersLikelySlips) {
  const std::vector<std::string> controls(controlNames().begin(), controlNames().end());
  const auto nearest = [&](const char* word) { return nearestName(word, controls); };
  EXPECT_EQ(nearest("LeftShift"), "ShiftLeft");
  EXPECT_EQ(nearest("W"), "KeyW");
  EXPECT_EQ(nearest("w"), "KeyW");
  EXPECT_EQ(nearest("keyw"), "KeyW");
  EXPECT_EQ(nearest("1"), "Digit1");
  EXPECT_EQ(nearest("Up"), "ArrowUp");
  EXPECT_EQ(nearest("mouse-move"), "MouseMove");
  EXPECT_EQ(nearest("Spcae"), "Space");
  EXPECT_EQ(nearestName("halflife_s", {"half_life_s", "halt"}), "half_life_s");
  EXPECT_FALSE(nearestName(std::string(3'000'000, 'x'), controls).empty());
}

TEST(Toml, DepthIsBoundedBeforeItIsParsed) {
  const auto refused = [](const std::string& text, const char* where) {
    testing::expectError([&] { parseDesign("format = 1\n" + text, "deep"); }, {"deep:", where, "more than 64 deep"});
  };
  std::string key = "a";
  for (int i = 0; i < 100000; ++i) key += ".a";
  refused(key + " = 1\n", ":2:");
  refused("# x\n[" + key + "]\n", ":3:");
  refused("a = {" + key + " = 1}\n", ":2:");
  refused("a = " + std::string(100000, '['), ":2:");
  std::string tables;
  for (int i = 0; i < 100000; ++i) tables += "a = {";
  refused("x = \"\"\"\nlines\n[[[[ \"\"\"\n" + tables, ":5:");
  // What only looks deep is not.
  std::string flat = "a = [";
  for (int i = 0; i < 200; ++i) flat += "1.5, 2.5,\n";
  testing::expectError([&] { parseDesign("format = 1\n" + flat + "]\n", "flat"); }, {"unknown key a"});
  testing::expectError(
      [] { parseDesign("format = 1\nb = \"" + std::string(500, '[') + std::string(500, '.') + "\"\n", "flat"); },
      {"unknown key b"});
  testing::expectError([] { parseDesign("format = 1\n# '" + std::string(500, '[') + "\nb = 1\n", "flat"); },
                       {"flat:3:", "unknown key b"});
}

TEST(TakeFile, AShortOneStandsForNoMoreThanFits) {
  const auto refused = [](const std::string& lines, std::initializer_list<const char*> words) {
    testing::expectError([&] { readTake(temporaryFile("t.take", "alpglow take 1\n" + lines + "86400 end\n")); }, words);
  };
  refused("0..86400 MouseMove 1e6 0\n", {":2", "more than 4000000 events"});
  refused("0..86400 MouseTurn 90 0\n", {":2", "more than 4000000 events"});
  std::string nothing;
  for (int i = 0; i < 1000; ++i) nothing += "0..30000 MouseMove 0 0\n";
  refused(nothing, {":3", "more than 4000000 events"});
  refused("0 " + std::string(3'000'000, 'K') + " 1\n", {":2", "is longer than"});
  refused("0 " + std::string(100'000, 'K') + " 1\n", {":2", "unknown control"});
  const Take day = readTake(temporaryFile("d.take", "alpglow take 1\n0..20000 MouseMove 1e6 0\n86400 end\n"));
  EXPECT_EQ(day.length, 86400);
  EXPECT_GT(day.events.size(), 500'000u);
}

TEST(TakeFile, NamesAreLookedForWhenItIsRead) {
  Level level;
  level.targets.push_back({"lantern-1"});
  const auto check = [&](const std::string& cue) {
    const std::string path = temporaryFile("n.take", "alpglow take 1\n1 " + cue + "\n2 end\n");
    checkNames(readTake(path), path, level, standardBindings());
  };
  const auto refused = [&](const char* cue, std::initializer_list<const char*> words) {
    testing::expectError([&] { check(cue); }, words);
  };
  refused("mode nonsense", {"n.take:2:", "nonsense is no mode", "on-foot"});
  refused("lock latern-1", {":2:", "latern-1 is no target", "lantern-1"});
  refused("guide lantern", {"lantern is no target"});
  refused("camera yrad", {"yrad is no camera"});
  refused("subject chamois", {"chamois is no platform"});
  for (const char* good : {"mode menu", "lock lantern-1", "camera flying", "camera character 0.5", "subject character"})
    EXPECT_NO_THROW(check(good)) << good;
}

TEST(TraceFile, TextInItCannotMoveTheCursor) {
  const Trace trace = readTrace(temporaryFile("e.csv", "time_s,camera\n0.1,\x1b[2J\n"));
  ASSERT_EQ(trace.size(), 1u);
  EXPECT_EQ(trace[0].cameraName.find('\x1b'), std::string::npos);
}

}  // namespace
}  // namespace alpglow::io
