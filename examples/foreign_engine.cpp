// A host that agrees with Alpglow in nothing: left-handed, z up, centimetres, floats, degrees clockwise; 50 ticks a
// second, drawn at an uneven 144 Hz. Two minutes of play at random, checked in the engine's own units.

#include <alpglow/alpglow.hpp>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <random>
#include <vector>

namespace engine {

using Vec = Eigen::Vector3f;  // x forward, y right, z up; centimetres

struct Block {
  Vec low, high;
};

struct Level {
  std::vector<Block> blocks;

  float distance(const Vec& point) const {  // to the nearest one, 0 inside
    float least = 1e9f;
    for (const Block& b : blocks) least = std::min(least, (point - point.cwiseMax(b.low).cwiseMin(b.high)).norm());
    return least;
  }
};

struct Player {
  Vec feet = Vec::Zero(), velocity = Vec::Zero();
  float yaw = 0;  // degrees, to the right

  void tick(const Vec& direction, const Level& level) {
    velocity = 320 * direction;
    for (int axis = 0; axis < 2; ++axis) {  // slides along what is in the way
      Vec next = feet;
      next[axis] += velocity[axis] / 50;
      const bool free = level.distance(next + Vec(0, 0, 168)) > 45 && level.distance(next + Vec(0, 0, 90)) > 45;
      if (free) feet = next;
      if (!free) velocity[axis] = 0;
    }
    if (direction.norm() > 0.1f) yaw = std::atan2(direction.y(), direction.x()) * 57.29578f;
  }
};

}  // namespace engine

using namespace alpglow;

HostAxes axesOfTheEngine() {
  HostAxes axes;
  axes.right = Eigen::Vector3d::UnitY();
  axes.up = Eigen::Vector3d::UnitZ();
  axes.forward = Eigen::Vector3d::UnitX();
  axes.unitsPerMetre = 100;
  axes.viewForward = ViewForward::plusZ;
  axes.positiveYaw = YawSense::right;
  return axes;
}
const HostAxes axes = axesOfTheEngine();

/// The adapter: what touches a box, in the core's shapes.
class LevelAdapter final : public Surroundings {
 public:
  explicit LevelAdapter(const engine::Level& level) : level_(level) {}

  void list(const Bounds& bounds, Found& found) const noexcept override {
    const engine::Vec a = axes.toHost<float>(bounds.low), b = axes.toHost<float>(bounds.high);
    const engine::Vec low = a.cwiseMin(b), high = a.cwiseMax(b);
    for (std::size_t i = 0; i < level_.blocks.size(); ++i) {
      const engine::Block& block = level_.blocks[i];
      if ((block.low.array() > high.array()).any() || (block.high.array() < low.array()).any()) continue;
      const engine::Vec middle = (block.low + block.high) / 2, half = (block.high - block.low) / 2;
      found.add(Box{axes.fromHost(middle), Eigen::Matrix3d::Identity(), axes.fromHost(half).cwiseAbs()},
                Thing{static_cast<ObstacleId>(i)});
    }
  }

 private:
  const engine::Level& level_;
};

Subject subjectOf(const engine::Player& player) {
  Subject subject;
  subject.feet = axes.fromHost(player.feet);
  subject.head = axes.fromHost(engine::Vec(player.feet + engine::Vec(0, 0, 168)));
  subject.heading = axes.headingFromHost(degrees(player.yaw));
  subject.velocity = axes.fromHost(player.velocity);
  return subject;
}

int main() {
  std::mt19937 dice(7);
  const auto between = [&](double low, double high) { return std::uniform_real_distribution<double>(low, high)(dice); };
  engine::Level level{{{{-3000, -3000, -100}, {3000, 3000, 0}}}};  // the yard, and huts and posts in it
  while (level.blocks.size() < 80) {
    const engine::Vec at(static_cast<float>(between(-2000, 2000)), static_cast<float>(between(-2000, 2000)), 0);
    const auto wide = static_cast<float>(between(5, 150));
    if (at.norm() > 300) level.blocks.push_back({at - engine::Vec(wide, 40, 0), at + engine::Vec(wide, 40, 350)});
  }

  engine::Player player;
  const LevelAdapter adapter(level);
  const Neighbourhood world(adapter);  // lists once a frame
  const CompiledDesign design{CameraDesign()};
  CharacterCamera camera(design, subjectOf(player));
  History drawn;
  int ticks = 0, frames = 0, unsafe = 0, cut = 0, pulledIn = 0;
  float walked = 0;
  Rate walks{0, 1}, turns;
  for (double now = 0; now < 120;) {
    const double dt = between(0.5, 1.5) / 144;
    now += dt;
    if (between(0, 1) < 0.02) turns = {between(-1, 1), between(-0.3, 0.3) - 0.5 * camera.lookAngles().pitch};
    if (between(0, 1) < 0.01) walks = {between(-1, 1), between(-1, 1)};
    const IntentSample looked[] = {IntentSample::look(0, {3000 * dt * turns.x, 1500 * dt * turns.y})};
    camera.look(dt, Intent{looked});
    for (; ticks / 50.0 <= now; ++ticks) {
      const Eigen::Vector3d way = groundDirection(camera.heading(), walks);
      player.tick(axes.directionToHost<float>(way), level);
      walked += player.velocity.norm() / 50;
      drawn.add(ticks / 50.0, subjectOf(player));
    }
    const View view = camera.update(dt, drawn.at(now - 1 / 50.0), world, 16.0 / 9.0);

    // From here on nothing but the engine's own numbers.
    const Eigen::Matrix4f toView = view.worldToView(axes).cast<float>();
    const engine::Vec eye = -toView.topLeftCorner<3, 3>().transpose() * toView.topRightCorner<3, 1>();
    const engine::Vec head = axes.toHost<float>(view.head);
    const double high = std::tan(view.fieldOfView / 2), corner = std::hypot(1, high, high * view.aspect);
    const auto sphere = static_cast<float>(100 * view.nearPlane * corner);
    if (level.distance(head) < sphere + 0.1f) continue;
    ++frames;
    pulledIn += view.pulledIn;
    unsafe += level.distance(eye) < sphere - 0.1f;
    bool blocked = false;
    for (int i = 0; i <= 40; ++i)
      blocked = blocked || level.distance(head + static_cast<float>(i) / 40 * (eye - head)) == 0;
    cut += blocked;
  }
  std::printf("%.0f cm walked; %d frames, %d pulled in: near plane inside something in %d, head hidden in %d\n", walked,
              frames, pulledIn, unsafe, cut);
}
