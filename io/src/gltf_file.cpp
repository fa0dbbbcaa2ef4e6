#include "alpglow/io/level_file.hpp"

#include "alpglow/io/input_error.hpp"
#include "alpglow/space/sphere_triangle.hpp"

#include <fmt/format.h>
#include <tiny_gltf.h>
#include <Eigen/Geometry>

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>

namespace alpglow::io {

using Eigen::Affine3d;
using Eigen::Vector3d;

namespace {

bool ignoreImage(tinygltf::Image*, int, std::string*, std::string*, int, int, const unsigned char*, int, void*) {
  return true;
}

tinygltf::Model load(const std::string& path) {
  const std::string content = readWhole(path);
  tinygltf::TinyGLTF loader;
  loader.SetImageLoader(ignoreImage, nullptr);
  tinygltf::Model model;
  std::string error, warning;
  const bool binary = content.compare(0, 4, "glTF") == 0;
  const bool loaded = binary ? loader.LoadBinaryFromFile(&model, &error, &warning, path)
                             : loader.LoadASCIIFromFile(&model, &error, &warning, path);
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
  explicit GltfReader(const std::string& path) : path_(path), model_(load(path)) {}

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
    if (depth > 100) fail("its nodes are nested more than 100 deep, or in a circle");
    const tinygltf::Node& node = at(model_.nodes, index, "node");
    const Affine3d transform = parent * localTransform(node);
    if (!transform.matrix().allFinite()) fail(fmt::format("the transform of node {} is not finite", index));
    if (node.name == "spawn") {
      spawned_ = true;
      level_.spawn.position = transform.translation();
      const Vector3d ahead = transform.linear() * -Vector3d::UnitZ();
      level_.spawn.heading = std::atan2(-ahead.x(), -ahead.z());
    }
    if (node.mesh >= 0) addMesh(at(model_.meshes, node.mesh, "mesh"), node.name, transform);
    for (const int child : node.children) visit(child, transform, depth + 1);
  }

  void addMesh(const tinygltf::Mesh& source, const std::string& nodeName, const Affine3d& transform) {
    LevelObject object;
    object.name = !nodeName.empty()      ? nodeName
                  : !source.name.empty() ? source.name
                                         : fmt::format("mesh{}", level_.objects.size());
    object.group = "stone";
    for (const tinygltf::Primitive& primitive : source.primitives) {
      const bool triangles = primitive.mode == TINYGLTF_MODE_TRIANGLES || primitive.mode == -1;
      const auto position = primitive.attributes.find("POSITION");
      if (triangles && position != primitive.attributes.end())
        addPrimitive(object.mesh, primitive, position->second, transform);
    }
    if (!object.mesh.triangles.empty()) level_.objects.push_back(std::move(object));
  }

  void addPrimitive(Mesh& mesh, const tinygltf::Primitive& primitive, int positionAccessor, const Affine3d& transform) {
    const int first = static_cast<int>(mesh.vertices.size());
    const tinygltf::Accessor& positions = at(model_.accessors, positionAccessor, "accessor");
    if (positions.componentType != TINYGLTF_COMPONENT_TYPE_FLOAT || positions.type != TINYGLTF_TYPE_VEC3) {
      fail("holds positions that are not three floats each");
    }
    for (std::size_t i = 0; i < positions.count; ++i) {
      float xyz[3];
      std::memcpy(xyz, element(positions, i), sizeof xyz);
      const Vector3d vertex = transform * Vector3d(xyz[0], xyz[1], xyz[2]);
      if (!vertex.allFinite()) fail("holds a position that is not finite");
      mesh.vertices.push_back(vertex);
    }
    const std::size_t corners =
        primitive.indices >= 0 ? at(model_.accessors, primitive.indices, "accessor").count : positions.count;
    const bool mirrored = transform.linear().determinant() < 0;
    for (std::size_t i = 0; i + 2 < corners; i += 3) {
      std::array<int, 3> triangle;
      for (std::size_t k = 0; k < 3; ++k) {
        const std::size_t corner = primitive.indices >= 0 ? indexAt(primitive.indices, i + k) : i + k;
        if (corner >= positions.count)
          fail(fmt::format("an index is {}, but there are {} positions", corner, positions.count));
        triangle[k] = first + static_cast<int>(corner);
      }
      if (mirrored) std::swap(triangle[1], triangle[2]);
      if (area(mesh, triangle) > 0) mesh.triangles.push_back(triangle);
    }
  }

  static double area(const Mesh& mesh, const std::array<int, 3>& t) {
    const auto corner = [&mesh, &t](std::size_t k) { return mesh.vertices[static_cast<std::size_t>(t[k])]; };
    return (corner(1) - corner(0)).cross(corner(2) - corner(0)).norm() / 2;
  }

  std::size_t indexAt(int accessorIndex, std::size_t i) const {
    const tinygltf::Accessor& accessor = at(model_.accessors, accessorIndex, "accessor");
    const unsigned char* bytes = element(accessor, i);
    switch (accessor.componentType) {
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

  const unsigned char* element(const tinygltf::Accessor& accessor, std::size_t i) const {
    const tinygltf::BufferView& view = at(model_.bufferViews, accessor.bufferView, "buffer view");
    const tinygltf::Buffer& buffer = at(model_.buffers, view.buffer, "buffer");
    const int stride = accessor.ByteStride(view);
    const int bytes = tinygltf::GetComponentSizeInBytes(static_cast<std::uint32_t>(accessor.componentType)),
              parts = tinygltf::GetNumComponentsInType(static_cast<std::uint32_t>(accessor.type));
    const std::size_t size = static_cast<std::size_t>(bytes) * static_cast<std::size_t>(parts);
    const std::size_t offset =
        view.byteOffset + accessor.byteOffset + i * static_cast<std::size_t>(std::max(stride, 0));
    if (stride <= 0 || bytes <= 0 || parts <= 0 || offset + size > buffer.data.size())
      fail("an accessor reaches beyond its buffer");
    return buffer.data.data() + offset;
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
  tinygltf::Model model_;
  Level level_;
  bool spawned_ = false;
};

}  // namespace

Level readGltf(const std::string& path) { return GltfReader(path).level(); }

}  // namespace alpglow::io
