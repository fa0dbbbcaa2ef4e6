// A short part of what tests/fuzz/run.sh does at length.

#include "fuzz/jumps.hpp"
#include "fuzz/random_play.hpp"
#include "support/seeds.hpp"

#include <gtest/gtest.h>

#include <cctype>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <iterator>
#include <set>
#include <sstream>
#include <string>

namespace alpglow {
namespace {

class RandomPlay : public testing::Shards {};
ALPGLOW_SHARDS(RandomPlay);

TEST_P(RandomPlay, WithAnyDesignGivesLegalViews) {
  for (const unsigned seed : seedsOf(2000))
    ASSERT_EQ(testing::RandomPlay(seed, testing::Style::ordinary).play(500), "") << "seed " << seed;
}

TEST_P(RandomPlay, NothingJumpsWithoutAHand) {
  for (const unsigned seed : seedsOf(1000)) ASSERT_EQ(testing::Jumps(seed).play(), "") << "seed " << seed;
}

TEST_P(RandomPlay, WithBadNumbersFromTheHostGivesLegalViews) {
  for (const unsigned seed : seedsOf(1000))
    ASSERT_EQ(testing::RandomPlay(seed, testing::Style::hostile).play(300), "") << "seed " << seed;
}

TEST_P(RandomPlay, GoesOnFromASavedStateAsIfNothingHadHappened) {
  for (const unsigned seed : seedsOf(300)) {
    testing::RandomPlay one(seed, testing::Style::ordinary), other(seed, testing::Style::reborn);
    ASSERT_EQ(one.play(300) + other.play(300), "") << "seed " << seed;
    ASSERT_EQ(one.checksum(), other.checksum()) << "seed " << seed;
  }
}

/// At a thousand kilometres a double is good to 1e-10 m. With nothing in the way, where a ray that grazes something
/// would make 1e-5 m of that; in a few games something else does, straight up or down or between two framings.
TEST_P(RandomPlay, SeesTheSameWhereverTheOriginIs) {
  const std::vector<unsigned> seeds = seedsOf(300);
  std::size_t magnified = 0;
  for (const unsigned seed : seeds) {
    testing::RandomPlay one(seed, testing::Style::ordinary, true), other(seed, testing::Style::shifted, true);
    one.keepsViews = other.keepsViews = true;
    ASSERT_EQ(one.play(300) + other.play(300), "") << "seed " << seed;
    double worst = 0;
    for (std::size_t i = 0; i < 300; ++i) {
      const auto &a = one.views[i], &b = other.views[i];
      // A turn by so much takes a camera that is far away as much farther.
      worst = std::max({worst, (a.position - b.position).norm() / std::max(a.distance, 1.0),
                        std::abs(shortestTurn(a.yaw, b.yaw)), std::abs(a.pitch - b.pitch),
                        std::abs(a.fieldOfView - b.fieldOfView)});
    }
    ASSERT_LE(worst, 2e-2) << "seed " << seed;
    if (worst > 1e-6) ++magnified;
  }
  EXPECT_LE(magnified, seeds.size() / 10);
}

std::string hashesOfGames() {
  std::string text;
  for (unsigned seed = 0; seed < 40; ++seed) {
    testing::RandomPlay play(seed, testing::Style::ordinary, true);
    for (int i = 0; i < 25; ++i) {
      EXPECT_EQ(play.play(8), "");
      text += std::to_string(play.camera().save().hash()) + " ";
    }
  }
  return text;
}

TEST(SavedState, EqualInputsGiveEqualHashesInTwoProcesses) {
  const std::string hashes = hashesOfGames();
  if (std::getenv("ALPGLOW_PRINTS_HASHES") != nullptr) return void(std::printf("hashes %s\n", hashes.c_str()));
  const std::string self = std::filesystem::read_symlink("/proc/self/exe").string();
  const std::string command = "ALPGLOW_PRINTS_HASHES=1 '" + self + "' --gtest_filter=SavedState.Equal*";
  std::FILE* other = popen(command.c_str(), "r");
  ASSERT_NE(other, nullptr);
  std::string text;
  for (int c = std::fgetc(other); c != EOF; c = std::fgetc(other)) text += static_cast<char>(c);
  pclose(other);
  EXPECT_NE(text.find("hashes " + hashes), std::string::npos);
  std::istringstream each(hashes);
  EXPECT_EQ(std::set<std::string>(std::istream_iterator<std::string>(each), {}).size(), 1000u) << "each of its own";
}

TEST(SavedState, ADifferenceNamesItsFieldWhicheverItIs) {
  testing::RandomPlay play(3, testing::Style::ordinary, true);
  ASSERT_EQ(play.play(200), "");
  const CharacterCamera& camera = play.camera();
  const CharacterCamera::Saved saved = camera.save();
  EXPECT_EQ(camera.difference(saved), "");
  EXPECT_TRUE(saved == CharacterCamera(camera).save());
  std::set<std::string> names;
  std::size_t named = 0;
  for (std::size_t at = 0; at < sizeof saved.fields; ++at) {
    CharacterCamera::Saved other = saved;
    other.fields[at] = static_cast<unsigned char>(other.fields[at] ^ 64);
    EXPECT_EQ(camera.difference(other), "it was damaged");
    other.checksum = checksumOf(other.fields, sizeof other.fields);
    EXPECT_TRUE(saved != other && saved.hash() != other.hash());
    const std::string text = camera.difference(other);
    if (text == "behind the fields") continue;
    EXPECT_EQ(named++, at) << "no byte between fields";
    const std::string name = text.substr(0, text.find(": "));
    EXPECT_TRUE(name.find("..") == std::string::npos && name.back() != '.' && std::isalpha(name[0])) << text;
    names.insert(name);
  }
  EXPECT_GT(named, sizeof saved.fields / 2);
  for (const char* name : {"assists.lock.yawError", "subject.follow.feet.lag.y", "report.last.fieldOfView",
                           "placement.pullIn.out.added", "angles.look.pending.pitch", "framing.conditions"})
    EXPECT_EQ(names.count(name), 1u) << name;
}

}  // namespace
}  // namespace alpglow
