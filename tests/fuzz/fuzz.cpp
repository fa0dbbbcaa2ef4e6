// Plays random games with random designs and says which seeds go wrong.
//
//   fuzz FIRST COUNT FRAMES [hostile|ordinary]

#include "fuzz/random_play.hpp"

#include <cstdio>
#include <cstdlib>
#include <cstring>

int main(int argc, char** argv) {
  if (argc < 4) {
    std::fputs("fuzz FIRST COUNT FRAMES [hostile|ordinary]\n", stderr);
    return 2;
  }
  const unsigned first = static_cast<unsigned>(std::atoi(argv[1])), count = static_cast<unsigned>(std::atoi(argv[2]));
  const int frames = std::atoi(argv[3]);
  int wrong = 0;
  for (const bool hostile : {false, true}) {
    if (argc > 4 && (std::strcmp(argv[4], "hostile") == 0) != hostile) continue;
    for (unsigned seed = first; seed < first + count; ++seed) {
      const std::string said = alpglow::testing::RandomPlay(seed, hostile).play(frames);
      if (said.empty()) continue;
      std::printf("%s seed %u %s\n", hostile ? "hostile" : "ordinary", seed, said.c_str());
      ++wrong;
    }
  }
  std::printf("%u seeds of %d frames, %d wrong\n", count, frames, wrong);
  return wrong == 0 ? 0 : 1;
}
