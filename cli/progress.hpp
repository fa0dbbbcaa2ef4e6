#pragma once
// A line on the error stream that is written over while something takes long. Nothing where that is no terminal.

#include <fmt/format.h>
#include <unistd.h>

#include <chrono>
#include <cstdio>
#include <string>
#include <utility>

namespace alpglow::cli {

class Progress {
 public:
  Progress() = default;
  Progress(const Progress&) = delete;
  Progress& operator=(const Progress&) = delete;
  ~Progress() { done(); }
  /// Takes the line away.
  void done() {
    if (std::exchange(shown_, false)) fmt::print(stderr, "\r{:60}\r", "");
  }
  /// What words() returns, from the second second on, once a second; with the time left if a share of the work, 0 … 1,
  /// is known to be done.
  template <class Words>
  void say(Words&& words, double share = 0) {
    const auto now = std::chrono::steady_clock::now();
    if (now - last_ < std::chrono::seconds(1)) return;
    last_ = now;
    if (::isatty(STDERR_FILENO) == 0) return;
    shown_ = true;
    const double gone = std::chrono::duration<double>(now - begun_).count();
    const std::string left = share > 0 ? fmt::format(", about {:.0f} s left", gone * (1 / share - 1)) : "";
    fmt::print(stderr, "\r{:60}", std::forward<Words>(words)() + left);
    std::fflush(stderr);
  }

 private:
  bool shown_ = false;
  const std::chrono::steady_clock::time_point begun_ = std::chrono::steady_clock::now();
  std::chrono::steady_clock::time_point last_ = begun_;
};

}  // namespace alpglow::cli
