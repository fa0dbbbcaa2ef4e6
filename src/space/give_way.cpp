#include "alpglow/space/give_way.hpp"

#include "alpglow/base/half_life.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow {

namespace {

constexpr double backAfter = 1;    // seconds: a camera that changes sides more often is restless
constexpr double halfLife = 0.12;  // seconds: gentle where it starts and stops

}  // namespace

void GiveWay::judge(double givenUp, double kept, double price, double seconds) {
  free_ = gives_ && givenUp <= kept + price / 2 ? free_ + seconds : 0;
  gives_ = gives_ ? free_ < backAfter : givenUp > kept + price;
}

void GiveWay::move(double whole, double speed, double seconds, double hair) {
  const double to = gives_ ? whole : 0, rate = criticalRate / halfLife, decayed = std::exp(-rate * seconds);
  const double error = given_ - to, drift = speed_ + rate * error;
  const double way = to + (error + drift * seconds) * decayed - given_;
  given_ = std::clamp(given_ + std::clamp(way, -speed * seconds, speed * seconds), 0.0, whole);
  speed_ = std::clamp((speed_ - rate * drift * seconds) * decayed, -speed, speed);
  if (!gives_ && given_ < hair) given_ = speed_ = 0;
}

double GiveWay::in(double whole, double speed, double seconds) const {
  return given_ + std::clamp((gives_ ? whole : 0) - given_, -speed * seconds, speed * seconds);
}

}  // namespace alpglow
