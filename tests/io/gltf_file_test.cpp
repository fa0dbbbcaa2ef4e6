#include "alpglow/io/level_file.hpp"

#include "alpglow/base/angles.hpp"
#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <fmt/format.h>
#include <gtest/gtest.h>
#include <Eigen/Geometry>

#include <cstring>
#include <fstream>

namespace alpglow::io {
namespace {

using Eigen::Vector3d;
using testing::temporaryFile;
using testing::temporaryPath;

std::string base64(const std::string& bytes) {
  const char* const digits = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  std::string text;
  for (std::size_t i = 0; i < bytes.size(); i += 3) {
    unsigned value = 0;
    for (std::size_t k = 0; k < 3; ++k)
      value = value << 8 | (i + k < bytes.size() ? static_cast<unsigned char>(bytes[i + k]) : 0u);
    for (std::size_t k = 0; k < 4; ++k) text += i + k > bytes.size() ? '=' : digits[value >> (18 - 6 * k) & 63];
  }
  return text;
}

std::string unbase64(const std::string& text) {
  const std::string digits = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  std::string bytes;
  unsigned value = 0, bits = 0;
  for (const char c : text) {
    if (c == '=') break;
    value = value << 6 | static_cast<unsigned>(digits.find(c));
    bits += 6;
    if (bits >= 8) bytes += static_cast<char>(value >> (bits -= 8) & 255);
  }
  return bytes;
}

/// A square floor of 8 m under a node that lifts it to y = 1, and other nodes and scenes if wanted.
std::string squareGltf(const std::string& extraNode, const std::string& sceneNodes, int lastIndex = 3,
                       const std::string& place = R"("translation": [0, 1, 0])", int indexCount = 6,
                       const std::string& defaultScene = "0", const std::string& firstScenes = "") {
  const float corners[] = {-4, 0, -4, 4, 0, -4, 4, 0, 4, -4, 0, 4};
  const std::uint16_t indices[] = {0, 2, 1, 0, static_cast<std::uint16_t>(lastIndex), 2};
  std::string bytes(sizeof corners + sizeof indices, '\0');
  std::memcpy(bytes.data(), corners, sizeof corners);
  std::memcpy(bytes.data() + sizeof corners, indices, sizeof indices);
  return R"({"asset": {"version": "2.0"}, "scene": )" + defaultScene + R"(, "scenes": [)" + firstScenes +
         R"({"nodes": )" + sceneNodes + R"(}], "nodes": [{"name": "terrace", "mesh": 0, )" + place + "}" + extraNode +
         R"(], "meshes": [{"primitives": [{"attributes": {"POSITION": 0}, "indices": 1}]}],
      "accessors": [{"bufferView": 0, "componentType": 5126, "count": 4, "type": "VEC3", "min": [-4,0,-4], "max": [4,0,4]},
                    {"bufferView": 1, "componentType": 5123, "count": )" +
         std::to_string(indexCount) + R"(, "type": "SCALAR"}],
      "bufferViews": [{"buffer": 0, "byteOffset": 0, "byteLength": 48}, {"buffer": 0, "byteOffset": 48, "byteLength": 12}],
      "buffers": [{"byteLength": 60, "uri": "data:application/octet-stream;base64,)" +
         base64(bytes) + R"("}]})";
}

TEST(Gltf, ReadsTrianglesUnderTheirNodesTransforms) {
  const Level level = readLevel(temporaryFile("a.gltf", squareGltf("", "[0]")));
  ASSERT_EQ(level.objects.size(), 1u);
  EXPECT_EQ(level.objects[0].name, "terrace");
  EXPECT_EQ(level.objects[0].mesh.triangles.size(), 2u);
  for (const Vector3d& vertex : level.objects[0].mesh.vertices) EXPECT_EQ(vertex.y(), 1);
  EXPECT_NEAR((level.spawn.position - Vector3d(0, 1, 0)).norm(), 0, 1e-9) << "the ground under the origin";
}

/// Corner 1 of the square, (4, 0, -4) in its node, and the way that its first face looks.
struct Placed {
  Vector3d corner, outward;
};

Placed placed(const std::string& place, const std::string& extraNode = "", const std::string& sceneNodes = "[0]") {
  const Level level = readLevel(temporaryFile("p.gltf", squareGltf(extraNode, sceneNodes, 3, place)));
  const Mesh& mesh = level.objects.at(0).mesh;
  const auto corner = [&mesh](std::size_t k) { return mesh.vertices[static_cast<std::size_t>(mesh.triangles[0][k])]; };
  return {mesh.vertices[1], (corner(1) - corner(0)).cross(corner(2) - corner(0)).normalized()};
}

TEST(Gltf, NodesTurnScaleMirrorAndNest) {
  const auto near = [](const Vector3d& a, const Vector3d& b) { return (a - b).norm() < 1e-6; };
  const std::string turned = R"("rotation": [0, 0.70710678, 0, 0.70710678])";  // a quarter turn to the left
  EXPECT_TRUE(near(placed(turned).corner, {-4, 0, -4}));
  EXPECT_TRUE(near(placed(R"("scale": [2, 3, 0.5])").corner, {8, 0, -2}));
  EXPECT_TRUE(near(placed(turned + R"(, "scale": [2, 3, 0.5], "translation": [1, 2, 3])").corner, {-2 + 1, 2, -8 + 3}))
      << "scaled, then turned, then moved";
  EXPECT_TRUE(near(placed(R"("matrix": [0, 0, -1, 0,  0, 1, 0, 0,  1, 0, 0, 0,  10, 20, 30, 1])").corner,
                   {-4 + 10, 20, -4 + 30}))
      << "columns one after another";
  const std::string parent =
      R"(, {"children": [0], "translation": [0, 0, 7], "rotation": [0, 0.70710678, 0, 0.70710678]})";
  EXPECT_TRUE(near(placed(R"("translation": [1, 0, 0])", parent, "[1]").corner, {-4, 0, -5 + 7})) << "the child first";
  EXPECT_TRUE(near(placed(R"("scale": [1, 1, 1])").outward, {0, 1, 0}));
  EXPECT_TRUE(near(placed(R"("scale": [-1, 1, 1])").outward, {0, 1, 0})) << "mirrored, outsides stay outside";
}

TEST(Gltf, TheDefaultSceneIsRead) {
  const std::string lower = R"(, {"name": "cellar", "mesh": 0, "translation": [0, -3, 0]})";
  const auto nameIn = [&lower](const char* scene) {
    const std::string two = squareGltf(lower, "[1]", 3, R"("translation": [0, 1, 0])", 6, scene, R"({"nodes": [0]}, )");
    return readLevel(temporaryFile("s.gltf", two)).objects.at(0).name;
  };
  EXPECT_EQ(nameIn("0"), "terrace");
  EXPECT_EQ(nameIn("1"), "cellar");
}

TEST(Gltf, SpawnsAtTheNodeOfThatName) {
  // A quarter turn to the left about y: quaternion (0, sin 45°, 0, cos 45°).
  const std::string spawn =
      R"(, {"name": "spawn", "translation": [2, 1, 3], "rotation": [0, 0.70710678, 0, 0.70710678]})";
  const Level level = readLevel(temporaryFile("a.gltf", squareGltf(spawn, "[0, 1]")));
  EXPECT_EQ(level.spawn.position, Vector3d(2, 1, 3));
  EXPECT_NEAR(toDegrees(level.spawn.heading), 90, 1e-4);
}

TEST(Gltf, RefusesWhatIsBroken) {
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words) {
    testing::expectError([&] { readLevel(temporaryFile("b.gltf", content)); }, words);
  };
  refused("not a glTF", {"is not a glTF 2.0 file"});
  refused("glTF nonsense", {"is not a glTF 2.0 file"});
  refused("", {"is empty"});
  refused(squareGltf("", "[7]"), {"node 7"});
  refused(squareGltf("", "[0]", 9), {"an index is 9", "4 positions"});
  refused(squareGltf("", "[0]", 4), {"an index is 4", "4 positions"});
  refused(squareGltf("", "[0]", 3, R"("translation": [0, 1, 0])", 9), {"beyond its buffer"});
  refused(R"({"asset": {"version": "2.0"}, "scenes": [{"nodes": []}]})", {"holds no triangle mesh"});
}

