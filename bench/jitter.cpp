// How far what is seen is from running smoothly, with a history and without: the table of docs/integration.md.

#include "support/jitter.hpp"

#include <cmath>
#include <cstdio>

using namespace alpglow::testing;

int main() {
  for (const double ticks : {30.0, 60.0, 120.0}) {
    for (const double display : {60.0, 75.0, 144.0, 240.0, -144.0}) {
      const bool uneven = display < 0;
      std::printf("| %.0f, %s%.0f Hz |", ticks, uneven ? "uneven " : "", std::abs(display));
      for (const bool circles : {false, true}) {
        const double with = jitterOf({circles, ticks, std::abs(display), uneven, false});
        const double without = jitterOf({circles, ticks, std::abs(display), uneven, true});
        std::printf(" %.3f, %.1f |", with, without);
      }
      std::printf("\n");
    }
  }
}
