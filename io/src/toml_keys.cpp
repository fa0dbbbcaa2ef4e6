#include "toml_keys.hpp"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <cmath>

namespace alpglow::io {

namespace {

/// A node's value as somebody wrote it, for messages.
std::string asWritten(const toml::node& node) {
  if (const auto* value = node.as_string()) return fmt::format("\"{}\"", value->get());
  if (const auto* value = node.as_floating_point()) return fmt::format("{}", value->get());
  if (const auto* value = node.as_integer()) return fmt::format("{}", value->get());
  if (const auto* value = node.as_boolean()) return value->get() ? "true" : "false";
  if (node.is_array()) return "an array";
  if (node.is_table()) return "a table";
  return "a date or time";
}

/// Tables and arrays within each other are read, and freed, by functions that call themselves: no deeper than this.
/// Throws InputError with the place.
void checkDepth(const std::string& text, const std::string& path) {
  constexpr int deepest = 64;
  int line = 1, open = 0, parts = 0;
  std::size_t lineStart = 0;
  const auto fail = [&](std::size_t at, const char* what) {
    throw InputError(path, line, static_cast<int>(at - lineStart) + 1,
                     fmt::format("{} more than {} deep", what, deepest));
  };
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (c == '"' || c == '\'') {
      const bool three = text.compare(i, 3, std::string(3, c)) == 0;
      const std::string end(three ? 3 : 1, c);
      i += end.size();
      for (; i < text.size() && text.compare(i, end.size(), end) != 0; ++i) {
        if (text[i] == '\n' && !three) break;  // which the parser refuses
        if (text[i] == '\n') ++line, lineStart = i + 1;
        if (text[i] == '\\' && c == '"') ++i;
      }
      if (i >= text.size()) return;
      if (text[i] != '\n') {
        i += end.size() - 1;
        continue;
      }
    }
    switch (text[i]) {
      case '#': i = std::min(text.find('\n', i), text.size()) - 1; break;
      case '\n':
        ++line;
        lineStart = i + 1;
        parts = 0;
        break;
      case '[':
      case '{':
        if (++open > deepest) fail(i, "arrays and tables are");
        parts = 0;
        break;
      case ']':
      case '}': open = std::max(open - 1, 0); [[fallthrough]];
      case ',':
      case '=': parts = 0; break;
      case '.':
        if (++parts >= deepest) fail(i, "a key is");
        break;
      default: break;
    }
  }
}

}  // namespace

toml::table parseToml(const std::string& text, const std::string& path, std::int64_t format) {
  toml::table table;
  try {
    checkDepth(text, path);
    table = toml::parse(text, path);
  } catch (const toml::parse_error& error) {
    const toml::source_position at = error.source().begin;
    throw InputError(path, static_cast<int>(at.line), static_cast<int>(at.column), std::string(error.description()));
  }
  const toml::node* version = table.get("format");
  if (version == nullptr)
    throw InputError(path, 1, 1, fmt::format("format is missing; this program reads format = {}", format));
  if (!version->is_integer() || version->value<std::int64_t>() != format) {
    TomlKeys(path, table, "")
        .fail("format", fmt::format("format is {}, but this program reads format = {}", asWritten(*version), format));
  }
  return table;
}

void TomlKeys::fail(const std::string& key, std::size_t behind, const std::string& what) const {
  const toml::node* node = table_.get(key);
  const toml::source_position at = (node != nullptr ? node->source() : table_.source()).begin;
  throw InputError(file_, static_cast<int>(at.line), static_cast<int>(at.column + behind), what);
}

const toml::node* TomlKeys::find(const std::string& key) {
  known_.push_back(key);
  return table_.get(key);
}

double TomlKeys::finiteNumber(const std::string& key, const toml::node& node, Bounds bounds) const {
  const bool isNumber = node.is_floating_point() || node.is_integer();
  if (!isNumber)
    fail(key, fmt::format("{} is {}, but must be a number in [{}, {}]", key, asWritten(node), bounds.low, bounds.high));
  const double value = *node.value<double>();
  if (!(value >= bounds.low && value <= bounds.high)) {
    fail(key, fmt::format("{} is {}, but must lie in [{}, {}]", key, asWritten(node), bounds.low, bounds.high));
  }
  return value;
}

