#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"

#include "toml_keys.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace alpglow::io {

using Eigen::Vector3d;

namespace {

constexpr Bounds anywhere{-1e6, 1e6};
constexpr Bounds extent{1e-3, 1e6};
constexpr Bounds turn{-360, 360};

/// The place of a platform by its name.
int platformNamed(const Level& level, const TomlKeys& keys, const std::string& key, const std::string& name) {
  std::vector<std::string> names;
  for (const MovingPlatform& platform : level.platforms) names.push_back(platform.name);
  const auto found = std::find(names.begin(), names.end(), name);
  if (found == names.end()) {
    keys.fail(key, names.empty() ? fmt::format("{} is \"{}\", but the level has no platform", key, name)
                                 : fmt::format("{} is \"{}\", but must be a platform; the nearest known one is \"{}\"",
                                               key, name, nearestName(name, names)));
  }
  return static_cast<int>(found - names.begin());
}

int readPlatform(const Level& level, TomlKeys& keys) {
  const auto name = keys.text("platform");
  return name ? platformNamed(level, keys, "platform", *name) : -1;
}

LevelObject readObject(const Level& level, TomlKeys& keys, Mesh mesh) {
  LevelObject object;
  object.name = keys.requiredText("name");
  object.group = keys.text("group").value_or("stone");
  object.labels = keys.texts("labels");
  object.mesh = std::move(mesh);
  object.convex = true;
  object.platform = readPlatform(level, keys);
  keys.finish();
  return object;
}

Mesh readBox(TomlKeys& keys) {
  const Vector3d base = keys.requiredPoint("base_m", anywhere);
  const Vector3d size = keys.requiredPoint("size_m", extent);
  return boxMesh(base, size, degrees(keys.number("yaw_deg", turn, 0)));
}

Mesh readRamp(TomlKeys& keys) {
  const Vector3d from = keys.requiredPoint("from_m", anywhere);
  const Vector3d to = keys.requiredPoint("to_m", anywhere);
  if (Vector3d(to.x() - from.x(), 0, to.z() - from.z()).norm() < 1e-3) {
    keys.fail("to_m", "to_m stands over from_m, but a ramp needs a distance along the ground");
  }
  const double width = keys.requiredNumber("width_m", extent);
  return rampMesh(from, to, width, keys.number("thickness_m", extent, 0.2));
}

Mesh readCylinder(TomlKeys& keys) {
  const Vector3d base = keys.requiredPoint("base_m", anywhere);
  const double height = keys.requiredNumber("height_m", extent);
  const double radius = keys.requiredNumber("radius_m", extent);
  return cylinderMesh(base, height, radius, keys.number("top_radius_m", {0, 1e6}, radius));
}

}  // namespace

MovingPlatform readPlatformPath(TomlKeys& keys) {
  MovingPlatform platform;
  platform.name = keys.requiredText("name");
  platform.path = keys.requiredPoints("path_m", anywhere);
  if (platform.path.size() < 2) keys.fail("path_m", "path_m needs at least two points");
  for (std::size_t i = 1; i < platform.path.size(); ++i) {
    if ((platform.path[i] - platform.path[i - 1]).norm() < 1e-3)
      keys.fail("path_m", "path_m holds a point twice in a row");
  }
  platform.speed = keys.number("speed_mps", {0.01, 100}, platform.speed);
  platform.pause = keys.number("pause_s", {0, 3600}, platform.pause);
  platform.turn = degrees(keys.number("turn_deg", turn, 0));
  platform.eyeHeight = keys.number("eye_height_m", {0, 100}, platform.eyeHeight);
  keys.finish();
  return platform;
}

LevelTarget readTarget(const Level& level, TomlKeys& keys) {
  LevelTarget target;
  target.name = keys.requiredText("name");
  target.position = keys.requiredPoint("at_m", anywhere);
  target.radius = keys.number("radius_m", {0, 100}, target.radius);
  target.platform = readPlatform(level, keys);
  keys.finish();
  return target;
}

Thing readThing(const Level& level, TomlKeys& keys, const std::string& key) {
  const auto name = keys.text(key);
  if (!name) return {};
  if (*name == "character") return {Thing::Kind::character, -1};
  return {Thing::Kind::platform, platformNamed(level, keys, key, *name)};
}

