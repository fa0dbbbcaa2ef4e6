#pragma once
// The state of a camera or a part, as bytes to send, store and compare.
//
//   const FlyingCamera::Saved saved = camera.save();     // equal states have equal bytes
//   if (!other.restore(saved)) return;                   // another version, damaged, or no state that there can be
//   log(other.difference(saved, 1e-9));                  // "look.rate.yaw: 0.25 here, 0.5 there"

#include "alpglow/base/state.hpp"

#include <cstdint>
#include <cstring>
#include <string>
#include <type_traits>

namespace alpglow {

/// Plain bytes without gaps, for machines with the same byte order. `restore` refuses bytes that were damaged; it takes
/// over nothing that does harm.
template <class State>
struct SavedState {
  std::uint64_t version;
  /// Of the design that the state belongs to; 0 for states without a design. Other settings are not saved.
  std::uint64_t designDigest;
  /// checksumOf(fields), base/state.hpp.
  std::uint64_t checksum;
  unsigned char fields[(sizeof(State) + 7) / 8 * 8];  // as State::state names them, and zeros

  /// Equal for equal states: no bytes differ by chance.
  std::uint64_t hash() const {
    return ((version * 1099511628211u ^ designDigest) * 1099511628211u ^ checksum) * 1099511628211u;
  }
  friend bool operator==(const SavedState& a, const SavedState& b) { return std::memcmp(&a, &b, sizeof a) == 0; }
  friend bool operator!=(const SavedState& a, const SavedState& b) { return !(a == b); }
};

/// Gives a class with `state` and `savedVersion` its three functions. Settings are not in the state: restore it into an
/// object with the same ones.
template <class Class>
class Saveable {
 public:
  using Saved = SavedState<Class>;
  Saved save() const;
  /// Takes over a saved state. Refuses one of another version, one that was damaged, and one with a number that there
  /// cannot be: returns false, and nothing changes.
  bool restore(const Saved& saved);
  /// The first field that differs by more than `tolerance` (absolute up to 1, relative beyond), in words; empty if
  /// there is none. It allocates.
  std::string difference(const Saved& theirs, double tolerance = 0) const;

 private:
  const Class& self() const { return static_cast<const Class&>(*this); }
};

}  // namespace alpglow
