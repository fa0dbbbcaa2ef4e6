#include "alpglow/design/settings.hpp"

#include <gtest/gtest.h>

#include <limits>
#include <set>
#include <string>

namespace alpglow {
namespace {

TEST(Settings, DefaultsLieInTheirRangesAndKeysAreUnique) {
  CameraDesign design;
  std::set<std::string> seen;
  const auto visit = [&seen](const char* section, const auto& values, auto settings) {
    for (const auto& setting : settings) {
      EXPECT_TRUE(seen.insert(std::string(section) + "." + setting.key).second) << setting.key;
      EXPECT_GE(setting.value(values), setting.low) << setting.key;
      EXPECT_LE(setting.value(values), setting.high) << setting.key;
      EXPECT_GT(std::string(setting.help).size(), 10u) << setting.key;
    }
  };
  forEachSection(design, visit);
  visit("framing", design.framings[0].framing, settings<Framing>());
  EXPECT_GT(seen.size(), 30u);
}

TEST(Settings, UnitsStandInTheKeys) {
  for (const auto& setting : settings<Framing>()) {
    const std::string unit = setting.unit, key = setting.key;
    if (!unit.empty()) {
      EXPECT_NE(key.find("_" + unit), std::string::npos) << key;
    }
  }
}

TEST(CompiledDesign, BringsEveryNumberIntoItsRange) {
  CameraDesign design;
  design.look.yawPerCount = std::numeric_limits<double>::quiet_NaN();
  Framing& framing = design.framings[0].framing;
  framing.pitch = {degrees(-500), degrees(500)};
  framing.nearPlane = -1;
  framing.distanceRange = {5, 2};
  framing.distance = 100;
  const CompiledDesign compiled(design);
  const Framing& legal = compiled.design().framings[0].framing;
  EXPECT_EQ(compiled.design().look.yawPerCount, LookSettings().yawPerCount);
  EXPECT_NEAR(legal.pitch.low, degrees(-90), 1e-15);
  EXPECT_NEAR(legal.pitch.high, degrees(90), 1e-15);
  EXPECT_GT(legal.nearPlane, 0);
  EXPECT_EQ(brokenRelation(legal).key, nullptr);
}

TEST(CompiledDesign, EverySettingChangesTheDigest) {
  const std::uint64_t plain = CompiledDesign(CameraDesign()).digest();
  EXPECT_EQ(plain, CompiledDesign(CameraDesign()).digest());
  for (const auto& setting : settings<Framing>()) {
    CameraDesign design;
    Framing& framing = design.framings[0].framing;
    const double value = setting.value(framing);
    setting.assign(framing, value < (setting.low + setting.high) / 2 ? value + 1e-3 * (setting.high - setting.low) +
                                                                           (setting.kind == SettingKind::choice ? 1 : 0)
                                                                     : value - 1e-3 * (setting.high - setting.low));
    EXPECT_NE(CompiledDesign(design).digest(), plain) << setting.key;
  }
}

}  // namespace
}  // namespace alpglow
