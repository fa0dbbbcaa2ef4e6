#include "alpglow/feel/feel.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <sstream>

namespace alpglow::feel {

using Eigen::Vector3d;

namespace {

constexpr double lookMemory = 0.05;      // seconds
constexpr double thirdPersonFrom = 0.2;  // metres that are wanted

/// What 99.9 % stay below or at.
double mostOf(std::vector<double> values) {
  if (values.empty()) return 0;
  const auto place =
      values.begin() + static_cast<std::ptrdiff_t>(std::ceil(0.999 * static_cast<double>(values.size()))) - 1;
  std::nth_element(values.begin(), place, values.end());
  return *place;
}

double angleBetween(const Vector3d& a, const Vector3d& b) { return std::atan2(a.cross(b).norm(), a.dot(b)); }

Eigen::Matrix3d orientation(const io::TraceFrame& frame) {
  return rotationOf(degrees(frame.yaw), degrees(frame.pitch));
}

/// Toward the head, in the camera's own axes.
Vector3d headInPicture(const io::TraceFrame& frame) {
  return orientation(frame).transpose() * (frame.head - frame.camera);
}

bool counts(const io::TraceFrame& frame) { return frame.dt > 0 && frame.freeDistance > thirdPersonFrom; }

bool isFree(const io::TraceFrame& frame) { return frame.distance >= frame.freeDistance - 1e-6; }

bool cutIn(const io::TraceFrame& frame) { return io::happened(frame, "cut"); }

}  // namespace

int Feel::popsAt(LookRate look) const {
  return static_cast<int>(std::count_if(pops.begin(), pops.end(), [look](const Pop& p) { return p.look == look; }));
}

/// Frames that count, one after the other, without a cut.
struct FeelMeter::Stretch {
  const io::TraceFrame* begin;
  const io::TraceFrame* end;
};

void FeelMeter::add(const io::Trace& trace) {
  const io::TraceFrame* const end = trace.data() + trace.size();
  for (const io::TraceFrame* begin = trace.data(); begin != end;) {
    const io::TraceFrame* last = begin;
    while (last != end && counts(*last) && (last == begin || !cutIn(*last))) ++last;
    if (last != begin) count({begin, last});
    begin = last == begin ? begin + 1 : last;
  }
}

void FeelMeter::count(const Stretch& stretch) {
  std::vector<double> times, lost;
  double turned = 0;  // degrees during the last 50 ms
  const io::TraceFrame* oldest = stretch.begin;
  const auto turn = [](const io::TraceFrame& frame) {
    return toDegrees(angleBetween(orientation(*(&frame - 1)).col(2), orientation(frame).col(2)));
  };
  for (const io::TraceFrame* frame = stretch.begin; frame != stretch.end; ++frame) {
    times.push_back(frame->time);
    sums_.seconds += frame->dt;
    distance_ += frame->dt * frame->distance;
    wanted_ += frame->dt * frame->freeDistance;
    if (frame->distance < closeDistance && frame->freeDistance >= closeDistance) closeTime_ += frame->dt;
    if (frame == stretch.begin) {
      lost.push_back(0);
      continue;
    }
    const io::TraceFrame& before = *(frame - 1);
    // In and out by obstacles alone: what is free goes along with what one wants.
    const bool free = isFree(before) && isFree(*frame);
    lost.push_back(lost.back() + (free ? 0 : std::min(before.distance, frame->freeDistance) - frame->distance));
    turned += turn(*frame);
    while (frame->time - oldest->time > lookMemory + 1e-9 && oldest + 1 < frame) turned -= turn(*++oldest);
    const double rate = std::max(turned, 0.0) / (frame->time - oldest->time);
    const LookRate look = rate < restBelow ? LookRate::rest : rate < slowBelow ? LookRate::slow : LookRate::flick;
    const double loss = std::max(std::min(before.distance, frame->freeDistance) - frame->distance, 0.0);
    if (loss > popLoss) sums_.pops.push_back({frame->time, loss, look, rate, frame->obstacle});
    inSpeeds_.push_back(loss / frame->dt);
    if (look != LookRate::flick) calmInSpeeds_.push_back(loss / frame->dt);
    headSpeeds_.push_back(toDegrees(angleBetween(headInPicture(before), headInPicture(*frame))) / frame->dt);
  }
  sums_.pumps += pumpsOf(times, lost, pumpDepth);
  sums_.deepPumps += pumpsOf(times, lost, deepPumpDepth);
}

Feel FeelMeter::feel() const {
  Feel feel = sums_;
  if (wanted_ > 0) feel.kept = distance_ / wanted_;
  if (feel.seconds > 0) feel.close = closeTime_ / feel.seconds;
  feel.inSpeed = mostOf(inSpeeds_);
  feel.calmInSpeed = mostOf(calmInSpeeds_);
  feel.headSpeed = mostOf(headSpeeds_);
  return feel;
}

double valueOf(const Feel& f, io::Felt what) {
  using io::Felt;
  const auto worst = [&f] {
    double most = 0;
    for (const Pop& pop : f.pops) most = std::max(most, pop.loss);
    return most;
  };
  switch (what) {
    case Felt::popsPerMinute: return f.perMinute(static_cast<double>(f.pops.size()));
    case Felt::calmPopsPerMinute: return f.perMinute(f.popsAt(LookRate::rest) + f.popsAt(LookRate::slow));
    case Felt::worstPop: return worst();
    case Felt::pumpsPerMinute: return f.perMinute(f.pumps);
    case Felt::deepPumpsPerMinute: return f.perMinute(f.deepPumps);
    case Felt::inSpeed: return f.inSpeed;
    case Felt::calmInSpeed: return f.calmInSpeed;
    case Felt::headSpeed: return f.headSpeed;
    case Felt::close: return f.close;
    case Felt::kept: return f.kept;
  }
  return 0;
}

std::vector<std::string> broken(const Feel& feel, const io::Limits& limits) {
  std::vector<std::string> lines;
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    if (!limits.values[i]) continue;
    const io::LimitKey& key = io::limitKeys()[i];
    const double value = valueOf(feel, static_cast<io::Felt>(i)), limit = *limits.values[i];
    if (key.atLeast ? value >= limit : value <= limit) continue;
    std::ostringstream line;
    line << key.key << " is " << value << ", but must be at " << (key.atLeast ? "least " : "most ") << limit << " ("
         << key.help << ')';
    lines.push_back(line.str());
  }
  return lines;
}

