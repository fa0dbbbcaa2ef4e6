// A short part of what tests/fuzz/run.sh does at length.

#include "fuzz/random_play.hpp"
#include "support/seeds.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

class RandomPlay : public testing::Shards {};
ALPGLOW_SHARDS(RandomPlay);

TEST_P(RandomPlay, WithAnyDesignGivesLegalViews) {
  for (const unsigned seed : seedsOf(2000))
    ASSERT_EQ(testing::RandomPlay(seed, testing::Style::ordinary).play(500), "") << "seed " << seed;
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

}  // namespace
}  // namespace alpglow
