// Adapters that are right about what is near and usual, and wrong about the rest: each is refused, with its cause.

#include "alpglow/conformance/gtest.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/space/triangle_mesh.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <utility>

namespace alpglow::conformance {
namespace {

using Eigen::Vector3d;

const Yard truth(true);

/// The yard, and one thing that the camera keeps out of.
class WithLarge final : public Surroundings {
 public:
  void list(const Bounds& bounds, Found& found) const noexcept override {
    truth.list(bounds, found);
    found.add(Box{{0, 3, 7}, Eigen::Matrix3d::Identity(), {1, 1, 1}}, {40, Purpose::aim | Purpose::large});
  }
};
const WithLarge withLarge;

/// A truth of which one question is answered by a function.
class Subtle final : public Obstacles {
 public:
  explicit Subtle(const Surroundings& right) : right_(right) {}
  std::function<Contact(const Sweep&)> swept = [this](const Sweep& s) { return right(s); };
  std::function<Contact(const Sweep&, Purpose::Bit)> ray = [this](const Sweep& s, Purpose::Bit purpose) {
    return right_.cast(s.from, s.displacement, purpose);
  };
  std::function<Contact(const Sweep&)> later = [this](const Sweep& s) { return right(s); };
  std::function<Contact(const Sweep&)> large = [this](const Sweep& s) {
    return right_.sweepLarge(s.from, s.displacement, s.radius);
  };
  std::function<bool()> nothing = [] { return false; };
  bool marksLarge = true;

  Contact right(const Sweep& s) const { return right_.sweep(s.from, s.displacement, s.radius); }
  Contact sweep(const Vector3d& from, const Vector3d& by, double radius) const noexcept override {
    return swept({from, by, radius});
  }
  Contact cast(const Vector3d& from, const Vector3d& by, Purpose::Bit purpose) const noexcept override {
    return ray({from, by, 0}, purpose);
  }
  double clearance(const Vector3d& point, double range) const noexcept override {
    return right_.clearance(point, range);
  }
  Contact sweepLater(const Vector3d& from, const Vector3d& by, double radius,
                     const MomentAhead&) const noexcept override {
    return later({from, by, radius});
  }
  Contact sweepLarge(const Vector3d& from, const Vector3d& by, double radius) const noexcept override {
    return large({from, by, radius});
  }
  bool anyLarge() const noexcept override { return marksLarge; }
  bool nothingNear() const noexcept override { return nothing(); }

