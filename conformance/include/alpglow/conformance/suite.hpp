#pragma once
// A proof for a host's adapter: random questions about a level, each answer against the truth; what is wrong, with its
// numbers, the question to ask again, and what looks like the cause.
//
//   const TriangleMesh truth(trianglesOfTheLevel, Thing());             // the same level, from wherever it is loaded
//   const conformance::Findings findings = conformance::prove(adapter, truth, truth.bounds());
//   if (!findings.good()) std::puts(findings.text().c_str());
//
// Asks every question of the interface for all purposes: spheres of 3 mm to 1 m, ways of 5 mm to 60 m, rays from up to
// 400 m away, and each thing of the level as often as another. Takes some seconds. Free of test
// frameworks; gtest.hpp beside it makes a test of it. Or without a level of one's own: build the boxes of `yard()` in
// the engine, and prove it against `Yard`.

#include "alpglow/space/surroundings.hpp"

#include <cstdint>
#include <string>
#include <vector>

namespace alpglow::conformance {

struct Options {
  std::uint32_t seed = 1;
  /// Of each kind of question.
  int questions = 4000;
  /// An answer may be so much too far, and too near, metres. Too far shows the inside of walls.
  double late = 1e-3, early = 1e-2;
  /// Of the sphere, and of its way, metres.
  double leastRadius = 0.05, mostRadius = 0.35, longest = 5;
  /// Ask from so many threads at once and compare; 1 or less for adapters that do not promise that.
  int threads = 2;
  /// A name for each thing is asked for.
  bool ids = true;
};

enum class Question { sweep, cast, clearance, sweepLater, sweepLarge, nothingNear };

/// One kind of mistake.
struct Finding {
  Question question = Question::sweep;
  /// What is wrong: "late", "early", "missed", …
  std::string what;
  /// What it looks like: "answers look like centimetres"; empty if nothing that is known.
  std::string cause;
  /// How often, of how many.
  int times = 0, of = 0;
  /// The worst of them, to ask again. For a clearance the displacement is zero and the radius is the range.
  Sweep worst;
  double answer = 0, truth = 0;
};

struct Findings {
  std::vector<Finding> all;
  bool good() const { return all.empty(); }
  /// A paragraph for each.
  std::string text() const;
};

/// Asks about places within the bounds. Never throws; an adapter that crashes is past proving.
Findings prove(const Obstacles& adapter, const Surroundings& truth, const Bounds& where, const Options& options = {});

/// A level for engines that have none at hand: some boxes to build in it.
std::vector<Box> yard();
/// More to build, of the other kinds that engines have. `hull` is what lies behind all of its planes: its corners are
/// (0, 0, ±1), (2, 0, ±1) and (0, 1.5, ±1), from where it stands.
struct YardShapes {
  Capsule ball, capsule;
  Cylinder cylinder;
  std::vector<Triangle> triangles;
  std::vector<Plane> hull;
  Bounds hullBounds;
};
YardShapes yardShapes();

/// The truth about them. Their ids count from 0: the boxes, and then the shapes as they stand above, all triangles one.
class Yard final : public Surroundings {
 public:
  /// `shapes` adds the other kinds; `at` is where its middle is, so that an engine far from its origin can be proved.
  explicit Yard(bool shapes = false, const Eigen::Vector3d& at = Eigen::Vector3d::Zero());
  void list(const Bounds& bounds, Found& found) const noexcept override;
  static Bounds bounds() { return {{-8, 0, -8}, {8, 4, 8}}; }
  Bounds around() const { return bounds().moved(at_); }

 private:
  bool withShapes_;
  Eigen::Vector3d at_;
  std::vector<Box> boxes_ = yard();
  YardShapes shapes_ = yardShapes();
};

}  // namespace alpglow::conformance
