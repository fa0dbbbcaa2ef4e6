#pragma once
// Random block-out levels full of what is hard for a camera: thin walls, poles, low ceilings, acute corners. And takes
// with flicks, dashes and zooming.

#include "alpglow/io/level.hpp"
#include "alpglow/io/take_file.hpp"
#include "support/brute_force.hpp"
#include "support/random.hpp"

#include <algorithm>
#include <string>

namespace alpglow::testing {

inline io::Level randomLevel(unsigned seed) {
  Random random(seed);
  io::Level level;
  const auto add = [&level](const std::string& name, io::Mesh mesh) {
    level.objects.push_back({name, "stone", {}, std::move(mesh), true});
  };
  const auto spot = [&random] { return Eigen::Vector3d(random.between(-9, 9), 0, random.between(-9, 9)); };
  const auto farFromSpawn = [](const Eigen::Vector3d& p, double room) { return p.norm() > room; };
  add("ground", io::boxMesh({0, -1, 0}, {24, 1, 24}, 0));
  for (int i = 0; i < 50; ++i) {
    const Eigen::Vector3d at = spot();
    switch (random.whole(0, 4)) {
      case 0:
        if (farFromSpawn(at, 3))
          add("wall", io::boxMesh(at, {random.between(1, 4), random.between(1, 3), random.between(0.03, 0.15)},
                                  random.between(-3, 3)));
        break;
      case 1:
        if (farFromSpawn(at, 0.8))
          add("pole", io::cylinderMesh(at, random.between(1, 3), random.between(0.02, 0.08), 0.02));
        break;
      case 2:
        add("ceiling", io::boxMesh(at + Eigen::Vector3d(0, random.between(1.9, 2.4), 0),
                                   {random.between(1, 4), 0.1, random.between(1, 4)}, random.between(-3, 3)));
        break;
      case 3:
        if (farFromSpawn(at, 2))
          add("block", io::boxMesh(at, {random.between(0.3, 1.5), random.between(0.2, 2), random.between(0.3, 1.5)},
                                   random.between(-3, 3)));
        break;
      default:
        if (farFromSpawn(at, 4))
          add("ramp", io::rampMesh(
                          at, at + Eigen::Vector3d(random.between(1, 3), random.between(0.2, 1), random.between(-1, 1)),
                          random.between(0.5, 2), 0.1));
    }
  }
  level.spawn.heading = random.between(-3, 3);
  level.targets = {{"mark", {4, 2, -3}, -1, 0.4}};
  return level;
}

/// With doors that swing, lifts that rise and crushers that come fast, all close to where one walks; some of them
/// large, if one likes.
inline io::Level movingLevel(unsigned seed, bool large = false) {
  io::Level level = randomLevel(seed);
  Random random(seed + 1);
  for (int i = 0; i < 14; ++i) {
    const Eigen::Vector3d at(random.between(-5, 5), 0, random.between(-5, 5));
    io::MovingPlatform platform;
    platform.name = "platform" + std::to_string(i);
    platform.pause = random.between(0.1, 0.8);
    io::Mesh mesh;
    switch (random.whole(0, 2)) {
      case 0:  // a door: it turns about one of its sides, and its hinge shifts by a hair
        platform.path = {at, at + Eigen::Vector3d(0.001, 0, 0)};
        platform.speed = 0.001 / random.between(0.4, 1.2);
        platform.turn = random.between(-2, 2);
        mesh = io::boxMesh(at + Eigen::Vector3d(0.5, 0, 0), {1, 2.1, 0.06}, 0);
        break;
      case 1:
        platform.path = {at, at + Eigen::Vector3d(0, random.between(1, 3), 0)};
        platform.speed = random.between(0.5, 2);
        mesh = io::boxMesh(at, {1.4, 0.15, 1.4}, random.between(-3, 3));
        break;
      default:
        platform.path = {at, at + Eigen::Vector3d(random.between(-3, 3), 0, random.between(-3, 3))};
        platform.speed = random.between(3, 9);
        mesh =
            io::boxMesh(at + Eigen::Vector3d(0, random.between(0.3, 1.4), 0), {0.8, 0.8, 0.8}, random.between(-3, 3));
    }
    level.platforms.push_back(platform);
    std::vector<std::string> labels;
    if (large && i % 4 == 1) labels = {"large"};
    level.objects.push_back({platform.name, "stone", labels, std::move(mesh), true, i});
  }
  return level;
}

/// With `framings` also aims, switches perspective, swaps shoulders, crouches, is pushed and guided.
inline io::Take randomTake(unsigned seed, double length, bool framings = false) {
  Random random(seed);
  io::Take take;
  take.length = length;
  const char* const keys[] = {"KeyW", "KeyA", "KeyS", "KeyD", "ShiftLeft"};
  for (double time = 0; (time += random.between(0.01, 0.3)) < length;) {
    if (framings && random.chance(0.1)) {
      io::Cue cue;
      cue.time = time;
      cue.kind = io::Cue::Kind::push;
      cue.name = "blast";
      cue.strength = random.between(-2, 2);
      cue.direction = random.between(-180, 180);
      if (std::abs(cue.strength) > 1.2) {  // the look is guided for a while instead
        cue.kind = cue.strength > 0 ? io::Cue::Kind::guide : io::Cue::Kind::unguide;
        cue.name = "mark";
        cue.strength = 0.5;
      }
      take.cues.push_back(cue);
    } else if (framings && random.chance(0.4)) {
      const char* const presses[] = {"MouseButton2", "KeyV", "KeyX", "ControlLeft"};
      const Control control = findControl(presses[random.whole(0, 3)]);
      take.events.push_back({time, control, 1, 0});
      take.events.push_back({time += random.between(0.01, 0.6), control, 0, 0});
    } else if (random.chance(0.35)) {
      take.events.push_back({time, findControl(keys[random.whole(0, 4)]), random.chance(0.6) ? 1.0 : 0.0, 0});
    } else if (random.chance(0.1)) {
      take.events.push_back({time, findControl("MouseWheel"), random.whole(-2, 2) * 1.0, 0});
    } else {
      const double flick = random.chance(0.3) ? 4000 : 400;
      take.events.push_back({time, findControl("MouseMove"), std::round(random.between(-flick, flick)),
                             std::round(random.between(-flick, flick) / 3)});
    }
  }
  return take;
}

/// Everything opaque, at rest or carried by platforms, at any time; what is large cuts no line.
class LevelByForce {
 public:
  explicit LevelByForce(const io::Level& level)
      : level_(level), carried_(level.platforms.size()), large_(level.platforms.size()) {
    for (const io::LevelObject& object : level.objects) {
      if (object.labelled("see-through") || object.labelled("soft")) continue;
      BruteForce& part = object.platform < 0 ? still_ : carried_[static_cast<std::size_t>(object.platform)];
      if (object.labelled("large") && object.platform >= 0) large_[static_cast<std::size_t>(object.platform)] = true;
      for (const auto& t : object.mesh.triangles) {
        const auto corner = [&](std::size_t k) { return object.mesh.vertices[static_cast<std::size_t>(t[k])]; };
        part.triangles.push_back({corner(0), corner(1), corner(2)});
      }
    }
  }
  double distance(const Eigen::Vector3d& p, double time = 0) const {
    double nearest = still_.distance(p);
    for (std::size_t i = 0; i < carried_.size(); ++i)
      nearest = std::min(nearest, carried_[i].distance(backToStart(i, p, time)));
    return nearest;
  }
  bool cut(const Eigen::Vector3d& from, const Eigen::Vector3d& to, double time = 0) const {
    bool result = still_.cut(from, to);
    for (std::size_t i = 0; i < carried_.size(); ++i)
      result = result || (!large_[i] && carried_[i].cut(backToStart(i, from, time), backToStart(i, to, time)));
    return result;
  }
  /// Within a solid: a crusher may have come over a head.
  bool inside(const Eigen::Vector3d& p, double time) const {
    return std::any_of(level_.objects.begin(), level_.objects.end(), [&](const io::LevelObject& object) {
      const Eigen::Vector3d at =
          object.platform < 0 ? p : backToStart(static_cast<std::size_t>(object.platform), p, time);
      return object.convex &&
             std::all_of(object.mesh.triangles.begin(), object.mesh.triangles.end(), [&](const auto& t) {
               const auto corner = [&](std::size_t k) { return object.mesh.vertices[static_cast<std::size_t>(t[k])]; };
               return (corner(1) - corner(0)).cross(corner(2) - corner(0)).dot(at - corner(0)) <= 0;
             });
    });
  }

 private:
  Eigen::Vector3d backToStart(std::size_t platform, const Eigen::Vector3d& p, double time) const {
    return level_.platforms[platform].at(0, 1).toWorld(level_.platforms[platform].at(time, 1).toLocal(p));
  }

  const io::Level& level_;
  BruteForce still_;
  std::vector<BruteForce> carried_;
  std::vector<bool> large_;  // of platforms
};

}  // namespace alpglow::testing
