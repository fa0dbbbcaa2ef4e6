// A first-person walk: bob, steadying, a look over the shoulder, a jump from a ledge. Prints what the eyes do.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

namespace {

CameraDesign eyes() {
  CameraDesign design;
  Framing& framing = design.framings[0].framing;
  framing.distance = framing.distanceRange.nearest = framing.distanceRange.farthest = 0;  // at the eyes
  framing.shoulder = framing.anchorRise = 0;
  framing.follow.halfLife = 0;
  framing.follow.verticalHalfLife = 0.07;  // steps do not jolt ...
  framing.follow.verticalLeash = 0.25;     // ... and falls are not softened
  design.framings[0].framing.defaultPitch = 0;
  design.motion.bob.vertical = 0.035;
  design.motion.bob.lateral = 0.022;
  design.motion.dip.depthPerSpeed = 0.03;
  return design;
}

/// The warden walks along −z for 2 s, stops, and drops from a ledge of 1 m at 3 s.
Subject wardenAt(double time) {
  Subject warden;
  const double fallen = time > 3 ? std::min(0.5 * 9.81 * (time - 3) * (time - 3), 1.0) : 0.0;
  warden.feet = {0, 1 - fallen, -1.6 * std::min(time, 2.0)};
  warden.head = warden.feet + Eigen::Vector3d(0, 1.68, 0);
  warden.onGround = fallen == 0 || fallen == 1;
  warden.velocity = {0, warden.onGround ? 0 : -9.81 * (time - 3), time < 2 ? -1.6 : 0};
  return warden;
}

}  // namespace

int main() {
  const CompiledDesign design(eyes());
  CharacterCamera camera(design, wardenAt(0));
  PlayerControls controls(standardBindings());

  std::printf("time_s   bob right  bob up [mm]   steady yaw  pitch [deg]   look  heading [deg]   eye height [m]\n");
  const double dt = 1.0 / 60;
  for (int frame = 1; frame <= 270; ++frame) {
    controls.beginFrame();
    // From 0.8 s to 1.3 s the head looks back over the shoulder; the feet walk on.
    if (frame == 48) controls.feed({0, findControl("KeyQ"), 1});
    if (frame > 48 && frame < 78) controls.feed({0, findControl("MouseMove"), 60, 0});
    if (frame == 78) controls.feed({0, findControl("KeyQ"), 0});

    const View view = camera.step(dt, controls.intent(), wardenAt(frame * dt), NoObstacles(), 16.0 / 9.0);
    if (frame % 15 != 0) continue;
    std::printf("%6.2f   %9.1f  %11.1f   %10.3f  %11.3f   %5.1f  %12.1f   %13.3f\n", frame * dt, 1000 * view.bobRight,
                1000 * view.bobUp, toDegrees(view.steadyYaw), toDegrees(view.steadyPitch), toDegrees(view.yaw),
                toDegrees(view.heading), view.position.y());
  }
}
