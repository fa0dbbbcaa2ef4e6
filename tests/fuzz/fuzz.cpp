// Plays random games with random designs and says which seeds go wrong.
//
//   fuzz FIRST COUNT FRAMES [ordinary|hostile|reborn|shifted]
//   fuzz FIRST COUNT jumps      games at 1000 frames a second in which nothing may jump

#include "fuzz/jumps.hpp"
#include "fuzz/random_play.hpp"

#include <cstdio>
#include <cstdlib>
#include <cstring>

using alpglow::testing::Style;

int main(int argc, char** argv) {
  if (argc < 4) {
    std::fputs("fuzz FIRST COUNT FRAMES|jumps [ordinary|hostile|reborn|shifted]\n", stderr);
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