/// The square's text with one part of it replaced.
std::string squareWith(const std::string& what, const std::string& by) {
  std::string text = squareGltf("", "[0]");
  const std::size_t at = text.find(what);
  EXPECT_NE(at, std::string::npos) << what;
  return text.replace(at, what.size(), by);
}

TEST(Gltf, OffsetsThatWrapAroundAreRefused) {
  const auto refused = [](const std::string& content) {
    testing::expectError([&] { readLevel(temporaryFile("o.gltf", content)); }, {"accessor", "beyond its buffer"});
  };
  refused(squareWith(R"("byteOffset": 0, )", R"("byteOffset": 18446744073709551000, )"));
  refused(squareWith(R"({"bufferView": 0, "componentType")",
                     R"({"bufferView": 0, "byteOffset": 18446744073709551592, "componentType")"));
  refused(squareWith(R"("byteLength": 48)", R"("byteStride": 252, "byteLength": 48)"));
  refused(squareWith(R"("count": 4, )", R"("count": 18446744073709551615, )"));
  refused(squareWith(R"("byteLength": 48)", R"("byteLength": 18446744073709551615)"));
}

TEST(Gltf, WhatASmallFileStandsForIsBounded) {
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words,
                          const GltfLimits& limits = {}) {
    testing::expectError([&] { readLevel(temporaryFile("l.gltf", content), limits); }, words);
  };
  // Each node twice below the one above: sixty levels would be a million million million visits.
  std::string doubled;
  for (int i = 1; i < 60; ++i) doubled += fmt::format(R"(, {{"children": [{0}, {0}]}})", i - 1);
  refused(squareGltf(doubled, "[59]"), {"hangs below more than one"});
  refused(squareGltf(R"(, {"children": [1]})", "[1]"), {"node 1 hangs below", "itself"});
  std::string chain;
  for (int i = 1; i < 102; ++i) chain += fmt::format(R"(, {{"children": [{}]}})", i - 1);
  refused(squareGltf(chain, "[101]"), {"more than 100 deep"});
  GltfLimits deeper;
  deeper.depth = 200;
  EXPECT_EQ(readLevel(temporaryFile("d.gltf", squareGltf(chain, "[101]")), deeper).objects.size(), 1u);
  // Many nodes that share one mesh.
  std::string many, all = "[0";
  for (int i = 1; i < 30; ++i) {
    many += R"(, {"mesh": 0})";
    all += fmt::format(", {}", i);
  }
  GltfLimits few;
  few.vertices = 100;
  refused(squareGltf(many, all + "]"), {"more than 100 vertices"}, few);
  few = {};
  few.triangles = 50;
  refused(squareGltf(many, all + "]"), {"more than 50 triangles"}, few);
  few = {};
  few.parts = 20;
  refused(squareGltf(many, all + "]"), {"30 nodes", "at most 20"}, few);
  few = {};
  few.bytes = 32;
  refused(squareGltf("", "[0]"), {"buffer 0", "longer than"}, few);
  refused(squareWith(R"("meshes")", "\"extras\": " + std::string(1000, '[') + std::string(1000, ']') + R"(, "meshes")"),
          {"nested more than 64 deep"});
}

