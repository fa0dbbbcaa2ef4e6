#pragma once
// How things stand, for programs that watch.

#include <nlohmann/json.hpp>

#include <string>

namespace alpglow::play {

/// Writes a file whenever its content changes, whole each time and at most every 30 ms.
class StatusFile {
 public:
  explicit StatusFile(std::string path) : path_(std::move(path)) {}
  bool wanted() const { return !path_.empty(); }
  /// `now` in seconds.
  void write(const nlohmann::json& status, double now);

 private:
  std::string path_, written_;
  double writtenAt_ = -1;
};

}  // namespace alpglow::play
