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
    ASSERT_EQ(testing::RandomPlay(seed, false).play(500), "") << "seed " << seed;
}

TEST_P(RandomPlay, WithBadNumbersFromTheHostGivesLegalViews) {
  for (const unsigned seed : seedsOf(1000)) ASSERT_EQ(testing::RandomPlay(seed, true).play(300), "") << "seed " << seed;
}

}  // namespace
}  // namespace alpglow
