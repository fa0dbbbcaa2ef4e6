#include "alpglow/io/level_file.hpp"

#include "alpglow/io/input_error.hpp"
#include "alpglow/space/sphere_triangle.hpp"
#include "gltf_checks.hpp"

#include <fmt/format.h>
#include <tiny_gltf.h>
#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <exception>
#include <filesystem>
#include <fstream>
#include <limits>
#include <optional>

namespace alpglow::io {

using Eigen::Affine3d;
using Eigen::Vector3d;

namespace {

bool ignoreImage(tinygltf::Image*, int, std::string*, std::string*, int, int, const unsigned char*, int, void*) {
  return true;
}

/// Which files a glTF opens, whatever it calls them: those in its folder and below it.
struct OpenedBeside {
  std::filesystem::path folder;
  std::size_t room;  // bytes

  bool mayOpen(const std::string& file) const {
    const std::string from = folder.string();
    const bool below = file.size() > from.size() && file.compare(0, from.size(), from) == 0 &&
                       (file[from.size()] == '/' || from.back() == '/');
    const std::size_t name = below ? file.find_first_not_of('/', from.size()) : std::string::npos;
    return name != std::string::npos && staysBeside(file.substr(name)) && std::filesystem::is_regular_file(file);
  }
};

tinygltf::Model load(const std::string& path, const GltfLimits& limits) {
  // Numbers as text are longer.
  const std::string content = checkedGltf(path, readWhole(path, 2 * limits.bytes + (64u << 20)), limits);
  tinygltf::TinyGLTF loader;
  loader.SetImageLoader(ignoreImage, nullptr);
  const std::filesystem::path folder = std::filesystem::path(path).parent_path();
  OpenedBeside opened{folder.empty() ? "." : folder, limits.bytes};
  tinygltf::FsCallbacks files;
  files.FileExists = [](const std::string& file, void* of) { return static_cast<OpenedBeside*>(of)->mayOpen(file); };
  files.ExpandFilePath = [](const std::string& file, void*) { return file; };
  files.ReadWholeFile = [](std::vector<unsigned char>* bytes, std::string* why, const std::string& file, void* of) {
    std::error_code failed;
    const auto size = std::filesystem::file_size(file, failed);
    std::size_t& room = static_cast<OpenedBeside*>(of)->room;
    if (failed || size > room) return *why += failed ? failed.message() : "too long", false;
    room -= size;
    bytes->resize(size);
    std::ifstream stream(file, std::ios::binary);
    return !!stream.read(reinterpret_cast<char*>(bytes->data()), static_cast<std::streamsize>(size));
  };
  files.WriteWholeFile = nullptr;
  files.user_data = &opened;
  loader.SetFsCallbacks(files);
  tinygltf::Model model;
  std::string error, warning;
  const auto length = static_cast<unsigned>(content.size());
  bool loaded = false;
  try {
    loaded = content.compare(0, 4, "glTF") == 0
                 ? loader.LoadBinaryFromMemory(&model, &error, &warning,
                                               reinterpret_cast<const unsigned char*>(content.data()), length,
                                               opened.folder.string())
                 : loader.LoadASCIIFromString(&model, &error, &warning, content.data(), length, opened.folder.string());
  } catch (const std::exception& thrown) {
    error = thrown.what();
  }
  if (!loaded) {
    std::replace(error.begin(), error.end(), '\n', ' ');
    throw InputError(path, "is not a glTF 2.0 file: " + error);
  }
  if (model.asset.version != "2.0") {
    throw InputError(path, fmt::format("asset version is \"{}\", but must be \"2.0\"", model.asset.version));
  }
  return model;
}

Affine3d localTransform(const tinygltf::Node& node) {
  Affine3d transform = Affine3d::Identity();
  if (node.matrix.size() == 16) {
    transform.matrix() = Eigen::Map<const Eigen::Matrix4d>(node.matrix.data());
    return transform;
  }
  if (node.translation.size() == 3) transform.translate(Eigen::Map<const Vector3d>(node.translation.data()));
  if (node.rotation.size() == 4) {
    const auto& q = node.rotation;
    transform.rotate(Eigen::Quaterniond(q[3], q[0], q[1], q[2]).normalized());
  }
  if (node.scale.size() == 3) transform.scale(Vector3d(node.scale[0], node.scale[1], node.scale[2]));
  return transform;
}

class GltfReader {
 public:
  GltfReader(const std::string& path, const GltfLimits& limits)
      : path_(path), limits_(limits), model_(load(path, limits)), visited_(model_.nodes.size()) {}

  Level level() {
    level_.name = path_;
    if (model_.scenes.empty()) fail("holds no scene");
    const std::size_t scene = model_.defaultScene >= 0 ? static_cast<std::size_t>(model_.defaultScene) : 0;
    if (scene >= model_.scenes.size()) fail("names a scene that does not exist");
    for (const int node : model_.scenes[scene].nodes) visit(node, Affine3d::Identity(), 0);
    if (level_.objects.empty()) fail("holds no triangle mesh");
    if (!spawned_) level_.spawn.position = groundUnderOrigin();
    return level_;
  }

