#include "alpglow/framing/kept_aim.hpp"

#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double pitchMargin = degrees(3);
constexpr int pieces = 12;  // of a step without full authority

LookAngles turnBetween(const LookAngles& from, const LookAngles& to) {
  return {shortestTurn(from.yaw, to.yaw), to.pitch - from.pitch};
}

AimAxis between(const AimAxis& a, const AimAxis& b, double s) {
  return {a.shoulder + s * (b.shoulder - a.shoulder), a.tilt + s * (b.tilt - a.tilt),
          a.distance + s * (b.distance - a.distance)};
}

double eased(double s) {
  const double t = std::clamp(s, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

/// What is left of a pitch turn that goes outward near a limit.
double authorityOver(double pitch, double turn, const PitchLimits& limits) {
  if (turn == 0) return 1;
  return eased((turn > 0 ? limits.high - pitch : pitch - limits.low) / pitchMargin);
}

}  // namespace

void KeptAim::begin(const AimFrame& frame, const LookAngles& look, const Vector3d& shift, double distance,
                    double ahead) {
  const Eigen::Matrix3d axes = frame.level * rotationOf(look.yaw, look.pitch);
  end();
  on_ = guessed_ = true;
  axis_ = frame.axis;
  look_ = look;
  start_ = frame.anchor + shift + axis_.shoulder * axes.col(0) + distance * std::sin(axis_.tilt) * axes.col(1);
  rayStart_ = start_;
  rayDirection_ = -axes.col(2);
  point_ = start_.vector() + ahead * rayDirection_.vector();
  from_ = frame.level.conjugate() * Vector3d(point_.vector() - frame.anchor);
  const AimSolution free = aimAt(from_, axis_);
  solution_ = free.look;
  lost_ = free.authority < 1;
  clear_ = turnBetween(solution_, look);
}

void KeptAim::setAhead(double ahead) {
  guessed_ = false;
  point_ = start_.vector() + ahead * (point_.vector() - start_.vector()).normalized();
}

void KeptAim::shift(const Vector3d& offset) {
  for (StoredVector3* position : {&point_, &start_, &rayStart_}) *position = position->vector() + offset;
}

void KeptAim::turnPoint(const Rotation& level, const LookAngles& look) {
  if (look.yaw == look_.yaw && look.pitch == look_.pitch) return;
  const Vector3d from = from_, turned = turnedAim(from, axis_.shoulder, look_, look);
  if (guessed_) {
    const Vector3d start = from + level.conjugate() * Vector3d(start_.vector() - point_.vector());
    start_ = start_.vector() + level * Vector3d(turnedAim(start, axis_.shoulder, look_, look) - start);
  }
  point_ = point_.vector() + level * Vector3d(turned - from);
  from_ = turned;
  look_ = look;
}

LookAngles KeptAim::step(const AimFrame& frame, const LookAngles& look, const PitchLimits& limits) {
  const double back = -std::exchange(carried_, 0.0);
  turnPoint(frame.level, {wrapAngle(look.yaw + back), look.pitch});
  const Vector3d from = from_, to = frame.level.conjugate() * Vector3d(point_.vector() - frame.anchor);
  const AimAxis axis = axis_;
  const auto solvedAt = [&](double s) { return aimAt(from + s * (to - from), between(axis, frame.axis, s)); };
  const AimSolution first = solvedAt(0), last = solvedAt(1);
  from_ = to;
  axis_ = frame.axis;
  solution_ = last.look;
  const LookAngles whole = turnBetween(first.look, last.look);
  const bool full = first.authority == 1 && last.authority == 1 && solvedAt(0.5).authority == 1 &&
                    authorityOver(look.pitch, whole.pitch, limits) == 1 &&
                    authorityOver(look.pitch + whole.pitch, whole.pitch, limits) == 1;
  if (full) return {whole.yaw + back, whole.pitch};
  lost_ = true;
  LookAngles turn{first.authority * back, 0}, before = first.look;
  for (int i = 0; i < pieces; ++i) {
    const AimSolution next = solvedAt((i + 1.0) / pieces);
    const double authority = solvedAt((i + 0.5) / pieces).authority;
    const LookAngles piece = turnBetween(before, next.look);
    const double pitch = authority * piece.pitch;
    turn.yaw += authority * piece.yaw;
    turn.pitch += pitch * authorityOver(look.pitch + turn.pitch + pitch / 2, pitch, limits);
    before = next.look;
  }
  return turn;
}

LookAngles KeptAim::stepClear(const Rotation& level, const Vector3d& pivot, double distance) {
  if (!reached()) return {};
  const Vector3d toPoint = level.conjugate() * Vector3d(point_.vector() - pivot);
  const AimSolution seen = aimAt(toPoint, {0, axis_.tilt, distance});
  const LookAngles clear = turnBetween(solution_, seen.look), turn = turnBetween(clear_, clear);
  if (seen.authority < 1) {
    lost_ = true;
    return {};
  }
  clear_ = clear;
  return turn;
}

}  // namespace alpglow
