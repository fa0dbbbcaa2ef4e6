#pragma once
// Limits (`*.limits.toml`): what a game's build holds a camera to.
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

/// What is limited (feel/feel.hpp says how it is measured).
enum class Felt {
  popsPerMinute,
  calmPopsPerMinute,
  worstPop,
  pumpsPerMinute,
  deepPumpsPerMinute,
  inSpeed,
  calmInSpeed,
  headSpeed,
  close,
  kept,
};
constexpr std::size_t feltCount = 10;

struct LimitKey {
  const char* key;
  const char* help;
  double high;   // 0 … that
  bool atLeast;  // otherwise at most
};
/// In the order of `Felt`.
Span<const LimitKey> limitKeys();

struct Limits {
  /// Nothing: not asked for.
  std::array<std::optional<double>, feltCount> values;

  std::optional<double>& of(Felt what) { return values[static_cast<std::size_t>(what)]; }
  const std::optional<double>& of(Felt what) const { return values[static_cast<std::size_t>(what)]; }
};

/// Throws InputError with file, line, column, key, value and what is allowed; also where nothing is limited.
Limits readLimits(const std::string& path);

}  // namespace alpglow::io
