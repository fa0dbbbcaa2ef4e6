#pragma once
// Reads a TOML table key by key, with errors that say where, what and what is allowed.

#include "alpglow/base/setting.hpp"
#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>
#include <toml++/toml.h>
#include <Eigen/Core>

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace alpglow::io {

struct Bounds {
  double low, high;
};

/// Parses TOML and checks its `format` key against the one format that is known; `name` says in errors what it is.
toml::table parseToml(const std::string& text, const std::string& name, std::int64_t format);

class TomlKeys {
 public:
  TomlKeys(const std::string& file, const toml::table& table, std::string title)
      : file_(file), table_(table), title_(std::move(title)) {}

  /// Throws an InputError at the value of `key`, or at the table if there is none.
  [[noreturn]] void fail(const std::string& key, const std::string& what) const { fail(key, 0, what); }
  /// So many columns behind where the value begins.
  [[noreturn]] void fail(const std::string& key, std::size_t behind, const std::string& what) const;

  bool has(const std::string& key) const { return table_.contains(key); }
  bool isTable(const std::string& key) const { return table_.contains(key) && table_.get(key)->is_table(); }
  bool isText(const std::string& key) const { return table_.contains(key) && table_.get(key)->is_string(); }
  /// Somebody else reads it: filling a section leaves it alone.
  void leave(const std::string& key) { left_.push_back(key); }
  std::optional<double> number(const std::string& key, Bounds bounds);
  double number(const std::string& key, Bounds bounds, double fallback) {
    return number(key, bounds).value_or(fallback);
  }
  double requiredNumber(const std::string& key, Bounds bounds) { return required(number(key, bounds), key); }
  std::optional<bool> flag(const std::string& key);
  std::optional<std::string> text(const std::string& key);
  std::string requiredText(const std::string& key) { return required(text(key), key); }
  std::vector<std::string> texts(const std::string& key);
  std::optional<Eigen::Vector3d> point(const std::string& key, Bounds bounds);
  /// A number that is said relative to another one: "+0.6", "-0.2", "*1.1".
  double relativeNumber(const std::string& key, const std::string& text, double base, Bounds bounds) const;
  Eigen::Vector3d requiredPoint(const std::string& key, Bounds bounds) { return required(point(key, bounds), key); }
  /// An array of pairs; the first number of each is within `first`, the second within `second`.
  std::vector<std::array<double, 2>> requiredPairs(const std::string& key, Bounds first, Bounds second);
  /// Two numbers.
  std::optional<std::array<double, 2>> pair(const std::string& key, Bounds bounds);
  /// An array of points.
  std::vector<Eigen::Vector3d> requiredPoints(const std::string& key, Bounds bounds);
  std::optional<TomlKeys> table(const std::string& key);
  /// The tables of an array of tables; none if the key is left out.
  std::vector<TomlKeys> tables(const std::string& key);

  /// Every key that nobody asked for is an error.
  void finish() const;

  /// Fills a section from its settings; keys that are left out keep their value. Of a section that stands over a base
  /// a number may be said relative to that, which it has now: "+0.6", "-0.2", "*1.1".
  template <class Section>
  void fill(Section& section, Span<const Setting<Section>> settings, bool overBase = false) {
    for (const Setting<Section>& setting : settings) {
      const std::optional<double> base =
          overBase ? std::optional<double>(setting.value(section)) : std::optional<double>();
      if (const std::optional<double> value =
              settingValue(setting.key, setting.kind, {setting.low, setting.high}, setting.choices, base)) {
        setting.assign(section, *value);
      }
    }
  }

 private:
  const toml::node* find(const std::string& key);
  void requirePlain(const std::string& key, const std::string& value) const;
  std::optional<double> settingValue(const std::string& key, SettingKind kind, Bounds bounds,
                                     Span<const char* const> choices, std::optional<double> base);
  Eigen::Vector3d pointAt(const std::string& key, const toml::node& node, Bounds bounds) const;
  double finiteNumber(const std::string& key, const toml::node& node, Bounds bounds) const;

  template <class T>
  T required(std::optional<T> value, const std::string& key) const {
    if (!value) fail("", key + " is missing" + (title_.empty() ? "" : " in " + title_));
    return *value;
  }

  std::string file_;
  const toml::table& table_;
  std::string title_;
  std::vector<std::string> known_, left_;
};

}  // namespace alpglow::io
