#include "alpglow/io/design_file.hpp"

#include "alpglow/settings.hpp"
#include "toml_keys.hpp"

#include <fmt/format.h>

namespace alpglow::io {

namespace {

/// The shortest text that reads back to the same setting: an angle need not be exact in degrees.
std::string shortest(double value, double scale) {
  for (int digits = 6; digits < 17; ++digits) {
    std::string text = fmt::format("{:.{}g}", value, digits);
    if (std::stod(text) * scale == value * scale) return text;
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

template <class Section>
void readSection(TomlKeys& keys, Section& section) {
  keys.fill(section, settings<Section>());
  keys.finish();
  if (const BrokenRelation broken = brokenRelation(section); broken.key != nullptr) {
    keys.fail(broken.key, fmt::format("{} must be {}", broken.key, broken.demand));
  }
}

}  // namespace

CameraDesign readDesign(const std::string& path) {
  const toml::table table = parseToml(path, designFormat);
  TomlKeys keys(path, table, "");
  CameraDesign design;
  keys.number("format", {designFormat, designFormat});
  if (const auto name = keys.text("name")) design.name = *name;
  forEachSection(design, [&keys](const char* name, auto& section, auto) {
    if (auto inside = keys.table(name)) readSection(*inside, section);
  });
  std::vector<TomlKeys> framings = keys.tables("framing");
  keys.finish();
  if (framings.size() > 1)
    keys.fail("framing", fmt::format("framing is given {} times, but a design has one", framings.size()));
  for (std::size_t i = 0; i < framings.size(); ++i) {
    NamedFraming& named = design.framings[i];
    if (const auto name = framings[i].text("name")) named.name = *name;
    readSection(framings[i], named.framing);
  }
  return design;
}

std::string writeDesign(const CameraDesign& design) {
  std::string text = fmt::format(
      "# A camera design. Keys that are left out take their default. Units stand in the names.\n\n"
      "format = {}\nname = \"{}\"\n\n",
      designFormat, design.name);
  forEachSection(design, [&text](const char* name, const auto& section, auto) {
    text += fmt::format("[{}]\n{}", name, writeSection(section));
  });
  for (const NamedFraming& named : design.framings) {
    text += fmt::format("[[framing]]\n# what views, traces and reports call it\nname = \"{}\"\n{}", named.name,
                        writeSection(named.framing));
  }
  text.pop_back();
  return text;
}

std::string designReference() {
  std::string text = fmt::format("Keys of a design (*.camera.toml), format {}\n\n", designFormat);
  CameraDesign design;
  forEachSection(design, [&text](const char* name, const auto& section, auto) {
    text += referenceOf<std::decay_t<decltype(section)>>(fmt::format("[{}]", name));
  });
  return text + referenceOf<Framing>("[[framing]]   name = \"…\"");
}

}  // namespace alpglow::io
