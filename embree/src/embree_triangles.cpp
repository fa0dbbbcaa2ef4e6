#include "alpglow/embree/embree_triangles.hpp"

#include "alpglow/space/first_contact.hpp"

#include <embree3/rtcore.h>

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow::embree {

using Eigen::Vector3d;

namespace {

/// What travels with a ray through Embree to the triangles.
struct Asked {
  RTCIntersectContext context;  // first, so that one is known from the other
  FirstContact* first;
  double skipped;  // of the way, before Embree's ray starts
};

float roundedDown(double x) { return std::nextafter(static_cast<float>(x), -std::numeric_limits<float>::infinity()); }
float roundedUp(double x) { return std::nextafter(static_cast<float>(x), std::numeric_limits<float>::infinity()); }

}  // namespace

/// One tree for rays, and one whose boxes have room for a sphere beside them. Both are of floats from the middle of the
/// mesh, and so a little larger than what they enclose: by `slack`, metres.
struct EmbreeTriangles::Trees {
  explicit Trees(const TriangleMesh& of)
      : mesh(of),
        middle(of.bounds().centre()),
        reach((of.bounds().high - of.bounds().low).norm() / 2),
        slack(1e-3 + 1e-6 * reach) {}
  ~Trees() {
    for (const Tree& tree : trees) {
      if (tree.scene != nullptr) rtcReleaseScene(tree.scene);
    }
    if (device != nullptr) rtcReleaseDevice(device);
  }
  Trees(const Trees&) = delete;
  Trees& operator=(const Trees&) = delete;

  struct Tree {
    const Trees* of;
    double beside;
    RTCScene scene = nullptr;
  };

  bool built() {
    device = rtcNewDevice(nullptr);
    if (device == nullptr) return false;
    for (Tree& tree : trees) {
      tree.scene = rtcNewScene(device);
      rtcSetSceneBuildQuality(tree.scene, RTC_BUILD_QUALITY_HIGH);
      RTCGeometry geometry = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_USER);
      rtcSetGeometryUserPrimitiveCount(geometry, static_cast<unsigned>(mesh.size()));
      rtcSetGeometryUserData(geometry, &tree);
      rtcSetGeometryBoundsFunction(geometry, boundsOfOne, nullptr);
      rtcSetGeometryIntersectFunction(geometry, meetOne);
      rtcCommitGeometry(geometry);
      rtcAttachGeometry(tree.scene, geometry);
      rtcReleaseGeometry(geometry);
      rtcCommitScene(tree.scene);
    }
    return rtcGetDeviceError(device) == RTC_ERROR_NONE;
  }

  static void boundsOfOne(const RTCBoundsFunctionArguments* asked) {
    const Tree& tree = *static_cast<const Tree*>(asked->geometryUserPtr);
    const Bounds bounds = boundsOf(tree.of->mesh.triangle(asked->primID)).moved(-tree.of->middle).grown(tree.beside);
    RTCBounds& box = *asked->bounds_o;
    box.lower_x = roundedDown(bounds.low.x()), box.lower_y = roundedDown(bounds.low.y());
    box.lower_z = roundedDown(bounds.low.z());
    box.upper_x = roundedUp(bounds.high.x()), box.upper_y = roundedUp(bounds.high.y());
    box.upper_z = roundedUp(bounds.high.z());
  }

  static void meetOne(const RTCIntersectFunctionNArguments* asked) {
    if (asked->valid[0] == 0) return;
    const Trees& trees = *static_cast<const Tree*>(asked->geometryUserPtr)->of;
    auto& query = *reinterpret_cast<Asked*>(asked->context);
    FirstContact& first = *query.first;
    first(trees.mesh.triangle(asked->primID), trees.mesh.thing(asked->primID));
    // Whatever begins farther along the way need not be looked at any more.
    float& end = reinterpret_cast<RTCRayHit*>(asked->rayhit)->ray.tfar;
    end = std::min(end, roundedUp(first.distance() - query.skipped + trees.slack));
  }

  Contact ask(const Tree& tree, FirstContact& first) const {
    if (!first.moves()) return first.contact();
    // Embree's floats are good near the mesh: what of the way is far before it and far behind it is left out.
    const double away = (first.from() - middle).norm(), around = reach + tree.beside + 1;
    Asked query;
    query.first = &first;
    query.skipped = std::max(away - around, 0.0);
    const double end = std::min(first.distance(), away + around);
    if (query.skipped >= end) return first.contact();
    rtcInitIntersectContext(&query.context);
    const Vector3d start = first.from() + query.skipped * first.direction() - middle;
    RTCRayHit ray{};
    ray.ray.org_x = static_cast<float>(start.x()), ray.ray.org_y = static_cast<float>(start.y());
    ray.ray.org_z = static_cast<float>(start.z());
    ray.ray.dir_x = static_cast<float>(first.direction().x()),
    ray.ray.dir_y = static_cast<float>(first.direction().y());
    ray.ray.dir_z = static_cast<float>(first.direction().z());
    ray.ray.tfar = roundedUp(end - query.skipped + slack);
    ray.ray.mask = std::numeric_limits<unsigned>::max();
    ray.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    rtcIntersect1(tree.scene, &query.context, &ray);
    return first.contact();
  }

  const TriangleMesh& mesh;
  Vector3d middle;
  double reach, slack;
  Tree trees[2] = {{this, slack}, {this, slack + widest}};
  RTCDevice device = nullptr;
};

EmbreeTriangles::EmbreeTriangles(Span<const Triangle> triangles, Span<const Thing> things, TriangleMesh::Sides sides)
    : mesh_(triangles, things, sides) {
  auto trees = std::make_unique<Trees>(mesh_);
  if (mesh_.size() > 0 && trees->built()) trees_ = std::move(trees);
}

EmbreeTriangles::~EmbreeTriangles() = default;

Contact EmbreeTriangles::sweep(const Vector3d& from, const Vector3d& displacement, double radius) const noexcept {
  const bool isLong = displacement.squaredNorm() > shortWay * shortWay;
  if (trees_ == nullptr || !isLong || !(radius <= widest)) return mesh_.sweep(from, displacement, radius);
  FirstContact first(from, displacement, radius, Purpose::camera);
  return trees_->ask(trees_->trees[1], first);
}

Contact EmbreeTriangles::cast(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept {
  if (trees_ == nullptr) return mesh_.cast(from, displacement, purpose);
  FirstContact first(from, displacement, 0, purpose);
  return trees_->ask(trees_->trees[0], first);
}

}  // namespace alpglow::embree
