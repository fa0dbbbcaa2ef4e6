#include "alpglow/io/level_file.hpp"

#include "toml_keys.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace alpglow::io {

using Eigen::Vector3d;

namespace {

constexpr Bounds place{-1e6, 1e6};
constexpr Bounds extent{1e-3, 1e6};
constexpr Bounds turn{-360, 360};

LevelObject readObject(TomlKeys& keys, Mesh mesh) {
  LevelObject object;
  object.name = keys.requiredText("name");
  object.group = keys.text("group").value_or("stone");
  object.labels = keys.texts("labels");
  object.mesh = std::move(mesh);
  object.convex = true;
  keys.finish();
  return object;
}

Mesh readBox(TomlKeys& keys) {
  const Vector3d base = keys.requiredPoint("base_m", place);
  const Vector3d size = keys.requiredPoint("size_m", extent);
  return boxMesh(base, size, degrees(keys.number("yaw_deg", turn, 0)));
}

Mesh readRamp(TomlKeys& keys) {
  const Vector3d from = keys.requiredPoint("from_m", place);
  const Vector3d to = keys.requiredPoint("to_m", place);
  if (Vector3d(to.x() - from.x(), 0, to.z() - from.z()).norm() < 1e-3) {
    keys.fail("to_m", "to_m stands over from_m, but a ramp needs a way along the ground");
  }
  const double width = keys.requiredNumber("width_m", extent);
  return rampMesh(from, to, width, keys.number("thickness_m", extent, 0.2));
}

Mesh readCylinder(TomlKeys& keys) {
  const Vector3d base = keys.requiredPoint("base_m", place);
  const double height = keys.requiredNumber("height_m", extent);
  const double radius = keys.requiredNumber("radius_m", extent);
  return cylinderMesh(base, height, radius, keys.number("top_radius_m", {0, 1e6}, radius));
}

}  // namespace

Level readBlockOut(const std::string& path) {
  const toml::table table = parseToml(path, levelFormat);
  TomlKeys keys(path, table, "");
  keys.number("format", {levelFormat, levelFormat});
  Level level;
  level.name = keys.text("name").value_or("level");
  if (auto spawn = keys.table("spawn")) {
    level.spawn.position = spawn->requiredPoint("feet_m", place);
    level.spawn.heading = degrees(spawn->number("heading_deg", turn, 0));
    spawn->finish();
  }
  if (auto body = keys.table("character")) {
    body->fill(level.body, settings<Body>());
    body->finish();
    if (level.body.eyeHeight > level.body.height) body->fail("eye_height_m", "eye_height_m must be at most height_m");
    if (2 * level.body.radius > level.body.height) body->fail("radius_m", "radius_m must be at most half of height_m");
    if (level.body.crouchHeight > level.body.height || 2 * level.body.radius > level.body.crouchHeight) {
      body->fail("crouch_height_m", "crouch_height_m must lie between twice radius_m and height_m");
    }
    if (level.body.crouchEyeHeight > level.body.crouchHeight) {
      body->fail("crouch_eye_height_m", "crouch_eye_height_m must be at most crouch_height_m");
    }
  }
  for (TomlKeys& box : keys.tables("box")) level.objects.push_back(readObject(box, readBox(box)));
  for (TomlKeys& ramp : keys.tables("ramp")) level.objects.push_back(readObject(ramp, readRamp(ramp)));
  for (TomlKeys& cylinder : keys.tables("cylinder"))
    level.objects.push_back(readObject(cylinder, readCylinder(cylinder)));
  keys.finish();
  if (level.objects.empty()) throw InputError(path, "holds no box, ramp or cylinder");
  return level;
}

Level readLevel(const std::string& path) {
  const auto endsWith = [&path](std::string_view ending) {
    return path.size() >= ending.size() && std::equal(ending.rbegin(), ending.rend(), path.rbegin());
  };
  return endsWith(".gltf") || endsWith(".glb") ? readGltf(path) : readBlockOut(path);
}

}  // namespace alpglow::io
