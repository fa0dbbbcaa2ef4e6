#include "alpglow/view/view.hpp"

#include "alpglow/camera/character_camera.hpp"
#include "alpglow/framing/lens.hpp"
#include "alpglow/view/shake.hpp"
#include "fuzz/balls.hpp"
#include "support/camera_run.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>
#include <Eigen/LU>

namespace alpglow {
namespace {

using Eigen::Matrix4d;
using Eigen::Vector3d;
using Eigen::Vector4d;

Vector3d projected(const Matrix4d& m, const Vector3d& p) {
  const Vector4d clip = m * Vector4d(p.x(), p.y(), p.z(), 1);
  return clip.head<3>() / clip.w();
}

View quarterTurnLeft() {
  View view;
  view.position = {10, 2, -5};
  view.yaw = degrees(90);  // looking along −x
  view.fieldOfView = degrees(90);
  view.aspect = 2;
  view.nearPlane = 1;
  view.farPlane = 11;
  return view;
}

TEST(Lens, SaysTheSameInThreeWays) {
  const Lens lens = Lens::horizontal(degrees(90), 16.0 / 9.0);
  EXPECT_NEAR(toDegrees(lens.verticalFieldOfView()), 58.71550708, 1e-7);
  EXPECT_NEAR(toDegrees(lens.horizontalFieldOfView(16.0 / 9.0)), 90, 1e-12);
  EXPECT_NEAR(toDegrees(Lens::focalLength(0.012, 0.024).verticalFieldOfView()), 90, 1e-12);
  EXPECT_NEAR(lens.focalLengthAt(0.024), 0.012 * 16 / 9, 1e-12);
}

TEST(Lens, NearPlaneSphereReachesTheCorners) {
  // At 90° vertical and aspect 2 the corner of the near plane at 0.1 lies at (0.2, 0.1, 0.1).
  EXPECT_NEAR(nearPlaneRadius(0.1, degrees(90), 2), std::sqrt(0.04 + 0.01 + 0.01), 1e-15);
}

TEST(View, LooksAlongMinusZAndTurnsLeft) {
  EXPECT_TRUE(View().forward().isApprox(Vector3d(0, 0, -1)));
  EXPECT_TRUE(quarterTurnLeft().forward().isApprox(Vector3d(-1, 0, 0)));
  View up;
  up.pitch = degrees(30);
  EXPECT_TRUE(up.forward().isApprox(Vector3d(0, 0.5, -std::sqrt(0.75))));
}

TEST(View, HasNoRollAtAnyYawAndPitchStraightUpAndDownIncluded) {
  testing::Random random(7);
  for (int i = 0; i < 2000; ++i) {
    View view;
    view.yaw = random.between(-pi, pi);
    view.pitch = i % 10 == 0 ? degrees(i % 20 == 0 ? 90 : -90) : random.between(degrees(-90), degrees(90));
    const Eigen::Matrix3d r = view.rotation();
    ASSERT_EQ(r(1, 0), 0) << "the camera's right is level";
    ASSERT_GE(r(1, 1), 0) << "the screen does not stand on its head";
    ASSERT_TRUE((r * r.transpose()).isIdentity(1e-15));
    ASSERT_NEAR(r.determinant(), 1, 1e-14);
  }
}

std::vector<HostAxes> hosts() {
  HostAxes zUp;  // x right, y forward, z up, centimetres
  zUp.up = Vector3d::UnitZ();
  zUp.forward = Vector3d::UnitY();
  zUp.unitsPerMetre = 100;
  HostAxes leftHanded;  // x right, y up, +z forward
  leftHanded.forward = Vector3d::UnitZ();
  leftHanded.viewForward = ViewForward::plusZ;
  HostAxes xForward;  // left-handed: x forward, y right, z up
  xForward.right = Vector3d::UnitY();
  xForward.up = Vector3d::UnitZ();
  xForward.forward = Vector3d::UnitX();
  xForward.unitsPerMetre = 100;
  xForward.viewForward = ViewForward::plusZ;
  return {HostAxes(), zUp, leftHanded, xForward};
}

TEST(View, IsTheInverseOfTheCamerasTransformForEveryHost) {
  testing::Random random(8);
  for (const HostAxes& axes : hosts()) {
    View view;
    view.position = random.point(50);
    view.yaw = random.between(-3, 3);
    view.pitch = random.between(-1.5, 1.5);
    Matrix4d camera = Matrix4d::Identity();
    Eigen::Matrix3d toViewAxes = Eigen::Matrix3d::Identity();  // the host's axes, as view space has them
    toViewAxes << axes.right.transpose(), axes.up.transpose(),
        (axes.viewForward == ViewForward::plusZ ? 1.0 : -1.0) * axes.forward.transpose();
    camera.topLeftCorner<3, 3>() = view.orientationIn(axes).toRotationMatrix() * toViewAxes.transpose();
    camera.topRightCorner<3, 1>() = view.positionIn(axes);
    EXPECT_TRUE((view.worldToView(axes) * camera).isIdentity(1e-9));
  }
}

TEST(HostAxes, AreTheSameWayThereAndBackInFloatAndDouble) {
  testing::Random random(9);
  for (HostAxes axes : hosts()) {
    axes.positiveYaw = axes.leftHanded() ? YawSense::right : YawSense::left;
    const Vector3d point = random.point(50), arm = random.point(2), spin = random.point(3);
    const Eigen::Matrix3d turn = rotationOf(random.between(-3, 3), 0.4, 0.2);
    const double heading = random.between(-3, 3);

    EXPECT_TRUE(axes.fromHost(axes.toHost(point)).isApprox(point, 1e-12));
    EXPECT_TRUE(axes.fromHost(axes.toHost<float>(point)).isApprox(point, 1e-6));
    EXPECT_NEAR(axes.directionToHost(arm).norm(), arm.norm(), 1e-12);
    EXPECT_TRUE(axes.directionFromHost(axes.directionToHost<float>(arm)).isApprox(arm, 1e-6));
    EXPECT_TRUE(axes.rotationFromHost(axes.rotationToHost(turn)).isApprox(turn, 1e-12));
    EXPECT_TRUE(axes.rotationFromHost(axes.rotationToHost<float>(turn)).isApprox(turn, 1e-6));
    EXPECT_TRUE(axes.spinFromHost(axes.spinToHost<float>(spin)).isApprox(spin, 1e-6));
    EXPECT_NEAR(axes.lengthFromHost(axes.lengthToHost(3)), 3, 1e-12);

    // What is turned, spins or heads somewhere does the same to the host.
    EXPECT_TRUE((axes.rotationToHost(turn) * axes.toHost(point)).isApprox(axes.toHost(turn * point), 1e-12));
    EXPECT_NEAR(axes.rotationToHost(turn).determinant(), 1, 1e-12) << "of left-handed axes, too";
    EXPECT_TRUE(axes.spinToHost(spin).cross(axes.toHost(arm)).isApprox(axes.toHost(spin.cross(arm)), 1e-12));
    const double right = axes.positiveYaw == YawSense::right ? 1 : -1, hostHeading = axes.headingToHost(heading);
    const Vector3d ahead = std::cos(hostHeading) * axes.forward + right * std::sin(hostHeading) * axes.right;
    EXPECT_TRUE(axes.directionToHost(-rotationOf(heading, 0).col(2)).isApprox(ahead, 1e-12));
    EXPECT_EQ(axes.headingFromHost(hostHeading), heading);
  }
}

TEST(View, PutsAKnownPointWherePencilAndPaperSay) {
  // 5 m ahead (−x), 4 m to the right (−z), 2.5 m up: at 90° and aspect 2 that is x = 4/(5·2), y = 2.5/5.
  const Vector3d point = quarterTurnLeft().position + Vector3d(-5, 2.5, -4);
  struct Case {
    ClipSpace clip;
    double y, depth;
  };
  // near 1, far 11, 5 m ahead; the infinite one is near/5.
  const Case cases[] = {{{DepthRange::minusOneToOne, ClipUp::up}, 0.5, (12.0 * 5 - 22) / (10 * 5)},
                        {{DepthRange::zeroToOne, ClipUp::up}, 0.5, (11.0 * 5 - 11) / (10 * 5)},
                        {{DepthRange::zeroToOne, ClipUp::down}, -0.5, (11.0 * 5 - 11) / (10 * 5)},
                        {{DepthRange::reversed, ClipUp::up}, 0.5, 1 - (11.0 * 5 - 11) / (10 * 5)},
                        {{DepthRange::reversedInfinite, ClipUp::down}, -0.5, 0.2}};
  for (const HostAxes& axes : hosts()) {
    for (const Case& c : cases) {
      const View view = quarterTurnLeft();
      const Vector3d ndc = projected(view.projection(c.clip, axes) * view.worldToView(axes), axes.toHost(point));
      EXPECT_NEAR(ndc.x(), 0.4, 1e-9);
      EXPECT_NEAR(ndc.y(), c.y, 1e-9);
      EXPECT_NEAR(ndc.z(), c.depth, 1e-9);
    }
  }
  EXPECT_LT((*quarterTurnLeft().onScreen(point) - Eigen::Vector2d(0.4, 0.5)).norm(), 1e-9);
  EXPECT_FALSE(quarterTurnLeft().onScreen(quarterTurnLeft().position + Vector3d(5, 0, 0))) << "behind";
  EXPECT_FALSE(quarterTurnLeft().onScreen(quarterTurnLeft().position + Vector3d(-1e-15, 0, 2))) << "beside";
}

TEST(View, DepthRangesPutNearAndFarWhereTheySay) {
  const auto depthAt = [](DepthRange range, double ahead) {
    return projected(perspective(1, 1.5, 0.1, 100, {range, ClipUp::up}), {0, 0, -ahead}).z();
  };
  EXPECT_NEAR(depthAt(DepthRange::minusOneToOne, 0.1), -1, 1e-12);
  EXPECT_NEAR(depthAt(DepthRange::minusOneToOne, 100), 1, 1e-12);
  EXPECT_NEAR(depthAt(DepthRange::zeroToOne, 0.1), 0, 1e-12);
  EXPECT_NEAR(depthAt(DepthRange::zeroToOne, 100), 1, 1e-12);
  EXPECT_NEAR(depthAt(DepthRange::reversed, 0.1), 1, 1e-12);
  EXPECT_NEAR(depthAt(DepthRange::reversed, 100), 0, 1e-12);
  EXPECT_NEAR(depthAt(DepthRange::reversedInfinite, 0.1), 1, 1e-12);
}

TEST(View, CameraRelativeFloatsStayPreciseFarOut) {
  View view = quarterTurnLeft();
  view.position += Vector3d(1e6, 0, -2e6);
  const Vector3d point = view.position + Vector3d(-5, 2.5, -4);
  const Eigen::Vector3f relative = view.relative(point);
  const Eigen::Vector4f clip = view.projection().cast<float>() * view.cameraRelativeView() *
                               Eigen::Vector4f(relative.x(), relative.y(), relative.z(), 1);
  EXPECT_NEAR(clip.x() / clip.w(), 0.4, 1e-6);
  EXPECT_NEAR(clip.y() / clip.w(), 0.5, 1e-6);
}

View somewhere(testing::Random& random) {
  View view;
  view.position = random.point(50);
  view.yaw = random.between(-3, 3);
  view.pitch = random.between(-1.5, 1.5);
  view.roll = random.between(-3, 3);
  view.fieldOfView = random.between(0.3, 2.5);
  view.aspect = random.between(0.5, 3);
  view.nearPlane = 0.2;
  view.farPlane = 40;
  return view;
}

TEST(View, IsMadeOfAHostsOwnCamera) {
  testing::Random random(10);
  for (int i = 0; i < 300; ++i) {
    View given = somewhere(random);
    if (i % 10 == 0) given.pitch = i % 20 == 0 ? pi / 2 : -pi / 2;
    const View made = View::from(given.position, given.orientation(), given.fieldOfView);
    EXPECT_TRUE(made.rotation().isApprox(given.rotation(), 1e-7)) << given.yaw << ' ' << given.pitch;
    EXPECT_EQ(made.position, given.position);
    if (i % 10 == 0) continue;
    EXPECT_NEAR(shortestTurn(made.yaw, given.yaw), 0, 1e-7);
    EXPECT_NEAR(made.pitch, given.pitch, 1e-7);
    EXPECT_NEAR(shortestTurn(made.roll, given.roll), 0, 1e-7);
    const HostAxes host = hosts()[static_cast<std::size_t>(i % 4)];
    const View back = View::from(host.fromHost(given.positionIn(host)),
                                 host.rotationFromHost(given.orientationIn(host).toRotationMatrix()), 1);
    EXPECT_TRUE(back.rotation().isApprox(given.rotation(), 1e-7));
  }
}

TEST(View, OfNumbersThatAreNoneIsTheDefaultOne) {
  const View view = View::from({std::nan(""), 0, 0}, Eigen::Quaterniond::Identity(), 1);
  EXPECT_EQ(view.position, Vector3d::Zero());
  EXPECT_EQ(view.fieldOfView, View().fieldOfView);
}

TEST(View, SeesWhatItsFrustumHoldsAndARayGoesThroughItsPoint) {
  testing::Random random(11);
  int inside = 0;
  for (int i = 0; i < 3000; ++i) {
    const View view = somewhere(random);
    const Vector3d point = view.position + random.point(30);
    const double ahead = view.forward().dot(point - view.position);
    const auto seen = view.onScreen(point);
    const bool shown = seen && seen->cwiseAbs().maxCoeff() <= 1 && ahead >= view.nearPlane && ahead <= view.farPlane;
    double least = 1e9;
    for (const FrustumPlane& plane : view.frustum()) least = std::min(least, plane.height(point));
    EXPECT_EQ(least >= 0, shown);
    inside += shown;
    if (!seen) continue;
    EXPECT_TRUE(view.rayThrough(*seen).isApprox((point - view.position).normalized(), 1e-9));
  }
  EXPECT_GT(inside, 200);
}

TEST(View, ATileOfThePictureFillsTheWholeOfIts) {
  testing::Random random(12);
  for (const ClipSpace clip : {ClipSpace{}, ClipSpace{DepthRange::reversed, ClipUp::down}}) {
    for (int i = 0; i < 100; ++i) {
      const View view = somewhere(random);
      const Eigen::Vector2d screen(random.between(-1, 1), random.between(-1, 1));
      const Vector3d point = view.position + 5 * view.rayThrough(screen);
      int holding = 0;
      for (int tile = 0; tile < 6; ++tile) {
        const PicturePart part = PicturePart::tile(tile % 3, tile / 3, 3, 2);
        const Matrix4d whole = view.projection(clip), m = partOf(whole, part, clip) * view.worldToView();
        const Vector3d in = projected(m, point);
        const double x = 2 * (screen.x() - part.left) / (part.right - part.left) - 1,
                     y = 2 * (screen.y() - part.bottom) / (part.top - part.bottom) - 1;
        EXPECT_NEAR(in.x(), x, 1e-9);
        EXPECT_NEAR(in.y(), clip.y == ClipUp::up ? y : -y, 1e-9);
        EXPECT_NEAR(in.z(), projected(whole * view.worldToView(), point).z(), 1e-12) << "depth stays";
        holding += std::max(std::abs(x), std::abs(y)) <= 1;
      }
      EXPECT_EQ(holding, 1);
    }
  }
  EXPECT_NEAR(PicturePart::tile(0, 0, 3, 2).top, 1, 0) << "rows count from the top";
}

TEST(Shake, KeepsTheNearPlaneClear) {
  const CompiledDesign design{CameraDesign()};
  int clipped = 0, moved = 0;
  for (unsigned seed = 0; seed < 150; ++seed) {
    testing::Random random(seed);
    const testing::Balls balls(random, 40, 0);
    Vector3d feet = random.point(6);
    CharacterCamera camera(design, testing::wardenAt(feet));
    for (int frame = 0; frame < 200; ++frame) {
      feet += random.point(0.06);
      const IntentSample looked[] = {IntentSample::look(0, {random.between(-90, 90), random.between(-30, 30)})};
      const View view = camera.step(1.0 / 60, Intent{looked}, testing::wardenAt(feet), balls, testing::wide);
      const Vector3d by = random.point(0.08);
      Shake shake{by.x(), by.y(), by.z()};
      shake.roll = 0.05;
      const View shown = shaken(view, shake, balls);
      const double radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
      if (balls.clearance(view.head, 10) < radius + 0.01) continue;
      EXPECT_GE(balls.clearance(shown.position, 10), radius - 1e-6);
      EXPECT_NEAR(shown.roll, 0.05, 1e-12);
      clipped += balls.clearance(view.position + view.rotation() * by, 10) < radius - 1e-6;
      moved += (shown.position - view.position).norm() > 0.01;
    }
  }
  EXPECT_GT(clipped, 30) << "without asking";
  EXPECT_GT(moved, 2000);
  Shake bad;
  bad.up = std::nan("");
  EXPECT_EQ(shaken(View(), bad, NoObstacles()).position, View().position);
}

}  // namespace
}  // namespace alpglow
