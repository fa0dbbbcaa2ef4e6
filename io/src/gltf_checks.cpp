#include "gltf_checks.hpp"

#include "alpglow/io/input_error.hpp"
#include "json_text.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <charconv>
#include <cstddef>
#include <cstdint>
#include <cstring>
#include <string_view>
#include <utility>

namespace alpglow::io {

namespace {

using Json = nlohmann::json;

/// The JSON of a `.glb`: its first chunk; of a `.gltf` all of it.
std::string_view jsonOf(const std::string& path, const std::string& content) {
  if (content.compare(0, 4, "glTF") != 0) return content;
  std::uint32_t head[5] = {};  // magic, version, length, length of the chunk, kind of the chunk
  if (content.size() < sizeof head) throw InputError(path, "is not a glTF 2.0 file: it ends in its head");
  std::memcpy(head, content.data(), sizeof head);
  constexpr std::uint32_t json = 0x4E4F534A;
  if (head[4] != json || head[2] > content.size() || head[3] > content.size() - sizeof head)
    throw InputError(path, "is not a glTF 2.0 file: its first chunk is no JSON, or is cut short");
  return std::string_view(content).substr(sizeof head, head[3]);
}

constexpr int deepest = 64;

/// Loaders call themselves for what is nested.
bool deeperThan(std::string_view json, int most) {
  int open = 0;
  bool quoted = false;
  for (std::size_t i = 0; i < json.size(); ++i) {
    const char c = json[i];
    if (quoted && c == '\\') {
      ++i;
    } else if (c == '"') {
      quoted = !quoted;
    } else if (!quoted && (c == '[' || c == '{')) {
      if (++open > most) return true;
    } else if (!quoted && (c == ']' || c == '}')) {
      --open;
    }
  }
  return false;
}

/// Of what matters to a camera the place stays the same with these, whatever they are.
bool leavesGeometryAlone(const std::string& extension) {
  static constexpr const char* beginnings[] = {"KHR_materials_", "KHR_texture_",   "KHR_lights_",   "EXT_texture_",
                                               "EXT_lights_",    "EXT_materials_", "MSFT_texture_", "KHR_xmp"};
  return std::any_of(std::begin(beginnings), std::end(beginnings),
                     [&](const char* each) { return extension.compare(0, std::strlen(each), each) == 0; });
}

const Json* find(const Json& object, const char* key) {
  if (!object.is_object()) return nullptr;
  const auto found = object.find(key);
  return found == object.end() ? nullptr : &*found;
}

/// Each object of an array of the file; nothing where there is none.
template <class Call>
void each(const Json& root, const char* key, Call&& call) {
  const Json* all = find(root, key);
  if (all == nullptr || !all->is_array()) return;
  for (std::size_t i = 0; i < all->size(); ++i) call((*all)[i], i);
}

Json geometryOf(const Json& root) {
  Json result = Json::object();
  for (const char* key :
       {"asset", "scene", "scenes", "nodes", "meshes", "accessors", "bufferViews", "buffers", "extensionsRequired"}) {
    if (const Json* part = find(root, key)) result[key] = *part;
  }
  return result;
}

/// The same file with another JSON.
std::string withJson(const std::string& content, std::string_view old, std::string json) {
  if (old.size() == content.size()) return json;
  constexpr std::size_t head = 12, chunk = 8;
  json.resize((json.size() + 3) / 4 * 4, ' ');
  std::string result = content.substr(0, head + chunk) + json + content.substr(head + chunk + old.size());
  const auto length = static_cast<std::uint32_t>(result.size()), chunkLength = static_cast<std::uint32_t>(json.size());
  std::memcpy(result.data() + 8, &length, sizeof length);
  std::memcpy(result.data() + head, &chunkLength, sizeof chunkLength);
  return result;
}

/// A URI writes any byte as %2e.
std::string unescaped(const std::string& uri) {
  std::string path;
  for (std::size_t i = 0; i < uri.size(); ++i) {
    unsigned byte = 0;
    const char* end = uri.data() + std::min(i + 3, uri.size());
    if (uri[i] == '%' && end - uri.data() == static_cast<std::ptrdiff_t>(i + 3) &&
        std::from_chars(uri.data() + i + 1, end, byte, 16).ptr == end) {
      path += static_cast<char>(byte);
      i += 2;
    } else {
      path += uri[i];
    }
  }
  return path;
}

}  // namespace

bool staysBeside(const std::string& path) {
  if (path.empty() || path[0] == '/' || path[0] == '\\' || path.find(':') != std::string::npos) return false;
  for (std::size_t start = 0; start <= path.size();) {
    const std::size_t end = std::min(path.find_first_of("/\\", start), path.size());
    if (path.compare(start, end - start, "..") == 0) return false;
    start = end + 1;
  }
  return true;
}

std::string checkedGltf(const std::string& path, const std::string& content, const GltfLimits& limits) {
  Json root;
  std::string_view text;
  try {
    text = jsonOf(path, content);
    if (deeperThan(text, deepest)) throw InputError(path, fmt::format("its JSON is nested more than {} deep", deepest));
    root = Json::parse(text.begin(), text.end());
  } catch (const Json::exception& error) {
    throw InputError(path, fmt::format("is not a glTF 2.0 file: {}", error.what()));
  }
  if (!root.is_object()) throw InputError(path, "is not a glTF 2.0 file: no object");
  if (const std::string twice = shapeOf(text).keyTwice; !twice.empty())
    throw InputError(path, fmt::format("\"{}\" stands twice in one object", twice));
  for (const auto& [key, value] : root.items()) {
    if (value.is_array() && value.size() > limits.parts)
      throw InputError(path, fmt::format("holds {} {}, but at most {} are read", value.size(), key, limits.parts));
  }
  each(root, "extensionsRequired", [&](const Json& name, std::size_t) {
    if (!name.is_string() || !leavesGeometryAlone(name.get<std::string>()))
      throw InputError(path, fmt::format("requires the extension {}, which is not read", name.dump()));
  });
  // Without being required these would be left out, and what is drawn would be somewhere else.
  each(root, "nodes", [&](const Json& node, std::size_t i) {
    const Json* extensions = find(node, "extensions");
    if (extensions != nullptr && find(*extensions, "EXT_mesh_gpu_instancing") != nullptr)
      throw InputError(path, fmt::format("node {} uses EXT_mesh_gpu_instancing, which is not read", i));
    for (const auto& [key, count] :
         {std::pair("matrix", 16), std::pair("translation", 3), std::pair("rotation", 4), std::pair("scale", 3)}) {
      const Json* all = find(node, key);
      const bool numbers =
          all == nullptr || (all->is_array() && all->size() == static_cast<std::size_t>(count) &&
                             std::all_of(all->begin(), all->end(), [](const Json& one) { return one.is_number(); }));
      if (!numbers) throw InputError(path, fmt::format("the {} of node {} is no list of {} numbers", key, i, count));
    }
  });
  std::uint64_t bytes = 0;
  each(root, "buffers", [&](const Json& buffer, std::size_t i) {
    const Json* length = find(buffer, "byteLength");
    if (length == nullptr || !length->is_number_unsigned() || length->get<std::uint64_t>() > limits.bytes - bytes)
      throw InputError(path, fmt::format("buffer {} has no byteLength, or all together are longer than {} MB", i,
                                         limits.bytes >> 20));
    bytes += length->get<std::uint64_t>();
    const Json* uri = find(buffer, "uri");
    if (uri == nullptr) return;
    const std::string name = uri->is_string() ? uri->get<std::string>() : "";
    if (name.compare(0, 5, "data:") != 0 && !staysBeside(unescaped(name)))
      throw InputError(path,
                       fmt::format("buffer {} is read from \"{}\", but must lie beside the file or below it", i, name));
  });
  return withJson(content, text, geometryOf(root).dump(-1, ' ', false, Json::error_handler_t::replace));
}

}  // namespace alpglow::io
