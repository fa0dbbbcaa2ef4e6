#pragma once
// A level as a camera finds it: every place that a character can walk to, in all directions and framings. It measures
// what is left of the distance and of the sight of the subject, and how much is lost from one pose to the next.
//
//   const stage::Audit found = stage::audit(design, refuge, {});
//   const std::string png = stage::auditPicture(refuge, found, "the refuge", 1280, 800);
//   for (const stage::WorstStep& worst : found.worst) save(stage::replayOf(worst));
//
// What moves is where it is at time 0.

#include "alpglow/design/design.hpp"
#include "alpglow/stage/stage.hpp"

#include <Eigen/Core>

#include <algorithm>
#include <array>
#include <functional>
#include <string>
#include <vector>

namespace alpglow::stage {

struct AuditOptions {
  /// Metres between places (0.05 at least), and how many directions, over the whole turn (1 at least).
  double step = 0.5;
  int directions = 16;
  double aspect = 16.0 / 9.0;
  /// Nobody goes on from there.
  std::size_t mostPlaces = 20000;
  /// Calls work(0) … work(count − 1), several at a time if it likes; one after the other without.
  std::function<void(std::size_t count, const std::function<void(std::size_t)>& work)> forEach;
  /// Told how many places were found so far.
  std::function<void(std::size_t)> found;
};

/// The walkable ground on a grid, from the spawn: steps, stairs, ramps and drops included.
struct Reach {
  std::vector<Eigen::Vector3d> feet;
  /// By place: the place that one comes to by a step toward −z, +x, +z, −x; −1 where there is none.
  std::vector<std::array<int, 4>> next;
  /// There was more than `mostPlaces`.
  bool cutShort = false;
};
Reach reachOf(const Stage& stage, double step, std::size_t mostPlaces,
              const std::function<void(std::size_t)>& found = {});

/// How the camera stands at rest, turned to one direction at one place: distance, the share of the subject's body that
/// is seen, and that nothing hides whether it is in the picture or not. Where the eyes have taken over the distance is
/// 0.
struct AuditedPose {
  float distance = 0, wanted = 0, visible = 1, unhidden = 1;
  ObstacleId obstacle = noObstacle;
};

/// From one pose to a neighbour: by a turn, or by a step with the same direction.
struct WorstStep {
  std::string framing;
  /// What a take does so that the framing holds.
  std::string conditions;
  Eigen::Vector3d from = Eigen::Vector3d::Zero(), to = Eigen::Vector3d::Zero();
  double fromDirection = 0, toDirection = 0;  // radians, 0 along −z, positive left
  double before = 0, after = 0, wanted = 0;   // metres of distance; wanted there
  std::string obstacle;
  double lost() const { return std::min(before, wanted) - after; }
};

/// Of all directions and framings of a place.
struct AuditedPlace {
  double kept = 1;                // of the distance that is wanted
  double hidden = 0;              // share of poses that show less than half of the subject
  double lost = 0;                // the most that is lost to a neighbour, metres
  ObstacleId taker = noObstacle;  // what takes most
};

struct Audit {
  Reach reach;
  std::vector<AuditedPlace> places;
  /// At most ten, no two of them within 3 m; of framings in which one can stand still.
  std::vector<WorstStep> worst;
  std::vector<std::string> framings;
  std::size_t poses = 0;
  /// Over all poses: distance over wanted distance; share of poses that are pulled in, closer than 0.9 m although more
  /// is wanted, have more than half of the subject hidden; the mean share of the subject that is seen.
  double kept = 1, pulledIn = 0, close = 0, hidden = 0, visible = 1;
};

/// Framings of third person only (farther than 0.2 m); a design without any has no poses.
Audit audit(const CompiledDesign& design, const Stage& stage, const AuditOptions& options);

/// Four heat maps on the plan of the level, as a PNG file's content.
std::string auditPicture(const Stage& stage, const Audit& audit, const std::string& title, int width, int height);

/// A take that stands at the first pose, goes to the second, and stays there.
std::string replayOf(const WorstStep& worst);

}  // namespace alpglow::stage
