#pragma once
// What the fields of a state are called and where each is among its bytes: for saying in words where two states differ.
//
//   StateNames names;
//   names.part(parts);                                  // the same walk as a StateWriter's
//   for (const StateNames::Field& field : names.all()) …

#include <algorithm>
#include <cmath>
#include <cstddef>
#include <cstdint>
#include <cstdio>
#include <cstring>
#include <initializer_list>
#include <string>
#include <string_view>
#include <type_traits>
#include <vector>

namespace alpglow {

class StateNames {
 public:
  struct Field {
    std::string name;  // with the parts that it is in, "assists.lock.yawError"
    std::size_t at, size;
    bool number;  // with a fraction

    /// Its value, that a number reads back to.
    std::string text(const unsigned char* bytes) const {
      char text[32];
      if (number) {
        double value;
        std::memcpy(&value, bytes, sizeof value);
        std::snprintf(text, sizeof text, "%.17g", value);
      } else {
        std::uint64_t value = 0;
        std::memcpy(&value, bytes, size);  // of a machine whose first byte is the lowest
        std::snprintf(text, sizeof text, "%llu", static_cast<unsigned long long>(value));
      }
      return text;
    }
    /// Two numbers that differ by at most the tolerance, absolute up to 1 and relative beyond.
    bool close(const unsigned char* here, const unsigned char* there, double tolerance) const {
      if (!number) return false;
      double a, b;
      std::memcpy(&a, here, sizeof a);
      std::memcpy(&b, there, sizeof b);
      return a == b || std::abs(a - b) <= tolerance * std::max({1.0, std::abs(a), std::abs(b)});
    }
  };
  const std::vector<Field>& all() const { return all_; }

  StateNames& named(const char* names) {
    names_ = names;
    return *this;
  }
  template <class Number>
  void number(Number&, double, double) {
    add<Number>(next());
  }
  template <class... Numbers>
  void numbers(double, Numbers&...) {
    (add<Numbers>(next()), ...);
  }
  template <class... Numbers>
  void within(double, double, Numbers&...) {
    (add<Numbers>(next()), ...);
  }
  template <class... Angles>
  void angles(double, Angles&... values) {
    (addEach(next(), {".yaw", ".pitch"}, values.yaw), ...);
  }
  template <class... Times>
  void times(Times&...) {
    (add<Times>(next()), ...);
  }
  template <class... Flags>
  void flags(Flags&...) {
    (add<Flags>(next()), ...);
  }
  void flag(bool&) { add<bool>(next()); }
  template <class Whole>
  void whole(Whole&, std::uint32_t) {
    add<Whole>(next());
  }
  template <class... Ids>
  void ids(Ids&...) {
    (add<Ids>(next()), ...);
  }
  template <class... Vectors>
  void vectors(double, Vectors&... values) {
    (addEach(next(), {".x", ".y", ".z"}, values.x), ...);
  }
  template <class Stored>
  void rotation(Stored& value) {
    addEach(next(), {".w", ".x", ".y", ".z"}, value.w);
  }
  template <class... Parts>
  void part(Parts&... parts) {
    (inside(next(), parts), ...);
  }
  void require(bool) {}

 private:
  std::string next() {
    const std::size_t end = std::min(names_.find(' '), names_.size());
    const std::string name(names_.substr(0, end));
    names_.remove_prefix(std::min(end + 1, names_.size()));
    return name;
  }
  template <class Value>
  void add(const std::string& name) {
    all_.push_back({path_ + name, used_, sizeof(Value), std::is_floating_point_v<Value>});
    used_ += sizeof(Value);
  }
  template <class Value>
  void addEach(const std::string& name, std::initializer_list<const char*> endings, const Value&) {
    for (const char* ending : endings) add<Value>(name + ending);
  }
  template <class Part>
  void inside(const std::string& name, Part& part) {
    const std::string path = path_;
    const std::string_view others = names_;
    path_ += name + ".";
    part.state(*this);
    path_ = path;
    names_ = others;
  }

  std::vector<Field> all_;
  std::string path_;
  std::string_view names_;  // of the call that comes next, those that are left
  std::size_t used_ = 0;
};

}  // namespace alpglow
