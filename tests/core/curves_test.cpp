// Numbers of framings that are curves.

#include "alpglow/base/curve.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/design/settings.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

using Eigen::Vector3d;
using testing::wardenAt;

TEST(Curve, GoesThroughItsPointsWithoutBumpsOrJumps) {
  testing::Random random(5);
  for (int i = 0; i < 200; ++i) {
    std::vector<CurvePoint> points;
    double x = random.between(-2, 2);
    for (int k = random.whole(2, 8); k > 0; --k)
      points.push_back({x, random.between(-3, 3)}), x += random.between(0.1, 1);
    const Curve curve(Span<const CurvePoint>(points.data(), points.size()));
    for (const CurvePoint& point : points) ASSERT_NEAR(curve.at(point.x), point.y, 1e-12);
    for (std::size_t k = 0; k + 1 < points.size(); ++k) {
      double before = points[k].y;
      for (int step = 1; step <= 100; ++step) {
        const double at = points[k].x + step / 100.0 * (points[k + 1].x - points[k].x), value = curve.at(at);
        ASSERT_GE((value - before) * (points[k + 1].y - points[k].y), -1e-12) << "monotone in between";
        before = value;
      }
      const double h = 1e-8, left = (curve.at(points[k].x) - curve.at(points[k].x - h)) / h,
                   right = (curve.at(points[k].x + h) - curve.at(points[k].x)) / h;
      ASSERT_NEAR(left, right, 1e-3) << "one tangent";
    }
    ASSERT_EQ(curve.at(-100), points.front().y);
    ASSERT_EQ(curve.at(100), points.back().y);
  }
  EXPECT_EQ(Curve().at(3), 0);
  EXPECT_EQ(Curve({{0, 1}, {0, 2}, {-1, 3}, {1, std::nan("")}, {2, 5}}).points().size(), 2u) << "what is no step ahead";
  EXPECT_EQ((Curve({{0, 1}, {1, 2}}).at(std::nan(""))), 1);
}

CameraDesign bentBy(const FramingCurve& curve) {
  CameraDesign design;
  design.framings[0].framing.distance = 3.2;
  design.framings[0].framing.distanceRange = {1, 8};
  design.framings[0].curves = {curve};
  return design;
}

View looking(CharacterCamera& camera, double pitch, const Vector3d& velocity = {0, 0, 0}, double seconds = 10) {
  camera.setPose({{}, pitch, {}});
  View view = camera.update(0.0, wardenAt({0, 0, 0}, 0, velocity), NoObstacles(), testing::wide);
  if (seconds > 0) view = camera.update(seconds, wardenAt({0, 0, 0}, 0, velocity), NoObstacles(), testing::wide);
  return view;
}

const Curve orbit({{degrees(-60), 5.0}, {0, 3.2}, {degrees(50), 1.6}});

TEST(FramingCurves, TheOrbitWidensAsOneLooksDownAndTheZoomComesOnTop) {
  const CompiledDesign design(bentBy({Curved::distance, CurveOver::pitch, "", orbit}));
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  EXPECT_NEAR(looking(camera, 0).distance, 3.2, 1e-9);
  EXPECT_NEAR(looking(camera, degrees(-60)).distance, 5, 1e-9);
  EXPECT_NEAR(looking(camera, degrees(50)).distance, 1.6, 1e-9);
  EXPECT_NEAR(looking(camera, degrees(-30)).distance, 0.5 * (std::exp(std::log1p(orbit.at(degrees(-30)) / 0.5)) - 1),
              1e-9);
  camera.setPose({{}, 0.0, 2.0});
  const View closer = looking(camera, 0);
  EXPECT_NEAR(closer.distance, 2, 1e-9) << "what the player chooses";
  const View below = looking(camera, degrees(-60));
  EXPECT_NEAR((below.distance + 0.5) / 2.5, 5.5 / 3.7, 1e-9) << "in the same proportion, from half a metre";
}

