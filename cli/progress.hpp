#pragma once
// A line on the error stream that is written over while something takes long. Nothing where that is no terminal.

#include <fmt/format.h>
#include <unistd.h>

#include <chrono>
#include <cstdio>
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
  /// What words() returns, from the second second on, once a second.
  template <class Words>
  void say(Words&& words) {
    const auto now = std::chrono::steady_clock::now();
    if (now - last_ < std::chrono::seconds(1)) return;
    last_ = now;
    if (::isatty(STDERR_FILENO) == 0) return;
    shown_ = true;
    fmt::print(stderr, "\r{:60}", std::forward<Words>(words)());
    std::fflush(stderr);
  }

 private:
  bool shown_ = false;
  std::chrono::steady_clock::time_point last_ = std::chrono::steady_clock::now();
};

}  // namespace alpglow::cli
