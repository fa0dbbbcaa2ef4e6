// The proof refuses adapters that are wrong on purpose, each with the right cause, and passes ours.

#include "alpglow/bullet/bullet_obstacles.hpp"
#include "alpglow/conformance/checked_obstacles.hpp"
#include "alpglow/conformance/gtest.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/space/triangle_mesh.hpp"

#include <btBulletCollisionCommon.h>
#include <Eigen/Geometry>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <memory>
#include <thread>

namespace alpglow::conformance {
namespace {

using Eigen::Vector3d;

const Yard truth;

/// The truth, bent by a function for each question.
class Bent final : public Obstacles {
 public:
  std::function<Contact(const Vector3d&, const Vector3d&, double)> swept =
      [](const Vector3d& a, const Vector3d& d, double r) { return truth.sweep(a, d, r); };
  std::function<Contact(const Vector3d&, const Vector3d&)> ray = [](const Vector3d& a, const Vector3d& d) {
    return truth.cast(a, d, Purpose::camera);
  };
  std::function<double(const Vector3d&, double)> room = [](const Vector3d& p, double r) {
    return truth.clearance(p, r);
  };
  std::function<void(Contact*, std::size_t)> together = [](Contact*, std::size_t) {};

  Contact sweep(const Vector3d& from, const Vector3d& displacement, double radius) const noexcept override {
    return swept(from, displacement, radius);
  }
  Contact cast(const Vector3d& from, const Vector3d& displacement, Purpose::Bit) const noexcept override {
    return ray(from, displacement);
  }
  double clearance(const Vector3d& point, double range) const noexcept override { return room(point, range); }
  void sweepAll(Span<const Sweep> sweeps, Contact* contacts) const noexcept override {
    Obstacles::sweepAll(sweeps, contacts);
    together(contacts, sweeps.size());
  }

