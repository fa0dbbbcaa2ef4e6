// Plays random games with random designs and says which seeds go wrong.
//
//   fuzz FIRST COUNT FRAMES [ordinary|hostile|reborn|shifted]
//   fuzz FIRST COUNT FRAMES costs     no frame may cost a hundred times the median and more than 20 ms
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

/// What each frame of a game costs, seconds.
std::vector<double> costsOf(unsigned seed, int frames) {
  RandomPlay play(seed, Style::ordinary);
  std::vector<double> costs;
  double last = secondsOfCpu();
  play.watch = [&](const alpglow::View&) {
    const double now = secondsOfCpu();
    costs.push_back(now - last);
    last = now;
  };
  play.play(frames);
  return costs;
}

/// The frame that costs more than a hundred times the median, each time that it is played; nothing if there is none.
std::string tooCostly(unsigned seed, int frames) {
  std::vector<double> costs = costsOf(seed, frames);
  for (int again = 0; again < 2; ++again) {
    const std::vector<double> others = costsOf(seed, frames);
    for (std::size_t i = 0; i < costs.size(); ++i) costs[i] = std::min(costs[i], others[i]);
  }
  const auto worst = std::max_element(costs.begin(), costs.end()) - costs.begin();
  const double most = costs[static_cast<std::size_t>(worst)];
  std::nth_element(costs.begin(), costs.begin() + costs.size() / 2, costs.end());
  const double median = costs[costs.size() / 2];
  // A frame of seconds may have ten thousand pieces: that is the bound, and takes less than a fiftieth of a second.
  if (most < std::max(100 * median, 0.02)) return {};
  char text[120];
  std::snprintf(text, sizeof text, "frame %ld costs %.1f ms, the median is %.3f ms", static_cast<long>(worst),
                1e3 * most, 1e3 * median);
  return text;
}

}  // namespace

int main(int argc, char** argv) {
  if (argc < 4) {
    std::fputs("fuzz FIRST COUNT FRAMES|jumps [ordinary|hostile|reborn|shifted|costs]\n", stderr);
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
  if (argc > 4 && std::strcmp(argv[4], "costs") == 0) {
    for (unsigned seed = first; seed < first + count; ++seed) {
      const std::string said = tooCostly(seed, frames);
      if (said.empty()) continue;
      std::printf("seed %u: %s\n", seed, said.c_str());
      ++wrong;
    }
    std::printf("%u seeds of %d frames, %d too costly\n", count, frames, wrong);
    return wrong == 0 ? 0 : 1;
  }
  const char* const names[] = {"ordinary", "hostile", "reborn", "shifted"};
  for (int style = 0; style < 4; ++style) {
    if (argc > 4 ? std::strcmp(argv[4], names[style]) != 0 : style >= 2) continue;
    for (unsigned seed = first; seed < first + count; ++seed) {
      const std::string said = alpglow::testing::RandomPlay(seed, static_cast<Style>(style)).play(frames);
      if (said.empty()) continue;
      std::printf("%s seed %u %s\n", names[style], seed, said.c_str());
      ++wrong;
    }
  }
  std::printf("%u seeds of %d frames, %d wrong\n", count, frames, wrong);
  return wrong == 0 ? 0 : 1;
}
