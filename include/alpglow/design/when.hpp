#pragma once
// When a framing applies: names joined by `and`, `or`, `not` and parentheses; `not` binds closest, then `and`.
//
//   std::vector<std::string> flags;                                             // the game's own, as they are met
//   const ParsedWhen parsed = parseWhen("aiming and not (crouched or hurt)", flags);
//   if (!parsed.fault) parsed.when.holds(Condition::aiming | Condition::crouched);   // false
//
// It is kept as alternatives of which one suffices (a disjunctive normal form). Asking costs a few bit operations. It
// can be seen whether a condition can hold at all, and whether another one always holds with it.

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace alpglow {

/// Conditions that hold, as bits; the game's own flags come after these.
struct Condition {
  enum Bit : std::uint32_t { aiming = 1, sprinting = 2, crouched = 4 };
};

/// How many flags of its own a game may name in a design.
constexpr std::size_t mostFlags = 29;

/// The bit of a condition by its name: a built-in one, or one of these flags; 0 if it is neither.
std::uint32_t conditionBit(std::string_view name, const std::vector<std::string>& flags);

class When {
 public:
  /// All of `with` hold, and none of `without`.
  struct Alternative {
    std::uint32_t with = 0, without = 0;
  };

  /// Never.
  When() = default;
  /// While this condition does.
  explicit When(std::uint32_t bit) : alternatives_{{bit, 0}} {}

  bool holds(std::uint32_t conditions) const;
  /// There are conditions under which it holds.
  bool possible() const { return !alternatives_.empty(); }
  /// Wherever the other one holds, this one does. May miss cases where several alternatives together do.
  bool covers(const When& other) const;
  const std::vector<Alternative>& alternatives() const { return alternatives_; }

  friend When operator||(const When& a, const When& b);
  friend When operator&&(const When& a, const When& b);
  friend When operator!(const When& a);

 private:
  void add(const Alternative& alternative);

  std::vector<Alternative> alternatives_;  // none covers another
};

/// What is wrong with a text, and at which of its bytes, from 0.
struct WhenFault {
  std::size_t at;
  const char* what;
};
struct ParsedWhen {
  /// Never holds if there is a fault.
  When when;
  std::optional<WhenFault> fault;
};

/// Reads a condition that is not empty. Names that are not built in are added to `flags`. A name is made of letters,
/// digits, `-`, `_` and `.`.
ParsedWhen parseWhen(std::string_view text, std::vector<std::string>& flags);

}  // namespace alpglow
