#include "alpglow/io/level_file.hpp"

#include "support/expect_error.hpp"
#include "support/temporary_file.hpp"

#include <fmt/format.h>
#include <gtest/gtest.h>
#include <Eigen/Geometry>

#include <cmath>
#include <cstring>
#include <fstream>

namespace alpglow::io {
namespace {

using Eigen::Vector3d;
using testing::temporaryFile;
using testing::temporaryPath;

/// Volume by the divergence theorem: positive when the outsides are counter-clockwise.
double volume(const Mesh& mesh) {
  double sum = 0;
  for (const auto& t : mesh.triangles) {
    const auto corner = [&](std::size_t k) { return mesh.vertices[static_cast<std::size_t>(t[k])]; };
    sum += corner(0).dot(corner(1).cross(corner(2))) / 6;
  }
  return sum;
}

TEST(BlockOut, SolidsHaveTheVolumeThatTheirNumbersSay) {
  EXPECT_NEAR(volume(boxMesh({3, 1, -2}, {2, 3, 4}, 0.7)), 24, 1e-9);
  EXPECT_NEAR(volume(rampMesh({1, 0, 1}, {5, 2, 4}, 2, 0.3)), 5 * 2 * 0.3, 1e-9);
  const double ring = 16 * 0.5 * std::sin(2 * pi / 16);
  EXPECT_NEAR(volume(cylinderMesh({1, 2, 3}, 3, 2, 2)), ring * 4 * 3, 1e-9);
  EXPECT_NEAR(volume(cylinderMesh({1, 2, 3}, 3, 2, 0)), ring * 4, 1e-9);
}

const char* const smallLevel = R"(
format = 1
[spawn]
feet_m = [1, 0, 2]
heading_deg = 90
[character]
height_m = 1.7
eye_height_m = 1.6
[[box]]
name = "floor"
group = "plank"
labels = ["see-through"]
base_m = [0, -1, 0]
size_m = [10, 1, 10]
[[cylinder]]
name = "pole"
base_m = [2, 0, 0]
height_m = 2
radius_m = 0.05
)";

TEST(BlockOut, ReadsObjectsSpawnAndCharacter) {
  const Level level = readLevel(temporaryFile("a.level.toml", smallLevel));
  ASSERT_EQ(level.objects.size(), 2u);
  EXPECT_EQ(level.objects[0].name, "floor");
  EXPECT_EQ(level.objects[0].group, "plank");
  EXPECT_TRUE(level.objects[0].labelled("see-through"));
  EXPECT_EQ(level.spawn.position, Vector3d(1, 0, 2));
  EXPECT_NEAR(level.spawn.heading, pi / 2, 1e-15);
  EXPECT_EQ(level.body.height, 1.7);
  EXPECT_EQ(level.body.walkSpeed, Body().walkSpeed);
}

TEST(BlockOut, ACylinderKeepsItsWidthAndAConeLosesIt) {
  const auto volumeOf = [](const std::string& keys) {
    const std::string text =
        "format = 1\n[[cylinder]]\nname = \"a\"\nbase_m = [0, 0, 0]\nheight_m = 3\nradius_m = 2\n" + keys;
    return volume(readLevel(temporaryFile("c.level.toml", text)).objects.at(0).mesh);
  };
  const double ring = 16 * 0.5 * std::sin(2 * pi / 16) * 4;
  EXPECT_NEAR(volumeOf(""), ring * 3, 1e-9);
  EXPECT_NEAR(volumeOf("top_radius_m = 0\n"), ring, 1e-9);
  EXPECT_NEAR(volumeOf("top_radius_m = 1\n"), ring * (1 + 0.5 + 0.25), 1e-9);
}

TEST(Mover, RidesThereAndBackAndItsVelocityIsTheDerivative) {
  Mover mover;
  mover.path = {{0, 0, 0}, {6, 0, 0}, {6, 0, -8}};
  mover.speed = 2;
  mover.pause = 1.5;
  mover.turn = degrees(90);
  const double half = 1.5 + 14 / 2.0;
  for (const double t : {0.0, 1.0, 2.5, 4.0, 6.0, 8.0}) {
    const ReferenceFrame there = mover.at(t, 1), back = mover.at(half + t, 1), again = mover.at(2 * half + t, 1);
    const double ridden = std::max(t - 1.5, 0.0);
    const ReferenceFrame mirrored = mover.at(half - ridden, 1);
    EXPECT_LT((back.origin - mirrored.origin).norm(), 1e-12) << t << ": back as it came";
    EXPECT_LT((back.velocity + mirrored.velocity).norm(), 1e-12) << t;
    EXPECT_LT(back.rotation.angularDistance(mirrored.rotation), 1e-7) << t;
    EXPECT_LT((again.origin - there.origin).norm(), 1e-12) << t << ": and anew";
  }
  EXPECT_EQ(mover.at(half, 1).origin, Vector3d(6, 0, -8));
  EXPECT_NEAR(turnAbout(Vector3d::UnitY(), mover.at(half + 1, 1).rotation), degrees(90), 1e-12);
  for (double t = 0.05; t < 2 * half; t += 0.17) {
    const double step = 1e-5;
    if ((mover.at(t - step, 1).velocity.normalized() - mover.at(t + step, 1).velocity.normalized()).norm() > 0.5)
      continue;
    const Vector3d moved = mover.at(t + step, 1).origin - mover.at(t - step, 1).origin;
    EXPECT_LT((moved / (2 * step) - mover.at(t, 1).velocity).norm(), 1e-4) << t;
  }
}

TEST(BlockOut, RefusesWhatIsBroken) {
  const auto refused = [](const std::string& content, std::initializer_list<const char*> words) {
    testing::expectError([&] { readLevel(temporaryFile("b.level.toml", content)); }, words);
  };
  refused("format = 1\n", {"holds no box, ramp or cylinder"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0, 0]\n", {":2:", "size_m is missing in [[box]]"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0]\nsize_m = [1, 1, 1]\n",
          {":4:10", "base_m", "three numbers"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0, inf]\nsize_m = [1, 1, 1]\n", {"base_m is inf"});
  refused("format = 1\n[[box]]\nname = \"a\"\nbase_m = [0, 0, 0]\nsize_m = [1, -1, 1]\n",
          {":5:", "size_m is -1", "[0.001"});
  refused("format = 1\n[[ramp]]\nname = \"a\"\nfrom_m = [0, 0, 0]\nto_m = [0, 3, 0]\nwidth_m = 1\n",
          {":5:", "to_m stands over from_m"});
  refused("format = 1\n[[box]]\nnmae = \"a\"\nbase_m = [0, 0, 0]\nsize_m = [1, 1, 1]\n", {"name is missing"});
  refused(
      "format = 1\n[character]\nheight_m = 1.2\neye_height_m = "
      "1.5\n[[box]]\nname=\"a\"\nbase_m=[0,0,0]\nsize_m=[1,1,1]\n",
      {":4:", "eye_height_m"});
}

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

TEST(BlockOut, ReadsRegions) {
  const std::string box = "[[region]]\nflag = \"indoors\"\nbase_m = [1, 0, 2]\nsize_m = [4, 3, 5]\nyaw_deg = 30\n";
  const std::string round =
      "[[region]]\nflag = \"cliff\"\nbase_m = [9, 0, 2]\nradius_m = 2\nheight_m = 8\nleave_m = 1\n";
  const Level level = readLevel(temporaryFile("r.level.toml", smallLevel + box + round));
  ASSERT_EQ(level.regions.size(), 2u);
  EXPECT_EQ(level.regions[0].flag, "indoors");
  EXPECT_NEAR(level.regions[0].region.yaw, degrees(30), 1e-12);
  EXPECT_EQ(level.regions[0].region.size, Vector3d(4, 3, 5));
  EXPECT_TRUE(level.regions[1].region.round);
  EXPECT_EQ(level.regions[1].region.size, Vector3d(4, 8, 4));
  EXPECT_EQ(level.regions[1].region.leave, 1);
  std::string many = smallLevel;
  for (int i = 0; i < 65; ++i) many += box;
  testing::expectError([&] { readLevel(temporaryFile("m.level.toml", many)); }, {"more than 64 regions"});
}

TEST(BlockOut, ReadsGroups) {
  const std::string target = "[[target]]\nname = \"chamois\"\nat_m = [1, 2, 3]\n";
  const auto with = [&](const std::string& group) {
    return temporaryFile("g.level.toml", smallLevel + target + "[[group]]\nname = \"company\"\n" + group);
  };
  const Level level = readLevel(with("members = [\"chamois\", \"character\"]\nfarthest_m = 20\npitch_deg = -30\n"));
  ASSERT_EQ(level.groups.size(), 1u);
  EXPECT_EQ(level.groups[0].members, (std::vector<int>{0, -1}));
  EXPECT_EQ(level.groups[0].settings.farthest, 20);
  EXPECT_NEAR(level.groups[0].look.pitch, degrees(-30), 1e-12);
  testing::expectError([&] { readLevel(with("members = [\"chamoix\"]\n")); }, {"members", "chamoix", "\"chamois\""});
  testing::expectError([&] { readLevel(with("")); }, {"members must name 1 to 16"});
  testing::expectError([&] { readLevel(with("members = [\"character\"]\nnearest_m = 30\n")); }, {"farthest_m"});
}

}  // namespace
}  // namespace alpglow::io
