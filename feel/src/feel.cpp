#include "alpglow/feel/feel.hpp"

#include "sums.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/base/half_life.hpp"
#include "alpglow/base/rotation.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <sstream>

namespace alpglow::feel {

using Eigen::Vector3d;

namespace {

constexpr double lookMemory = 0.05;  // seconds

double angleBetween(const Vector3d& a, const Vector3d& b) { return std::atan2(a.cross(b).norm(), a.dot(b)); }

Eigen::Matrix3d orientation(const io::TraceFrame& frame) {
  return rotationOf(degrees(frame.yaw), degrees(frame.pitch));
}

/// How far obstacles move the head in the picture: the turn from where it would be, in the camera's own axes, radians.
Vector3d headMoved(const io::TraceFrame& frame) {
  const Vector3d toHead = frame.head - frame.camera, wouldBe = frame.head - frame.free, axis = wouldBe.cross(toHead);
  const double angle = angleBetween(wouldBe, toHead), length = axis.norm();
  return length > 0 ? Vector3d(orientation(frame).transpose() * axis * (angle / length)) : Vector3d::Zero();
}

/// The head is drawn, in the picture, and it is known where it would be.
bool seesHead(const io::TraceFrame& frame) {
  return frame.opacity > 0 && headInPicture(frame) && frame.free.allFinite();
}

bool counts(const io::TraceFrame& frame) { return frame.dt > 0 && showsSubject(frame); }

bool isFree(const io::TraceFrame& frame) { return frame.distance >= frame.freeDistance - 1e-6; }

bool cutIn(const io::TraceFrame& frame) { return io::happened(frame, "cut"); }

/// Calls each(frames) for the longest pieces that count and within which nothing cuts and time goes on.
template <class Counts, class Each>
void forEachStretch(const io::Trace& trace, Counts&& countsIn, Each&& each) {
  const io::TraceFrame* const end = trace.data() + trace.size();
  for (const io::TraceFrame* begin = trace.data(); begin != end;) {
    const io::TraceFrame* last = begin;
    while (last != end && countsIn(*last) && (last == begin || (!cutIn(*last) && last->time > (last - 1)->time)))
      ++last;
    if (last != begin) each(Frames(begin, static_cast<std::size_t>(last - begin)));
    begin = last == begin ? begin + 1 : last;
  }
}

/// How fast the look turned during the last 50 ms, degrees per second.
std::vector<double> lookRates(const Frames& frames) {
  std::vector<double> rates{0};
  const auto turn = [&frames](std::size_t i) {
    return toDegrees(angleBetween(orientation(frames[i - 1]).col(2), orientation(frames[i]).col(2)));
  };
  double turned = 0;
  std::size_t oldest = 0;
  for (std::size_t i = 1; i < frames.size(); ++i) {
    turned += turn(i);
    while (frames[i].time - frames[oldest].time > lookMemory + 1e-9 && oldest + 1 < i) turned -= turn(++oldest);
    rates.push_back(std::max(turned, 0.0) / (frames[i].time - frames[oldest].time));
  }
  return rates;
}

LookRate kindOf(double rate) {
  return rate < restBelow ? LookRate::rest : rate < slowBelow ? LookRate::slow : LookRate::flick;
}

/// What obstacles took since a frame, metres: what one wants less by itself is no loss.
double lossBetween(const io::TraceFrame& before, const io::TraceFrame& frame) {
  return std::max(std::min(before.distance, frame.freeDistance) - frame.distance, 0.0);
}

/// Of losses whose times overlap the largest is the pop.
void addPops(const Frames& frames, const std::vector<double>& rates, std::vector<Pop>& pops) {
  struct Loss {
    double metres = 0;
    std::size_t begin = 0, end = 0;
  };
  const auto lossUntil = [&frames](std::size_t end, std::size_t notBefore) {
    std::size_t begin = end - 1;
    while (begin > notBefore && frames[end].time - frames[begin - 1].time <= popTime + 1e-6) --begin;
    const double seconds = frames[end].time - frames[begin].time;
    return Loss{lossBetween(frames[begin], frames[end]) * std::min(popTime / seconds * (1 + 1e-4), 1.0), begin, end};
  };
  std::size_t from = 0;  // the end of the last pop
  for (std::size_t i = 1; i < frames.size(); ++i) {
    Loss most = lossUntil(i, from);
    if (most.metres <= popLoss) continue;
    for (std::size_t next = i + 1; next < frames.size(); ++next) {
      const Loss loss = lossUntil(next, from);
      if (loss.begin >= i) break;
      if (loss.metres > most.metres) most = loss;
    }
    const io::TraceFrame& frame = frames[most.end];
    pops.push_back({frame.time, most.metres, kindOf(rates[most.end]), rates[most.end], frame.obstacle});
    from = i = most.end;
  }
}

}  // namespace

int Feel::popsAt(LookRate look) const {
  return static_cast<int>(std::count_if(pops.begin(), pops.end(), [look](const Pop& p) { return p.look == look; }));
}

FeelMeter::FeelMeter() : sums_(std::make_unique<FeelSums>()) {}
FeelMeter::~FeelMeter() = default;
FeelMeter::FeelMeter(FeelMeter&&) noexcept = default;
FeelMeter& FeelMeter::operator=(FeelMeter&&) noexcept = default;

void FeelMeter::add(const io::Trace& trace) {
  forEachStretch(trace, counts, [this](const Frames& frames) { sums_->measureObstacles(frames); });
  forEachStretch(
      trace, [](const io::TraceFrame& frame) { return frame.dt > 0; },
      [this](const Frames& frames) {
        sums_->measureAnswers(frames);
        sums_->measurePicture(frames);
      });
}

void FeelSums::measureObstacles(const Frames& frames) {
  std::vector<double> times, lost;
  const std::vector<double> rates = lookRates(frames);
  addPops(frames, rates, pops);
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const io::TraceFrame& frame = frames[i];
    times.push_back(frame.time);
    seconds += frame.dt;
    distance += frame.dt * frame.distance;
    wanted += frame.dt * frame.freeDistance;
    close.add(frame.distance < closeDistance && frame.freeDistance >= closeDistance ? 1 : 0, frame.dt);
    pulledIn.add(frame.distance < frame.freeDistance - 0.01 ? 1 : 0, frame.dt);
    if (i == 0) {
      lost.push_back(0);
      continue;
    }
    const io::TraceFrame& before = frames[i - 1];
    // In and out by obstacles alone: what is free goes along with what one wants.
    const bool free = isFree(before) && isFree(frame);
    lost.push_back(lost.back() + (free ? 0 : std::min(before.distance, frame.freeDistance) - frame.distance));
    const double speed = lossBetween(before, frame) / frame.dt;
    inSpeed.add(speed);
    if (kindOf(rates[i]) != LookRate::flick) calmInSpeed.add(speed);
    const double wantedMore = std::max(frame.freeDistance - before.freeDistance, 0.0);
    outSpeed.add(isFree(before) ? 0 : std::max(frame.distance - before.distance - wantedMore, 0.0) / frame.dt);
    if (seesHead(before) && seesHead(frame))
      headSpeed.add(toDegrees((headMoved(frame) - headMoved(before)).norm()) / frame.dt);
  }
  pumps += pumpsOf(times, lost, pumpDepth);
  deepPumps += pumpsOf(times, lost, deepPumpDepth);
}

