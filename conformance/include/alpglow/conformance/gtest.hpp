#pragma once
// The proof as a test:
//
//   TEST(OurAdapter, IsExact) { ALPGLOW_EXPECT_CONFORMS(adapter, truth, truth.bounds()); }
//
// Further arguments are `conformance::Options`. Needs GoogleTest, which the library itself does not.

#include "alpglow/conformance/suite.hpp"

#include <gtest/gtest.h>

#define ALPGLOW_EXPECT_CONFORMS(...)                                                              \
  do {                                                                                            \
    const ::alpglow::conformance::Findings findings = ::alpglow::conformance::prove(__VA_ARGS__); \
    EXPECT_TRUE(findings.good()) << findings.text();                                              \
  } while (false)
