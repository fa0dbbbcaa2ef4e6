// The state of the controls in bytes: a version, the digest of the bindings and a checksum, and then the fields.

#include "alpglow/base/state.hpp"
#include "alpglow/input/player_controls.hpp"

#include <cstring>
#include <limits>
#include <utility>
#include <vector>

namespace alpglow {

namespace {

constexpr std::uint64_t savedVersion = 1;
constexpr std::uint32_t longestList = 65536;
constexpr std::size_t head = 3 * sizeof(std::uint64_t);
constexpr double anything = std::numeric_limits<double>::max();

/// A list as its length and what `each` does to its elements. Lists of the bindings have a fixed length.
template <class Fields, class List, class Each>
void list(Fields& fields, List& values, bool fixed, Each&& each) {
  auto count = static_cast<std::uint32_t>(values.size());
  const std::uint32_t before = count;
  fields.whole(count, longestList);
  if (fixed) fields.require(count == before);
  if (!fields.good()) return;
  values.resize(count);
  for (std::uint32_t i = 0; i < count && fields.good(); ++i) each(values[i]);
}

template <class Fields>
void flagList(Fields& fields, std::vector<bool>& values) {
  for (auto&& value : values) {
    bool flag = value;
    fields.flag(flag);
    value = flag;
  }
}

void mix(std::uint64_t& digest, std::uint64_t value) { digest = (digest ^ value) * 1099511628211u; }

}  // namespace

/// Its fields, with what is legal (base/state.hpp).
template <class Fields>
void PlayerControls::walk(Fields& fields) {
  auto mode = static_cast<std::uint32_t>(mode_);
  fields.whole(mode, static_cast<std::uint32_t>(bindings_.modes.size() - 1));
  if (!fields.good()) return;
  if (mode != mode_) mode_ = mode, bound_.resize(modeBindings().size());
  std::vector<Blocks::Reason> reasons = blocks_.reasons();
  list(fields, reasons, false, [&](Blocks::Reason& reason) {
    list(fields, reason.name, false, [&](char& letter) { fields.ids(letter); });
    fields.whole(reason.what, Blocked::all);
  });
  blocks_ = Blocks(std::move(reasons));
  list(fields, values_, true, [&](double& value) { fields.numbers(anything, value); });
  flagList(fields, down_);
  list(fields, bound_, true, [&](BindingMemory& memory) {
    fields.flags(memory.engaged, memory.pushed);
    fields.numbers(anything, memory.notches);
  });
  list(fields, memory_, true,
       [&](ActionMemory& memory) { fields.flags(memory.latched, memory.held, memory.pressed, memory.released); });
  list(fields, moved_, true, [&](Displacement& moved) { fields.numbers(anything, moved.x, moved.y); });
  list(fields, changes_, false, [&](ActionChange& change) {
    fields.numbers(anything, change.time);
    fields.whole(change.action, static_cast<std::uint32_t>(memory_.size() - 1));
    fields.flag(change.began);
  });
  list(fields, samples_, false, [&](IntentSample& sample) {
    fields.numbers(anything, sample.time, sample.x, sample.y);
    fields.whole(sample.kind, static_cast<std::uint32_t>(IntentSample::Kind::switchPerspective));
  });
  fields.numbers(1, turn_.x, turn_.y, turnAtStart_.x, turnAtStart_.y);
  fields.numbers(anything, zoomRate_, zoomRateAtStart_, now_, looked_.x, looked_.y, zoomed_);
  fields.flags(glance_, glanceAtStart_, aim_, aimAtStart_, lockRequested_, pointerLocked_, discardNext_);
  fields.whole(lastDevice_, static_cast<std::uint32_t>(Device::touch));
}

std::uint64_t PlayerControls::digest() const {
  std::uint64_t digest = 14695981039346656037u;
  mix(digest, memory_.size());
  for (const Mode& mode : bindings_.modes) {
    for (const char letter : mode.name) mix(digest, static_cast<unsigned char>(letter));
    mix(digest, mode.bindings.size());
    for (const Binding& binding : mode.bindings) {
      std::uint64_t scale;
      std::memcpy(&scale, &binding.scale, sizeof scale);
      for (const std::uint64_t value :
           {std::uint64_t(binding.action), std::uint64_t(binding.axis), std::uint64_t(binding.control.index),
            std::uint64_t(binding.modifier.index), std::uint64_t(binding.press), scale})
        mix(digest, value);
    }
  }
  return digest;
}

std::vector<unsigned char> PlayerControls::save() const {
  PlayerControls copy = *this;  // a walk over fields is the same for writing and for reading
  std::size_t letters = 0;
  for (const Blocks::Reason& reason : blocks_.reasons()) letters += reason.name.size();
  const std::size_t elements = values_.size() + down_.size() + bound_.size() + memory_.size() + moved_.size() +
                               changes_.size() + samples_.size() + blocks_.reasons().size();
  std::vector<unsigned char> bytes(head + letters + 40 * (elements + 8) + 256);
  StateWriter writer(bytes.data() + head, bytes.size() - head);
  copy.walk(writer);
  const std::size_t used = (writer.used() + 7) / 8 * 8;
  bytes.resize(head + used);
  const std::uint64_t starts[] = {savedVersion, digest(), checksumOf(bytes.data() + head, used)};
  std::memcpy(bytes.data(), starts, head);
  return bytes;
}

bool PlayerControls::restore(Span<const unsigned char> saved) {
  if (saved.size() < head) return false;
  const std::size_t size = saved.size() - head;
  const std::uint64_t starts[] = {savedVersion, digest(), checksumOf(saved.begin() + head, size)};
  if (std::memcmp(saved.begin(), starts, head) != 0) return false;
  PlayerControls copy = *this;
  StateReader reader(saved.begin() + head, size);
  copy.walk(reader);
  if (!reader.good() || (reader.used() + 7) / 8 * 8 != size) return false;
  *this = std::move(copy);
  return true;
}

std::uint64_t PlayerControls::hash() const {
  const std::vector<unsigned char> bytes = save();
  return checksumOf(bytes.data(), bytes.size());
}

}  // namespace alpglow
