#include "json_text.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <cstddef>
#include <set>

namespace alpglow::io {

namespace {

using Json = nlohmann::ordered_json;

constexpr int deepest = 16;

std::string quoted(const std::string& text) {
  std::string result = Json(text).dump(-1, ' ', false, Json::error_handler_t::replace);
  for (std::size_t at = 0; (at = result.find('\x7f', at)) != std::string::npos;) result.replace(at, 1, "\\u007f");
  return result;
}

class Writer {
 public:
  explicit Writer(std::string name) : name_(std::move(name)) {}

  TomlOfJson take() { return std::move(made_); }

  void document(const Json& root) {
    for (const auto& [key, value] : root.items()) {
      if (!isTable(value) && !isTables(value)) member(key, value, key);
    }
    for (const auto& [key, value] : root.items()) {
      if (isTable(value)) table(fmt::format("[{}]", quoted(key)), value, key);
      for (std::size_t i = 0; isTables(value) && i < value.size(); ++i)
        table(fmt::format("[[{}]]", quoted(key)), value[i], fmt::format("{}[{}]", key, i));
    }
  }

 private:
  static bool isTable(const Json& value) { return value.is_object(); }
  static bool isTables(const Json& value) {
    return value.is_array() && !value.empty() &&
           std::all_of(value.begin(), value.end(), [](const Json& each) { return each.is_object(); });
  }
  void line(const std::string& text, const std::string& path) {
    made_.toml += text + '\n';
    made_.paths.push_back(path);
  }
  void table(const std::string& title, const Json& value, const std::string& path) {
    line(title, path);
    for (const auto& [key, inside] : value.items()) member(key, inside, fmt::format("{}.{}", path, key));
  }
  void member(const std::string& key, const Json& value, const std::string& path) {
    line(fmt::format("{} = {}", quoted(key), inlined(value, path, 0)), path);
  }
  std::string inlined(const Json& value, const std::string& path, int depth) const {
    if (depth > deepest) throw InputError(name_, path + " is nested too deeply");
    if (value.is_null()) throw InputError(name_, path + " is null, which is no value");
    if (value.is_string()) return quoted(value.get<std::string>());
    if (value.is_array()) {
      std::vector<std::string> parts;
      for (std::size_t i = 0; i < value.size(); ++i)
        parts.push_back(inlined(value[i], fmt::format("{}[{}]", path, i), depth + 1));
      return fmt::format("[{}]", fmt::join(parts, ", "));
    }
    if (value.is_object()) {
      std::vector<std::string> parts;
      for (const auto& [key, inside] : value.items())
        parts.push_back(
            fmt::format("{} = {}", quoted(key), inlined(inside, fmt::format("{}.{}", path, key), depth + 1)));
      return fmt::format("{{{}}}", fmt::join(parts, ", "));
    }
    if (value.is_number_unsigned() && value.get<std::uint64_t>() > std::uint64_t{1} << 53)
      return fmt::format("{:.1f}", value.get<double>());
    return value.dump();
  }

  std::string name_;
  TomlOfJson made_;
};

/// Walks over a document without making one.
class Shape final : public nlohmann::json_sax<Json> {
 public:
  JsonShape found;

  bool null() override { return true; }
  bool boolean(bool) override { return true; }
  bool number_integer(number_integer_t) override { return true; }
  bool number_unsigned(number_unsigned_t) override { return true; }
  bool number_float(number_float_t, const string_t&) override { return true; }
  bool string(string_t&) override { return true; }
  bool binary(binary_t&) override { return true; }
  bool start_object(std::size_t) override {
    keys_.emplace_back();
    return deeper();
  }
  bool key(string_t& name) override {
    if (!keys_.back().insert(name).second && found.keyTwice.empty()) found.keyTwice = name;
    return true;
  }
  bool end_object() override {
    keys_.pop_back();
    return --depth_ >= 0;
  }
  bool start_array(std::size_t) override { return deeper(); }
  bool end_array() override { return --depth_ >= 0; }
  bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override { return false; }

 private:
  bool deeper() {
    found.depth = std::max(found.depth, ++depth_);
    return depth_ <= farTooDeep;
  }

  static constexpr int farTooDeep = 1000;
  int depth_ = 0;
  std::vector<std::set<std::string>> keys_;
};

}  // namespace

bool looksLikeJson(std::string_view text) {
  if (text.substr(0, 3) == "\xEF\xBB\xBF") text.remove_prefix(3);  // the byte order mark of UTF-8
  const std::size_t first = text.find_first_not_of(" \t\r\n");
  return first != std::string_view::npos && text[first] == '{';
}

JsonShape shapeOf(std::string_view json) {
  Shape shape;
  Json::sax_parse(json.begin(), json.end(), &shape);
  return shape.found;
}

InputError TomlOfJson::error(const std::string& name, const InputError& about) const {
  const auto line = static_cast<std::size_t>(about.line());
  const std::string path = line >= 1 && line <= paths.size() ? paths[line - 1] : std::string();
  return {name, path.empty() ? about.reason() : path + ": " + about.reason()};
}

TomlOfJson tomlOfJson(const std::string& text, const std::string& name) {
  const JsonShape shape = shapeOf(text);
  if (shape.depth > deepest + 4) throw InputError(name, "is nested too deeply");
  Json document;
  try {
    document = Json::parse(text);
  } catch (const Json::parse_error& error) {
    const std::size_t at = std::min(error.byte > 0 ? error.byte - 1 : 0, text.size());
    const auto before = text.begin() + static_cast<std::ptrdiff_t>(at);
    const auto line = static_cast<int>(std::count(text.begin(), before, '\n')) + 1;
    const std::size_t start = text.rfind('\n', at > 0 ? at - 1 : 0);
    throw InputError(name, line, static_cast<int>(start == std::string::npos || start >= at ? at + 1 : at - start),
                     "is no JSON from here on");
  } catch (const Json::out_of_range&) {
    throw InputError(name, "is no JSON that can be read: a number is too large");
  }
  if (!shape.keyTwice.empty()) throw InputError(name, fmt::format("\"{}\" stands twice in one object", shape.keyTwice));
  Writer writer(name);
  writer.document(document);
  return writer.take();
}

}  // namespace alpglow::io
