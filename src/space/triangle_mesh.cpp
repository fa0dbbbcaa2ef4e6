#include "alpglow/space/triangle_mesh.hpp"

#include "four_boxes.hpp"

#include "alpglow/space/first_contact.hpp"

#include <Eigen/Geometry>

#include <algorithm>
#include <array>
#include <cmath>

namespace alpglow {

using Eigen::Vector3d;

namespace {

constexpr int bins = 16;
constexpr int deepestByCost = 48;     // … and below that in halves, so that no tree is deeper than the stack
constexpr std::size_t deepest = 144;  // waiting: three at each level of two halvings
constexpr double unlimited = std::numeric_limits<double>::infinity();

double halfSurface(const Bounds& b) {
  if (b.empty()) return 0;
  const Vector3d edge = b.high - b.low;
  return edge.x() * edge.y() + edge.y() * edge.z() + edge.z() * edge.x();
}

/// A place to cut a range of triangles in two, and what asking both parts would cost.
struct Cut {
  int axis = -1;
  double at = 0, cost = unlimited;
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

/// The triangles of a leaf, as a child that is none of the nodes tells them.
struct Leaf {
  std::size_t begin, count;
  explicit Leaf(std::int32_t child)
      : begin(static_cast<std::uint32_t>(-1 - child) / 8), count(static_cast<std::uint32_t>(-1 - child) % 8) {}
  template <class Each>
  void forEach(Each&& each) const {
    for (std::size_t i = begin; i < begin + count; ++i) each(i);
  }
};

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
  boxes_.reserve(order.size());
  for (const std::uint32_t i : order) {
    triangles_.push_back(triangles[i]);
    boxes_.push_back(boxOf(each[i].moved(-middle_)));
    if (things.size() > 1) things_.push_back(things[i]);
  }
  if (things.size() == 1) things_.push_back(things[0]);
  if (things.empty()) things_.push_back(Thing());
  anyLarge_ = std::any_of(things_.begin(), things_.end(),
                          [](const Thing& thing) { return (thing.stops & Purpose::large) != 0; });
  anyMoves_ = std::any_of(things_.begin(), things_.end(), [](const Thing& thing) { return thing.motion.moves(); });
}

/// In two, and each of them in two again.
std::int32_t TriangleMesh::build(Range range, int depth, std::vector<std::uint32_t>& order, const Bounds* each) {
  if (range.end - range.begin <= mostInLeaf)
    return -1 - static_cast<std::int32_t>(8 * range.begin + (range.end - range.begin));
  const auto half = [&](Range whole) {
    std::uint32_t* const first = order.data() + whole.begin;
    std::uint32_t* const last = order.data() + whole.end;
    const Cut cut = depth < deepestByCost ? bestCut(each, first, last) : Cut();
    if (cut.axis >= 0) {
      std::uint32_t* const parted =
          std::partition(first, last, [&](std::uint32_t i) { return each[i].centre()[cut.axis] < cut.at; });
      if (parted != first && parted != last) return whole.begin + static_cast<std::size_t>(parted - first);
    }
    return (whole.begin + whole.end) / 2;
  };
  const std::size_t middle = half(range);
  std::vector<Range> parts;
  for (const Range& part : {Range{range.begin, middle}, Range{middle, range.end}}) {
    if (part.end - part.begin <= mostInLeaf) {
      parts.push_back(part);
      continue;
    }
    const std::size_t at = half(part);
    parts.push_back({part.begin, at});
    parts.push_back({at, part.end});
  }
  const auto index = nodes_.size();
  nodes_.emplace_back();
  for (std::size_t i = 0; i < parts.size(); ++i) {
    const std::int32_t child = build(parts[i], depth + 2, order, each);
    Bounds bounds;
    for (std::size_t k = parts[i].begin; k < parts[i].end; ++k) bounds = bounds.with(each[order[k]]);
    nodes_[index].child[i] = child;
    setBox(nodes_[index].boxes, i, bounds.moved(-middle_));
  }
  return static_cast<std::int32_t>(index);
}

/// Depth first, nodes that `ask` reaches sooner before the others; nodes that it does not reach, or farther than
/// `limit` has become meanwhile, is left out. `each` gets the triangles' indices.
template <class Ask, class Each>
void TriangleMesh::walk(const double& limit, Ask&& ask, Each&& each) const {
  struct Later {
    float at;
    std::int32_t node;
  };
  if (triangles_.empty()) return;
  std::array<Later, deepest> later;
  std::size_t waiting = 0;
  Later now{0, root_};
  for (;;) {
    if (now.node >= 0) {
      const Node& node = nodes_[static_cast<std::size_t>(now.node)];
      const Reach reach = ask(node.boxes);
      const std::size_t others = waiting;
      for (std::size_t i = 0; i < 4; ++i) {
        if (!reach.reaches(i)) continue;
        const float at = reach.at[static_cast<Eigen::Index>(i)];
        std::size_t place = waiting++;  // the nearest last
        for (; place > others && later[place - 1].at < at; --place) later[place] = later[place - 1];
        later[place] = {at, node.child[i]};
      }
    } else {
      Leaf(now.node).forEach(each);
    }
    do {
      if (waiting == 0) return;
      now = later[--waiting];
    } while (static_cast<double>(now.at) > limit);
  }
}

/// In any order; without branches where it is open whether a box is reached, and by how many.
void TriangleMesh::listNear(const Bounds& bounds, Found& found) const noexcept {
  if (triangles_.empty()) return;
  const Nearby nearby(bounds.moved(-middle_));
  std::array<std::int32_t, deepest + 1> later;
  std::array<std::int32_t, 36> leaves;
  std::array<std::uint32_t, mostInLeaf * leaves.size() + 1> near;
  std::size_t waiting = 0, leafCount = 0;
  const auto tell = [&] {
    std::size_t count = 0;
    std::for_each_n(leaves.begin(), leafCount, [&](std::int32_t leaf) {
      Leaf(leaf).forEach([&](std::size_t i) {
        near[count] = static_cast<std::uint32_t>(i);
        count += nearby(boxes_[i]) ? 1 : 0;
      });
    });
    leafCount = 0;
    if (count > 0) found.addKept({triangles_.data(), boxes_.data(), middle_, things_, {near.data(), count}});
  };
  if (root_ < 0) leaves[leafCount++] = root_;
  if (root_ >= 0) later[waiting++] = root_;
  while (waiting > 0) {
    const Node& node = nodes_[static_cast<std::size_t>(later[--waiting])];
    const Reach reach = nearby(node.boxes);
    for (std::size_t i = 0; i < 4; ++i) {
      const bool reached = reach.reaches(i), isLeaf = node.child[i] < 0;
      later[waiting] = node.child[i];
      waiting += reached && !isLeaf;
      leaves[leafCount] = node.child[i];
      leafCount += reached && isLeaf;
    }
    if (leafCount + 4 <= leaves.size()) continue;
    tell();
    if (found.full()) return;
  }
  tell();
}

Contact TriangleMesh::first(const Vector3d& from, const Vector3d& displacement, double radius,
                            std::uint32_t purpose) const noexcept {
  FirstContact first(from, displacement, radius, purpose);
  if (!first.moves()) return first.contact();
  const Way way(from - middle_, first.direction(), first.distance(), radius);
  walk(
      first.distance(), [&](const BoxesOfFour& boxes) { return way.enters(boxes, way.end(first.distance())); },
      [&](std::size_t i) { first(triangles_[i], thing(i)); });
  return first.contact();
}

double TriangleMesh::room(const Vector3d& point, double range) const noexcept {
  double nearest = range;
  if (!point.allFinite() || !std::isfinite(range)) return nearest;
  const Away away(point - middle_);
  const auto within = [&](const BoxesOfFour& boxes) { return away(boxes, nearest); };
  walk(nearest, within, [&](std::size_t i) {
    if ((thing(i).stops & Purpose::camera) != 0) nearest = std::min(nearest, nearestTo(triangles_[i], point).distance);
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
    const Way way(point - middle_, direction, length, 0);
    int backs = 0;
    walk(
        unlimited, [&](const BoxesOfFour& boxes) { return way.enters(boxes, way.end(length)); },
        [&](std::size_t k) {
          const Triangle& t = triangles_[k];
          if (rayTriangleContact({t.a - point, t.b - point, t.c - point}, direction, length) >= length) return;
          if ((thing(k).stops & Purpose::camera) != 0)
            backs += (t.b - t.a).cross(t.c - t.a).dot(direction) > 0 ? 1 : -1;
        });
    votes += backs > 0 ? 1 : 0;
    if (i == 1 && votes != 1) break;
  }
  return votes >= 2;
}

}  // namespace alpglow
