#include "alpglow/io/design_file.hpp"

#include "alpglow/design/settings.hpp"
#include "setting_text.hpp"
#include "toml_keys.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace alpglow::io {

namespace {

/// With everything that it leaves out from its base: the framing that it names, or else the first one.
NamedFraming readFraming(TomlKeys& keys, const std::vector<NamedFraming>& before, std::vector<std::string>& flags) {
  NamedFraming named{before.empty() ? CameraDesign().framings.front() : before.front()};
  const std::string name = keys.text("name").value_or(before.empty() ? named.name : "");
  std::vector<std::string> known;
  known.reserve(before.size());
  for (const NamedFraming& other : before) known.push_back(other.name);
  if (name.empty()) keys.fail("", "name is missing in [[framing]]; only the first one may go without");
  if (std::find(known.begin(), known.end(), name) != known.end())
    keys.fail("name", fmt::format("name is \"{}\", which a framing above has already", name));
  if (const auto base = keys.text("base")) {
    const auto found = std::find(known.begin(), known.end(), *base);
    if (found == known.end()) {
      keys.fail("base", fmt::format("base is \"{}\", but must be a framing above{}", *base,
                                    known.empty()
                                        ? "; there is none"
                                        : fmt::format("; the nearest known one is \"{}\"", nearestName(*base, known))));
    }
    named = before[static_cast<std::size_t>(found - known.begin())];
  }
  named.name = name;
  named.when = keys.text("when").value_or("");
  if (!named.when.empty()) {
    if (const auto fault = parseWhen(named.when, flags).fault)
      keys.fail("when", 1 + fault->at, fmt::format("when is \"{}\", which {}", named.when, fault->what));
  }
  if (const auto perspective = keys.text("perspective")) {
    if (*perspective != "first" && *perspective != "third")
      keys.fail("perspective", fmt::format("perspective is \"{}\", but must be \"first\" or \"third\"", *perspective));
    named.perspective = *perspective == "first" ? Perspective::first : Perspective::third;
  }
  readSection(keys, named.framing, !before.empty());
  return named;
}

NamedPush readPush(TomlKeys& keys, const std::vector<NamedPush>& before) {
  NamedPush named;
  named.name = keys.requiredText("name");
  for (const NamedPush& other : before) {
    if (other.name == named.name)
      keys.fail("name", fmt::format("name is \"{}\", which a push above has already", named.name));
  }
  readSection(keys, named.push);
  return named;
}

/// The tables of a name, at most so many.
std::vector<TomlKeys> fewTables(TomlKeys& keys, const char* name, std::size_t most) {
  std::vector<TomlKeys> tables = keys.tables(name);
  if (tables.size() > most)
    keys.fail(name, fmt::format("{} is given {} times, but must be at most {}", name, tables.size(), most));
  return tables;
}

/// What `new` shows of what a design does without.
constexpr char pushExample[] =
    "# Pushes by the game: up to 6, each called by its name.\n"
    "# [[push]]\n"
    "# name = \"landing\"\n"
    "# pitch_deg = -1.5\n"
    "# up_m = -0.08\n"
    "# return_half_life_s = 0.15\n"
    "#\n"
    "# [[push]]\n"
    "# name = \"recoil\"\n"
    "# pitch_deg = 1.2               # and to a side by chance, as far as spread says\n"
    "# yaw_deg = 1.2\n"
    "# spread = 0.4\n"
    "# moves_aim = true              # the player can fight it, and what was fought is not taken back\n\n";

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
  design.zoomIntoEyes = keys.flag("zoom_into_eyes").value_or(design.zoomIntoEyes);
  std::vector<TomlKeys> framings = fewTables(keys, "framing", mostFramings),
                        pushes = fewTables(keys, "push", mostPushes);
  keys.finish();
  for (TomlKeys& push : pushes) design.pushes.push_back(readPush(push, design.pushes));
  if (!framings.empty()) design.framings.clear();
  std::vector<std::string> flags;
  for (TomlKeys& framing : framings) design.framings.push_back(readFraming(framing, design.framings, flags));
  return design;
}

std::string writeDesign(const CameraDesign& design) {
  std::string text = fmt::format(
      "# A camera design. Keys that are left out take their default. Units stand in the names.\n\n"
      "format = {}\nname = \"{}\"\n\n",
      designFormat, design.name);
  text +=
      fmt::format("# zooming in beyond the nearest distance is a transition to first person\nzoom_into_eyes = {}\n\n",
                  design.zoomIntoEyes);
  forEachSection(design, [&text](const char* name, const auto& section, auto) {
    text += fmt::format("[{}]\n{}", name, writeSection(section));
  });
  if (design.pushes.empty()) text += pushExample;
  for (const NamedPush& named : design.pushes)
    text += fmt::format("[[push]]\n# what the game calls it\nname = \"{}\"\n{}", named.name, writeSection(named.push));
  for (const NamedFraming& named : design.framings) {
    text += fmt::format(
        "[[framing]]\n# what views, traces and reports call it\nname = \"{}\"\n"
        "# aiming, sprinting, crouched or a flag of the game, joined by and, or, not and parentheses; left out: the "
        "base\n"
        "{}when = \"{}\"\n# \"third\" or \"first\": where it applies\nperspective = \"{}\"\n{}",
        named.name, named.when.empty() ? "# " : "", named.when.empty() ? "aiming" : named.when,
        named.perspective == Perspective::first ? "first" : "third", writeSection(named.framing));
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
  text += referenceOf<PushSettings>("[[push]]   name = \"…\"");
  return text + referenceOf<Framing>("[[framing]]   name, base, when, perspective = \"…\"");
}

}  // namespace alpglow::io
