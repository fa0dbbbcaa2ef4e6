#include "alpglow/io/design_text.hpp"

#include "alpglow/io/design_file.hpp"
#include "setting_text.hpp"
#include "toml_keys.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace alpglow::io {

namespace {

constexpr std::string_view byteOrderMark = "\xEF\xBB\xBF";

template <class Section>
DesignSetting described(const std::string& list, const std::string& section, const Section& values,
                        const Setting<Section>& setting) {
  DesignSetting result;
  result.name = {list, section, setting.key};
  result.kind = setting.kind;
  result.unit = setting.unit;
  result.help = setting.help;
  result.low = setting.low;
  result.high = setting.high;
  result.choices = setting.choices;
  result.value = setting.value(values);
  result.fallback = setting.fallback();
  return result;
}

/// Where a place in lines and columns (both from 1, columns in characters) is in the text.
std::size_t offsetOf(const std::string& text, const toml::source_position& place) {
  std::size_t at = text.compare(0, byteOrderMark.size(), byteOrderMark) == 0 ? byteOrderMark.size() : 0;
  for (toml::source_index line = 1; line < place.line; ++line) at = text.find('\n', at) + 1;
  for (toml::source_index column = 1; column < place.column; ++column) {
    do ++at;
    while (at < text.size() && (static_cast<unsigned char>(text[at]) & 0xC0) == 0x80);
  }
  return at;
}

/// One behind the end of the text in quotes, or of three quotes, that begins there.
std::size_t endOfQuotes(const std::string& text, std::size_t at) {
  const char quote = text[at];
  const std::string three(3, quote);
  if (text.compare(at, 3, three) == 0) return text.find(three, at + 3) + 3;
  for (++at; text[at] != quote; ++at) {
    if (text[at] == '\\' && quote == '"') ++at;
  }
  return at + 1;
}

/// One behind the end of the value that begins there, in a text that was parsed.
std::size_t endOfValue(const std::string& text, std::size_t at) {
  int depth = 0;
  while (at < text.size()) {
    const char c = text[at];
    if (c == '"' || c == '\'') {
      at = endOfQuotes(text, at);
    } else if (c == '[' || c == '{') {
      ++depth;
      ++at;
    } else if (depth > 0 && c == '#') {
      at = std::min(text.find('\n', at), text.size());
    } else if (depth > 0) {
      if (c == ']' || c == '}') --depth;
      ++at;
    } else {
      return std::min(text.find_first_of(",]}# \t\r\n", at), text.size());
    }
    if (depth == 0) return at;
  }
  return at;
}

/// The table that a setting stands in; null where the file has none.
const toml::table* tableOf(const toml::table& file, const SettingName& setting) {
  if (setting.section.empty()) return &file;
  if (setting.list.empty()) {
    const toml::node* found = file.get(setting.section);
    return found != nullptr ? found->as_table() : nullptr;
  }
  const toml::node* list = file.get(setting.list);
  if (list == nullptr || !list->is_array()) return nullptr;
  for (const toml::node& each : *list->as_array()) {
    const toml::table* table = each.as_table();
    if (table != nullptr && table->at_path("name").value_or(std::string()) == setting.section) return table;
  }
  const toml::table* first = list->as_array()->front().as_table();  // which may go without a name
  return first != nullptr && !first->contains("name") ? first : nullptr;
}

struct Stretch {
  std::size_t from, to;
};

std::optional<Stretch> valueIn(const std::string& text, const toml::table* table, const SettingName& setting) {
  const toml::node* node = table != nullptr ? table->get(setting.key) : nullptr;
  if (node == nullptr) return std::nullopt;
  const std::size_t from = offsetOf(text, node->source().begin);
  return Stretch{from, endOfValue(text, from)};
}

/// The text with a new key in a table: behind its last value, or where it begins.
std::string withNew(std::string text, const toml::table* table, const SettingName& setting,
                    const std::string& statement) {
  const std::string end = text.find("\r\n") == std::string::npos ? "\n" : "\r\n";
  if (table == nullptr) {
    if (!text.empty() && text.back() != '\n') text += end;
    const bool listed = !setting.list.empty();
    text += end + fmt::format(listed ? "[[{}]]" : "[{}]", listed ? setting.list : setting.section) + end;
    if (listed) text += fmt::format("name = \"{}\"", setting.section) + end;
    return text + statement + end;
  }
  std::size_t last = std::string::npos;
  for (const auto& [key, value] : *table) {
    const bool below = value.is_table() ? !value.as_table()->is_inline() : value.is_array_of_tables();
    if (below) continue;
    const std::size_t behind = endOfValue(text, offsetOf(text, value.source().begin));
    if (last == std::string::npos || behind > last) last = behind;
  }
  if (table->is_inline()) {
    const std::size_t open = offsetOf(text, table->source().begin) + 1;
    return last == std::string::npos ? text.insert(open, statement) : text.insert(last, ", " + statement);
  }
  if (last == std::string::npos) last = setting.section.empty() ? 0 : offsetOf(text, table->source().begin);
  const std::size_t lineEnd = text.find('\n', last);
  return lineEnd == std::string::npos ? text + end + statement + end : text.insert(lineEnd + 1, statement + end);
}

/// The base of a framing as a file has it: by name, or else the first one.
const NamedFraming& baseOf(const CameraDesign& design, const toml::table* table) {
  const std::string base = table != nullptr ? table->at_path("base").value_or(std::string()) : std::string();
  const auto found = std::find_if(design.framings.begin(), design.framings.end(),
                                  [&base](const NamedFraming& each) { return each.name == base; });
  return found == design.framings.end() ? design.framings.front() : *found;
}

/// The shortest text with which a file says a value; of a number always with a point or an exponent.
std::string textOf(const DesignSetting& setting, double value) {
  if (setting.kind == SettingKind::flag) return value != 0 ? "true" : "false";
  if (setting.kind == SettingKind::choice)
    return fmt::format("\"{}\"", setting.choices[static_cast<std::size_t>(std::lround(value))]);
  const std::string text = shortest(value, 1);
  return text.find_first_of(".e") == std::string::npos ? text + ".0" : text;
}

/// Relative to `base` as the old text is: "+0.6", "-0.2", "*1.1".
std::string relativeText(const std::string& old, double value, double base) {
  if (old.find('*') == std::string::npos) return fmt::format("\"{:+.10g}\"", value - base);
  return base != 0 ? fmt::format("\"*{:.10g}\"", value / base) : fmt::format("{:.10g}", value);
}

}  // namespace

