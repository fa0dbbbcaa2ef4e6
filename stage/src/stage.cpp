#include "alpglow/stage/stage.hpp"

#include "drawn_walker.hpp"
#include "world.hpp"

#include <BulletCollision/CollisionShapes/btConvexPolyhedron.h>

namespace alpglow::stage {

namespace {

btVector3 toBullet(const Eigen::Vector3d& v) { return {v.x(), v.y(), v.z()}; }

/// The mesh's own triangles as faces, to the last bit.
btConvexPolyhedron facesOf(const io::Mesh& mesh) {
  btConvexPolyhedron faces;
  for (const Eigen::Vector3d& vertex : mesh.vertices) faces.m_vertices.push_back(toBullet(vertex));
  for (const auto& t : mesh.triangles) {
    btFace face;
    for (const int corner : t) face.m_indices.push_back(corner);
    const btVector3 &a = faces.m_vertices[t[0]], &b = faces.m_vertices[t[1]], &c = faces.m_vertices[t[2]];
    const btVector3 normal = (b - a).cross(c - a).normalized();
    for (int i = 0; i < 3; ++i) face.m_plane[i] = normal[i];
    face.m_plane[3] = -normal.dot(a);
    faces.m_faces.push_back(face);
  }
  return faces;
}

}  // namespace

Stage::World::World(const io::Level& level, WorldKind kind)
    : dispatcher(&configuration),
      world(&dispatcher, &broadphase, &configuration),
      bullet(world, {},
             [this](const btCollisionObject& o) { return stops[static_cast<std::size_t>(o.getUserIndex())]; }),
      triangles(kind == WorldKind::bullet ? nullptr
                                          : std::make_unique<LevelTriangles>(level, kind == WorldKind::embree)) {
  for (const io::LevelObject& object : level.objects) {
    shapes.push_back(shapeOf(object));
    objects.push_back(std::make_unique<btCollisionObject>());
    objects.back()->setCollisionShape(shapes.back().get());
    objects.back()->setUserIndex(static_cast<int>(objects.size()) - 1);
    walkThrough.push_back(object.labelled("walk-through"));
    stops.push_back(stopsOf(object));
    world.addCollisionObject(objects.back().get());
  }
}

Stage::World::~World() {
  for (const auto& object : objects) world.removeCollisionObject(object.get());
}

bool Stage::World::solid(const btCollisionObject& object) const {
  return !walkThrough[static_cast<std::size_t>(object.getUserIndex())];
}

std::unique_ptr<btCollisionShape> Stage::World::shapeOf(const io::LevelObject& object) {
  if (object.convex) {
    auto hull = std::make_unique<btConvexHullShape>();
    for (const Eigen::Vector3d& vertex : object.mesh.vertices) hull->addPoint(toBullet(vertex), false);
    hull->setMargin(0);
    hull->recalcLocalAabb();
    btConvexPolyhedron faces = facesOf(object.mesh);
    hull->setPolyhedralFeatures(faces);
    return hull;
  }
  meshes.push_back(std::make_unique<btTriangleMesh>());
  for (const auto& t : object.mesh.triangles) {
    const auto corner = [&](std::size_t k) { return toBullet(object.mesh.vertices[static_cast<std::size_t>(t[k])]); };
    meshes.back()->addTriangle(corner(0), corner(1), corner(2));
  }
  auto shape = std::make_unique<btBvhTriangleMeshShape>(meshes.back().get(), false);
  shape->setMargin(0);
  return shape;
}

Stage::Stage(io::Level level, WorldKind kind)
    : level_(std::move(level)), world_(std::make_unique<World>(level_, kind)) {}
Stage::~Stage() = default;
Stage::Stage(Stage&&) noexcept = default;

const Surroundings& Stage::obstacles() const {
  if (world_->triangles != nullptr) return world_->triangles->world();
  return world_->bullet;
}

void Stage::moveTo(double time) const {
  std::vector<RigidMotion> motions;
  for (std::size_t i = 0; i < level_.platforms.size(); ++i) {
    const ReferenceFrame start = level_.platforms[i].at(0, 1);
    ReferenceFrame now = level_.platforms[i].at(time, 1);
    now = frameOf(level_, static_cast<int>(i), time, now.origin);
    motions.push_back({now.velocity, now.yawRate * Eigen::Vector3d::UnitY(), now.origin});
    const Rotation turn = now.rotation * start.rotation.conjugate();
    const Eigen::Translation3d shift(now.origin - turn * start.origin);
    if (world_->triangles != nullptr) world_->triangles->place(i, Eigen::Affine3d(shift * turn), motions.back());
  }
  for (std::size_t i = 0; i < level_.objects.size(); ++i) {
    const int platform = level_.objects[i].platform;
    if (platform < 0) continue;
    const io::MovingPlatform& moves = level_.platforms[static_cast<std::size_t>(platform)];
    const ReferenceFrame now = moves.at(time, 1), start = moves.at(0, 1);
    const Rotation turn = now.rotation * start.rotation.conjugate();
    const Eigen::Vector3d shift = now.origin - turn * start.origin;
    btCollisionObject& object = *world_->objects[i];
    object.setWorldTransform(btTransform(btQuaternion(turn.x(), turn.y(), turn.z(), turn.w()), toBullet(shift)));
    const RigidMotion& motion = motions[static_cast<std::size_t>(platform)];
    object.setInterpolationLinearVelocity(toBullet(motion.velocityAt(shift)));
    object.setInterpolationAngularVelocity(toBullet(motion.spin));
    world_->world.updateSingleAabb(&object);
  }
}

std::string Stage::nameOf(ObstacleId id) const {
  return id < level_.objects.size() ? level_.objects[id].name : std::string();
}

}  // namespace alpglow::stage