TEST(Gltf, WhatWouldLieSomewhereElseIsRefusedByName) {
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words) {
    testing::expectError([&] { readLevel(temporaryFile("n.gltf", content)); }, words);
  };
  refused(squareWith(R"("scene": 0)", R"("extensionsRequired": ["KHR_mesh_quantization"], "scene": 0)"),
          {"KHR_mesh_quantization", "not read"});
  EXPECT_EQ(
      readLevel(temporaryFile("m.gltf", squareWith(R"("scene": 0)",
                                                   R"("extensionsRequired": ["KHR_materials_unlit"], "scene": 0)")))
          .objects.size(),
      1u);
  refused(squareWith(R"("count": 4, )",
                     R"("count": 4, "sparse": {"count": 1, "indices": {"bufferView": 1, "componentType": 5123},
                        "values": {"bufferView": 0}}, )"),
          {"accessor 0 is sparse"});
  refused(squareWith(R"("indices": 1})", R"("indices": 1, "targets": [{"POSITION": 0}]}], "weights": [0.5)"),
          {"morph targets"});
  refused(squareWith(R"("mesh": 0, )", R"("mesh": 0, "skin": 0, )"), {"node 0 has a skin"});
  refused(squareWith(R"("indices": 1})", R"("indices": 1, "mode": 9})"), {"mode 9"});
  refused(squareWith(R"("mesh": 0, )", R"("mesh": 0, "extensions": {"EXT_mesh_gpu_instancing": {}}, )"),
          {"EXT_mesh_gpu_instancing"});
  for (const char* elsewhere : {"/etc/hostname", "../hidden.bin", "a/../../b.bin", "file:///etc/hostname",
                                "http://refuge.example/a.bin", "%2e%2e/hidden.bin", "%2E%2E%2Fhidden.bin",
                                "%2fetc/hostname", "a/%2e./../b.bin", "C:\\\\a.bin", "..\\\\a.bin"}) {
    const std::string text = squareGltf("", "[0]");
    const std::size_t from = text.find("data:"), to = text.find('"', from);
    refused(text.substr(0, from) + elsewhere + text.substr(to), {"buffer 0", "beside the file"});
  }
}

/// Whatever a file holds beside geometry is not even looked at.
TEST(Gltf, MaterialsPicturesAndAnimationsCostNothing) {
  std::string beside;
  for (const char* key : {"materials", "images", "animations", "textures", "samplers", "cameras", "lights"}) {
    beside += fmt::format("\"{}\": [", key);
    for (int i = 0; i < 50000; ++i) beside += i == 0 ? R"({"uri": "../x.png"})" : ",{}";
    beside += "], ";
  }
  const Level level = readLevel(temporaryFile("rich.gltf", squareWith(R"("scene": 0)", beside + R"("scene": 0)")));
  EXPECT_EQ(level.objects.at(0).mesh.triangles.size(), 2u);
}

