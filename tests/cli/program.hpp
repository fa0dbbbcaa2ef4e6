#pragma once
// Runs a program as a person would, and keeps what it said.

#include <sys/wait.h>
#include <array>
#include <cstdio>
#include <string>

namespace alpglow::testing {

inline const std::string demo = ALPGLOW_DEMO "/";

struct Ran {
  int code = -1;
  std::string output;  // both streams
};

inline Ran run(const std::string& command) {
  Ran ran;
  FILE* pipe = popen(("{ " + command + "; } 2>&1").c_str(), "r");
  std::array<char, 4096> buffer;
  while (const std::size_t count = std::fread(buffer.data(), 1, buffer.size(), pipe))
    ran.output.append(buffer.data(), count);
  const int status = pclose(pipe);
  ran.code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
  return ran;
}

inline Ran alpglow(const std::string& arguments) { return run(std::string(ALPGLOW_PROGRAM) + " " + arguments); }

}  // namespace alpglow::testing
