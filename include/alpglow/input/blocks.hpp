#pragma once
// Named reasons that stop look, zoom, movement or all. Several can be active; ending one does not end another.
//
//   blocks.begin("menu", Blocked::all);
//   blocks.end("menu");

#include <cstdint>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace alpglow {

struct Blocked {
  enum Bit : std::uint32_t { look = 1, zoom = 2, move = 4, actions = 8, all = 15 };
};

class Blocks {
 public:
  struct Reason {
    std::string name;
    /// Bits of Blocked.
    std::uint32_t what;
  };

  Blocks() = default;
  explicit Blocks(std::vector<Reason> active) : reasons_(std::move(active)) {}

  /// Begins a block, or changes what the block of this name stops.
  void begin(std::string_view name, std::uint32_t what);
  /// Ends the block of this name; nothing happens if there is none.
  void end(std::string_view name);

  /// Bits of everything that some reason stops.
  std::uint32_t what() const;
  bool stops(Blocked::Bit bit) const { return (what() & bit) != 0; }
  /// The active reasons, in the order in which they began.
  const std::vector<Reason>& reasons() const { return reasons_; }

 private:
  std::vector<Reason> reasons_;
};

}  // namespace alpglow