  /// The same to sweeps and to rays.
  void bend(const std::function<Contact(const Contact&, const Vector3d& displacement, double radius)>& how) {
    swept = [how](const Vector3d& a, const Vector3d& d, double r) { return how(truth.sweep(a, d, r), d, r); };
    ray = [how](const Vector3d& a, const Vector3d& d) { return how(truth.cast(a, d, Purpose::camera), d, 0); };
  }
};

struct Wrong {
  const char* name;
  std::function<void(Bent&)> bend;
  const char* cause;  // or what is wrong, where that says it
};

const Wrong wrongs[] = {
    {"centimetres", [](Bent& b) { b.bend([](Contact c, const Vector3d&, double) { return c.distance *= 100, c; }); },
     "answers look like centimetres"},
    {"a fraction",
     [](Bent& b) { b.bend([](Contact c, const Vector3d& d, double) { return c.distance /= d.norm(), c; }); },
     "a fraction of the way, not a distance"},
    {"a ray",
     [](Bent& b) {
       b.swept = [](const Vector3d& a, const Vector3d& d, double) { return truth.cast(a, d, Purpose::camera); };
     },
     "a ray along the centre, not a sweep"},
    {"a ray less the radius",
     [](Bent& b) {
       b.swept = [](const Vector3d& a, const Vector3d& d, double r) {
         Contact c = truth.cast(a, d, Purpose::camera);
         if (c.hit()) c.distance = std::max(c.distance - r, 0.0);
         return c;
       };
     },
     "a ray along the centre less the radius, not a sweep"},
    {"z is up",
     [](Bent& b) {
       const auto turned = [](const Vector3d& v) { return Vector3d(v.x(), -v.z(), v.y()); };
       b.swept = [=](const Vector3d& a, const Vector3d& d, double r) { return truth.sweep(turned(a), turned(d), r); };
       b.ray = [=](const Vector3d& a, const Vector3d& d) { return truth.cast(turned(a), turned(d), Purpose::camera); };
       b.room = [=](const Vector3d& p, double r) { return truth.clearance(turned(p), r); };
     },
     "axes: up looks like z (x, −z, y)"},
    {"a margin",
     [](Bent& b) { b.bend([](Contact c, const Vector3d&, double) { return c.distance += c.hit() ? 0.04 : 0, c; }); },
     "a margin of the shapes is left out (4 cm is common)"},
    {"the diameter",
     [](Bent& b) { b.swept = [](const Vector3d& a, const Vector3d& d, double r) { return truth.sweep(a, d, r / 2); }; },
     "the radius is taken for the diameter"},
    {"nothing", [](Bent& b) { b.bend([](const Contact&, const Vector3d& d, double) { return Contact{d.norm()}; }); },
     "never hits anything: a filter, or a world that was not stepped"},
    {"itself", [](Bent& b) { b.bend([](const Contact&, const Vector3d&, double) {
                               return Contact{0, 1};
                             }); },
     "always 0: does the subject itself stand in the way?"},
    {"an end point",
     [](Bent& b) {
       b.ray = [](const Vector3d& a, const Vector3d& d) { return truth.cast(a, d - a, Purpose::camera); };
     },
     "the displacement looks taken for the end point"},
    {"squares",
     [](Bent& b) {
       b.room = [](const Vector3d& p, double r) {
         const double c = truth.clearance(p, r);
         return c * c;
       };
     },
     "a squared distance"},
    {"steps",
     [](Bent& b) {
       b.swept = [](const Vector3d& a, const Vector3d& d, double r) {
         for (double way = 0; way < d.norm(); way += 0.8) {
           if (truth.clearance(a + way * d.normalized(), 1) < r) return Contact{way, 1};
         }
         return Contact{d.norm()};
       };
     },
     "thin things are passed: a way taken in steps, or a shape that is not listed"},
    {"one side",
     [](Bent& b) {
       b.ray = [](const Vector3d& a, const Vector3d& d) {
         const Contact c = truth.cast(a, d, Purpose::camera);
         return c.hit() && c.normal.x() > 0.1 ? Contact{d.norm()} : c;
       };
     },
     "surfaces that are there from one side only"},
    {"stuck",
     [](Bent& b) {
       b.swept = [](const Vector3d& a, const Vector3d& d, double r) {
         return truth.clearance(a, 1) < r + 1e-5 ? Contact{0, 1} : truth.sweep(a, d, r);
       };
     },
     "a sphere that touches at its start is stopped also where it moves away"},
    {"inward", [](Bent& b) { b.bend([](Contact c, const Vector3d&, double) { return c.normal *= -1, c; }); },
     "a normal that points into the obstacle"},
    {"apart",
     [](Bent& b) {
       b.swept = [](const Vector3d& a, const Vector3d& d, double r) {
         Contact contact = truth.sweep(a, d, r);
         return contact.startsApart = true, contact;
       };
     },
     "said to start apart where it touches"},
    {"nameless",
     [](Bent& b) {
       b.bend(
           [](Contact c, const Vector3d&, double) { return c.obstacle = c.hit() ? unnamedObstacle : noObstacle, c; });
     },
     "what is answered or listed carries the default id"},
    {"backward",
     [](Bent& b) {
       b.together = [](Contact* contacts, std::size_t count) { std::reverse(contacts, contacts + count); };
     },
     "the contacts of `sweepAll` are those of the sweeps, in their order"},
};

TEST(Conformance, RefusesWhatIsWrongOnPurposeWithItsCause) {
  for (const Wrong& wrong : wrongs) {
    Bent bent;
    wrong.bend(bent);
    const Findings findings = prove(bent, truth, Yard::bounds());
    ASSERT_FALSE(findings.good()) << wrong.name;
    const bool found = std::any_of(findings.all.begin(), findings.all.end(),
                                   [&](const Finding& f) { return f.cause == wrong.cause || f.what == wrong.cause; });
    EXPECT_TRUE(found) << wrong.name << ":\n" << findings.text();
  }
}

TEST(Conformance, WhatItReportsCanBeAskedAgain) {
  Bent bent;
  wrongs[0].bend(bent);
  const Findings findings = prove(bent, truth, Yard::bounds());
  ASSERT_FALSE(findings.good());
  for (const Finding& f : findings.all) {
    if (f.question != Question::sweep || f.what != "late") continue;
    EXPECT_EQ(bent.sweep(f.worst.from, f.worst.displacement, f.worst.radius).distance, f.answer);
    EXPECT_EQ(truth.sweep(f.worst.from, f.worst.displacement, f.worst.radius).distance, f.truth);
  }
  EXPECT_NE(findings.text().find("late"), std::string::npos) << findings.text();
}

/// Writes down where it is asked, where everybody can see it. Threads that ask together surely meet: until an answer
/// was spoilt, each waits for another one to have written.
class Shared final : public Obstacles {
 public:
  Contact sweep(const Vector3d& from, const Vector3d& displacement, double radius) const noexcept override {
    return spoil(from, [&](const Vector3d& place) { return truth.sweep(place, displacement, radius); });
  }
  Contact cast(const Vector3d& from, const Vector3d& displacement, Purpose::Bit purpose) const noexcept override {
    return spoil(from, [&](const Vector3d& place) { return truth.cast(place, displacement, purpose); });
  }
  double clearance(const Vector3d& point, double range) const noexcept override {
    return spoil(point, [&](const Vector3d& place) { return Contact{truth.clearance(place, range)}; }).distance;
  }

 private:
  template <class Ask>
  Contact spoil(const Vector3d& from, const Ask& ask) const {
    for (int i = 0; i < 3; ++i) place_[i].store(from[i]);
    const auto shared = [&] { return Vector3d(place_[0].load(), place_[1].load(), place_[2].load()); };
    const bool alone = std::this_thread::get_id() == owner_;
    const auto patience = std::chrono::steady_clock::now() + std::chrono::seconds(10);
    while (!alone && !spoilt_ && shared() == from && std::chrono::steady_clock::now() < patience) {
      std::this_thread::yield();
    }
    const Contact contact = ask(shared());
    if (!alone && contact.distance != ask(from).distance) spoilt_ = true;
    return contact;
  }

