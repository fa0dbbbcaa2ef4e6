#include "alpglow/space/urgent_limit.hpp"

#include "alpglow/base/capped_approach.hpp"
#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double longestPiece = 0.004;  // seconds; rooms ahead are those of the frame
constexpr int mostPieces = 64;
constexpr double shortestNotice = 0.008;                    // seconds
constexpr double hurry = 1000, relaxing = 1000;             // m/s²
constexpr double keptAhead = 0.25;                          // seconds that what is gained has to be kept
constexpr double noticeable = 1e-3, pumping = 0.1;          // metres: gone in; gone out before
constexpr double backOffHalfLife = 1.5;                     // seconds
constexpr double ampleDelay = 0.465, ampleBackOff = 0.316;  // shares that will do where there is ample room
constexpr double hair = 0.01;                               // of the whole
constexpr double arrived = 1e-6;                            // metres

}  // namespace

/// Whoever is close has more to gain and less to lose again, so it takes longer to dare the last metres than the first.
double UrgentLimit::dared(double quiet, double unit) {
  return unit > 0 ? std::clamp((quiet / unit - quietInside) / (quietOutside - quietInside), 0.0, 1.0) : 1;
}

/// What is missing shrinks ever more slowly, so Newton's steps come from below and never pass the time.
double UrgentLimit::quietLeft(double share, double quiet, double backOff, const PullInSettings& settings) {
  constexpr double settled = 1e-4;  // seconds
  constexpr int mostSteps = 20;
  const double units = quietInside + (quietOutside - quietInside) * share;
  double left = 0;
  for (int i = 0; i < mostSteps; ++i) {
    const double added = backOff * std::exp2(-left / backOffHalfLife);
    const double missing = units * (settings.delay + added) - (quiet + left);
    if (missing <= 0) break;
    const double step = missing / (1 + units * added * ln2 / backOffHalfLife);
    left += step;
    if (step < settled) break;
  }
  return left;
}

double UrgentLimit::wait(const PullInSettings& settings) const {
  return limiting() && !goesOut_ ? quietLeft(share_, quiet_, backOff_, settings) : 0;
}

double UrgentLimit::quietForAmple(const PullInSettings& settings, double backOff) {
  return ampleDelay * settings.delay + ampleBackOff * backOff;
}

bool UrgentLimit::awaitsAmple(double seconds, const PullInSettings& settings) const {
  const double backOffThen = backOff_ * std::exp2(-seconds / backOffHalfLife);
  return limiting() && dared(quiet_, quietFor(settings)) < 1 &&
         dared(quiet_ + seconds, quietForAmple(settings, backOffThen)) > share_ - hair;
}

bool UrgentLimit::hasRoom(double whole, double room, Span<const RoomAhead> ahead, const PullInSettings& settings,
                          double scale) const {
  return keepable({whole, {room}, 0, 0, scale}, ahead, settings.speed * scale) > length(whole);
}

void UrgentLimit::close() {
  length_ = share_ = speed_ = quiet_ = wentIn_ = wentOut_ = 0;
  goesOut_ = false;
}

double UrgentLimit::shorten(double whole, double room, const PullInSettings& settings, double scale) {
  const double foreseen = length(whole);
  if (room >= foreseen) return foreseen;
  length_ = room;
  share_ = shareOf(whole);
  goesOut_ = false;
  goneIn(foreseen - room, settings, scale);
  return room;
}

