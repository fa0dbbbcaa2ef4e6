#include "alpglow/io/design_file.hpp"

#include "alpglow/settings.hpp"
#include "setting_text.hpp"
#include "toml_keys.hpp"

#include <fmt/format.h>

namespace alpglow::io {

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
