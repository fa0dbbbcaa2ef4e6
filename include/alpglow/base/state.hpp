#pragma once
// A state in bytes. Each class names its own fields once, with what is legal for each; writing and reading follow from
// that. What was damaged on its way is not read in.
//
//   fields.named("angle").number(angle, -pi, pi);   // in a class's template <class Fields> void state(Fields& fields)
//   fields.named("swings").flag(swings);
//
//   StateWriter writer(bytes, sizeof bytes);
//   writer.part(look);
//   StateReader reader(bytes, sizeof bytes);
//   reader.part(copy);
//   if (reader.good()) look = copy;

#include "alpglow/base/stored_vector.hpp"

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <limits>
#include <type_traits>

namespace alpglow {

/// Farther than any point, lag or velocity of a state gets along an axis, metres and metres per second.
constexpr double farthestState = 1e15;

/// Goes through the fields of a state in their order and writes them to bytes, or reads them from there. No bytes
/// beyond `size` are touched.
template <bool reads>
class StateBytes {
 public:
  using Bytes = std::conditional_t<reads, const unsigned char, unsigned char>;
  StateBytes(Bytes* bytes, std::size_t size) : bytes_(bytes), size_(size) {}

  /// What the values of the next call are called, with spaces between; nobody needs it for reading and writing.
  StateBytes& named(const char*) { return *this; }
  /// Within low … high, which may be infinite; never not a number.
  void number(double& value, double low, double high) {
    transfer(value, [&](double read) { return read >= low && read <= high; });
  }
  /// Either way of zero.
  template <class... Numbers>
  void numbers(double most, Numbers&... values) {
    (number(values, -most, most), ...);
  }
  template <class... Numbers>
  void within(double low, double high, Numbers&... values) {
    (number(values, low, high), ...);
  }
  /// Yaw and pitch of each.
  template <class... Angles>
  void angles(double most, Angles&... values) {
    (numbers(most, values.yaw, values.pitch), ...);
  }
  /// From 0 to 1e15 seconds.
  template <class... Times>
  void times(Times&... values) {
    (number(values, 0, 1e15), ...);
  }
  template <class... Flags>
  void flags(Flags&... values) {
    (flag(values), ...);
  }
  void flag(bool& value) {
    auto byte = static_cast<std::uint8_t>(value ? 1 : 0);
    transfer(byte, [](std::uint8_t read) { return read <= 1; });
    value = byte == 1;
  }
  /// 0 … most, of a whole number or the values of an enum; in as many bytes as it has, as every field is, so that all
  /// fields of a class never take more than its size.
  template <class Whole>
  void whole(Whole& value, std::uint32_t most) {
    using Number = typename std::conditional_t<std::is_enum_v<Whole>, std::underlying_type<Whole>, Plain<Whole>>::type;
    auto number = static_cast<Number>(value);
    transfer(number, [&](Number read) { return static_cast<std::uint32_t>(read) <= most; });
    value = static_cast<Whole>(number);
  }
  /// Any number will do: ids, hashes, bits.
  template <class... Ids>
  void ids(Ids&... values) {
    (transfer(values, [](const Ids&) { return true; }), ...);
  }
  template <class... Vectors>
  void vectors(double most, Vectors&... values) {
    (numbers(most, values.x, values.y, values.z), ...);
  }
  /// Of length 1.
  void rotation(StoredRotation& value) {
    numbers(2, value.w, value.x, value.y, value.z);
    require(std::abs(value.rotation().norm() - 1) < 1e-6);
  }
  /// Something with fields of its own.
  template <class... Parts>
  void part(Parts&... parts) {
    (parts.state(*this), ...);
  }
  /// What holds between fields.
  void require(bool holds) { good_ = good_ && holds; }

  /// Every field was legal, and there was room for all of them.
  bool good() const { return good_; }
  /// Bytes so far.
  std::size_t used() const { return used_; }

 private:
  template <class Number>
  struct Plain {
    using type = Number;
  };

  template <class Value, class Legal>
  void transfer(Value& value, Legal&& legal) {
    static_assert(std::is_arithmetic_v<Value>);
    if (size_ - used_ < sizeof value) return require(false);
    if constexpr (reads) {
      Value read;
      std::memcpy(&read, bytes_ + used_, sizeof read);
      require(legal(read));
      if (good_) value = read;
    } else {
      std::memcpy(bytes_ + used_, &value, sizeof value);
    }
    used_ += sizeof value;
  }

  Bytes* bytes_;
  std::size_t size_, used_ = 0;
  bool good_ = true;
};

using StateWriter = StateBytes<false>;
using StateReader = StateBytes<true>;

/// Tells bytes that were damaged from those that were not, unless somebody meant to: FNV-1a over words of eight bytes;
/// what is left of a last word does not count.
inline std::uint64_t checksumOf(const unsigned char* bytes, std::size_t size) {
  std::uint64_t sum = 14695981039346656037u;
  for (std::size_t i = 0; i + sizeof sum <= size; i += sizeof sum) {
    std::uint64_t word;
    std::memcpy(&word, bytes + i, sizeof word);
    sum = (sum ^ word) * 1099511628211u;
    sum ^= sum >> 32;
  }
  return sum;
}

}  // namespace alpglow
