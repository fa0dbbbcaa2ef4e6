#pragma once
// The description of one setting, and how to write such descriptions down. Values pass through a setting in the units
// of files, so that readers, checkers, references and panels need to know nothing about the structs behind it.
//
//   using namespace describe;
//   const Setting<Tripod> tripodSettings[] = {
//       number<Tripod, &Tripod::pan>("pan_deg", "deg", -180, 180, degree, "direction of the head"),
//       flag<Tripod, &Tripod::locked>("locked", "the head does not move"),
//   };

#include "alpglow/base/angles.hpp"
#include "alpglow/base/span.hpp"

#include <type_traits>

namespace alpglow {

enum class SettingKind { number, flag, choice };

/// One setting of a section. Values pass through it in the units of files: degrees for angles, 0/1 for flags, the
/// position in `choices` for a choice.
template <class Section>
struct Setting {
  const char* key;
  const char* unit;
  SettingKind kind;
  double low, high;
  const char* help;
  Span<const char* const> choices;
  /// Code units for one file unit.
  double scale;
  double (*get)(const Section&);
  void (*set)(Section&, double);

  double value(const Section& section) const { return get(section) / scale; }
  void assign(Section& section, double value) const { set(section, value * scale); }
  /// What a file gets that leaves the key out.
  double fallback() const { return value(Section()); }
};

/// The settings of one section, in the order of the reference.
template <class Section>
Span<const Setting<Section>> settings();

/// Builders of setting tables: each takes the path of pointers to members that leads from the section to the value.
namespace describe {

constexpr double degree = pi / 180.0;
constexpr double millimetre = 1e-3;

template <class Object, class Member, class... Rest>
decltype(auto) reach(Object& object, Member member, Rest... rest) {
  if constexpr (sizeof...(rest) == 0) {
    return (object.*member);
  } else {
    return reach(object.*member, rest...);
  }
}

/// Reads and writes the member at the end of a path of pointers to members.
template <class Section, auto... path>
struct Access {
  static double get(const Section& section) { return static_cast<double>(reach(section, path...)); }
  static void set(Section& section, double value) {
    auto& member = reach(section, path...);
    member = static_cast<std::remove_reference_t<decltype(member)>>(value);
  }
};

template <class Section, auto... path>
constexpr Setting<Section> number(const char* key, const char* unit, double low, double high, double scale,
                                  const char* help) {
  using A = Access<Section, path...>;
  return {key, unit, SettingKind::number, low, high, help, {}, scale, A::get, A::set};
}

template <class Section, auto... path>
constexpr Setting<Section> flag(const char* key, const char* help) {
  using A = Access<Section, path...>;
  return {key, "", SettingKind::flag, 0, 1, help, {}, 1, A::get, A::set};
}

template <class Section, auto... path>
constexpr Setting<Section> choice(const char* key, Span<const char* const> choices, const char* help) {
  using A = Access<Section, path...>;
  return {key, "", SettingKind::choice, 0, static_cast<double>(choices.size() - 1), help, choices, 1, A::get, A::set};
}

}  // namespace describe

}  // namespace alpglow
