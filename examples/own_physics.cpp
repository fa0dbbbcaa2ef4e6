// An adapter for a physics engine of one's own that can do two things: cast a ray, and list its geometries near a box.
// The adapter is the class `RefugeWorld`; the proof says whether it is right; a camera uses it.

#include <alpglow/camera/character_camera.hpp>
#include <alpglow/conformance/suite.hpp>
#include <alpglow/space/neighbourhood.hpp>

#include <Eigen/Geometry>

#include <cmath>
#include <cstdio>
#include <vector>

/// The engine: single precision, and a closed door of geometry kinds.
namespace engine {

struct Geometry {
  enum class Kind { box, ball, pillar } kind = Kind::box;
  Eigen::Vector3f place = Eigen::Vector3f::Zero();
  Eigen::Matrix3f turn = Eigen::Matrix3f::Identity();
  Eigen::Vector3f half = Eigen::Vector3f::Ones();  // of a box; x: radius, y: half of the height of the others
  int body = 0;
  bool trigger = false;
};

class Physics {
 public:
  std::vector<Geometry> geometries;

  std::vector<const Geometry*> overlapping(const Eigen::Vector3f& low, const Eigen::Vector3f& high) const {
    std::vector<const Geometry*> found;
    for (const Geometry& g : geometries) {
      const float reach = g.half.norm();
      if ((g.place.array() + reach >= low.array()).all() && (g.place.array() - reach <= high.array()).all())
        found.push_back(&g);
    }
    return found;
  }
};

}  // namespace engine

using namespace alpglow;

/// The adapter: what is near, in the core's shapes.
class RefugeWorld final : public Surroundings {
 public:
  explicit RefugeWorld(const engine::Physics& physics) : physics_(physics) {}

  void list(const Bounds& bounds, Found& found) const noexcept override {
    using Kind = engine::Geometry::Kind;
    for (const engine::Geometry* g : physics_.overlapping(bounds.low.cast<float>(), bounds.high.cast<float>())) {
      if (g->trigger) continue;
      const Thing thing{static_cast<ObstacleId>(g->body)};
      const Eigen::Vector3d place = g->place.cast<double>(), half = g->half.cast<double>();
      const Eigen::Vector3d up = g->turn.col(1).cast<double>();
      if (g->kind == Kind::box) found.add(Box{place, g->turn.cast<double>(), half}, thing);
      if (g->kind == Kind::ball) found.add(Capsule{place, place, half.x()}, thing);
      if (g->kind == Kind::pillar)
        found.add(Cylinder{place - half.y() * up, up, 2 * half.y(), half.x(), half.x()}, thing);
    }
  }
  // The engine's own rays would go here, as `cast`; without it they are answered from the list as well.

 private:
  const engine::Physics& physics_;
};

int main() {
  engine::Physics physics;
  for (const Box& box : conformance::yard()) {
    engine::Geometry geometry;
    geometry.place = box.centre.cast<float>();
    geometry.turn = box.axes.cast<float>();
    geometry.half = box.half.cast<float>();
    geometry.body = static_cast<int>(physics.geometries.size());
    physics.geometries.push_back(geometry);
  }
  const RefugeWorld world(physics);
  const conformance::Findings findings = conformance::prove(world, conformance::Yard(), conformance::Yard::bounds());
  std::printf("the adapter: %s\n%s", findings.good() ? "nothing found" : "wrong", findings.text().c_str());

  // A boulder behind the warden, and the evening round goes on.
  engine::Geometry boulder;
  boulder.kind = engine::Geometry::Kind::ball;
  boulder.place = {0.4f, 1.2f, 2.6f};
  boulder.half = {1.2f, 1.2f, 1.2f};
  boulder.body = 42;
  physics.geometries.push_back(boulder);
  const Neighbourhood near(world);  // lists once a frame
  const CompiledDesign design{CameraDesign()};
  Subject warden;
  warden.head = {0, 1.68, 0};
  CharacterCamera camera(design, warden);
  const View view = camera.step(1.0 / 60, {}, warden, near, 16.0 / 9.0);
  std::printf("%.2f m of %.2f m behind the warden, because of %u; %zu shapes were near\n", view.distance,
              view.freeDistance, view.obstacle, near.size());
}
