#pragma once
// Games in the open at 1000 frames a second, in which nobody touches the mouse: random calls, and nothing may jump. Of
// everything that is shown it is asked how much more it moved in one frame than in the frame before. What goes wrong is
// shrunk to the fewest calls.

#include "support/camera_run.hpp"
#include "support/random.hpp"
#include "support/warden_camera.hpp"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <string>
#include <vector>

namespace alpglow::testing {

/// One call of such a game.
struct JumpCall {
  enum Kind {
    condition,
    flag,
    perspective,
    shoulder,
    design,
    swingBack,
    number,
    unrest,
    guide,
    endGuide,
    lock,
    endLock,
    push,
    wheel,
    zoomRate,
    glance,
    count
  } kind;
  int frame;
  double a, b;
};

inline std::string text(const JumpCall& call) {
  const char* const names[] = {"condition", "flag",   "perspective", "shoulder", "design", "swingBack",
                               "number",    "unrest", "guide",       "endGuide", "lock",   "endLock",
                               "push",      "wheel",  "zoomRate",    "glance"};
  char line[80];
  std::snprintf(line, sizeof line, "%d %s %.3g %.3g; ", call.frame, names[call.kind], call.a, call.b);
  return line;
}

class Jumps {
 public:
  /// The most by which what is shown may move more in one millisecond than in the one before: metres and radians. A
  /// push, a zoom that comes to its end and a swing back from far away that is called off take most of it.
  struct Limits {
    double eye = 0.02, pivot = 0.008, distance = 0.02, look = degrees(1), lens = degrees(0.5);
  };

  explicit Jumps(unsigned seed) : random_(seed) {
    for (int k = 0; k < 2; ++k) designs_.emplace_back(designOf(k == 1));
    const double speed = random_.chance(0.3) ? 0 : random_.between(0.5, 5);
    walks_ = speed * Eigen::Vector3d(std::sin(seed), 0, std::cos(seed));
    turns_ = random_.chance(0.5) ? 0 : random_.between(-1, 1);
    target_ = random_.between(2, 10) * random_.point(1) + Eigen::Vector3d(0, 2, -3);
    for (int i = random_.whole(2, 14); i > 0; --i) {
      const auto kind = static_cast<JumpCall::Kind>(random_.whole(0, JumpCall::count - 1));
      calls_.push_back({kind, random_.whole(5, frames - 200), random_.between(0, 1), random_.between(0, 1)});
    }
    std::stable_sort(calls_.begin(), calls_.end(),
                     [](const JumpCall& a, const JumpCall& b) { return a.frame < b.frame; });
  }

  /// What jumps, with the fewest calls that make it; or nothing.
  std::string play() {
    if (jump(calls_).empty()) return {};
    for (bool shorter = true; shorter;) {
      shorter = false;
      for (std::size_t i = 0; i < calls_.size() && !shorter; ++i) {
        std::vector<JumpCall> fewer = calls_;
        fewer.erase(fewer.begin() + static_cast<std::ptrdiff_t>(i));
        if (!jump(fewer).empty()) calls_ = fewer, shorter = true;
      }
    }
    std::string said;
    for (const JumpCall& call : calls_) said += text(call);
    return said + jump(calls_);
  }

 private:
  static constexpr int frames = 2500;
  static constexpr double dt = 1e-3;

  CameraDesign designOf(bool other) {
    CameraDesign design = wardenDesign();
    design.pushes = {{"recoil", {}}};
    design.pushes[0].push.pitch = degrees(2);
    design.pushes[0].push.back = 0.05;
    design.zoomIntoEyes = random_.chance(0.5);
    design.unrest.yaw = degrees(0.5);
    design.unrest.amount = 0;
    design.lock.widest = random_.chance(0.5) ? degrees(80) : 0;
    design.lead.time = random_.chance(0.5) ? 0.3 : 0;
    design.swingBack.rate = random_.chance(0.5) ? degrees(60) : 0;
    for (NamedFraming& named : design.framings) {
      named.framing.transition = random_.between(0.15, 0.6);
      named.framing.keeps = random_.chance(0.5) ? Keeps::aim : Keeps::look;
      named.framing.follow.halfLife *= random_.between(0, 3);
      named.framing.follow.verticalHalfLife *= random_.between(0, 3);
      if (random_.chance(0.3)) {
        named.curves = {{Curved::distance, CurveOver::number, "fear", Curve({{0, 3.0}, {1, 1.5}})},
                        {Curved::tilt, CurveOver::number, "fear", Curve({{0, 0.0}, {1, 0.2}})}};
      }
      if (other) named.framing.distance *= random_.between(0.8, 1.2), named.framing.tilt = random_.between(0, 0.1);
    }
    return design;
  }

