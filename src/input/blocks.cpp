#include "alpglow/input/blocks.hpp"

#include <algorithm>

namespace alpglow {

namespace {

auto find(std::vector<Blocks::Reason>& reasons, std::string_view name) {
  return std::find_if(reasons.begin(), reasons.end(),
                      [name](const Blocks::Reason& reason) { return reason.name == name; });
}

}  // namespace

void Blocks::begin(std::string_view name, std::uint32_t what) {
  const auto known = find(reasons_, name);
  if (known != reasons_.end()) {
    known->what = what;
  } else {
    reasons_.push_back({std::string(name), what});
  }
}

void Blocks::end(std::string_view name) {
  const auto known = find(reasons_, name);
  if (known != reasons_.end()) reasons_.erase(known);
}

std::uint32_t Blocks::what() const {
  std::uint32_t bits = 0;
  for (const Reason& reason : reasons_) bits |= reason.what;
  return bits;
}

}  // namespace alpglow