/// The same in the other wrapping.
TEST(Gltf, BinaryFilesAreRead) {
  const std::string text = squareGltf("", "[0]");
  const std::size_t from = text.find(R"(, "uri": "data:)"), comma = text.find(',', from + 3) + 1,
                    to = text.find('"', comma);
  std::string json = text.substr(0, from) + text.substr(to + 1), bytes = unbase64(text.substr(comma, to - comma));
  json.insert(1, R"("materials": [{}], )");
  json.resize((json.size() + 3) / 4 * 4, ' ');
  const auto number = [](std::size_t value) {
    const auto low = static_cast<std::uint32_t>(value);
    return std::string(reinterpret_cast<const char*>(&low), 4);
  };
  const std::string whole = "glTF" + number(2) + number(12 + 8 + json.size() + 8 + bytes.size()) + number(json.size()) +
                            "JSON" + json + number(bytes.size()) + std::string("BIN\0", 4) + bytes;
  EXPECT_EQ(readLevel(temporaryFile("square.glb", whole)).objects.at(0).mesh.triangles.size(), 2u);
  for (const std::size_t length :
       {std::size_t{4}, std::size_t{19}, std::size_t{40}, whole.size() - 70, whole.size() - 1})
    testing::expectError([&] { readLevel(temporaryFile("cut.glb", whole.substr(0, length))); }, {"is not a glTF 2.0"});
}

TEST(Gltf, ABufferOfItsOwnLiesBesideTheFile) {
  const std::string text = squareGltf("", "[0]");
  const std::size_t from = text.find("data:"), to = text.find('"', from), comma = text.find(',', from) + 1;
  const std::string path = temporaryFile("beside.gltf", text.substr(0, from) + "beside.bin" + text.substr(to));
  std::filesystem::remove(path.substr(0, path.size() - 4) + "bin");
  testing::expectError([&] { readLevel(path); }, {"beside.bin"});
  std::ofstream(path.substr(0, path.size() - 4) + "bin", std::ios::binary) << unbase64(text.substr(comma, to - comma));
  EXPECT_EQ(readLevel(path).objects.at(0).mesh.triangles.size(), 2u);
  // Not one of the folder that the program happens to run in.
  const std::filesystem::path here = std::filesystem::current_path(), elsewhere = temporaryPath("elsewhere");
  std::filesystem::create_directories(elsewhere);
  std::filesystem::rename(path.substr(0, path.size() - 4) + "bin", elsewhere / "beside.bin");
  std::filesystem::current_path(elsewhere);
  testing::expectError([&] { readLevel(path); }, {"beside.bin"});
  std::filesystem::current_path(here);
}

TEST(Gltf, StripsAndFansAreTriangles) {
  const auto meshOf = [](const char* mode, std::vector<std::uint16_t> order) {
    std::string bytes(order.size() * 2, '\0');
    std::memcpy(bytes.data(), order.data(), bytes.size());
    std::string text = squareWith(R"("indices": 1})", fmt::format(R"("indices": 1, "mode": {}}})", mode));
    const std::string replacement =
        fmt::format(R"("buffers": [{{"byteLength": {}, "uri": "data:application/octet-stream;base64,{}"}}, )",
                    bytes.size(), base64(bytes));
    const std::size_t buffers = text.find(R"("buffers": [)");
    const std::string first = text.substr(buffers + 12, text.rfind("]}") - buffers - 12);
    text = text.substr(0, buffers) + replacement + first + "]}";
    const auto swap = [&text](const std::string& what, const std::string& by) {
      text.replace(text.find(what), what.size(), by);
    };
    swap(R"({"buffer": 0, "byteOffset": 48, "byteLength": 12})",
         fmt::format(R"({{"buffer": 0, "byteLength": {}}})", bytes.size()));
    swap(R"({"buffer": 0, "byteOffset": 0, "byteLength": 48})", R"({"buffer": 1, "byteOffset": 0, "byteLength": 48})");
    swap(R"("count": 6)", fmt::format(R"("count": {})", order.size()));
    return readLevel(temporaryFile("t.gltf", text)).objects.at(0).mesh;
  };
  for (const Mesh& mesh : {meshOf("5", {0, 3, 1, 2}), meshOf("6", {0, 3, 2, 1})}) {
    ASSERT_EQ(mesh.triangles.size(), 2u);
    double area = 0;
    for (const auto& t : mesh.triangles) {
      const auto corner = [&](std::size_t k) { return mesh.vertices[static_cast<std::size_t>(t[k])]; };
      const Vector3d out = (corner(1) - corner(0)).cross(corner(2) - corner(0)) / 2;
      EXPECT_GT(out.y(), 0) << "both look up";
      area += out.y();
    }
    EXPECT_NEAR(area, 64, 1e-6);
  }
}

}  // namespace
}  // namespace alpglow::io
