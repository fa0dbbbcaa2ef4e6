#include "alpglow/space/triangle_mesh.hpp"

#include "way.hpp"

#include "alpglow/space/first_contact.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <array>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr double never = Way::never;
constexpr int bins = 16;
constexpr int deepestByCost = 48;  // … and below that in halves, so that no tree is deeper than the stack
constexpr std::size_t deepest = 96;

double halfSurface(const Bounds& b) {
  if (b.empty()) return 0;
  const Vector3d edge = b.high - b.low;
  return edge.x() * edge.y() + edge.y() * edge.z() + edge.z() * edge.x();
}

float roundedDown(double x) { return std::nextafter(static_cast<float>(x), -std::numeric_limits<float>::infinity()); }
float roundedUp(double x) { return std::nextafter(static_cast<float>(x), std::numeric_limits<float>::infinity()); }

double distanceTo(const float* low, const float* high, const Vector3d& point) {
  double square = 0;
  for (int axis = 0; axis < 3; ++axis) {
    const double beside =
        std::max({static_cast<double>(low[axis]) - point[axis], point[axis] - static_cast<double>(high[axis]), 0.0});
    square += beside * beside;
  }
  return std::sqrt(square);
}

/// A place to cut a range of triangles in two, and what asking both parts would cost.
struct Cut {
  int axis = -1;
  double at = 0, cost = never;
};

Cut bestCut(const Bounds* each, const std::uint32_t* begin, const std::uint32_t* end) {
  Bounds centres;
  for (const std::uint32_t* i = begin; i != end; ++i) centres = centres.with(each[*i].centre());
  Cut best;
  for (int axis = 0; axis < 3; ++axis) {
    const double low = centres.low[axis], width = centres.high[axis] - low;
    if (!(width > 0)) continue;
    std::array<Bounds, bins> bounds;
    std::array<int, bins> counts{};
    for (const std::uint32_t* i = begin; i != end; ++i) {
      const int bin = std::min(static_cast<int>((each[*i].centre()[axis] - low) / width * bins), bins - 1);
      bounds[static_cast<std::size_t>(bin)] = bounds[static_cast<std::size_t>(bin)].with(each[*i]);
      ++counts[static_cast<std::size_t>(bin)];
    }
    std::array<double, bins> after{};
    Bounds sum;
    int count = 0;
    for (std::size_t bin = bins - 1; bin > 0; --bin) {
      sum = sum.with(bounds[bin]);
      count += counts[bin];
      after[bin] = halfSurface(sum) * count;
    }
    sum = Bounds();
    count = 0;
    for (std::size_t bin = 0; bin + 1 < bins; ++bin) {
      sum = sum.with(bounds[bin]);
      count += counts[bin];
      const double cost = halfSurface(sum) * count + after[bin + 1];
      if (count > 0 && count < end - begin && cost < best.cost)
        best = {axis, low + width * static_cast<double>(bin + 1) / bins, cost};
    }
  }
  return best;
}

}  // namespace

TriangleMesh::TriangleMesh(Span<const Triangle> triangles, Span<const Thing> things, Sides sides) : sides_(sides) {
  std::vector<std::uint32_t> order;
  std::vector<Bounds> each;
  for (const Triangle& t : triangles) {
    each.push_back(boundsOf(t));
    if (!(t.a + t.b + t.c).allFinite()) continue;
    order.push_back(static_cast<std::uint32_t>(each.size() - 1));
    bounds_ = bounds_.with(each.back());
  }
  if (order.empty()) return;
  middle_ = bounds_.centre();
  nodes_.reserve(order.size());
  root_ = build({0, order.size()}, 0, order, each.data());
  triangles_.reserve(order.size());
  for (const std::uint32_t i : order) {
    triangles_.push_back(triangles[i]);
    if (things.size() > 1) things_.push_back(things[i]);
  }
  if (things.size() == 1) things_.push_back(things[0]);
  if (things.empty()) things_.push_back(Thing());
}

std::int32_t TriangleMesh::build(Range range, int depth, std::vector<std::uint32_t>& order, const Bounds* each) {
  const auto [begin, end] = range;
  if (end - begin <= mostInLeaf) return -1 - static_cast<std::int32_t>(8 * begin + (end - begin));
  std::uint32_t* const first = order.data() + begin;
  std::uint32_t* const last = order.data() + end;
  const Cut cut = depth < deepestByCost ? bestCut(each, first, last) : Cut();
  std::uint32_t* middle = first + (end - begin) / 2;
  if (cut.axis >= 0) {
    std::uint32_t* const parted =
        std::partition(first, last, [&](std::uint32_t i) { return each[i].centre()[cut.axis] < cut.at; });
    if (parted != first && parted != last) middle = parted;
  }
  const auto index = nodes_.size();
  nodes_.emplace_back();
  const std::size_t at = begin + static_cast<std::size_t>(middle - first);
  const Range parts[] = {{begin, at}, {at, end}};
  for (int side = 0; side < 2; ++side) {
    const std::int32_t child = build(parts[side], depth + 1, order, each);
    Bounds bounds;
    for (std::size_t i = parts[side].begin; i < parts[side].end; ++i) bounds = bounds.with(each[order[i]]);
    Node& node = nodes_[index];
    node.child[side] = child;
    for (int axis = 0; axis < 3; ++axis) {
      node.low[side][axis] = roundedDown(bounds.low[axis] - middle_[axis]);
      node.high[side][axis] = roundedUp(bounds.high[axis] - middle_[axis]);
    }
  }
  return static_cast<std::int32_t>(index);
}

