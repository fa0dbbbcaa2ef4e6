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

/// Another legal value of a setting, a part of its range away.
template <class Section>
void change(const Setting<Section>& setting, Section& section, double part) {
  const double value = setting.value(section), up = setting.high - value, down = value - setting.low;
  const double by = setting.kind == SettingKind::number ? part * (setting.high - setting.low) : 1;
  setting.assign(section, up > down ? value + by : value - by);
}

/// Whoever changes any one setting has another design: its states are not those of the first.
TEST(CompiledDesign, EverySettingChangesTheDigest) {
  const std::uint64_t plain = CompiledDesign(CameraDesign()).digest();
  EXPECT_EQ(plain, CompiledDesign(CameraDesign()).digest());
  CameraDesign changed;
  const auto eachOf = [&](double part) {
    return [&, part](const char*, auto& section, auto settings) {
      for (const auto& setting : settings) {
        const auto kept = section;
        change(setting, section, part);
        EXPECT_NE(CompiledDesign(changed).digest(), plain) << setting.key;
        section = kept;
      }
    };
  };
  forEachSection(changed, eachOf(0.3));
  eachOf(0.01)("framing", changed.framings[0].framing, settings<Framing>());
  CameraDesign others[3];
  others[0].zoomIntoEyes = true, others[1].framings[0].when = "aiming";
  others[2].framings[0].perspective = Perspective::first;
  for (const CameraDesign& other : others) EXPECT_NE(CompiledDesign(other).digest(), plain);
}

}  // namespace
}  // namespace alpglow