 private:
  const Surroundings& right_;
};

Contact free(const Sweep& s) { return {s.displacement.norm()}; }
Contact bent(Contact contact, const std::function<void(Contact&)>& how) {
  if (contact.hit()) how(contact);
  return contact;
}

struct Wrong {
  const char* name;
  std::function<void(Subtle&)> bend;
  const char* cause;  // or what is wrong, where that says it
};

const Wrong wrongs[] = {
    {"rays of 20 m",
     [](Subtle& s) {
       s.ray = [](const Sweep& a, Purpose::Bit p) {
         const Contact c = truth.cast(a.from, a.displacement, p);
         return c.distance > 20 ? free(a) : c;
       };
     },
     "rays see nothing beyond about"},
    {"aims through all",
     [](Subtle& s) {
       s.ray = [](const Sweep& a, Purpose::Bit p) {
         return p == Purpose::aim ? free(a) : truth.cast(a.from, a.displacement, p);
       };
     },
     "rays see nothing beyond about 0.00 m"},
    {"small spheres are rays",
     [](Subtle& s) {
       s.swept = [&s](const Sweep& a) {
         return a.radius < 0.05 ? truth.cast(a.from, a.displacement, Purpose::camera) : s.right(a);
       };
     },
     "cm are answered as rays"},
    {"never later", [](Subtle& s) { s.later = free; }, "it is never stopped: what is at rest will be there as well"},
    {"always empty", [](Subtle& s) { s.nothing = [] { return true; }; },
     "it speaks of the bounds that were gathered last, and of nothing else"},
    {"one id",
     [](Subtle& s) { s.swept = [&s](const Sweep& a) { return bent(s.right(a), [](Contact& c) { c.obstacle = 7; }); }; },
     "one id for everything"},
    {"normals against the way",
     [](Subtle& s) {
       s.swept = [&s](const Sweep& a) {
         return bent(s.right(a), [&a](Contact& c) { c.normal = -a.displacement.normalized(); });
       };
     },
     "it looks against the way"},
    {"normals along an edge",
     [](Subtle& s) {
       s.swept = [&s](const Sweep& a) {
         return bent(s.right(a), [](Contact& c) { c.normal = c.normal.unitOrthogonal(); });
       };
     },
     "a normal that is not the surface's"},
    {"goes on from deep inside",
     [](Subtle& s) {
       s.swept = [&s](const Sweep& a) {
         return truth.clearance(a.from, a.radius) < 0.7 * a.radius ? free(a) : s.right(a);
       };
     },
     "goes on from deep inside"},
    {"beyond the end",
     [](Subtle& s) {
       s.swept = [&s](const Sweep& a) {
         Sweep longer = a;
         longer.displacement *= 1 + 0.3 / a.displacement.norm();
         Contact c = s.right(longer);
         c.distance = std::min(c.distance, a.displacement.norm());
         return c;
       };
     },
     "a hit beyond the end"},
    {"ways of 5 m",
     [](Subtle& s) {
       s.swept = [&s](const Sweep& a) {
         const Contact c = s.right(a);
         return c.distance > 5 ? free(a) : c;
       };
     },
     "sweeps end after about"},
    {"short ways",
     [](Subtle& s) { s.swept = [&s](const Sweep& a) { return a.displacement.norm() < 0.1 ? free(a) : s.right(a); }; },
     "cm are not asked"},
    {"a post is left out",
     [](Subtle& s) {
       s.swept = [&s](const Sweep& a) {
         const Contact c = s.right(a);
         return c.hit() && c.obstacle == 4 ? free(a) : c;
       };
     },
     "thing 4 of the truth is not there"},
};

TEST(Conformance, RefusesWhatIsWrongOnlyAtTimes) {
  for (const Wrong& wrong : wrongs) {
    Subtle subtle(truth);
    wrong.bend(subtle);
    const Findings findings = prove(subtle, truth, Yard::bounds());
    ASSERT_FALSE(findings.good()) << wrong.name;
    const bool found = std::any_of(findings.all.begin(), findings.all.end(), [&](const Finding& f) {
      return f.cause.find(wrong.cause) != std::string::npos || f.what == wrong.cause;
    });
    EXPECT_TRUE(found) << wrong.name << ":\n" << findings.text();
  }
}

TEST(Conformance, AsksForWhatIsLarge) {
  Subtle right(withLarge), never(withLarge), silent(withLarge);
  ALPGLOW_EXPECT_CONFORMS(right, withLarge, Yard::bounds());
  never.large = free;
  silent.marksLarge = false;
  for (const Subtle* wrong : {&never, &silent}) {
    const Findings findings = prove(*wrong, withLarge, Yard::bounds());
    ASSERT_FALSE(findings.good());
    EXPECT_EQ(findings.all[0].question, Question::sweepLarge) << findings.text();
  }
}

TEST(Conformance, PassesTheYardOfAllShapesAlsoFarAway) {
  ALPGLOW_EXPECT_CONFORMS(truth, truth, Yard::bounds());
  const Neighbourhood near(truth);
  ALPGLOW_EXPECT_CONFORMS(static_cast<const Obstacles&>(near), truth, Yard::bounds());
  const Yard away(true, {2e5, 40, -3e5});
  ALPGLOW_EXPECT_CONFORMS(away, away, away.around());
  Subtle floats(away);  // as an engine that turns questions into floats without moving its origin
  const auto rounded = [](const Sweep& s) {
    return Sweep{s.from.cast<float>().cast<double>(), s.displacement, s.radius};
  };
  floats.swept = [&](const Sweep& s) { return floats.right(rounded(s)); };
  EXPECT_FALSE(prove(floats, away, away.around()).good());
}

}  // namespace
}  // namespace alpglow::conformance
