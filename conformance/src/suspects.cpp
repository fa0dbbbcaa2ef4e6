#include "suspects.hpp"

#include <algorithm>
#include <cmath>

namespace alpglow::conformance {

using Eigen::Vector3d;

Contact ask(const Obstacles& world, Question question, const Sweep& s) {
  switch (question) {
    case Question::sweep: return world.sweep(s.from, s.displacement, s.radius);
    case Question::cast: return world.cast(s.from, s.displacement, Purpose::camera);
    case Question::clearance: return {world.clearance(s.from, s.radius), unnamedObstacle};
    case Question::sweepLater: return world.sweepLater(s.from, s.displacement, s.radius, {});
    case Question::sweepLarge: return world.sweepLarge(s.from, s.displacement, s.radius);
    case Question::nothingNear: return {world.nothingNear() ? 1.0 : 0.0};
  }
  return {};
}

std::vector<Suspect> suspects(const Surroundings& truth) {
  const auto ray = [&truth](const Asked& a) {
    const Contact c = truth.cast(a.asked.from, a.asked.displacement, Purpose::camera);
    return c.hit() ? c.distance : nothing;
  };
  const auto through = [&truth](const Asked& a, const std::function<Vector3d(const Vector3d&)>& axes) {
    const Sweep other{axes(a.asked.from), axes(a.asked.displacement), a.asked.radius};
    const Contact c = ask(truth, a.question, other);
    return a.question == Question::clearance || c.hit() ? c.distance : nothing;
  };
  const auto scaled = [&truth](const Asked& a, double by) {
    const Contact c = ask(truth, a.question, a.asked);
    return a.question == Question::clearance || c.hit() ? by * c.distance : nothing;
  };
  return {
      {"answers look like centimetres", [=](const Asked& a) { return scaled(a, 100); }},
      {"answers look like feet", [=](const Asked& a) { return scaled(a, 1 / 0.3048); }},
      {"a fraction of the way, not a distance",
       [=](const Asked& a) { return a.question == Question::clearance ? silent : scaled(a, 1 / a.length()); }},
      {"a squared distance",
       [=](const Asked& a) { return a.question == Question::clearance ? a.truth * a.truth : silent; }},
      {"a ray along the centre, not a sweep",
       [=](const Asked& a) { return a.question == Question::sweep ? ray(a) : silent; }},
      {"a ray along the centre less the radius, not a sweep",
       [=](const Asked& a) { return a.question == Question::sweep ? std::max(ray(a) - a.asked.radius, 0.0) : silent; }},
      {"the way of the sphere's surface, not of its centre: the radius is added",
       [=](const Asked& a) { return a.question == Question::sweep && a.hit ? a.truth + a.asked.radius : silent; }},
      {"the radius is taken for the diameter",
       [&truth](const Asked& a) {
         if (a.question != Question::sweep) return silent;
         const Contact c = truth.sweep(a.asked.from, a.asked.displacement, a.asked.radius / 2);
         return c.hit() ? c.distance : nothing;
       }},
      {"axes: y and z look exchanged",
       [=](const Asked& a) { return through(a, [](const Vector3d& v) { return Vector3d(v.x(), v.z(), v.y()); }); }},
      {"axes: up looks like z (x, −z, y)",
       [=](const Asked& a) { return through(a, [](const Vector3d& v) { return Vector3d(v.x(), -v.z(), v.y()); }); }},
      {"axes: z looks mirrored",
       [=](const Asked& a) { return through(a, [](const Vector3d& v) { return Vector3d(v.x(), v.y(), -v.z()); }); }},
      {"always 0: does the subject itself stand in the way?", [](const Asked&) { return 0.0; }},
      {neverHits, [](const Asked& a) { return a.question == Question::clearance ? a.asked.radius : nothing; }},
      {"the displacement's length is ignored: it looks on beyond the end",
       [&truth](const Asked& a) {
         if (a.question == Question::clearance) return silent;
         const Sweep longer{a.asked.from, a.asked.displacement * (1000 / a.length()), a.asked.radius};
         const Contact c = ask(truth, a.question, longer);
         return c.hit() ? c.distance : nothing;
       }},
      {"the displacement looks taken for the end point",
       [&truth](const Asked& a) {
         if (a.question == Question::clearance) return silent;
         const Contact c = ask(truth, a.question, {a.asked.from, a.asked.displacement - a.asked.from, a.asked.radius});
         return c.hit() ? c.distance : nothing;
       }},
      {"a margin of the shapes is left out (4 cm is common)",
       [](const Asked& a) { return a.question != Question::clearance && a.hit ? a.truth + 0.04 : silent; }},
  };
}

}  // namespace alpglow::conformance