/// One pass from the end: d(t) = min over u ≥ t of room(u) + speed · (u − t). What does not count, and cuts, divide.
io::Trace withPerfectForesight(const io::Trace& trace, double inSpeed) {
  io::Trace foreseen = trace;
  double most = std::numeric_limits<double>::infinity();
  for (std::size_t i = foreseen.size(); i-- > 0;) {
    io::TraceFrame& frame = foreseen[i];
    // A trace of before has no room: what was shown was possible.
    const double room = std::max(frame.clearDistance, frame.distance);
    frame.distance = std::min({most, room, frame.freeDistance});
    most = frame.distance + inSpeed * frame.dt;
    if (!counts(frame) || cutIn(frame)) most = std::numeric_limits<double>::infinity();
  }
  return foreseen;
}

/// Peaks and valleys that differ by `depth` at least; a pump is a valley between two peaks, the first of which ended
/// not long ago.
int pumpsOf(const std::vector<double>& times, const std::vector<double>& lost, double depth) {
  int pumps = 0;
  bool goingIn = false;        // toward a peak
  double extreme = 0, at = 0;  // of this way, and when it was there last
  double peakAt = -1e300, valleyAt = -1e300;
  for (std::size_t i = 0; i < lost.size(); ++i) {
    const double value = lost[i], back = goingIn ? extreme - value : value - extreme;
    if (i == 0 || back <= 0) {
      extreme = value;
      at = times[i];
    } else if (back >= depth) {
      (goingIn ? peakAt : valleyAt) = at;
      // In again after a valley that began with a peak.
      if (!goingIn && peakAt > -1e300 && valleyAt - peakAt <= pumpTime) ++pumps;
      goingIn = !goingIn;
      extreme = value;
      at = times[i];
    }
  }
  return pumps;
}

}  // namespace alpglow::feel
