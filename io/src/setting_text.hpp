#pragma once
// Sections of settings as text: to be read back, and to be read by people.

#include "alpglow/design/settings.hpp"
#include "toml_keys.hpp"

#include <fmt/format.h>

#include <locale>
#include <sstream>
#include <string>

namespace alpglow::io {

/// The shortest text that reads back to the same setting: an angle need not be exact in degrees.
inline std::string shortest(double value, double scale) {
  for (int digits = 6; digits < 17; ++digits) {
    const std::string text = fmt::format("{:.{}g}", value, digits);
    std::istringstream in(text);
    in.imbue(std::locale::classic());  // a program may have set one in which 0.5 is written otherwise
    double read = 0;
    in >> read;  // what is subnormal is read as well
    if (read * scale == value * scale) return text;
  }
  return fmt::format("{}", value);
}

template <class Section>
std::string valueText(const Setting<Section>& setting, double value) {
  switch (setting.kind) {
    case SettingKind::flag: return value != 0 ? "true" : "false";
    case SettingKind::choice: return fmt::format("\"{}\"", setting.choices[static_cast<std::size_t>(value)]);
    case SettingKind::number: break;
  }
  const std::string text = shortest(value, setting.scale);
  return text.find_first_of(".e") == std::string::npos ? text + ".0" : text;
}

template <class Section>
std::string rangeText(const Setting<Section>& setting) {
  switch (setting.kind) {
    case SettingKind::flag: return "true or false";
    case SettingKind::choice: return fmt::format("{}", fmt::join(setting.choices.begin(), setting.choices.end(), ", "));
    case SettingKind::number: break;
  }
  return fmt::format("{:.12g} … {:.12g}{}{}", setting.low, setting.high, *setting.unit != 0 ? " " : "", setting.unit);
}

template <class Section>
std::string writeSection(const Section& section) {
  std::string text;
  for (const Setting<Section>& setting : settings<Section>()) {
    text +=
        fmt::format("# {}; {}; default {}\n{} = {}\n", setting.help, rangeText(setting),
                    valueText(setting, setting.fallback()), setting.key, valueText(setting, setting.value(section)));
  }
  return text + "\n";
}

template <class Section>
std::string referenceOf(const std::string& title) {
  std::string text = title + "\n";
  for (const Setting<Section>& setting : settings<Section>()) {
    text += fmt::format("  {:<28} {:<42} default {:<16} {}\n", setting.key, rangeText(setting),
                        valueText(setting, setting.fallback()), setting.help);
  }
  return text + "\n";
}

/// Nothing is left over, and what is tied together fits.
template <class Section>
void finishSection(TomlKeys& keys, const Section& section) {
  keys.finish();
  if (const BrokenRelation broken = brokenRelation(section); broken.key != nullptr) {
    keys.fail(broken.key, fmt::format("{} must be {}", broken.key, broken.demand));
  }
}

template <class Section>
void readSection(TomlKeys& keys, Section& section, bool overBase = false) {
  keys.fill(section, settings<Section>(), overBase);
  finishSection(keys, section);
}

}  // namespace alpglow::io
