// Every kind of broken file gives its one line and exit code 2, and nothing is written.

#include "program.hpp"

#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

namespace alpglow {
namespace {

using testing::demo;
using testing::temporaryFile;
using testing::temporaryPath;

struct Broken {
  const char* name;
  const char* file;  // "design", "level" or "take"
  const char* ending;
  const char* content;  // null: the file does not exist
  const char* said;
};

void PrintTo(const Broken& broken, std::ostream* out) { *out << broken.name; }

class BrokenInput : public ::testing::TestWithParam<Broken> {};

TEST_P(BrokenInput, GivesOneLineAndExitCodeTwo) {
  const Broken& broken = GetParam();
  std::string path = temporaryPath("missing" + std::string(broken.ending));
  if (broken.content != nullptr) path = temporaryFile("broken" + std::string(broken.ending), broken.content);
  const std::string trace = temporaryPath("out.csv");
  std::filesystem::remove(trace);
  const auto fileOr = [&](const char* kind, const char* good) {
    return std::string(broken.file) == kind ? path : demo + good;
  };
  const testing::Ran ran = testing::alpglow("rehearse " + fileOr("design", "trail.camera.toml") + " --level " +
                                            fileOr("level", "refuge.level.toml") + " --take " +
                                            fileOr("take", "corner.take") + " --trace " + trace);
  EXPECT_EQ(ran.code, 2) << ran.output;
  EXPECT_EQ(std::count(ran.output.begin(), ran.output.end(), '\n'), 1) << ran.output;
  EXPECT_EQ(ran.output.rfind(path, 0), 0u) << "the file comes first: " << ran.output;
  EXPECT_NE(ran.output.find(broken.said), std::string::npos) << ran.output;
  EXPECT_FALSE(std::filesystem::exists(trace));
}

INSTANTIATE_TEST_SUITE_P(
    Everywhere, BrokenInput,
    ::testing::Values(
        Broken{"DesignSyntax", "design", ".camera.toml", "format = 1\n[look\n", ":2:"},
        Broken{"DesignUnknownKey", "design", ".camera.toml", "format = 1\n[zoom]\nhalflife_s = 1\n",
               ":3:1: unknown key halflife_s"},
        Broken{"DesignWrongType", "design", ".camera.toml", "format = 1\n[look]\nyaw_rate_degps = true\n",
               ":3:18: yaw_rate_degps is true"},
        Broken{"DesignOutOfRange", "design", ".camera.toml", "format = 1\n[[framing]]\nfov_deg = 400\n",
               "must lie in [1, 170]"},
        Broken{"DesignNaN", "design", ".camera.toml", "format = 1\n[[framing]]\nfov_deg = nan\n", "fov_deg is nan"},
        Broken{"DesignMissing", "design", ".camera.toml", nullptr, "cannot be read"},
        Broken{"DesignEmpty", "design", ".camera.toml", "", "is empty"},
        Broken{"LevelSyntax", "level", ".level.toml", "format = 1\n[[box]\n", ":2:"},
        Broken{"LevelUnknownKey", "level", ".level.toml",
               "format = 1\n[[box]]\nname=\"a\"\nbase_m=[0,0,0]\nsize_m=[1,1,1]\ncolor=1\n", "unknown key color"},
        Broken{"LevelWrongType", "level", ".level.toml",
               "format = 1\n[[box]]\nname=3\nbase_m=[0,0,0]\nsize_m=[1,1,1]\n", "name is 3"},
        Broken{"LevelOutOfRange", "level", ".level.toml",
               "format = 1\n[[box]]\nname=\"a\"\nbase_m=[0,0,0]\nsize_m=[0,1,1]\n", "size_m is 0"},
        Broken{"LevelNaN", "level", ".level.toml",
               "format = 1\n[[box]]\nname=\"a\"\nbase_m=[0,nan,0]\nsize_m=[1,1,1]\n", "base_m is nan"},
        Broken{"LevelMissing", "level", ".level.toml", nullptr, "cannot be read"},
        Broken{"LevelEmpty", "level", ".level.toml", "\n", "is empty"},
        Broken{"NotAGltf", "level", ".gltf", "format = 1\n", "is not a glTF 2.0 file"},
        Broken{"NotAGlb", "level", ".glb", "glTFxxxxxxxxxxxxxxxxxxxx", "is not a glTF 2.0 file"},
        Broken{"GltfMissing", "level", ".glb", nullptr, "cannot be read"},
        Broken{"TakeSyntax", "take", ".take", "alpglow take 1\nKeyW\n", ":2: time is \"KeyW\""},
        Broken{"TakeUnknownControl", "take", ".take", "alpglow take 1\n1 Keyboard 1\n2 end\n",
               ":2: unknown control Keyboard"},
        Broken{"TakeOutOfRange", "take", ".take", "alpglow take 1\n1 KeyW 7\n2 end\n", "must lie in [0, 1]"},
        Broken{"TakeNaN", "take", ".take", "alpglow take 1\nnan KeyW 1\n2 end\n", "time is \"nan\""},
        Broken{"TakeMissing", "take", ".take", nullptr, "cannot be read"},
        Broken{"TakeEmpty", "take", ".take", "", "is empty"}),
    [](const auto& broken) { return broken.param.name; });

}  // namespace
}  // namespace alpglow