/// Depth first, the side that `enter` finds nearer before the other; what it finds at `never` is left out, and what it
/// found farther than `limit` has become meanwhile. `leaf` gets each triangle's index.
template <class Enter, class Leaf>
void TriangleMesh::walk(const double& limit, Enter&& enter, Leaf&& leaf) const {
  struct Later {
    double at;
    std::int32_t node;
  };
  if (triangles_.empty()) return;
  std::array<Later, deepest> later;
  std::size_t waiting = 0;
  std::int32_t now = root_;
  for (;;) {
    while (now >= 0) {
      const Node& node = nodes_[static_cast<std::size_t>(now)];
      const double a = enter(node.low[0], node.high[0]), b = enter(node.low[1], node.high[1]);
      if (a == never && b == never) break;
      const int near = b < a ? 1 : 0;
      if (std::max(a, b) < never) later[waiting++] = {std::max(a, b), node.child[1 - near]};
      now = node.child[near];
    }
    if (now < 0) {
      const auto code = static_cast<std::size_t>(-1 - now);
      for (std::size_t i = code / 8; i < code / 8 + code % 8; ++i) leaf(i);
    }
    do {
      if (waiting == 0) return;
      --waiting;
    } while (later[waiting].at > limit);
    now = later[waiting].node;
  }
}

void TriangleMesh::listNear(const Bounds& bounds, Found& found) const noexcept {
  const Bounds local = bounds.moved(-middle_);
  walk(
      never,
      [&local](const float* low, const float* high) {
        for (int axis = 0; axis < 3; ++axis) {
          if (static_cast<double>(low[axis]) > local.high[axis] || static_cast<double>(high[axis]) < local.low[axis])
            return never;
        }
        return 0.0;
      },
      [&](std::size_t i) {
        if (bounds.touches(boundsOf(triangles_[i]))) found.add(triangles_[i], thingOf(i));
      });
}

Contact TriangleMesh::first(const Vector3d& from, const Vector3d& displacement, double radius,
                            std::uint32_t purpose) const noexcept {
  FirstContact first(from, displacement, radius, purpose);
  if (!first.moves()) return first.contact();
  const Way way(from - middle_, first.direction(), radius);
  walk(
      first.distance(), [&](const float* low, const float* high) { return way.enters(low, high, first.distance()); },
      [&](std::size_t i) { first(triangles_[i], thingOf(i)); });
  return first.contact();
}

double TriangleMesh::room(const Vector3d& point, double range) const noexcept {
  double nearest = range;
  if (!point.allFinite() || !std::isfinite(range)) return nearest;
  const Vector3d local = point - middle_;
  walk(
      nearest,
      [&](const float* low, const float* high) {
        const double distance = distanceTo(low, high, local);
        return distance <= nearest ? distance : never;
      },
      [&](std::size_t i) {
        if ((thingOf(i).stops & Purpose::camera) != 0)
          nearest = std::min(nearest, nearestTo(triangles_[i], point).distance);
      });
  return encloses(point) ? 0 : nearest;
}

/// From inside more backs are passed than fronts, also where solids overlap. Where a ray meets an edge that may be
/// wrong, so two rays have to agree, or a third one decides.
bool TriangleMesh::encloses(const Vector3d& point) const noexcept {
  if (sides_ == Sides::open || !bounds_.holds(point)) return false;
  const Vector3d rays[] = {{0.36, 0.8, 0.48}, {-0.5639, 0.7539, -0.3371}, {0.7071, -0.6364, -0.3081}};
  const double length = 2 * (bounds_.high - bounds_.low).norm();
  int votes = 0;
  for (int i = 0; i < 3; ++i) {
    const Vector3d direction = rays[i].normalized();
    const Way way(point - middle_, direction, 0);
    int backs = 0;
    walk(
        never, [&](const float* low, const float* high) { return way.enters(low, high, length); },
        [&](std::size_t k) {
          const Triangle& t = triangles_[k];
          if (rayTriangleContact({t.a - point, t.b - point, t.c - point}, direction, length) >= length) return;
          if ((thingOf(k).stops & Purpose::camera) != 0)
            backs += (t.b - t.a).cross(t.c - t.a).dot(direction) > 0 ? 1 : -1;
        });
    votes += backs > 0 ? 1 : 0;
    if (i == 1 && votes != 1) break;
  }
  return votes >= 2;
}

}  // namespace alpglow