LevelCamera readCamera(const Level& level, TomlKeys& keys) {
  LevelCamera camera;
  camera.name = keys.requiredText("name");
  StandingSettings& s = camera.settings;
  s.stand.point = keys.requiredPoint("stand_m", anywhere);
  s.look.point = keys.requiredPoint("look_m", anywhere);
  s.stand.axes = keys.flag("stand_turns").value_or(true) ? PointAxes::thing : PointAxes::world;
  s.look.axes = keys.flag("look_turns").value_or(true) ? PointAxes::thing : PointAxes::world;
  camera.standsOn = readThing(level, keys, "stand_on");
  camera.looksAt = readThing(level, keys, "look_at");
  s.pan = degrees(keys.number("pan_deg", {-180, 180}, 0));
  s.tilt = degrees(keys.number("tilt_deg", {-90, 90}, 0));
  s.roll = degrees(keys.number("roll_deg", {-180, 180}, 0));
  s.lens.fieldOfView = degrees(keys.number("fov_deg", {1, 170}, toDegrees(s.lens.fieldOfView)));
  keys.finish();
  return camera;
}

LevelGroup readGroup(const Level& level, TomlKeys& keys) {
  LevelGroup group;
  group.name = keys.requiredText("name");
  std::vector<std::string> known = {"character"};
  for (const LevelTarget& target : level.targets) known.push_back(target.name);
  for (const std::string& member : keys.texts("members")) {
    const auto found = std::find(known.begin(), known.end(), member);
    if (found == known.end())
      keys.fail("members", fmt::format("members holds \"{}\", but must name \"character\" and targets; the nearest "
                                       "known one is \"{}\"",
                                       member, nearestName(member, known)));
    group.members.push_back(static_cast<int>(found - known.begin()) - 1);
  }
  if (group.members.empty() || group.members.size() > GroupCamera::mostMembers)
    keys.fail("members", fmt::format("members must name 1 to {}", GroupCamera::mostMembers));
  group.characterRadius = keys.number("character_radius_m", {0, 100}, group.characterRadius);
  group.look.yaw = degrees(keys.number("yaw_deg", turn, 0));
  group.look.pitch = degrees(keys.number("pitch_deg", {-70, 10}, toDegrees(group.look.pitch)));
  keys.fill(group.settings, settings<GroupSettings>());
  if (group.settings.nearest > group.settings.farthest)
    keys.fail("farthest_m", "farthest_m must be at least nearest_m");
  if (group.settings.narrow > group.settings.wide)
    keys.fail("wide_fov_deg", "wide_fov_deg must be at least narrow_fov_deg");
  keys.finish();
  return group;
}

LevelRegion readRegion(TomlKeys& keys) {
  LevelRegion read;
  read.flag = keys.requiredText("flag");
  Region& region = read.region;
  region.base = keys.requiredPoint("base_m", anywhere);
  const bool round = keys.has("radius_m");
  if (round) {
    region.round = true;
    const double radius = keys.requiredNumber("radius_m", extent);
    region.size = {2 * radius, keys.requiredNumber("height_m", extent), 2 * radius};
  } else {
    region.size = keys.requiredPoint("size_m", extent);
    region.yaw = degrees(keys.number("yaw_deg", turn, 0));
  }
  region.leave = keys.number("leave_m", {0, 100}, region.leave);
  keys.finish();
  return read;
}

Level readBlockOut(const std::string& path) {
  const toml::table table = parseToml(readWhole(path), path, levelFormat);
  TomlKeys keys(path, table, "");
  keys.number("format", {levelFormat, levelFormat});
  Level level;
  level.name = keys.text("name").value_or("level");
  if (auto spawn = keys.table("spawn")) {
    level.spawn.position = spawn->requiredPoint("feet_m", anywhere);
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
  for (TomlKeys& platform : keys.tables("moving_platform")) level.platforms.push_back(readPlatformPath(platform));
  for (TomlKeys& box : keys.tables("box")) level.objects.push_back(readObject(level, box, readBox(box)));
  for (TomlKeys& ramp : keys.tables("ramp")) level.objects.push_back(readObject(level, ramp, readRamp(ramp)));
  for (TomlKeys& cylinder : keys.tables("cylinder"))
    level.objects.push_back(readObject(level, cylinder, readCylinder(cylinder)));
  for (TomlKeys& target : keys.tables("target")) level.targets.push_back(readTarget(level, target));
  for (TomlKeys& region : keys.tables("region")) {
    if (level.regions.size() == Regions::most)
      throw InputError(path, fmt::format("holds more than {} regions", Regions::most));
    level.regions.push_back(readRegion(region));
  }
  for (TomlKeys& camera : keys.tables("camera")) level.cameras.push_back(readCamera(level, camera));
  for (TomlKeys& group : keys.tables("group_shot")) level.groups.push_back(readGroup(level, group));
  keys.finish();
  if (level.objects.empty()) throw InputError(path, "holds no box, ramp or cylinder");
  return level;
}

Level readLevel(const std::string& path, const GltfLimits& limits) {
  requireKind(path, FileKind::level);
  return fileKindOf(path) == FileKind::scene ? readGltf(path, limits) : readBlockOut(path);
}

}  // namespace alpglow::io
