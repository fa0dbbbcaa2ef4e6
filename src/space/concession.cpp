#include "alpglow/space/concession.hpp"

#include "alpglow/base/half_life.hpp"

#include <cmath>

namespace alpglow {

namespace {

constexpr double noDifference = 1e-3;             // metres, in what a share is worth
constexpr double backAfter = 1, halfLife = 0.12;  // seconds
constexpr double hastens = 0.7;                   // of its speed, on the way as a whole

}  // namespace

std::size_t Concession::nextMoment() {
  next_ = static_cast<std::uint8_t>((next_ + 1u) % moments);
  return next_;
}

double Concession::least(std::size_t share) const {
  double least = endless;
  for (const Worths& moment : worths_) least = std::min(least, moment[share]);
  return least;
}

void Concession::choose(double price, double stays, double seconds) {
  double best = 1, most = -endless;
  for (std::size_t i = 0; i < std::size(shares); ++i) {
    const double share = shares[i], cost = price * (1 - share) - (share == share_ ? stays : 0);
    const double worth = least(i) - cost;
    if (worth > most + noDifference) most = worth, best = share;
  }
  prefers_ = best > share_ ? prefers_ + seconds : 0;
  if (best < share_ || prefers_ >= backAfter) {
    share_ = best;
    prefers_ = 0;
  }
}

void Concession::move(double whole, double speed, double seconds, double hair) {
  const double to = goal(whole), rate = criticalRate / halfLife, decayed = std::exp(-rate * seconds);
  const double error = given_ - to, drift = giving_ + rate * error;
  const double next = to + (error + drift * seconds) * decayed;
  const double way = std::clamp(next - given_, -speed * seconds, speed * seconds);
  giving_ = std::clamp((giving_ - rate * drift * seconds) * decayed, -speed, speed);
  given_ = std::max(given_ + way, 0.0);
  if (to == 0 && given_ < hair) given_ = giving_ = 0;
}

double Concession::in(double whole, double speed, double seconds) const {
  const double way = hastens * speed * seconds;
  return given_ + std::clamp(goal(whole) - given_, -way, way);
}

}  // namespace alpglow
