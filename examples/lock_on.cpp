// Lock on: three lanterns on posts, the warden walks around one, and a flick of the mouse locks on to the next.

#include <alpglow/alpglow.hpp>

#include <cstdio>

using namespace alpglow;

namespace {

const char* const names[] = {"lantern at the gate", "lantern at the bridge", "lantern on the cliff"};

/// The host owns its targets; the camera only hears of them. The last one hangs from a boat that drifts.
std::vector<Target> targetsAt(double time) {
  const Eigen::Vector3d still = Eigen::Vector3d::Zero(), drift(0.4, 0.1, 0);
  return {
      {0, {0, 1.8, -6}, still, 0.3}, {1, {5, 1.8, -8}, still, 0.3}, {2, {-4 + 0.4 * time, 4 + 0.1 * time, -9}, drift}};
}

Subject wardenAt(double time) {
  Subject warden;
  warden.feet = {2.5 * std::sin(0.5 * time), 0, -2.5 + 2.5 * std::cos(0.5 * time)};
  warden.head = warden.feet + Eigen::Vector3d(0, 1.68, 0);
  warden.velocity = {1.25 * std::cos(0.5 * time), 0, -1.25 * std::sin(0.5 * time)};
  return warden;
}

/// Where a point is on the screen: −1 … 1 from edge to edge.
Eigen::Vector2d onPicture(const View& view, const Eigen::Vector3d& point) {
  const Eigen::Vector4d clip = view.projection() * view.worldToView() * point.homogeneous();
  return clip.head<2>() / clip.w();
}

}  // namespace

int main() {
  CameraDesign plan;
  plan.lock.screenFraction = 0.7;  // both within 70 % of the screen
  plan.lock.widest = degrees(70);  // the lens may open that far if distance does not suffice
  const CompiledDesign design(plan);
  CharacterCamera camera(design, wardenAt(0));
  View view = camera.update(0.0, wardenAt(0), NoObstacles(), 16.0 / 9.0);

  std::printf("time_s   target                  error [deg]   target at     warden at     distance [m]\n");
  const double dt = 1.0 / 60;
  for (int frame = 1; frame <= 360; ++frame) {
    const double time = frame * dt;
    const std::vector<Target> targets = targetsAt(time);
    if (frame == 30) camera.lockOn(targets[static_cast<std::size_t>(bestTarget(view, targets, RankingSettings()))]);
    if ((view.events & Event::targetFlick) != 0) {
      const int next = nextTarget(view, targets, view.lock, view.flick, RankingSettings());
      if (next >= 0) camera.lockOn(targets[static_cast<std::size_t>(next)]);
    } else if (camera.locked()) {
      camera.lockOn(targets[view.lock < targets.size() ? view.lock : 0]);  // where it is now
    }
    if (frame == 330) camera.endLock();

    // A flick to the right at 2.5 s, and to the left at 4 s.
    const double flick = frame == 150 || frame == 151 ? 180 : frame == 240 || frame == 241 ? -180 : 0;
    const IntentSample samples[] = {IntentSample::look(0, {flick, 0})};
    view = camera.step(dt, Intent{samples}, wardenAt(time), NoObstacles(), 16.0 / 9.0);
    if ((view.events & Event::lockBegan) != 0) std::printf("%6.2f   locks on to the %s\n", time, names[view.lock]);
    if ((view.events & Event::lockEnded) != 0) std::printf("%6.2f   lets go\n", time);
    if (frame % 30 != 0 || view.lock == noTarget) continue;
    const Eigen::Vector2d target = onPicture(view, targets[view.lock].position), head = onPicture(view, view.head);
    std::printf("%6.2f   %-22s  %11.3f   %5.2f %5.2f   %5.2f %5.2f   %12.2f\n", time, names[view.lock],
                toDegrees(view.lockError), target.x(), target.y(), head.x(), head.y(), view.distance);
  }
}
