#include "sums.hpp"

#include <Eigen/Geometry>

#include <cstddef>
#include <functional>

namespace alpglow::feel {

using Eigen::Vector3d;
using io::TraceFrame;

namespace {

constexpr double answers = 1e-4, goes = 1e-3;            // degrees, metres: a first answer
constexpr double quietBefore = 0.1, standsBefore = 0.3;  // seconds
constexpr double noAnswerAfter = 0.5;                    // seconds
constexpr double atRest = 0.1, atRestThere = 0.01;       // degrees, metres
constexpr double calmAtTheEnd = 0.1;                     // seconds

bool walks(const TraceFrame& frame) { return frame.moveX != 0 || frame.moveY != 0; }
bool changes(const TraceFrame& frame) { return frame.zoom != 0 || io::happened(frame, "framing-changed"); }
bool ofCharacter(const TraceFrame& frame) { return frame.cameraName.empty() || frame.cameraName == "character"; }
/// Something other than the hand turns the look, or has a say in how far it turns.
bool assisted(const TraceFrame& frame) {
  return frame.swingBack != 0 || !frame.lock.empty() || frame.handShare < 1 || frame.driftRate != 0 ||
         !ofCharacter(frame) || frame.framingBlend < 1;
}

/// Whether nothing of a kind has happened in the time before a frame, of which there must be as much.
bool quiet(const Frames& frames, std::size_t at, double seconds, const std::function<bool(const TraceFrame&)>& what) {
  for (std::size_t i = at; i-- > 0;) {
    if (what(frames[i])) return false;
    if (frames[at].time - frames[i].time > seconds) return true;
  }
  return false;
}

/// Frames from one on until something ends them, or for so many seconds.
std::size_t until(const Frames& frames, std::size_t from, double seconds,
                  const std::function<bool(std::size_t)>& ends) {
  std::size_t end = from;
  while (end < frames.size() && frames[end].time - frames[from].time <= seconds && !ends(end)) ++end;
  return end;
}

/// When a value that comes to rest was last away from where it ends, since a time; NaN if it has not come to rest.
double settled(const Frames& frames, std::size_t from, std::size_t end, double since,
               const std::function<double(std::size_t)>& away, double tolerance) {
  if (end <= from) return nothing;
  double last = since;
  for (std::size_t i = from; i < end; ++i) {
    if (away(i) > tolerance) last = frames[i].time;
  }
  return frames[end - 1].time - last >= calmAtTheEnd ? last - since : nothing;
}

}  // namespace

Turn::Turn(const Frames& frames) {
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const TraceFrame& f = frames[i];
    const double shown = f.yaw - f.steadyYaw - f.swayYaw - f.pushYaw;
    yaw.push_back(i == 0 ? shown : yaw.back() + std::remainder(shown - yaw.back(), 360));
    pitch.push_back(f.pitch - f.steadyPitch - f.swayPitch - f.pushPitch);
  }
}

namespace {

/// Looks at each frame for something that begins there.
class Answers {
 public:
  Answers(const Frames& frames, FeelSums& sums) : f_(frames), turn_(frames), sums_(sums) {}

  void latencyFrom(std::size_t i) {
    if (!looks(f_[i]) || assisted(f_[i]) || turned(i - 1, i - 2) >= answers || !quiet(f_, i, quietBefore, looks))
      return;
    const std::size_t end = until(f_, i, noAnswerAfter, [&](std::size_t k) { return turned(k, i - 1) > answers; });
    if (end < f_.size() && turned(end, i - 1) > answers) sums_.latency.add(static_cast<double>(end - i));
  }

  void walkLatencyFrom(std::size_t i) {
    if (!walks(f_[i]) || !ofCharacter(f_[i]) || gone(i - 1, i - 2) >= 1e-5 || !quiet(f_, i, standsBefore, walks) ||
        !quiet(f_, i, standsBefore, looks))
      return;
    const std::size_t end = until(f_, i, noAnswerAfter, [&](std::size_t k) { return gone(k, i - 1) > goes; });
    if (end < f_.size() && gone(end, i - 1) > goes) sums_.walkLatency.add(static_cast<double>(end - i));
  }

  void lookSettlesFrom(std::size_t i) {
    if (!looks(f_[i - 1]) || looks(f_[i])) return;
    const std::size_t end = until(f_, i, 1, [&](std::size_t k) { return looks(f_[k]) || assisted(f_[k]); });
    const double time = settled(
        f_, i, end, f_[i - 1].time, [&](std::size_t k) { return turned(k, end - 1); }, atRest);
    if (!std::isnan(time)) sums_.lookSettle.add(time);
  }

  /// Where the subject comes to stand.
  void followSettlesFrom(std::size_t i) {
    if (f_[i - 1].speed < standing || f_[i].speed >= standing || !showsSubject(f_[i])) return;
    const std::size_t end = until(f_, i, 3, [&](std::size_t k) {
      const double most = 0.01 * static_cast<double>(k - i + 1);  // degrees
      return f_[k].speed >= standing || looks(f_[k]) || assisted(f_[k]) || turned(k, i) > most;
    });
    const auto away = [&](std::size_t k) { return (f_[k].pivot - f_[end - 1].pivot).norm(); };
    const double time = settled(f_, i, end, f_[i].time, away, atRestThere);
    if (std::isnan(time)) return;
    sums_.followSettle.add(time);
    double beyond = 0;
    const Vector3d rest = f_[end - 1].pivot, way = rest - f_[i].pivot;
    for (std::size_t k = i; k < end && way.norm() > 2 * atRestThere; ++k)
      beyond = std::max(beyond, (f_[k].pivot - rest).dot(way.normalized()));
    sums_.followOvershoot.add(beyond);
  }

  void changeSettlesFrom(std::size_t i) {
    if (!changes(f_[i]) || !ofCharacter(f_[i])) return;
    const std::size_t end =
        until(f_, i, 3, [&](std::size_t k) { return k > i && (changes(f_[k]) || !ofCharacter(f_[k])); });
    for (const auto& [value, least] :
         {std::pair(&TraceFrame::freeDistance, 0.05), std::pair(&TraceFrame::fieldOfView, 0.5)}) {
      const double rest = f_[end - 1].*value, step = rest - f_[i - 1].*value;
      if (std::abs(step) < least) continue;
      const auto away = [&, of = value](std::size_t k) { return std::abs(f_[k].*of - rest); };
      const double time = settled(f_, i, end, f_[i - 1].time, away, std::max(0.01 * std::abs(step), 0.1 * least));
      if (std::isnan(time)) continue;
      sums_.changeSettle.add(time);
      double beyond = 0;
      for (std::size_t k = i; k < end; ++k) beyond = std::max(beyond, (f_[k].*value - rest) / step);
      sums_.changeOvershoot.add(beyond);
    }
  }

 private:
  /// Degrees and metres between two frames.
  double turned(std::size_t i, std::size_t from) const {
    return std::abs(turn_.yaw[i] - turn_.yaw[from]) + std::abs(turn_.pitch[i] - turn_.pitch[from]);
  }
  double gone(std::size_t i, std::size_t from) const { return (f_[i].camera - f_[from].camera).norm(); }

  const Frames& f_;
  const Turn turn_;
  FeelSums& sums_;
};

}  // namespace

void FeelSums::measureAnswers(const Frames& frames) {
  Answers each(frames, *this);
  for (std::size_t i = 2; i < frames.size(); ++i) {
    each.latencyFrom(i);
    each.walkLatencyFrom(i);
    each.lookSettlesFrom(i);
    each.followSettlesFrom(i);
    each.changeSettlesFrom(i);
  }
}

}  // namespace alpglow::feel