 private:
  [[noreturn]] void fail(const std::string& what) const { throw InputError(path_, what); }

  template <class T>
  const T& at(const std::vector<T>& values, int index, const char* kind) const {
    if (index < 0 || static_cast<std::size_t>(index) >= values.size()) {
      fail(fmt::format("refers to {} {}, but there are {}", kind, index, values.size()));
    }
    return values[static_cast<std::size_t>(index)];
  }

  void visit(int index, const Affine3d& parent, int depth) {
    if (depth > limits_.depth) fail(fmt::format("its nodes hang more than {} deep", limits_.depth));
    const tinygltf::Node& node = at(model_.nodes, index, "node");
    if (visited_[static_cast<std::size_t>(index)])
      fail(fmt::format("node {} hangs below more than one, or below itself", index));
    visited_[static_cast<std::size_t>(index)] = true;
    const Affine3d transform = parent * localTransform(node);
    if (!transform.matrix().allFinite()) fail(fmt::format("the transform of node {} is not finite", index));
    if (node.name == "spawn") {
      spawned_ = true;
      level_.spawn.position = transform.translation();
      const Vector3d ahead = transform.linear() * -Vector3d::UnitZ();
      level_.spawn.heading = std::atan2(-ahead.x(), -ahead.z());
    }
    if (node.mesh >= 0 && node.skin >= 0) fail(fmt::format("node {} has a skin, which is not read", index));
    if (node.mesh >= 0) addMesh(at(model_.meshes, node.mesh, "mesh"), node, transform);
    for (const int child : node.children) visit(child, transform, depth + 1);
  }

  void addMesh(const tinygltf::Mesh& source, const tinygltf::Node& node, const Affine3d& transform) {
    LevelObject object;
    object.name = !node.name.empty()     ? plainText(node.name)
                  : !source.name.empty() ? plainText(source.name)
                                         : fmt::format("mesh{}", level_.objects.size());
    object.group = "stone";
    const std::vector<double>& weights = node.weights.empty() ? source.weights : node.weights;
    if (std::any_of(weights.begin(), weights.end(), [](double weight) { return weight != 0; }))
      fail(fmt::format("{} has morph targets with weights, which are not read", object.name));
    for (const tinygltf::Primitive& primitive : source.primitives) {
      const auto position = primitive.attributes.find("POSITION");
      if (!hasSurface(primitive) || position == primitive.attributes.end()) continue;
      for (const auto& extension : primitive.extensions) {
        if (extension.first == "KHR_draco_mesh_compression")
          fail(fmt::format("{} is compressed by KHR_draco_mesh_compression, which is not read", object.name));
      }
      addPrimitive(object.mesh, primitive, position->second, transform);
    }
    if (!object.mesh.triangles.empty()) level_.objects.push_back(std::move(object));
  }

  void addPrimitive(Mesh& mesh, const tinygltf::Primitive& primitive, int positionAccessor, const Affine3d& transform) {
    const int first = static_cast<int>(mesh.vertices.size());
    const tinygltf::Accessor& positions = at(model_.accessors, positionAccessor, "accessor");
    const Elements places = elementsOf(positionAccessor);
    if (positions.componentType != TINYGLTF_COMPONENT_TYPE_FLOAT || positions.type != TINYGLTF_TYPE_VEC3) {
      fail("holds positions that are not three floats each");
    }
    spend(vertices_, positions.count, limits_.vertices, "vertices");
    for (std::size_t i = 0; i < positions.count; ++i) {
      float xyz[3];
      std::memcpy(xyz, places.at(i), sizeof xyz);
      const Vector3d vertex = transform * Vector3d(xyz[0], xyz[1], xyz[2]);
      if (!vertex.allFinite()) fail("holds a position that is not finite");
      mesh.vertices.push_back(vertex);
    }
    const bool indexed = primitive.indices >= 0;
    const std::size_t corners = indexed ? at(model_.accessors, primitive.indices, "accessor").count : positions.count;
    const Elements indices = indexed ? elementsOf(primitive.indices) : Elements();
    const auto corner = [&](std::size_t i) {
      const std::size_t which = indexed ? indexAt(primitive.indices, indices.at(i)) : i;
      if (which >= positions.count)
        fail(fmt::format("an index is {}, but there are {} positions", which, positions.count));
      return first + static_cast<int>(which);
    };
    const bool mirrored = transform.linear().determinant() < 0;
    const bool strip = primitive.mode == TINYGLTF_MODE_TRIANGLE_STRIP,
               fan = primitive.mode == TINYGLTF_MODE_TRIANGLE_FAN;
    const std::size_t step = strip || fan ? 1 : 3, count = corners < 3 ? 0 : (corners - 3) / step + 1;
    spend(triangles_, count, limits_.triangles, "triangles");
    for (std::size_t n = 0; n < count; ++n) {
      const std::size_t i = n * step;
      std::array<int, 3> triangle = {corner(fan ? 0 : i), corner(i + 1), corner(i + 2)};
      if (mirrored != (strip && n % 2 == 1)) std::swap(triangle[1], triangle[2]);  // each second one of a strip turns
      if (area(mesh, triangle) > 0) mesh.triangles.push_back(triangle);
    }
  }

