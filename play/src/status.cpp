#include "status.hpp"

#include "alpglow/io/input_error.hpp"

namespace alpglow::play {

void StatusFile::write(const nlohmann::json& status, double now) {
  constexpr double apart = 0.03;
  if (now < writtenAt_ + apart) return;
  std::string text = status.dump(1) + "\n";
  if (text == written_) return;
  io::writeWhole(path_, text);
  written_ = std::move(text);
  writtenAt_ = now;
}

}  // namespace alpglow::play