  struct Shown {
    Eigen::Vector3d eye = {0, 0, 0}, pivot = {0, 0, 0}, axis = {0, 0, 0};
    double distance = 0, lens = 0;
    bool changing = false;
  };

  void make(CharacterCamera& camera, const JumpCall& call, std::vector<IntentSample>& samples, int& of,
            bool& locked) const {
    const bool on = call.b < 0.6;
    switch (call.kind) {
      case JumpCall::condition: {
        const std::uint32_t bits[] = {Condition::aiming, Condition::sprinting, Condition::crouched};
        return camera.setCondition(bits[static_cast<int>(call.a * 3) % 3], on);
      }
      case JumpCall::flag: return camera.setCondition(camera.design().flag("swimming"), on);
      case JumpCall::perspective: return camera.switchPerspective();
      case JumpCall::shoulder: return camera.setShoulder(static_cast<Shoulder>(static_cast<int>(call.a * 3) % 3));
      case JumpCall::design:
        of = 1 - of;
        return camera.changeDesign(designs_[static_cast<std::size_t>(of)], 0.2 + 0.4 * call.a);
      case JumpCall::swingBack: return camera.swingBack();
      case JumpCall::number: return camera.setNumber(0, call.a);
      case JumpCall::unrest: return camera.setUnrest(call.a);
      case JumpCall::guide: return camera.guide(GuideGoal::along(6 * call.a - 3));
      case JumpCall::endGuide: return camera.endGuide();
      case JumpCall::lock: locked = true; return;
      case JumpCall::endLock: locked = false; return camera.endLock();
      case JumpCall::push: return camera.push(0);
      case JumpCall::wheel: return samples.push_back(IntentSample::zoom(0, call.a < 0.5 ? 1 : -1));
      case JumpCall::zoomRate: return samples.push_back(IntentSample::zoomRate(0, on ? 2 * call.a - 1 : 0));
      case JumpCall::glance: return samples.push_back(IntentSample::glance(0, on));
      case JumpCall::count: return;
    }
  }

  std::string jump(const std::vector<JumpCall>& calls) const {
    const NoObstacles open;
    Eigen::Vector3d feet(0, 0, 0);
    CharacterCamera camera(designs_[0], wardenAt(feet, 0, walks_));
    std::size_t next = 0;
    int of = 0;
    bool locked = false;
    Shown before, last;
    for (int frame = 0; frame < frames; ++frame) {
      std::vector<IntentSample> samples;
      for (; next < calls.size() && calls[next].frame == frame; ++next) make(camera, calls[next], samples, of, locked);
      const Eigen::Vector3d walks = Eigen::AngleAxisd(turns_ * frame * dt, Eigen::Vector3d::UnitY()) * walks_;
      feet += dt * walks;
      if (locked) camera.lockOn({1, target_, {0, 0, 0}, 0.5});
      const View view = camera.step(dt, Intent{samples}, wardenAt(feet, turns_ * frame * dt, walks), open, wide);
      const Shown now{view.position, view.pivot,       view.rotation().col(2),
                      view.distance, view.fieldOfView, view.designBlend < 1};
      if (frame >= 4 && !view.cut) {
        const std::string said = moved(before, last, now);
        if (!said.empty()) return "frame " + std::to_string(frame) + ": " + said;
      }
      before = last;
      last = now;
    }
    return {};
  }

  static std::string moved(const Shown& a, const Shown& b, const Shown& c) {
    const Limits limits;
    const auto bend = [](const auto& x, const auto& y, const auto& z) { return z - 2 * y + x; };
    const bool ofOne = !b.changing && !c.changing;  // while designs change, these are the next one's
    const struct {
      const char* name;
      double value, most;
    } all[] = {
        {"eye", bend(a.eye, b.eye, c.eye).norm() - 1.2 * b.distance * bend(a.axis, b.axis, c.axis).norm(), limits.eye},
        {"pivot", ofOne ? bend(a.pivot, b.pivot, c.pivot).norm() : 0, limits.pivot},
        {"distance", ofOne ? std::abs(bend(a.distance, b.distance, c.distance)) : 0, limits.distance},
        {"look", bend(a.axis, b.axis, c.axis).norm(), limits.look},
        {"lens", std::abs(bend(a.lens, b.lens, c.lens)), limits.lens}};
    for (const auto& each : all) {
      if (each.value < each.most) continue;
      char line[80];
      std::snprintf(line, sizeof line, "%s by %.4g (%.2g may be)", each.name, each.value, each.most);
      return line;
    }
    return {};
  }

  Random random_;
  std::vector<CompiledDesign> designs_;
  std::vector<JumpCall> calls_;
  Eigen::Vector3d walks_, target_;
  double turns_ = 0;
};

}  // namespace alpglow::testing