Feel FeelMeter::feel() const {
  using io::Felt;
  const FeelSums& s = *sums_;
  Feel feel;
  feel.seconds = s.seconds;
  feel.pops = s.pops;
  if (s.seconds > 0) {
    double worst = 0;
    for (const Pop& pop : s.pops) worst = std::max(worst, pop.loss);
    feel.of(Felt::popsPerMinute) = feel.perMinute(static_cast<double>(s.pops.size()));
    feel.of(Felt::calmPopsPerMinute) = feel.perMinute(feel.popsAt(LookRate::rest) + feel.popsAt(LookRate::slow));
    feel.of(Felt::worstPop) = worst;
    feel.of(Felt::pumpsPerMinute) = feel.perMinute(s.pumps);
    feel.of(Felt::deepPumpsPerMinute) = feel.perMinute(s.deepPumps);
    feel.of(Felt::kept) = s.distance / s.wanted;
  }
  feel.of(Felt::inSpeed) = s.inSpeed.value();
  feel.of(Felt::calmInSpeed) = s.calmInSpeed.value();
  feel.of(Felt::outSpeed) = s.outSpeed.value();
  feel.of(Felt::headSpeed) = s.headSpeed.value();
  feel.of(Felt::close) = s.close.value();
  feel.of(Felt::pulledIn) = s.pulledIn.value();
  feel.of(Felt::latency) = s.latency.value();
  feel.of(Felt::walkLatency) = s.walkLatency.value();
  feel.of(Felt::lookSettle) = s.lookSettle.value();
  feel.of(Felt::followSettle) = s.followSettle.value();
  feel.of(Felt::followOvershoot) = s.followOvershoot.value();
  feel.of(Felt::changeSettle) = s.changeSettle.value();
  feel.of(Felt::changeOvershoot) = s.changeOvershoot.value();
  feel.of(Felt::unaskedTurn) = s.unaskedTurn.value();
  feel.of(Felt::aimDrift) = s.aimDrift.value();
  // Of noise that is normal both ways half of the squares are below ln 2 of their mean; starts and stops do not count.
  feel.of(Felt::jitter) = std::sqrt(s.squaredJitter.value() / ln2);
  feel.of(Felt::visible) = s.visible.value();
  feel.of(Felt::outOfPicture) = s.outOfPicture.value();
  feel.of(Felt::horizonSpeed) = s.horizonSpeed.value();
  feel.of(Felt::viewAcceleration) = std::sqrt(s.squaredAcceleration.value());
  feel.headInPicture = {s.headX.value(), s.headY.value()};
  return feel;
}