std::string inWords(const SettingName& name) { return name.section.empty() ? name.key : name.section + "." + name.key; }

std::vector<DesignSetting> settingsOf(const CameraDesign& design) {
  std::vector<DesignSetting> all;
  const auto add = [&all](const std::string& list, const std::string& section, const auto& values) {
    for (const auto& setting : settings<std::decay_t<decltype(values)>>())
      all.push_back(described(list, section, values, setting));
  };
  for (const NamedFraming& named : design.framings) {
    const std::size_t first = all.size();
    add("framing", named.name, named.framing);
    for (const FramingCurve& curve : named.curves) {
      const std::string key = settingOf(curve.what).key;
      for (std::size_t i = first; i < all.size(); ++i) all[i].curve = all[i].curve || all[i].name.key == key;
    }
  }
  DesignSetting zoom;
  zoom.name = {"", "", "zoom_into_eyes"};
  zoom.kind = SettingKind::flag;
  zoom.help = "zooming in beyond the nearest distance is a transition to first person";
  zoom.high = 1;
  zoom.value = design.zoomIntoEyes ? 1 : 0;
  all.push_back(zoom);
  forEachSection(design, [&add](const char* name, const auto& section, auto) { add("", name, section); });
  for (const NamedPush& named : design.pushes) add("push", named.name, named.push);
  return all;
}

DesignText::DesignText(std::string text, std::string name) : name_(std::move(name)) { take(std::move(text)); }

void DesignText::take(std::string text) {
  parseToml(text, name_, designFormat);
  design_ = parseDesign(text, name_);
  text_ = std::move(text);
}

std::optional<std::string> DesignText::stated(const SettingName& setting) const {
  const toml::table file = parseToml(text_, name_, designFormat);
  const std::optional<Stretch> value = valueIn(text_, tableOf(file, setting), setting);
  return value ? std::optional<std::string>(text_.substr(value->from, value->to - value->from)) : std::nullopt;
}

void DesignText::set(const SettingName& setting, double value) {
  const std::vector<DesignSetting> all = settings();
  const auto found =
      std::find_if(all.begin(), all.end(), [&setting](const DesignSetting& each) { return each.name == setting; });
  if (found == all.end()) throw InputError(name_, fmt::format("\"{}\" is no setting of it", inWords(setting)));
  if (found->curve) throw InputError(name_, fmt::format("{} is a curve", inWords(setting)));
  if (!(value >= found->low && value <= found->high))
    throw InputError(name_, fmt::format("{} is {:g}, but must be from {:g} to {:g}", inWords(setting), value,
                                        found->low, found->high));
  if (textOf(*found, value) == textOf(*found, found->value)) return;
  const std::optional<std::string> old = stated(setting);
  const bool relative = old && setting.list == "framing" && found->kind == SettingKind::number && old->front() == '"';
  if (!relative) return set(setting, textOf(*found, value));
  const toml::table file = parseToml(text_, name_, designFormat);
  const NamedFraming& base = baseOf(design_, tableOf(file, setting));
  for (const Setting<Framing>& each : alpglow::settings<Framing>()) {
    if (each.key == setting.key) return set(setting, relativeText(*old, value, each.value(base.framing)));
  }
}

void DesignText::set(const SettingName& setting, const std::string& valueText) {
  const toml::table file = parseToml(text_, name_, designFormat);
  const toml::table* table = tableOf(file, setting);
  std::string text = text_;
  if (const std::optional<Stretch> value = valueIn(text, table, setting)) {
    text.replace(value->from, value->to - value->from, valueText);
  } else {
    const std::string statement = setting.key + " = " + valueText;
    text = withNew(text_, table, setting, statement);
    // A table that is written in dotted keys goes on in them.
    if (!holds(text, setting)) text = withNew(text_, table, setting, setting.section + "." + statement);
  }
  take(std::move(text));
}

bool DesignText::holds(const std::string& text, const SettingName& setting) const {
  const toml::table file = parseToml(text, name_, designFormat);
  return valueIn(text, tableOf(file, setting), setting).has_value();
}

void DesignText::leaveOut(const SettingName& setting) {
  const toml::table file = parseToml(text_, name_, designFormat);
  const toml::table* table = tableOf(file, setting);
  const std::optional<Stretch> value = valueIn(text_, table, setting);
  if (!value) return;
  std::string text = text_;
  if (table->is_inline()) throw InputError(name_, inWords(setting) + " stands in a line with others");
  const std::size_t begins = text.rfind('\n', value->from), from = begins == std::string::npos ? 0 : begins + 1;
  const std::size_t ends = text.find('\n', value->to);
  text.erase(from, (ends == std::string::npos ? text.size() : ends + 1) - from);
  take(std::move(text));
}

}  // namespace alpglow::io