  const std::thread::id owner_ = std::this_thread::get_id();
  mutable std::atomic<double> place_[3] = {0.0, 0.0, 0.0};
  mutable std::atomic<bool> spoilt_ = false;
};

TEST(Conformance, AsksFromSeveralThreads) {
  const Shared shared;
  const Findings findings = prove(shared, truth, Yard::bounds());
  ASSERT_EQ(findings.all.size(), 1u) << findings.text();
  EXPECT_EQ(findings.all[0].what, "other answers from several threads");
}

TEST(Conformance, PassesOurs) {
  std::vector<Triangle> triangles;
  std::vector<Thing> things;
  btDefaultCollisionConfiguration configuration;
  btCollisionDispatcher dispatcher(&configuration);
  btDbvtBroadphase broadphase;
  btCollisionWorld world(&dispatcher, &broadphase, &configuration);
  std::vector<std::unique_ptr<btBoxShape>> shapes;
  std::vector<std::unique_ptr<btCollisionObject>> objects;
  for (const Box& box : yard()) {
    for (int axis = 0; axis < 3; ++axis) {
      for (const double side : {-1.0, 1.0}) {
        const Vector3d out = side * box.half[axis] * box.axes.col(axis);
        const Vector3d u = box.half[(axis + 1) % 3] * box.axes.col((axis + 1) % 3),
                       v = side * box.half[(axis + 2) % 3] * box.axes.col((axis + 2) % 3);
        const Vector3d c = box.centre + out;
        triangles.push_back({c - u - v, c + u - v, c + u + v});
        triangles.push_back({c - u - v, c + u + v, c - u + v});
      }
    }
    things.resize(triangles.size(), {static_cast<ObstacleId>(objects.size())});
    shapes.push_back(std::make_unique<btBoxShape>(btVector3(box.half.x(), box.half.y(), box.half.z())));
    objects.push_back(std::make_unique<btCollisionObject>());
    objects.back()->setCollisionShape(shapes.back().get());
    objects.back()->setUserIndex(static_cast<int>(objects.size()) - 1);
    const Eigen::Quaterniond q(box.axes);
    objects.back()->setWorldTransform(btTransform(btQuaternion(q.x(), q.y(), q.z(), q.w()),
                                                  btVector3(box.centre.x(), box.centre.y(), box.centre.z())));
    world.addCollisionObject(objects.back().get());
  }
  Options exact;
  exact.late = 1e-6, exact.early = 1e-6;
  const bullet::BulletObstacles bullet(world);
  ALPGLOW_EXPECT_CONFORMS(bullet, truth, Yard::bounds(), exact);
  ALPGLOW_EXPECT_CONFORMS(TriangleMesh(triangles, things, TriangleMesh::Sides::solid), truth, Yard::bounds(), exact);
  const Neighbourhood near(bullet);
  static_cast<const Obstacles&>(near).gather(Yard::bounds().grown(8));
  ALPGLOW_EXPECT_CONFORMS(near, truth, Yard::bounds(), exact);
  for (const auto& object : objects) world.removeCollisionObject(object.get());
}

TEST(CheckedObstacles, CallsBackForWhatItsOwnAnswersContradict) {
  int late = 0, early = 0, through = 0;
  const auto report = [&](const char* what, const Sweep&, const Contact&) {
    late += std::string(what).rfind("late", 0) == 0 ? 1 : 0;
    early += std::string(what).rfind("early", 0) == 0 ? 1 : 0;
    through += std::string(what).rfind("through", 0) == 0 ? 1 : 0;
  };
  const auto play = [](const Obstacles& world) {
    for (int i = 0; i < 200; ++i) {
      const double angle = 0.1 * i;
      world.sweep({0, 1.7, 0}, {7 * std::cos(angle), -0.3, 7 * std::sin(angle)}, 0.2);
    }
  };
  play(CheckedObstacles(truth, 1, report));
  EXPECT_EQ(late + early + through, 0);
  Bent ray, soon, blind;
  wrongs[2].bend(ray);
  soon.swept = [](const Vector3d& a, const Vector3d& d, double r) {
    Contact c = truth.sweep(a, d, r);
    return c.distance *= 0.7, c;
  };
  soon.bend([](Contact c, const Vector3d&, double r) { return c.distance *= r > 0 ? 0.7 : 1, c; });
  blind.swept = [](const Vector3d&, const Vector3d& d, double) { return Contact{d.norm()}; };
  play(CheckedObstacles(ray, 1, report));
  EXPECT_GT(late, 20);
  play(CheckedObstacles(soon, 1, report));
  EXPECT_GT(early, 20);
  play(CheckedObstacles(blind, 0.5, report));
  EXPECT_GT(through, 10);
  Bent deaf;
  deaf.together = [](Contact* contacts, std::size_t count) { std::fill_n(contacts, count, Contact{7}); };
  through = 0;
  const Sweep west{{0, 1.7, 0}, {-7, 0, 0}, 0.2}, sweeps[]{west, {{0, 1.7, 0}, {7, 0, 0}, 0.2}};
  Contact contacts[2];
  CheckedObstacles(deaf, 1, report).sweepAll(sweeps, contacts);
  EXPECT_GT(through, 0);
}

}  // namespace
}  // namespace alpglow::conformance
