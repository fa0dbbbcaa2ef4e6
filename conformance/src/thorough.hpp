#pragma once
// The questions that are rarely asked and easily answered wrong: from far away, of tiny and huge spheres, over short
// and long ways, for every purpose, of every thing; and those of the interface that have an answer already unless a
// host has a better one.

#include "alpglow/conformance/suite.hpp"

#include <vector>

namespace alpglow::conformance {

/// Adds what is wrong.
void proveThoroughly(const Obstacles& adapter, const Surroundings& truth, const Bounds& where, const Options& options,
                     std::vector<Finding>& findings);

}  // namespace alpglow::conformance
