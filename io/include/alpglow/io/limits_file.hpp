#pragma once
// Limits (`*.limits.toml`): what a game's build holds a camera to, and from where on what a player feels counts as bad.
//
//   const io::Limits limits = io::readLimits("refuge.limits.toml");
//   for (const std::string& line : broken(felt, limits)) fail(line);  // feel/feel.hpp

#include "alpglow/base/span.hpp"

#include <array>
#include <cstddef>
#include <optional>
#include <string>

namespace alpglow::io {

constexpr int limitsFormat = 1;

/// What a player feels (docs/feel.md says how each is measured).
enum class Felt {
  popsPerMinute,
  calmPopsPerMinute,
  worstPop,
  pumpsPerMinute,
  deepPumpsPerMinute,
  inSpeed,
  calmInSpeed,
  outSpeed,
  headSpeed,
  close,
  kept,
  pulledIn,
  latency,
  walkLatency,
  lookSettle,
  followSettle,
  followOvershoot,
  changeSettle,
  changeOvershoot,
  unaskedTurn,
  aimDrift,
  jitter,
  visible,
  outOfPicture,
  horizonSpeed,
  viewAcceleration,
};
constexpr std::size_t feltCount = 26;

/// Better than `fine`, or equal, is fine; worse than `bad` is bad; what is between is noticeable.
struct Verdicts {
  double fine = 0, bad = 0;
};

struct LimitKey {
  const char* key;
  const char* help;
  double high;   // 0 … that
  bool atLeast;  // more is better; otherwise less is
  Verdicts verdicts;
};
/// In the order of `Felt`.
Span<const LimitKey> limitKeys();

struct Limits {
  /// Nothing: not asked for.
  std::array<std::optional<double>, feltCount> values;
  std::array<Verdicts, feltCount> verdicts;

  /// Without limits, with the verdicts of the table.
  Limits();
  std::optional<double>& of(Felt what) { return values[static_cast<std::size_t>(what)]; }
  const std::optional<double>& of(Felt what) const { return values[static_cast<std::size_t>(what)]; }
};

/// Throws InputError with file, line, column, key, value and what is allowed; also where nothing is limited and no
/// verdict is set.
Limits readLimits(const std::string& path);

}  // namespace alpglow::io