std::optional<double> TomlKeys::number(const std::string& key, Bounds bounds) {
  const toml::node* node = find(key);
  if (node == nullptr) return std::nullopt;
  return finiteNumber(key, *node, bounds);
}

std::optional<bool> TomlKeys::flag(const std::string& key) {
  const toml::node* node = find(key);
  if (node == nullptr) return std::nullopt;
  if (!node->is_boolean()) fail(key, fmt::format("{} is {}, but must be true or false", key, asWritten(*node)));
  return *node->value<bool>();
}

std::optional<std::string> TomlKeys::text(const std::string& key) {
  const toml::node* node = find(key);
  if (node == nullptr) return std::nullopt;
  if (!node->is_string()) fail(key, fmt::format("{} is {}, but must be a text in quotes", key, asWritten(*node)));
  std::string value = *node->value<std::string>();
  if (value.empty()) fail(key, key + " is empty");
  requirePlain(key, value);
  return value;
}

/// Such texts are names, and are shown in terminals.
void TomlKeys::requirePlain(const std::string& key, const std::string& value) const {
  constexpr std::size_t longest = 500;
  if (plainText(value, longest) != value)
    fail(key, fmt::format("{} is \"{}\", but must be of up to {} letters, none of which moves the cursor", key, value,
                          longest));
}

std::vector<std::string> TomlKeys::texts(const std::string& key) {
  std::vector<std::string> result;
  const toml::node* node = find(key);
  if (node == nullptr) return result;
  const toml::array* array = node->as_array();
  if (array == nullptr) fail(key, fmt::format("{} is {}, but must be a list of texts", key, asWritten(*node)));
  for (const toml::node& element : *array) {
    if (!element.is_string())
      fail(key, fmt::format("{} holds {}, but must be a list of texts", key, asWritten(element)));
    result.push_back(*element.value<std::string>());
    requirePlain(key, result.back());
  }
  return result;
}

Eigen::Vector3d TomlKeys::pointAt(const std::string& key, const toml::node& node, Bounds bounds) const {
  const toml::array* array = node.as_array();
  if (array == nullptr || array->size() != 3) {
    fail(key, fmt::format("{} is {}, but must be three numbers [x, y, z]", key,
                          array == nullptr ? asWritten(node) : fmt::format("an array of {}", array->size())));
  }
  Eigen::Vector3d value;
  for (int i = 0; i < 3; ++i) value[i] = finiteNumber(key, (*array)[static_cast<std::size_t>(i)], bounds);
  return value;
}

std::optional<Eigen::Vector3d> TomlKeys::point(const std::string& key, Bounds bounds) {
  const toml::node* node = find(key);
  if (node == nullptr) return std::nullopt;
  return pointAt(key, *node, bounds);
}

std::vector<std::array<double, 2>> TomlKeys::requiredPairs(const std::string& key, Bounds first, Bounds second) {
  const toml::node* node = find(key);
  if (node == nullptr) fail("", key + " is missing" + (title_.empty() ? "" : " in " + title_));
  const toml::array* array = node->as_array();
  if (array == nullptr) fail(key, fmt::format("{} is {}, but must be pairs [[x, y], …]", key, asWritten(*node)));
  std::vector<std::array<double, 2>> pairs;
  for (const toml::node& element : *array) {
    const toml::array* pair = element.as_array();
    if (pair == nullptr || pair->size() != 2) fail(key, fmt::format("{} must be pairs [[x, y], …]", key));
    pairs.push_back({finiteNumber(key, (*pair)[0], first), finiteNumber(key, (*pair)[1], second)});
  }
  return pairs;
}

std::optional<std::array<double, 2>> TomlKeys::pair(const std::string& key, Bounds bounds) {
  const toml::node* node = find(key);
  if (node == nullptr) return std::nullopt;
  const toml::array* pair = node->as_array();
  if (pair == nullptr || pair->size() != 2)
    fail(key, fmt::format("{} is {}, but must be two numbers [x, y]", key, asWritten(*node)));
  return std::array<double, 2>{finiteNumber(key, (*pair)[0], bounds), finiteNumber(key, (*pair)[1], bounds)};
}