  bool hasSurface(const tinygltf::Primitive& primitive) const {
    switch (primitive.mode) {
      case -1:
      case TINYGLTF_MODE_TRIANGLES:
      case TINYGLTF_MODE_TRIANGLE_STRIP:
      case TINYGLTF_MODE_TRIANGLE_FAN: return true;
      case TINYGLTF_MODE_POINTS:
      case TINYGLTF_MODE_LINE:
      case TINYGLTF_MODE_LINE_LOOP:
      case TINYGLTF_MODE_LINE_STRIP: return false;
      default: fail(fmt::format("a primitive has mode {}, which does not exist", primitive.mode));
    }
  }

  void spend(std::size_t& spent, std::size_t more, std::size_t most, const char* of) const {
    if (more > most - spent) fail(fmt::format("holds more than {} {}", most, of));
    spent += more;
  }

  static double area(const Mesh& mesh, const std::array<int, 3>& t) {
    const auto corner = [&mesh, &t](std::size_t k) { return mesh.vertices[static_cast<std::size_t>(t[k])]; };
    return (corner(1) - corner(0)).cross(corner(2) - corner(0)).norm() / 2;
  }

  std::size_t indexAt(int accessorIndex, const unsigned char* bytes) const {
    switch (model_.accessors[static_cast<std::size_t>(accessorIndex)].componentType) {
      case TINYGLTF_COMPONENT_TYPE_UNSIGNED_BYTE: return *bytes;
      case TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT: return read<std::uint16_t>(bytes);
      case TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT: return read<std::uint32_t>(bytes);
      default: fail("holds indices that are not unsigned integers");
    }
  }

  template <class T>
  static T read(const unsigned char* bytes) {
    T value;
    std::memcpy(&value, bytes, sizeof value);
    return value;
  }

  /// All of an accessor, which lie in their buffer.
  struct Elements {
    const unsigned char* first = nullptr;
    std::size_t stride = 0;
    const unsigned char* at(std::size_t i) const { return first + i * stride; }
  };

  Elements elementsOf(int index) const {
    const tinygltf::Accessor& accessor = at(model_.accessors, index, "accessor");
    if (accessor.sparse.isSparse) fail(fmt::format("accessor {} is sparse, which is not read", index));
    const tinygltf::BufferView& view = at(model_.bufferViews, accessor.bufferView, "buffer view");
    const tinygltf::Buffer& buffer = at(model_.buffers, view.buffer, "buffer");
    const int bytes = tinygltf::GetComponentSizeInBytes(static_cast<std::uint32_t>(accessor.componentType)),
              parts = tinygltf::GetNumComponentsInType(static_cast<std::uint32_t>(accessor.type));
    const std::size_t size = bytes > 0 && parts > 0 ? static_cast<std::size_t>(bytes * parts) : 0,
                      stride = view.byteStride != 0 ? view.byteStride : size, all = buffer.data.size();
    // Each difference is of something that is known to be no larger.
    const bool within =
        size > 0 && view.byteOffset <= all && view.byteLength <= all - view.byteOffset &&
        accessor.byteOffset <= view.byteLength &&
        (accessor.count == 0 || (size <= view.byteLength - accessor.byteOffset &&
                                 accessor.count - 1 <= (view.byteLength - accessor.byteOffset - size) / stride));
    if (!within) fail(fmt::format("accessor {} reaches beyond its buffer", index));
    return {buffer.data.data() + view.byteOffset + accessor.byteOffset, stride};
  }

  /// The highest surface on the vertical through the origin; the origin itself if there is none.
  Vector3d groundUnderOrigin() const {
    constexpr double high = 1e6;
    const Vector3d start(0, high, 0);
    double nearest = 2 * high;
    for (const LevelObject& object : level_.objects) {
      for (const auto& t : object.mesh.triangles) {
        const auto corner = [&](std::size_t k) {
          return Vector3d(object.mesh.vertices[static_cast<std::size_t>(t[k])] - start);
        };
        nearest =
            std::min(nearest, rayTriangleContact({corner(0), corner(1), corner(2)}, -Vector3d::UnitY(), 2 * high));
      }
    }
    return nearest < 2 * high ? Vector3d(0, high - nearest, 0) : Vector3d::Zero();
  }

  std::string path_;
  GltfLimits limits_;
  tinygltf::Model model_;
  std::vector<bool> visited_;
  Level level_;
  std::size_t vertices_ = 0, triangles_ = 0;  // so far
  bool spawned_ = false;
};

}  // namespace

Level readGltf(const std::string& path, const GltfLimits& limits) { return GltfReader(path, limits).level(); }

}  // namespace alpglow::io
