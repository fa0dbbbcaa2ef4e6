#pragma once
// How every class with a state saves it, takes it over and says where it differs.

#include "state_names.hpp"

#include "alpglow/base/saved_state.hpp"

#include <cmath>
#include <cstdint>
#include <cstring>
#include <string>
#include <type_traits>

namespace alpglow {

/// `Saved` has room for the fields of `State`.
template <class Saved, class State>
Saved saved(const State& state, std::uint64_t version, std::uint64_t designDigest = 0) {
  static_assert(std::is_trivial_v<Saved> && std::is_standard_layout_v<Saved>);
  static_assert(sizeof(Saved::fields) >= sizeof(State));
  Saved bytes{};
  bytes.version = version;
  bytes.designDigest = designDigest;
  State copy = state;  // a walk over fields is the same for writing and for reading
  StateWriter writer(bytes.fields, sizeof bytes.fields);
  writer.part(copy);
  bytes.checksum = checksumOf(bytes.fields, sizeof bytes.fields);
  return bytes;
}

/// Reads `state` from the bytes. If it returns false, `state` is half read: pass a copy.
template <class Saved, class State>
bool restored(State& state, const Saved& bytes, std::uint64_t version, std::uint64_t designDigest = 0) {
  if (bytes.version != version || bytes.designDigest != designDigest) return false;
  if (bytes.checksum != checksumOf(bytes.fields, sizeof bytes.fields)) return false;
  StateReader reader(bytes.fields, sizeof bytes.fields);
  reader.part(state);
  return reader.good();
}

/// The first field that differs by more than `tolerance`, absolute for numbers up to 1 and relative beyond; whole
/// numbers, flags and ids by anything.
template <class Saved, class State>
std::string difference(const State& state, const Saved& ours, const Saved& theirs, double tolerance) {
  static_assert(std::has_unique_object_representations_v<Saved>);
  if (theirs.version != ours.version) return "it is of another version";
  if (theirs.designDigest != ours.designDigest) return "it is of another design";
  if (theirs.checksum != checksumOf(theirs.fields, sizeof theirs.fields)) return "it was damaged";
  StateNames names;
  State copy = state;
  names.part(copy);
  for (const StateNames::Field& field : names.all()) {
    const unsigned char *here = ours.fields + field.at, *there = theirs.fields + field.at;
    if (std::memcmp(here, there, field.size) == 0 || field.close(here, there, tolerance)) continue;
    return field.name.substr(1) + ": " + field.text(here) + " here, " + field.text(there) + " there";
  }
  return tolerance > 0 || theirs == ours ? "" : "behind the fields";
}

template <class Class>
SavedState<Class> Saveable<Class>::save() const {
  return saved<SavedState<Class>>(self(), Class::savedVersion);
}

template <class Class>
bool Saveable<Class>::restore(const Saved& saved) {
  Class copy = self();
  if (!restored(copy, saved, Class::savedVersion)) return false;
  static_cast<Class&>(*this) = copy;
  return true;
}

template <class Class>
std::string Saveable<Class>::difference(const Saved& theirs, double tolerance) const {
  return alpglow::difference(self(), save(), theirs, tolerance);
}

}  // namespace alpglow
