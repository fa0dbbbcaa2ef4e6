#pragma once
// What the host listed near the head for this frame, and every question of the frame answered from it.
//
//   Neighbourhood near(rooms);                       // one per thread and camera; refers to `rooms`
//   View view = camera.update(dt, subject, near, aspect);
//
// The world is listed once a frame, by `gather`. A question within the bounds of that list asks a small tree of its
// bounds, four at a time, and what it reaches exactly, the nearest first. What reaches beyond, as aim rays do, is asked
// here as far as the list goes and of the world from there on. All memory is taken when this is made: 0.7 MB as it
// comes.

#include "alpglow/space/boxes_of_four.hpp"
#include "alpglow/space/first_contact.hpp"
#include "alpglow/space/surroundings.hpp"

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

namespace alpglow {

class Neighbourhood final : public Obstacles {
 public:
  /// Room for so many shapes, and for `planesEach` planes of hulls for each.
  explicit Neighbourhood(const Surroundings& world, std::size_t most = 2048, std::size_t planesEach = 4);
  /// It stays where it is, as what is listed refers to its memory; and so does an object that owns it together with its
  /// world, to which it refers. Behind a pointer both may go anywhere.
  Neighbourhood(const Neighbourhood&) = delete;
  Neighbourhood& operator=(const Neighbourhood&) = delete;

  void gather(const Bounds& bounds) const noexcept override { listAnew(bounds); }
  Contact sweep(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                double radius) const noexcept override {
    return swept(from, displacement, radius, Purpose::camera);
  }
  Contact cast(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
               Purpose::Bit purpose) const noexcept override {
    return ray(from, displacement, purpose);
  }
  double clearance(const Eigen::Vector3d& point, double range) const noexcept override { return room(point, range); }
  Contact sweepLater(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                     const MomentAhead& later) const noexcept override {
    return sweptLater(from, displacement, radius, later);
  }
  bool moves(const RigidMotion& from) const noexcept override { return anyMoves(from); }
  Contact sweepLarge(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement,
                     double radius) const noexcept override {
    return swept(from, displacement, radius, Purpose::large);
  }
  bool anyLarge() const noexcept override { return world_.anyLarge(); }
  bool overflowed() const noexcept override {
    return list_.open && list_.overflowed && list_.most == list_.entries.size();
  }
  bool nothingNear() const noexcept override {
    return list_.open && list_.count == 0 && !list_.overflowed && !list_.cutShort;
  }

  /// Whether the last list had room for everything, and was worth it (`mostWorthListing`). Where not, each question
  /// goes to the world itself.
  bool complete() const { return !list_.overflowed; }
  /// How many shapes were listed, and the bounds of the list.
  std::size_t size() const { return list_.count; }
  const Bounds& bounds() const { return list_.bounds; }

 private:
  enum class Kind : std::uint8_t { triangle, keptTriangle, capsule, box, cylinder, halfSpace, hull, convex };
  template <class Shape>
  static constexpr Kind kindOf();
  static constexpr std::size_t mostMotions = 32;
  static constexpr std::uint8_t atRest = mostMotions;
  struct Entry {
    Kind kind = Kind::triangle;
    std::uint8_t motion = atRest;  // which of `moving`, or none
    std::uint32_t stops = 0;
    ObstacleId id = unnamedObstacle;
    alignas(
        Convex) std::array<std::byte, std::max({sizeof(Triangle), sizeof(Box), sizeof(Hull), sizeof(Convex)})> shape;
  };
  /// What moves as one and has one id, of however many shapes it is made.
  struct Moving {
    RigidMotion motion;
    ObstacleId id;
    Bounds around;
  };
  static constexpr std::size_t levels = 12;
  static constexpr std::size_t fewRoots = 16;  // fours that each question asks, without a level above
  static constexpr std::size_t foursFor(std::size_t count) { return (count + 3) / 4; }
  struct Reached {
    float at;
    std::uint32_t which;
  };
  struct List {
    std::vector<Entry> entries;
    // Boxes from the middle of the bounds: of four entries each, of four of those, and so on, until few are left.
    std::array<std::vector<BoxesOfFour>, levels> boxes;
    std::size_t top = 0;
    std::uint32_t roots = 0;
    Eigen::Vector3d middle = Eigen::Vector3d::Zero();
    std::vector<Plane> planes;
    Bounds bounds;
    std::array<Moving, mostMotions> moving;  // of what moves otherwise than these it is not known
    std::size_t most = 0, count = 0, planeCount = 0, movingCount = 0;
    bool open = false;  // for questions
    bool overflowed = false, cutShort = false;
    std::uint32_t stops = 0;  // of all entries
  };

  void listAnew(const Bounds& bounds) const noexcept;
  void stackFours() const;
  Contact swept(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                Purpose::Bit purpose) const noexcept;
  Contact sweptLater(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, double radius,
                     const MomentAhead& later) const noexcept;
  bool anyMoves(const RigidMotion& from) const noexcept;
  Contact ray(const Eigen::Vector3d& from, const Eigen::Vector3d& displacement, Purpose::Bit purpose) const noexcept;
  double room(const Eigen::Vector3d& point, double range) const noexcept;

  bool another(Kind kind, const Thing& thing, std::size_t& which) const;
  template <class Shape>
  void enter(const Shape& shape, const Thing& thing, bool moves) const;
  void enterStill(Span<const Triangle> triangles, const Thing& thing) const;
  void enterKept(const Kept& kept) const;
  bool answers(const Bounds& question) const { return list_.open && !list_.overflowed && list_.bounds.holds(question); }
  template <class Visit>
  static void visit(const Entry& entry, Visit&& visit);
  template <class Ask, class Visit>
  void forEachNear(const double& limit, Ask&& ask, std::uint32_t purpose, Visit&& visit) const;
  template <class Row, class Ask, class GoesOn>
  void forEachBelow(Row& row, Ask& ask, GoesOn& goesOn) const;
  template <class Visit>
  void forEachOnWay(const FirstContact& way, double radius, std::uint32_t purpose, Visit&& visit) const;
  template <class Wanted>
  Contact firstOf(FirstContact& first, double radius, std::uint32_t purpose, Wanted&& wanted) const;
  Contact first(FirstContact& first, double radius, std::uint32_t purpose) const;
  std::uint8_t motionOf(const Thing& thing, const Bounds& bounds) const;
  Span<const Moving> moving() const { return {list_.moving.data(), list_.movingCount}; }

  const Surroundings& world_;
  mutable List list_;
};

}  // namespace alpglow
