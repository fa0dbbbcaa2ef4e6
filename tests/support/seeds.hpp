#pragma once
// The seeds of a property test, dealt out to shards so that `ctest -j` runs them side by side. The environment variable
// ALPGLOW_SEEDS multiplies how many there are (1 if it is not set): a short part every day, all of them when asked.
//
//   class Property : public testing::Shards {};
//   TEST_P(Property, Holds) { for (const unsigned seed : seedsOf(200)) …; }
//   ALPGLOW_SHARDS(Property);

#include <gtest/gtest.h>

#include <algorithm>
#include <cstdlib>
#include <vector>

namespace alpglow::testing {

constexpr unsigned shards = 4;

class Shards : public ::testing::TestWithParam<unsigned> {
 protected:
  /// This shard's seeds of 0 … count − 1, or of so many times more.
  static std::vector<unsigned> seedsOf(unsigned count) {
    const char* times = std::getenv("ALPGLOW_SEEDS");
    const unsigned all = count * static_cast<unsigned>(std::max(times != nullptr ? std::atoi(times) : 1, 1));
    std::vector<unsigned> seeds;
    for (unsigned seed = GetParam(); seed < all; seed += shards) seeds.push_back(seed);
    return seeds;
  }
};

}  // namespace alpglow::testing

/// The last few of 200 seeds for every day, beside the shards.
#define ALPGLOW_FEW_SEEDS(suite) INSTANTIATE_TEST_SUITE_P(Few, suite, ::testing::Values(151u))
#define ALPGLOW_SHARDS(suite) INSTANTIATE_TEST_SUITE_P(Shard, suite, ::testing::Range(0u, ::alpglow::testing::shards))