Verdict verdictOf(double value, io::Felt what, const io::Limits& limits) {
  const auto place = static_cast<std::size_t>(what);
  if (std::isnan(value)) return Verdict::unmeasured;
  const double way = io::limitKeys()[place].atLeast ? -1 : 1;
  if (way * value <= way * limits.verdicts[place].fine) return Verdict::fine;
  return way * value <= way * limits.verdicts[place].bad ? Verdict::noticeable : Verdict::bad;
}

const char* nameOf(Verdict verdict) {
  static const char* const names[] = {"-", "fine", "noticeable", "bad"};
  return names[static_cast<int>(verdict)];
}

std::vector<std::string> broken(const Feel& feel, const io::Limits& limits) {
  std::vector<std::string> lines;
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    if (!limits.values[i] || std::isnan(feel.values[i])) continue;
    const io::LimitKey& key = io::limitKeys()[i];
    const double value = feel.values[i], limit = *limits.values[i];
    if (key.atLeast ? value >= limit : value <= limit) continue;
    std::ostringstream line;
    line << key.key << " is " << value << ", but must be at " << (key.atLeast ? "least " : "most ") << limit << " ("
         << key.help << ')';
    lines.push_back(line.str());
  }
  return lines;
}

std::vector<std::string> unmeasured(const Feel& feel, const io::Limits& limits) {
  std::vector<std::string> keys;
  for (std::size_t i = 0; i < io::feltCount; ++i) {
    if (limits.values[i] && std::isnan(feel.values[i])) keys.emplace_back(io::limitKeys()[i].key);
  }
  return keys;
}

std::vector<Difference> largestDifferences(const io::Trace& first, const io::Trace& other) {
  std::vector<Difference> most = {
      {"distance", "m"}, {"place of the camera", "m"}, {"direction of the view", "°"}, {"field of view", "°"}};
  std::size_t k = 0;
  for (const io::TraceFrame& frame : first) {
    if (other.empty() || frame.time > other.back().time + 1e-9) break;
    while (k + 1 < other.size() && other[k].time < frame.time) ++k;
    const io::TraceFrame &after = other[k], &before = other[k > 0 ? k - 1 : 0];
    // Of frames before the first and on either side of a cut the one that is over.
    const double span = after.time - before.time;
    const double s = span > 0 && !cutIn(after) ? std::clamp((frame.time - before.time) / span, 0.0, 1.0) : 1;
    const auto between = [&](double io::TraceFrame::*number) {
      return before.*number + s * (after.*number - before.*number);
    };
    const Vector3d place = before.camera + s * (after.camera - before.camera);
    const Vector3d looks = orientation(before).col(2) + s * (orientation(after).col(2) - orientation(before).col(2));
    const double values[] = {std::abs(between(&io::TraceFrame::distance) - frame.distance),
                             (place - frame.camera).norm(), toDegrees(angleBetween(looks, orientation(frame).col(2))),
                             std::abs(between(&io::TraceFrame::fieldOfView) - frame.fieldOfView)};
    for (std::size_t i = 0; i < most.size(); ++i) {
      if (values[i] > most[i].value) most[i].value = values[i], most[i].time = frame.time;
    }
  }
  return most;
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
