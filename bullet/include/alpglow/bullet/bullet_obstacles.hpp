#pragma once
// A Bullet world as surroundings: what is near is listed, and the core's exact shapes answer every question about it,
// so that no sweep comes late. docs/adapters.md says which of Bullet's shapes becomes what.
//
// In either build of Bullet; with the single-precision one positions have that precision, and the camera no other. Each
// collision object's user index is its obstacle id. Objects without contact response (triggers) stop nothing.
//
//   const BulletObstacles obstacles(world, [hero](const btCollisionObject& o) { return o.getUserIndex() != hero; });
//
// May be asked from many threads at once while nothing moves.

#include "alpglow/space/surroundings.hpp"

#include <atomic>
#include <functional>
#include <memory>

class btCollisionObject;
class btCollisionShape;
class btCollisionWorld;

namespace alpglow::bullet {

class ExactHulls;

class BulletObstacles final : public Surroundings {
 public:
  /// Which objects there are for the camera: leave out the subject.
  using Filter = std::function<bool(const btCollisionObject&)>;
  /// What an object stops (`Purpose`), of those that there are.
  using Stops = std::function<std::uint32_t(const btCollisionObject&)>;
  /// Hears once for each kind of shape that has no exact form here, of what it is taken for instead.
  using Warn = std::function<void(const char* shape, const char* takenFor)>;

  /// The world must outlive the obstacles; its objects' bounds must be up to date.
  explicit BulletObstacles(const btCollisionWorld& world, Filter blocks = {}, Stops stops = {});
  ~BulletObstacles() override;

  /// Of Bullet's own filters: an object counts if its group is in `mask` and its mask holds `group`. All by default.
  void filter(int group, int mask);
  void onWarning(Warn warn) { warn_ = std::move(warn); }

  void list(const Bounds& bounds, Found& found) const noexcept override;
  /// Through Bullet's trees, of the world and of each mesh.
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override;
  /// Whether an object is large is known only if `Stops` says what objects stop.
  bool anyLarge() const noexcept override { return stops_ != nullptr; }

 private:
  class Lister;
  bool counts(const btCollisionObject& object) const;
  Thing thingOf(const btCollisionObject& object) const;
  void warn(int type, const char* name) const;

  const btCollisionWorld& world_;
  Filter blocks_;
  Stops stops_;
  Warn warn_;
  int group_ = -1, mask_ = -1;
  mutable std::atomic<std::uint64_t> warned_{0};  // a bit for each kind of shape
  const std::unique_ptr<const ExactHulls> exactHulls_;
};

}  // namespace alpglow::bullet
