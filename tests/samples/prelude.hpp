#pragma once
// What the code samples of headers and documents stand in: everything included, and a game's own functions.

#include <alpglow/alpglow.hpp>

#include <algorithm>

using namespace alpglow;
using Eigen::Matrix4d;
using Eigen::Matrix4f;
using Eigen::Vector3d;

/// Whatever the host does with what it gets.
struct Anything {
  template <class... Given>
  void operator()(const Given&...) const {}
};
const Anything draw, drawMark, walk, moveCharacter, report, use;

struct Tripod {
  double pan = 0;
  bool locked = false;
};