TEST(FramingCurves, EachNumberIsItsCurve) {
  struct Case {
    Curved what;
    double low, high;
  };
  for (const Case& each :
       {Case{Curved::anchorHeight, 0.4, 1.2}, Case{Curved::anchorRise, 0.1, 0.9}, Case{Curved::shoulder, 0.2, 0.8},
        Case{Curved::tilt, 0, 0.3}, Case{Curved::fieldOfView, degrees(60), degrees(80)}}) {
    const Curve curve({{0, each.low}, {1, each.high}});
    CameraDesign plain = bentBy({each.what, CurveOver::number, "fear", curve});
    const CompiledDesign bent(plain);
    plain.framings[0].curves.clear();
    const Setting<Framing>& setting = settingOf(each.what);
    setting.set(plain.framings[0].framing, each.high);
    const CompiledDesign straight(plain);
    CharacterCamera one(bent, wardenAt({0, 0, 0})), other(straight, wardenAt({0, 0, 0}));
    one.setNumber(bent.number("fear"), 1);
    const View a = looking(one, -0.2), b = looking(other, -0.2);
    EXPECT_LT((a.position - b.position).norm(), 1e-9) << setting.key;
    EXPECT_NEAR(a.fieldOfView, b.fieldOfView, 1e-12) << setting.key;
  }
}

TEST(FramingCurves, ComeOnTopOfTheFieldOfViewThatThePlayerPrefers) {
  const auto half = [](double fieldOfView) { return std::tan(fieldOfView / 2); };
  CameraDesign plain =
      bentBy({Curved::fieldOfView, CurveOver::number, "fear", Curve({{0, degrees(50)}, {1, degrees(80)}})});
  NamedFraming aim = plain.framings[0];
  aim.name = "aim", aim.when = "aiming", aim.framing.transition = 0;
  aim.curves[0].curve = Curve({{0, degrees(30)}, {1, degrees(40)}});
  plain.framings.push_back(aim);
  Preferences preferences;
  for (const double preferred : {0.0, degrees(90)}) {
    preferences.fieldOfView = preferred;
    const CompiledDesign design(plain, preferences);
    CharacterCamera camera(design, wardenAt({0, 0, 0}));
    const double wider = preferred == 0 ? 1 : half(preferred) / half(degrees(50));
    EXPECT_NEAR(half(looking(camera, 0).fieldOfView), wider * half(degrees(50)), 1e-9) << "the curve at 0";
    camera.setNumber(0, 1);
    EXPECT_NEAR(half(looking(camera, 0).fieldOfView), wider * half(degrees(80)), 1e-9);
    camera.setCondition(Condition::aiming, true);
    EXPECT_NEAR(half(looking(camera, 0).fieldOfView), wider * half(degrees(40)), 1e-9) << "a framing over it as well";
  }
}

TEST(FramingCurves, AreEasedExactlyAndTheSameAtEveryFrameRate) {
  FramingCurve lens{Curved::fieldOfView, CurveOver::speed, "", Curve({{0, degrees(60)}, {6, degrees(80)}})};
  const CompiledDesign design(bentBy(lens));
  const auto after = [&](double rate) {
    CharacterCamera camera(design, wardenAt({0, 0, 0}));
    camera.update(0.0, wardenAt({0, 0, 0}), NoObstacles(), testing::wide);
    View view;
    for (int i = 1; i <= static_cast<int>(rate); ++i) {  // speeds up evenly for a second
      const double time = i / rate;
      view = camera.update(1 / rate, wardenAt({0, 0, -3 * time * time}, 0, {0, 0, -6 * time}), NoObstacles(),
                           testing::wide);
    }
    return view.fieldOfView;
  };
  const double reference = after(1000);
  EXPECT_GT(reference, degrees(70));
  for (const double rate : {24.0, 60.0, 144.0}) EXPECT_NEAR(after(rate), reference, 1e-12) << rate;
  // Half of a step after a half-life.
  CharacterCamera camera(design, wardenAt({0, 0, 0}));
  camera.update(0.0, wardenAt({0, 0, 0}), NoObstacles(), testing::wide);
  const Subject runs = wardenAt({0, 0, 0}, 0, {6, 0, 0});
  camera.update(1e-9, runs, NoObstacles(), testing::wide);
  const double middle = camera.update(0.25, runs, NoObstacles(), testing::wide).fieldOfView;
  EXPECT_NEAR(middle, lens.curve.at(3), 1e-6);
}

