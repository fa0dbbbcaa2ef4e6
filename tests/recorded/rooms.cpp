// Random worlds of every shape give the answers that they gave before, asked one way or the other.

#include "alpglow/space/assembly.hpp"
#include "alpglow/space/height_field.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/space/triangle_mesh.hpp"
#include "recorded/record.hpp"
#include "support/reference_shapes.hpp"

namespace alpglow::testing {
namespace {

using Eigen::Vector3d;

class Shapes final : public Surroundings {
 public:
  explicit Shapes(Random& random) {
    const auto size = [&](double most) { return random.chance(0.1) ? 0 : random.between(0.01, most); };
    for (int i = random.whole(1, 60); i > 0; --i) {
      const Vector3d at = random.point(5), to = at + random.point(1);
      const Eigen::Matrix3d turn = randomTurn(random);
      const double a = size(1), b = size(1), c = size(1);
      triangles.push_back({at, to, at + random.point(2)});
      switch (random.whole(0, 3)) {
        case 0: capsules.push_back({at, to, a}); break;
        case 1: boxes.push_back({at, turn, {a, b, c}}); break;
        case 2: cylinders.push_back({at, turn.col(0), a, b, c}); break;
        default:
          planes.push_back({{turn.col(0), turn.col(0).dot(at) + a},
                            {-turn.col(0), b - turn.col(0).dot(at)},
                            {turn.col(1), turn.col(1).dot(at) + c},
                            {-turn.col(1), c - turn.col(1).dot(at)},
                            {turn.col(2), turn.col(2).dot(at) + a},
                            {-turn.col(2), b - turn.col(2).dot(at)}});
      }
    }
    if (random.chance(0.2)) ground = {Vector3d(0, 1, 0), random.between(-6, -3)};
    for (int i = 0; i < 48; ++i) heights.push_back(static_cast<float>(random.between(-1, 1)));
    field = {random.point(2), 0.7, 8, 6, heights, true};
  }
  void list(const Bounds& bounds, Found& found) const noexcept override {
    ObstacleId id = 0;
    const auto add = [&](const auto& shapes) {
      for (const auto& shape : shapes) {
        const Thing thing{++id, id % 3 == 0 ? Purpose::camera | Purpose::sight : Purpose::all, {{0.1, 0, 0}}};
        if (boundsOf(shape).touches(bounds)) found.add(shape, thing);
      }
    };
    add(capsules), add(boxes), add(cylinders);
    for (const auto& each : planes) found.add(Hull{each, Bounds()}, {++id});
    if (ground.normal.y() > 0) found.add(ground, {++id});
    found.add(field, bounds, {++id});
  }
  bool isInside(const Vector3d& point) const noexcept override { return alpglow::isInside(field, point); }

  std::vector<Triangle> triangles;

 private:
  std::vector<Capsule> capsules;
  std::vector<Box> boxes;
  std::vector<Cylinder> cylinders;
  std::vector<std::vector<Plane>> planes;
  std::vector<float> heights;
  HalfSpace ground{Vector3d(0, 0, 0), 0};
  HeightField field;
};

TEST(Recorded, Rooms) {
  const std::vector<std::string> names = {"sweeps", "rays", "rooms", "inside", "sizes"};
  compareWithRecord(ALPGLOW_RECORDS "/rooms.txt", names, 120, [](unsigned seed, Record& record) {
    Random random(seed);
    const Shapes shapes(random);
    const TriangleMesh mesh(shapes.triangles, {500},
                            seed % 2 == 0 ? TriangleMesh::Sides::open : TriangleMesh::Sides::solid);
    Assembly world;
    world.add(shapes);
    const std::size_t part = world.add(mesh, mesh.bounds(), seed % 3 == 0 ? Thing{7, Purpose::camera} : Thing());
    const Neighbourhood near(world, seed % 5 == 0 ? 20 : 400, 6), around(mesh, 100);
    const Obstacles* const asked[] = {&world, &near, &mesh, &around};
    for (int frame = 0; frame < 6; ++frame) {
      Eigen::Affine3d transform(Eigen::Translation3d(random.point(2)));
      transform.rotate(randomTurn(random));
      if (random.chance(0.5)) transform.scale(random.between(-2, 2));
      RigidMotion motion{random.point(2), random.point(2), transform.translation()};
      if (random.chance(0.3)) motion = RigidMotion();
      world.place(part, transform, motion);
      world.show(part, random.chance(0.8));
      const Bounds bounds = Bounds::around(random.point(3), 2);
      near.gather(bounds), around.gather(bounds);
      record.add(4, {1.0 * near.complete(), 1.0 * static_cast<double>(near.size()), near.bounds().low.x(),
                     1.0 * near.moves({})});
      for (int question = 0; question < 24; ++question) {
        const Vector3d from = random.point(4), way = random.point(random.chance(0.2) ? 20 : 3);
        const double radius = random.chance(0.1) ? 0 : random.between(0.02, 0.5);
        const Purpose::Bit purposes[] = {Purpose::camera, Purpose::aim, Purpose::sight, Purpose::focus};
        const Purpose::Bit purpose = purposes[random.whole(0, 3)];
        const MomentAhead later{random.between(0, 0.5), {random.point(1), random.point(0.5), from}};
        for (const Obstacles* each : asked) {
          const auto add = [&](std::size_t name, const Contact& contact) {
            record.add(name, {contact.distance, contact.hit() ? contact.obstacle : -1.0, contact.normal.x(),
                              contact.normal.y(), contact.normal.z()});
          };
          add(0, each->sweep(from, way, radius));
          add(0, each->sweepLater(from, way, radius, later));
          add(1, each->cast(from, way, purpose));
          record.add(2, {each->clearance(from, radius * 4)});
        }
        record.add(3, {1.0 * world.isInside(from), 1.0 * mesh.isInside(from)});
      }
      near.gather({}), around.gather({});
    }
  });
}

}  // namespace
}  // namespace alpglow::testing
