#pragma once
// A design as its author wrote it: text and numbers at once. A change replaces the text of that value and nothing else,
// so comments, order and what is relative to a base stay. To save it, write the text.
//
//   io::DesignText design(io::readWhole("trail.camera.toml"), "trail.camera.toml");
//   for (const io::DesignSetting& setting : design.settings()) show(setting.name.key, setting.value);
//   design.set({"framing", "trail", "distance_m"}, 3.4);
//   io::writeWhole("trail.camera.toml", design.text());

#include "alpglow/base/setting.hpp"
#include "alpglow/design/design.hpp"

#include <optional>
#include <string>
#include <vector>

namespace alpglow::io {

/// Which setting of a design: `list` is "framing" or "push" for one of those, whose name is the section; else empty,
/// and the section stands for itself ("look").
struct SettingName {
  std::string list, section, key;

  friend bool operator==(const SettingName& a, const SettingName& b) {
    return a.list == b.list && a.section == b.section && a.key == b.key;
  }
};
/// "trail.distance_m"
std::string inWords(const SettingName& name);

/// One setting of a design with its value, in the units of files: flags are 0 and 1, choices count from 0.
struct DesignSetting {
  SettingName name;
  SettingKind kind = SettingKind::number;
  const char *unit = "", *help = "";
  double low = 0, high = 0;
  Span<const char* const> choices;
  double value = 0;
  /// What it is where a file leaves it out, and nothing above it says otherwise.
  double fallback = 0;
  /// A curve stands in its place; the value is the curve's at rest.
  bool curve = false;
};

/// All settings: framings first, then the sections in the order of the reference, then pushes.
std::vector<DesignSetting> settingsOf(const CameraDesign& design);

class DesignText {
 public:
  /// Throws InputError as `parseDesign` does; TOML only. Errors call it by this name.
  explicit DesignText(std::string text, std::string name = "design");

  const std::string& text() const { return text_; }
  const std::string& name() const { return name_; }
  const CameraDesign& design() const { return design_; }
  std::vector<DesignSetting> settings() const { return settingsOf(design_); }
  /// The text of its value where it stands, such as "0.05" or "\"+0.6\""; nothing where it is left out.
  std::optional<std::string> stated(const SettingName& setting) const;

  /// Gives it this value, in the units of files. What is said relative to a base stays relative to it. Throws
  /// InputError, and nothing changes, where it cannot have this value, beside the others too, or is a curve. The value
  /// that it has already, to the digits that would be written, changes nothing.
  void set(const SettingName& setting, double value);
  /// The same as text of the file.
  void set(const SettingName& setting, const std::string& valueText);
  /// Takes it out of the file: its line, if it has one of its own.
  void leaveOut(const SettingName& setting);

 private:
  void take(std::string text);
  bool holds(const std::string& text, const SettingName& setting) const;

  std::string text_, name_;
  CameraDesign design_;
};

}  // namespace alpglow::io