TEST(FramingCurves, BlendIntoAFramingWithoutThem) {
  CameraDesign design = bentBy({Curved::distance, CurveOver::pitch, "", orbit});
  NamedFraming aim{"aim", design.framings[0].framing, "aiming", Perspective::third};
  aim.framing.distance = 1.5;
  aim.framing.transition = 0.4;
  design.framings.push_back(aim);
  const CompiledDesign compiled(design);
  CharacterCamera camera(compiled, wardenAt({0, 0, 0}));
  double before = looking(camera, degrees(-60)).distance, most = 0;
  EXPECT_NEAR(before, 5, 1e-9);
  camera.setCondition(Condition::aiming, true);
  for (int i = 0; i < 120; ++i) {
    if (i == 60) camera.setCondition(Condition::aiming, false);
    camera.look(1 / 60.0, {});
    const double now = camera.update(1 / 60.0, wardenAt({0, 0, 0}), NoObstacles(), testing::wide).distance;
    most = std::max(most, std::abs(now - before));
    before = now;
    if (i == 59) {
      EXPECT_NEAR(now, 1.5, 1e-9);
    }
  }
  EXPECT_NEAR(before, 5, 1e-9);
  EXPECT_LT(most, 0.35) << "3.5 m in 0.4 s, and no jump";
}

TEST(FramingCurves, ALagMayGrowWithSpeedAndAStateKnowsIt) {
  CameraDesign design = bentBy({Curved::followHalfLife, CurveOver::number, "calm", Curve({{0, 0.0}, {1, 0.3}})});
  design.framings[0].framing.follow.leash = 5;
  const CompiledDesign compiled(design);
  const auto trails = [&](double calm) {
    CharacterCamera camera(compiled, wardenAt({0, 0, 0}));
    camera.setNumber(compiled.number("calm"), calm);
    camera.update(0.0, wardenAt({0, 0, 0}), NoObstacles(), testing::wide);
    View view;
    for (int i = 1; i < 240; ++i) {
      CharacterCamera other(compiled, wardenAt({1, 0, 0}));
      EXPECT_TRUE(other.restore(camera.save()));
      camera = other;
      view = camera.update(1 / 60.0, wardenAt({0, 0, -i / 20.0}, 0, {0, 0, -3}), NoObstacles(), testing::wide);
    }
    return view.pivot.z() + 239 / 20.0;
  };
  EXPECT_NEAR(trails(0), 0, 1e-9);
  EXPECT_NEAR(trails(1), 3 * 0.3 / std::log(2.0), 0.02);
}

TEST(FramingCurves, ThatMeanNothingAreLeftOut) {
  CameraDesign design = bentBy({Curved::distance, CurveOver::distance, "", orbit});
  std::vector<FramingCurve>& curves = design.framings[0].curves;
  curves.push_back({Curved::tilt, CurveOver::pitch, "", Curve()});
  curves.push_back({Curved::tilt, CurveOver::pitch, "", Curve({{0, 0.1}, {1, 50}})});
  curves.push_back({Curved::tilt, CurveOver::speed, "", Curve({{0, 0.2}, {1, 0.3}})});
  for (const char* name : {"a", "b", "c", "d", "e"})
    design.framings.push_back(
        {name, {}, name, Perspective::third, {{Curved::anchorRise, CurveOver::number, name, Curve({{0, 0}, {1, 1}})}}});
  const CompiledDesign compiled(design);
  ASSERT_EQ(compiled.curves(0).size(), 1u);
  EXPECT_EQ(compiled.curves(0)[0].curve.largest(), degrees(60)) << "no more than a tilt may be";
  EXPECT_EQ(compiled.design().framings[0].framing.tilt, 0.1);
  EXPECT_EQ(compiled.numbers().size(), mostCurveNumbers);
  EXPECT_EQ(compiled.number("e"), -1);
  CharacterCamera camera(compiled, wardenAt({0, 0, 0}));
  camera.setNumber(-1, 1);
  camera.setNumber(99, 1);
  camera.setNumber(0, std::nan(""));
  EXPECT_EQ(looking(camera, 0).faults, 0u);
}

}  // namespace
}  // namespace alpglow
