#pragma once
// One setting as a row of a panel, whatever it belongs to: the one description of settings says name, unit, range,
// choices and help.
//
//   const auto& height = settings<io::Body>()[0];
//   const panel::RowAnswer asked = panel::showRow(panel::rowOf(height, body, "body"));   // or a row filled by hand
//   if (asked.value) height.assign(body, *asked.value);

#include "alpglow/base/setting.hpp"

#include <imgui.h>

#include <optional>
#include <string>
#include <vector>

namespace alpglow::panel {

struct Row {
  /// Tells it apart from all others, whatever is shown or hidden around it.
  std::string id;
  const char *key = "", *unit = "", *help = "";
  SettingKind kind = SettingKind::number;
  double low = 0, high = 0;
  Span<const char* const> choices;
  double value = 0, fallback = 0;
  /// It differs from what is saved; it cannot be set here, and why.
  bool changed = false;
  const char* fixed = nullptr;
};

template <class Section>
Row rowOf(const Setting<Section>& setting, const Section& values, const std::string& section) {
  Row row;
  row.id = section + "." + setting.key;
  row.key = setting.key;
  row.unit = setting.unit;
  row.help = setting.help;
  row.kind = setting.kind;
  row.low = setting.low;
  row.high = setting.high;
  row.choices = setting.choices;
  row.value = setting.value(values);
  row.fallback = setting.fallback();
  return row;
}

/// What somebody did with a row in this frame.
struct RowAnswer {
  std::optional<double> value;
  bool goesOn = false;  // with the drag that began before
  bool toFile = false, toDefault = false;
};

/// A slider and a field to type into, a box to tick, or a list. The value that is asked for lies in the range.
RowAnswer showRow(const Row& row);

/// Where rows were drawn last, in pixels of the window, to point at them or to test them. Switched off until
/// asked for.
struct Shown {
  std::string id;
  ImVec2 from, to;
};
class ShownItems {
 public:
  static bool wanted;
  static void begin() { items().clear(); }
  /// The item of Dear ImGui that was shown last.
  static void note(const std::string& id);
  static std::vector<Shown>& items();
};

}  // namespace alpglow::panel