void UrgentLimit::advance(double whole, const RoomNow& room, Span<const RoomAhead> ahead, double seconds,
                          const PullInSettings& settings, double scale) {
  const double calm = settings.speed * scale, fastest = settings.fastest * scale;
  const int pieces = std::clamp(static_cast<int>(std::ceil(seconds / longestPiece)), 1, mostPieces);
  Piece piece{whole, room, 0, seconds / pieces, scale};
  if (seconds > 0) goesOut_ = false;
  for (int i = 0; i < pieces && seconds > 0; ++i, piece.elapsed += piece.seconds) {
    const double length = this->length(whole);
    const double need = std::min(urgency(length, piece, ahead, calm), fastest);
    speed_ = need > speed_ ? std::min(need, speed_ + hurry * scale * piece.seconds)
                           : std::max(need, speed_ - relaxing * scale * piece.seconds);
    const double in = std::min(speed_ * piece.seconds, length);
    if (in > 0) {
      length_ = length - in;
      goneIn(in, settings, scale);
    }
    quiet_ += piece.seconds;
    backOff_ *= std::exp2(-piece.seconds / backOffHalfLife);
    const double keep = keepable(piece, ahead, calm);
    remember(keep < whole ? keep : unlimited, piece.seconds);
    if (speed_ == 0) goOut(length, keep, piece, settings);
    share_ = shareOf(whole);
  }
}

/// The fastest that any of the rooms ahead asks for, m/s; nothing as long as the calm speed will do.
double UrgentLimit::urgency(double length, const Piece& piece, Span<const RoomAhead> ahead, double calm) const {
  double most = 0;
  for (const RoomAhead& next : ahead) {
    const double left = std::max(next.seconds - piece.elapsed - piece.seconds, shortestNotice);
    const double need = (length - next.room) / left;
    if (need > calm) most = std::max(most, need * eased((need - calm) / (calm / 2)));
  }
  return most;
}

/// How long it may be without having to come in again soon, or faster than is calm.
double UrgentLimit::keepable(const Piece& piece, Span<const RoomAhead> ahead, double calm) const {
  double keep = std::min(piece.whole, piece.room.clear);
  for (const RoomAhead& next : ahead) {
    const double left = std::max(next.seconds - piece.elapsed, 0.0);
    keep = std::min(keep, left <= keptAhead ? next.room : next.room + calm * left);
  }
  return keep;
}

void UrgentLimit::goOut(double length, double goal, const Piece& piece, const PullInSettings& settings) {
  if (!limiting()) return;
  double least = goal;
  const int buckets = std::min(static_cast<int>(std::ceil(backOff_ / bucket)), static_cast<int>(least_.size()) - 1);
  for (int i = 0; i < buckets; ++i) least = std::min(least, least_[static_cast<std::size_t>(i)]);
  const auto go = [&](double most, double unit) {
    const auto within = [&](double share) {
      return std::max(length, std::min(share * piece.whole, std::min(most, piece.whole)));
    };
    return Way{within(dared(quiet_ - piece.seconds, unit)), within(dared(quiet_, unit))};
  };
  Way way = go(least, quietFor(settings));
  if (piece.room.ample > length) {
    const Way ample = go(std::min(goal, piece.room.ample), quietForAmple(settings, backOff_));
    if (ample.to > way.to) way = ample;
  }
  if (way.to > length) {
    const double error = cappedApproach(length - way.from, way.to - way.from, piece.seconds, settings.halfLife,
                                        settings.outSpeed * piece.scale);
    length_ = std::clamp(way.to + error, length, piece.whole);
    wentOut_ += length_ - length;
    wentIn_ = 0;
    goesOut_ = true;
  }
  if (length_ >= piece.whole - arrived * std::max(piece.whole, 1.0) && goal >= piece.whole) length_ = unlimited;
}

/// More than a hair begins the quiet time anew; and after having gone out it was a pump, so that the next time waits
/// longer.
void UrgentLimit::goneIn(double by, const PullInSettings& settings, double scale) {
  wentIn_ += by;
  if (wentIn_ <= noticeable * scale) return;
  if (wentOut_ > pumping * scale) backOff_ = std::min(backOff_ + settings.backOff, settings.longestBackOff);
  wentIn_ = wentOut_ = quiet_ = 0;
}

void UrgentLimit::remember(double room, double seconds) {
  age_ += seconds;
  if (age_ > bucket * static_cast<double>(least_.size())) {
    least_.fill(unlimited);
    age_ = 0;
  }
  while (age_ >= bucket) {
    std::copy_backward(least_.begin(), least_.end() - 1, least_.end());
    least_[0] = unlimited;
    age_ -= bucket;
  }
  least_[0] = std::min(least_[0], room);
}

}  // namespace alpglow
