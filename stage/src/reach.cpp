#include "alpglow/stage/audit.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double sameFloor = 0.45, arrived = 0.12, leastStep = 0.05;  // metres
constexpr int ticksToWalk = 45, ticksToLand = 90;
const Vector3d ways[4] = {{0, 0, -1}, {1, 0, 0}, {0, 0, 1}, {-1, 0, 0}};

/// Walks the grid from the spawn, a step at a time, with the character's own legs.
class Surveyor {
 public:
  Surveyor(const Stage& stage, double step, std::size_t most)
      : stage_(stage), step_(std::max(step, leastStep)), most_(most), origin_(stage.level().spawn.position) {}

  Reach survey(const std::function<void(std::size_t)>& found) {
    add(origin_, {0, 0});
    for (std::size_t i = 0; i < reach_.feet.size(); ++i) {
      for (std::size_t way = 0; way < 4; ++way) reach_.next[i][way] = go(i, way);
      if (found) found(reach_.feet.size());
    }
    stage_.moveTo(0);
    return std::move(reach_);
  }

 private:
  using Cell = std::pair<int, int>;

  int go(std::size_t from, std::size_t way) {
    const Cell cell = {cells_[from].first + static_cast<int>(ways[way].x()),
                       cells_[from].second + static_cast<int>(ways[way].z())};
    const Vector3d goal = origin_ + step_ * Vector3d(cell.first, 0, cell.second);
    Walker walker(stage_);
    walker.place(reach_.feet[from], 0);
    const auto missing = [&] {
      const Vector3d left = goal - walker.feet();
      return Vector3d(left.x(), 0, left.z());
    };
    for (int i = 0; i < ticksToWalk && missing().norm() > arrived; ++i) walker.tick(missing().normalized(), true);
    if (missing().norm() > arrived) return -1;
    for (int i = 0; i < ticksToLand && !walker.onGround(); ++i) walker.tick(Vector3d::Zero(), false);
    if (!walker.onGround() || walker.platform() >= 0) return -1;
    Vector3d feet = walker.feet();
    // Onto the grid, unless that is within something.
    walker.place(Vector3d(goal.x(), feet.y() + 0.05, goal.z()), 0);
    if (missing().norm() < 0.02 && walker.onGround()) feet = walker.feet();
    for (const int other : at_[cell]) {
      if (std::abs(reach_.feet[static_cast<std::size_t>(other)].y() - feet.y()) < sameFloor) return other;
    }
    return add(feet, cell);
  }

  int add(const Vector3d& feet, const Cell& cell) {
    if (reach_.feet.size() == most_) {
      reach_.cutShort = true;
      return -1;
    }
    const int place = static_cast<int>(reach_.feet.size());
    reach_.feet.push_back(feet);
    reach_.next.push_back({-1, -1, -1, -1});
    cells_.push_back(cell);
    at_[cell].push_back(place);
    return place;
  }

  const Stage& stage_;
  double step_;
  std::size_t most_;
  Vector3d origin_;
  Reach reach_;
  std::vector<Cell> cells_;
  std::map<Cell, std::vector<int>> at_;
};

}  // namespace

Reach reachOf(const Stage& stage, double step, std::size_t mostPlaces, const std::function<void(std::size_t)>& found) {
  return Surveyor(stage, step, mostPlaces).survey(found);
}

}  // namespace alpglow::stage
