#pragma once
// How far what is seen is from running smoothly: a subject and an enemy beside it, told by ticks, on a display.

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/follow/history.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"

#include <Eigen/Cholesky>

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <vector>

namespace alpglow::testing {

/// Root mean square against the quadratic that fits 100 ms around each frame best, pixels.
inline double jitter(const std::vector<double>& times, const std::vector<Eigen::Vector2d>& pixels) {
  double sum = 0;
  int count = 0;
  for (std::size_t i = 0; i < times.size(); ++i) {
    if (times[i] < 0.6 || times[i] > times.back() - 0.1) continue;
    Eigen::Matrix3d normal = Eigen::Matrix3d::Zero();
    Eigen::Matrix<double, 3, 2> right = Eigen::Matrix<double, 3, 2>::Zero();
    for (std::size_t k = 0; k < times.size(); ++k) {
      const double t = (times[k] - times[i]) / 0.05;
      if (std::abs(t) > 1) continue;
      const Eigen::Vector3d basis(1, t, t * t);
      normal += basis * basis.transpose();
      right += basis * pixels[k].transpose();
    }
    sum += (pixels[i] - normal.ldlt().solve(right).row(0).transpose()).squaredNorm();
    ++count;
  }
  return std::sqrt(sum / count);
}

/// Straight on, or in a circle of 3 m, at 3 m/s.
inline Subject circler(double t, bool circles) {
  Subject s;
  s.feet = circles ? Eigen::Vector3d(3 * std::sin(t), 0, 3 * std::cos(t)) : Eigen::Vector3d(0, 0, -3 * t);
  s.velocity = circles ? Eigen::Vector3d(3 * std::cos(t), 0, -3 * std::sin(t)) : Eigen::Vector3d(0, 0, -3);
  s.heading = circles ? t - pi / 2 : 0;
  s.head = s.feet + Eigen::Vector3d(0, 1.7, 0);
  return s;
}

struct Displayed {
  bool circles = false;
  double tickRate = 60, display = 60;
  bool uneven = false;
  /// The last tick as it is, without anything in between.
  bool raw = false;
};

/// Of the subject's head and of the enemy, the worse one, pixels at 1080 lines; filmed from 4 m.
inline double jitterOf(const Displayed& how) {
  Random random(5);
  CameraDesign plain;
  plain.framings[0].framing.distance = 4;
  const CompiledDesign design(plain);
  const NoObstacles open;
  CharacterCamera camera(design, circler(0, how.circles));
  History subject, enemy;
  std::vector<double> times;
  std::vector<Eigen::Vector2d> heads, enemies;
  int tick = -1;
  for (double now = 0; now < 4;) {
    const double frame = (how.uneven ? random.between(0.6, 1.4) : 1) / how.display;
    now += frame;
    for (; (tick + 1) / how.tickRate <= now; ++tick) {
      const double told = (tick + 1) / how.tickRate;
      subject.add(told, circler(told, how.circles));
      Subject other = circler(told + 0.4, how.circles);
      other.feet.x() += 1;
      enemy.add(told, other);
    }
    const double at = how.raw ? subject.lastTick() : now - 1 / how.tickRate;
    const Subject drawn = subject.at(at), who = enemy.at(at);
    const View view = camera.step(frame, {}, drawn, open, wide);
    times.push_back(now);
    heads.push_back(pixelOf(view, drawn.head));
    enemies.push_back(pixelOf(view, who.feet));
  }
  return std::max(jitter(times, heads), jitter(times, enemies));
}

}  // namespace alpglow::testing
