#include "command_line.hpp"
#include "commands.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <exception>

int main(int argc, char** argv) {
  using namespace alpglow::cli;
#ifdef SIGPIPE
  std::signal(SIGPIPE, SIG_IGN);  // a reader that is gone is said below
#endif
  try {
    CommandLine line;
    for (const auto add : {addNew, addCheck, addRehearse, addStoryboard, addExplain, addFeel, addPlot, addCompare,
                           addAudit, addTake, addPlay, addListen})
      add(line);
    const int code = line.run(argc, argv);
    if (std::fflush(stdout) == 0 && std::ferror(stdout) == 0) return code;
    fmt::print(stderr, "alpglow: what is printed cannot be written: {}\n", std::strerror(errno));
    return 2;
  } catch (const alpglow::io::InputError& error) {
    fmt::print(stderr, "{}\n", error.what());
  } catch (const std::exception& error) {
    fmt::print(stderr, "alpglow: {}\n", error.what());
  }
  return 2;
}