std::vector<Eigen::Vector3d> TomlKeys::requiredPoints(const std::string& key, Bounds bounds) {
  const toml::node* node = find(key);
  if (node == nullptr) fail("", key + " is missing" + (title_.empty() ? "" : " in " + title_));
  const toml::array* array = node->as_array();
  if (array == nullptr) fail(key, fmt::format("{} is {}, but must be points [[x, y, z], …]", key, asWritten(*node)));
  std::vector<Eigen::Vector3d> points;
  for (const toml::node& element : *array) points.push_back(pointAt(key, element, bounds));
  return points;
}

std::optional<TomlKeys> TomlKeys::table(const std::string& key) {
  const toml::node* node = find(key);
  if (node == nullptr) return std::nullopt;
  if (!node->is_table()) fail(key, fmt::format("{} is {}, but must be a table, [{}]", key, asWritten(*node), key));
  return TomlKeys(file_, *node->as_table(), "[" + key + "]");
}

std::vector<TomlKeys> TomlKeys::tables(const std::string& key) {
  std::vector<TomlKeys> result;
  const toml::node* node = find(key);
  if (node == nullptr) return result;
  const toml::array* array = node->as_array();
  if (array != nullptr && array->empty()) return result;
  if (array == nullptr || !array->is_array_of_tables()) {
    fail(key, fmt::format("{} is {}, but must be tables, each under [[{}]]", key, asWritten(*node), key));
  }
  for (const toml::node& element : *array) result.push_back(TomlKeys(file_, *element.as_table(), "[[" + key + "]]"));
  return result;
}

double TomlKeys::relativeNumber(const std::string& key, const std::string& text, double base, Bounds bounds) const {
  double by = 0;
  const char sign = text.front();
  const char *const start = text.data() + 1, *const end = text.data() + text.size();
  const auto [stopped, error] = std::from_chars(start, end, by);
  const bool plain = start != end && (std::isdigit(static_cast<unsigned char>(*start)) != 0 || *start == '.');
  if (std::string("+-*").find(sign) == std::string::npos || !plain || error != std::errc() || stopped != end) {
    fail(key, fmt::format("{} is \"{}\", but must be a number in [{}, {}], or relative to its base: \"+0.5\", "
                          "\"-0.5\", \"*1.5\"",
                          key, text, bounds.low, bounds.high));
  }
  const double value = sign == '*' ? base * by : sign == '+' ? base + by : base - by;
  if (!(value >= bounds.low && value <= bounds.high)) {
    fail(key, fmt::format("{} is \"{}\", which makes {:.6g} of its base's {:.6g}, but must lie in [{}, {}]", key, text,
                          value, base, bounds.low, bounds.high));
  }
  return value;
}

std::optional<double> TomlKeys::settingValue(const std::string& key, SettingKind kind, Bounds bounds,
                                             Span<const char* const> choices, std::optional<double> base) {
  if (std::find(left_.begin(), left_.end(), key) != left_.end()) return std::nullopt;
  switch (kind) {
    case SettingKind::number:
      if (base && table_.get(key) != nullptr && table_.get(key)->is_string())
        return relativeNumber(key, *text(key), *base, bounds);
      return number(key, bounds);
    case SettingKind::flag: {
      const std::optional<bool> value = flag(key);
      return value ? std::optional<double>(*value ? 1 : 0) : std::nullopt;
    }
    case SettingKind::choice: break;
  }
  const std::optional<std::string> value = text(key);
  if (!value) return std::nullopt;
  const std::vector<std::string> names(choices.begin(), choices.end());
  for (std::size_t i = 0; i < names.size(); ++i) {
    if (names[i] == *value) return static_cast<double>(i);
  }
  fail(key, fmt::format("{} is \"{}\", but must be one of {}", key, *value, fmt::join(names, ", ")));
}

void TomlKeys::finish() const {
  for (const auto& [key, node] : table_) {
    const std::string name(key.str());
    if (std::find(known_.begin(), known_.end(), name) != known_.end()) continue;
    const toml::source_position at = key.source().begin;
    const std::string where = title_.empty() ? "" : " in " + title_;
    const std::string what =
        fmt::format("unknown key {}{}; the nearest known one is {}", name, where, nearestName(name, known_));
    throw InputError(file_, static_cast<int>(at.line), static_cast<int>(at.column), what);
  }
}

}  // namespace alpglow::io
