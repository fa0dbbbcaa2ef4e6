#include "sums.hpp"

#include "alpglow/base/angles.hpp"

#include <Eigen/Core>

#include <cstddef>

namespace alpglow::feel {

using Eigen::Vector2d;
using Eigen::Vector3d;
using io::TraceFrame;

namespace {

constexpr double halfHeight = 540;                    // pixels of 1080 lines
constexpr double turnsFor = 1.0 / 60, eyesFor = 0.1;  // seconds between two frames of which rates are taken
constexpr double handRests = 0.25;                    // seconds

/// The frames that are at least so many seconds apart.
std::vector<std::size_t> apart(const Frames& frames, double seconds) {
  std::vector<std::size_t> kept;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    if (kept.empty() || frames[i].time - frames[kept.back()].time >= seconds - 1e-6) kept.push_back(i);
  }
  return kept;
}

/// How far the third of four values is from the parabola through the others, in standard deviations of values that are
/// each so unrestful by themselves.
double residual(const double (&t)[4], const double (&x)[4]) {
  double missing = x[2], squares = 1;
  for (const int k : {0, 1, 3}) {
    double weight = 1;
    for (const int other : {0, 1, 3}) {
      if (other != k) weight *= (t[2] - t[other]) / (t[k] - t[other]);
    }
    missing -= weight * x[k];
    squares += weight * weight;
  }
  return missing / std::sqrt(squares);
}

/// Of the frames up to one, while the hand rests and the subject moves.
double squaredJitterAt(const Frames& frames, std::size_t last) {
  double times[4], across[4], up[4];
  for (std::size_t k = 0; k < 4; ++k) {
    const TraceFrame& each = frames[last - 3 + k];
    if (!showsSubject(each) || !headInPicture(each) || looks(each) || each.speed < standing) return nothing;
    times[k] = each.time;
    across[k] = each.headX * each.aspect * halfHeight;
    up[k] = each.headY * halfHeight;
  }
  const double x = residual(times, across), y = residual(times, up);
  return x * x + y * y;
}

/// Degrees per second², of three frames.
double turnAcceleration(const Frames& frames, const Turn& turn, const std::size_t (&at)[3]) {
  const auto rate = [&](std::size_t from, std::size_t to) -> Vector2d {
    const double narrow = std::cos(degrees(turn.pitch[to]));
    const Vector2d way(narrow * (turn.yaw[to] - turn.yaw[from]), turn.pitch[to] - turn.pitch[from]);
    return way / (frames[to].time - frames[from].time);
  };
  return (rate(at[1], at[2]) - rate(at[0], at[1])).norm() * 2 / (frames[at[2]].time - frames[at[0]].time);
}

/// Metres per second².
double acceleration(const TraceFrame& a, const TraceFrame& b, const TraceFrame& c) {
  const Vector3d before = (b.camera - a.camera) / (b.time - a.time), after = (c.camera - b.camera) / (c.time - b.time);
  return (after - before).norm() * 2 / (c.time - a.time);
}

}  // namespace

void FeelSums::measurePicture(const Frames& frames) {
  const Turn turn(frames);
  double lookedAt = frames[0].time;
  std::vector<double> sinceLook;
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const TraceFrame& frame = frames[i];
    if (looks(frame)) lookedAt = frame.time;
    sinceLook.push_back(frame.time - lookedAt);
    aimDrift.add(frame.aimError);
    if (showsSubject(frame)) {
      visible.add(frame.visible, frame.dt);
      outOfPicture.add(headInPicture(frame) ? 0 : 1, frame.dt);
      if (headInPicture(frame)) headX.add(frame.headX, frame.dt), headY.add(frame.headY, frame.dt);
    }
    if (i > 0) horizonSpeed.add(std::abs(frame.roll - frames[i - 1].roll) / (frame.time - frames[i - 1].time));
    const double squared = i < 3 ? nothing : squaredJitterAt(frames, i);
    if (!std::isnan(squared)) squaredJitter.add(squared);
  }
  const std::vector<std::size_t> turns = apart(frames, turnsFor), eyes = apart(frames, eyesFor);
  for (std::size_t k = 2; k < turns.size(); ++k) {
    if (sinceLook[turns[k]] >= handRests)
      unaskedTurn.add(turnAcceleration(frames, turn, {turns[k - 2], turns[k - 1], turns[k]}));
  }
  for (std::size_t k = 2; k < eyes.size(); ++k) {
    if (sinceLook[eyes[k]] < handRests) continue;
    const TraceFrame &a = frames[eyes[k - 2]], &b = frames[eyes[k - 1]], &c = frames[eyes[k]];
    const double metres = acceleration(a, b, c);
    squaredAcceleration.add(metres * metres, (c.time - a.time) / 2);
  }
}

}  // namespace alpglow::feel
