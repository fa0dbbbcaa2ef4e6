#include "alpglow/io/design_text.hpp"

#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "support/random.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <limits>
#include <sstream>

namespace alpglow {
namespace {

using io::DesignSetting;
using io::DesignText;
using io::SettingName;

constexpr char written[] =
    "# Über die Hütte, von hinten\n"
    "format = 1\n"
    "name = \"trail\"   # stays\n"
    "\n"
    "[look]\n"
    "yaw_deg_per_count = 0.05   # 7200 counts a turn\n"
    "pitch_deg_per_count = 5e-2\n"
    "\n"
    "[[framing]]   # the first\n"
    "name = \"trail\"\n"
    "distance_m = 2.9\n"
    "fov_deg = { over = \"speed_mps\", points = [[2, 58], [7, 74]] }  # }\n"
    "\n"
    "[[framing]]\n"
    "name = \"run\"\n"
    "when = \"sprinting\"   # \"distance_m = 1\"\n"
    "distance_m = \"+0.6\"   # behind\n"
    "shoulder_m = \"*0.5\"";

double valueOf(const CameraDesign& design, const SettingName& name) {
  for (const DesignSetting& each : io::settingsOf(design)) {
    if (each.name == name) return each.value;
  }
  ADD_FAILURE() << io::inWords(name) << " is nothing";
  return 0;
}

std::string replaced(std::string text, const std::string& old, const std::string& with) {
  const std::size_t at = text.find(old);
  EXPECT_NE(at, std::string::npos) << old;
  return text.replace(at, old.size(), with);
}

/// As somebody may type it into a panel.
TEST(DesignText, EverySettingTakesEveryNumberOrSaysWhyNot) {
  const double infinite = std::numeric_limits<double>::infinity();
  const double typed[] = {5e-324,
                          1e-310,
                          2.2250738585072014e-308,
                          1e-300,
                          1e-9,
                          0.1,
                          1 / 3.0,
                          1e22,
                          1e300,
                          std::numeric_limits<double>::max(),
                          -0.0,
                          -1e-310,
                          infinite,
                          -infinite,
                          std::nan("")};
  const std::string plain = "format = 1\nname = \"typed\"\n[[framing]]\nname = \"only\"\n";
  int taken = 0, refused = 0;
  for (const DesignSetting& setting : DesignText(plain).settings()) {
    DesignText same(plain);
    same.set(setting.name, setting.value);
    EXPECT_EQ(same.text(), plain) << "what nobody changes is not written";
    for (const double value : typed) {
      DesignText design(plain);
      try {
        design.set(setting.name, value);
        ++taken;
        if (setting.kind == SettingKind::number) {
          EXPECT_NEAR(valueOf(design.design(), setting.name), value, 1e-300 + 1e-12 * std::abs(value))
              << io::inWords(setting.name);
        }
        EXPECT_NO_THROW(io::writeDesign(design.design()));
      } catch (const io::InputError&) {
        EXPECT_EQ(design.text(), plain) << io::inWords(setting.name) << " = " << value;
        ++refused;
      }
    }
  }
  EXPECT_GT(taken, 500);
  EXPECT_GT(refused, 500);
}

TEST(DesignText, ReplacesTheTextOfAValueAndNothingElse) {
  DesignText design(written);
  design.set({"", "look", "yaw_deg_per_count"}, 0.08);
  EXPECT_EQ(design.text(), replaced(written, "yaw_deg_per_count = 0.05 ", "yaw_deg_per_count = 0.08 "));
  EXPECT_NEAR(design.design().look.yawPerCount, degrees(0.08), 1e-12);
  design.set({"", "look", "yaw_deg_per_count"}, 0.05);
  EXPECT_EQ(design.text(), written);
  design.set({"framing", "trail", "distance_m"}, 4);
  EXPECT_EQ(design.text(), replaced(written, "distance_m = 2.9", "distance_m = 4.0"));
  EXPECT_NEAR(design.design().framings[1].framing.distance, 4.6, 1e-12) << "what is relative to it changes along";
}

TEST(DesignText, KeepsWhatIsRelativeToABase) {
  DesignText design(written);
  design.set({"framing", "run", "distance_m"}, 3.2);
  EXPECT_EQ(design.text(), replaced(written, "\"+0.6\"", "\"+0.3\""));
  design.set({"framing", "run", "shoulder_m"}, valueOf(design.design(), {"framing", "trail", "shoulder_m"}) * 0.25);
  EXPECT_EQ(design.stated({"framing", "run", "shoulder_m"}), "\"*0.25\"");
  EXPECT_NEAR(design.design().framings[1].framing.distance, 3.2, 1e-12);
}

TEST(DesignText, AddsAKeyBehindTheOthersOfItsTable) {
  DesignText design(written);
  design.set({"", "look", "yaw_rate_degps"}, 210);
  EXPECT_EQ(design.text(), replaced(written, "count = 5e-2\n", "count = 5e-2\nyaw_rate_degps = 210.0\n"));
  design.set({"framing", "run", "pitch_max_deg"}, 60);
  EXPECT_EQ(design.text().substr(design.text().rfind('\n', design.text().size() - 2)), "\npitch_max_deg = 60.0\n");
  design.set({"", "pull_in", "horizon_s"}, 0.3);
  EXPECT_NE(design.text().find("\n\n[pull_in]\nhorizon_s = 0.3\n"), std::string::npos);
  design.set({"", "", "zoom_into_eyes"}, 1);
  EXPECT_NE(design.text().find("name = \"trail\"   # stays\nzoom_into_eyes = true\n"), std::string::npos);
  EXPECT_TRUE(design.design().zoomIntoEyes);
  design.leaveOut({"", "look", "yaw_rate_degps"});
  design.leaveOut({"", "", "zoom_into_eyes"});
  EXPECT_EQ(design.text().find("yaw_rate_degps"), std::string::npos);
  EXPECT_EQ(design.text().find("zoom_into_eyes"), std::string::npos);
}

TEST(DesignText, RefusesWhatCannotBeAndChangesNothing) {
  DesignText design(written);
  const auto refuses = [&design](const SettingName& name, double value, const std::string& why) {
    try {
      design.set(name, value);
      ADD_FAILURE() << "took " << io::inWords(name);
    } catch (const io::InputError& error) {
      EXPECT_NE(std::string(error.what()).find(why), std::string::npos) << error.what();
    }
    EXPECT_EQ(design.text(), written);
  };
  refuses({"", "look", "yaw_deg_per_count"}, -1, "must be from");
  refuses({"", "look", "yaw_deg_per_count"}, std::nan(""), "must be from");
  refuses({"framing", "trail", "fov_deg"}, 50, "is a curve");
  refuses({"framing", "trail", "distance_min_m"}, 99, "distance_min_m must be");
  refuses({"framing", "jump", "distance_m"}, 2, "is no setting");
  EXPECT_THROW(DesignText("{\"format\": 1}"), io::InputError) << "of JSON there are no comments to keep";
}

/// Every setting of every demo design takes other values, one after the other, and the file says exactly these.
TEST(DesignText, SaysWhateverItIsGivenInEveryDemoDesign) {
  testing::Random random(7);
  std::size_t tried = 0, taken = 0;
  for (const auto& file : std::filesystem::recursive_directory_iterator(ALPGLOW_DEMO)) {
    if (file.path().string().find(".camera.toml") == std::string::npos) continue;
    DesignText design(io::readWhole(file.path().string()));
    for (const DesignSetting& each : design.settings()) {
      if (random.chance(0.6)) continue;  // they are many
      const double value = each.kind == SettingKind::number
                               ? random.between(std::max(each.low, -1e3), std::min(each.high, 1e3))
                           : each.value == 0 ? 1
                                             : 0;
      const std::string before = design.text();
      ++tried;
      try {
        design.set(each.name, value);
      } catch (const io::InputError&) {
        EXPECT_EQ(design.text(), before);
        continue;
      }
      ++taken;
      EXPECT_NEAR(valueOf(design.design(), each.name), value, 1e-6 * std::max(std::abs(value), 1.0))
          << file.path() << " " << io::inWords(each.name);
      const auto comments = [](const std::string& text) { return std::count(text.begin(), text.end(), '#'); };
      EXPECT_EQ(comments(design.text()), comments(before));
      EXPECT_EQ(io::writeDesign(io::parseDesign(design.text())), io::writeDesign(design.design()));
    }
  }
  EXPECT_GT(tried, 500u);
  EXPECT_GT(taken, tried / 2);
}

}  // namespace
}  // namespace alpglow
