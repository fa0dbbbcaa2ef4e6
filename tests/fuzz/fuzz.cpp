// Plays random games with random designs and says which seeds go wrong.
//
//   fuzz FIRST COUNT FRAMES [ordinary|hostile|reborn|shifted] [costs]
//                               with costs, no frame may cost a hundred times the median and more than a tenth of a second
//   fuzz FIRST COUNT jumps      games at 1000 frames a second in which nothing may jump

#include "fuzz/jumps.hpp"
#include "fuzz/random_play.hpp"

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <ctime>
#include <string>
#include <vector>

using alpglow::testing::RandomPlay;
using alpglow::testing::Style;

namespace {

double secondsOfCpu() {
  timespec now;
  clock_gettime(CLOCK_THREAD_CPUTIME_ID, &now);
  return static_cast<double>(now.tv_sec) + 1e-9 * static_cast<double>(now.tv_nsec);
}

struct Played {
  std::string wrong;
  std::vector<double> costs;  // of each frame, seconds
};

Played played(unsigned seed, Style style, int frames) {
  RandomPlay play(seed, style);
  Played result;
  double last = secondsOfCpu();
  play.watch = [&](const alpglow::View&) {
    const double now = secondsOfCpu();
    result.costs.push_back(now - last);
    last = now;
  };
  result.wrong = play.play(frames);
  return result;
}

/// The frame that costs more than a hundred times the median; nothing if there is none.
std::string tooCostly(std::vector<double> costs) {
  if (costs.empty()) return {};
  const auto worst = std::max_element(costs.begin(), costs.end()) - costs.begin();
  const double most = costs[static_cast<std::size_t>(worst)];
  const auto middle = costs.begin() + static_cast<std::ptrdiff_t>(costs.size() / 2);
  std::nth_element(costs.begin(), middle, costs.end());
  // A call of `look` has at most 1,500 pieces; the dearest ones, locked on with everything else on, take 40 us each.
  if (most < std::max(100 * *middle, 0.1)) return {};
  char text[120];
  std::snprintf(text, sizeof text, "frame %ld costs %.1f ms, the median is %.3f ms", static_cast<long>(worst),
                1e3 * most, 1e3 * *middle);
  return text;
}

/// What is wrong with a game. A frame is too costly only if it is so each of five times.
std::string wrongWith(unsigned seed, Style style, int frames, bool costs) {
  Played game = played(seed, style, frames);
  std::string costly = costs ? tooCostly(game.costs) : std::string();
  for (int again = 0; again < 4 && !costly.empty(); ++again) {
    const Played other = played(seed, style, frames);
    for (std::size_t i = 0; i < std::min(game.costs.size(), other.costs.size()); ++i)
      game.costs[i] = std::min(game.costs[i], other.costs[i]);
    costly = tooCostly(game.costs);
  }
  return game.wrong.empty() ? costly : game.wrong;
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 4) {
    std::fputs("fuzz FIRST COUNT FRAMES|jumps [ordinary|hostile|reborn|shifted] [costs]\n", stderr);
    return 2;
  }
  const unsigned first = static_cast<unsigned>(std::atoi(argv[1])), count = static_cast<unsigned>(std::atoi(argv[2]));
  const int frames = std::atoi(argv[3]);
  int wrong = 0;
  if (std::strcmp(argv[3], "jumps") == 0) {
    for (unsigned seed = first; seed < first + count; ++seed) {
      const std::string said = alpglow::testing::Jumps(seed).play();
      if (said.empty()) continue;
      std::printf("seed %u: %s\n", seed, said.c_str());
      ++wrong;
    }
    std::printf("%u seeds, %d jump\n", count, wrong);
    return wrong == 0 ? 0 : 1;
  }
  const bool costs = argc > 4 && std::strcmp(argv[argc - 1], "costs") == 0;
  const char* const only = argc > (costs ? 5 : 4) ? argv[4] : nullptr;
  const char* const names[] = {"ordinary", "hostile", "reborn", "shifted"};
  for (int style = 0; style < 4; ++style) {
    if (only != nullptr ? std::strcmp(only, names[style]) != 0 : style >= 2) continue;
    for (unsigned seed = first; seed < first + count; ++seed) {
      const std::string said = wrongWith(seed, static_cast<Style>(style), frames, costs);
      if (said.empty()) continue;
      std::printf("%s seed %u %s\n", names[style], seed, said.c_str());
      ++wrong;
    }
  }
  std::printf("%u seeds of %d frames, %d wrong\n", count, frames, wrong);
  return wrong == 0 ? 0 : 1;
}
