// What people mistype: one line that says what is meant, exit code 2, and nothing written or overwritten.

#include "program.hpp"

#include "support/temporary_file.hpp"

#include <gtest/gtest.h>

#include <algorithm>

namespace alpglow {
namespace {

using testing::demo;
using testing::temporaryFile;
using testing::temporaryPath;

const std::string files = "--level " + demo + "refuge.level.toml --take " + demo + "corner.take ";
const std::string rehearse = "rehearse " + demo + "trail.camera.toml " + files;

struct Mistake {
  const char* name;
  std::string arguments;
  const char* said;
};

void PrintTo(const Mistake& mistake, std::ostream* out) { *out << mistake.name; }

class Mistyped : public ::testing::TestWithParam<Mistake> {};

TEST_P(Mistyped, IsSaidInOneLine) {
  const testing::Ran ran = testing::alpglow(GetParam().arguments);
  EXPECT_EQ(ran.code, 2) << ran.output;
  EXPECT_EQ(std::count(ran.output.begin(), ran.output.end(), '\n'), 1) << ran.output;
  EXPECT_NE(ran.output.find(GetParam().said), std::string::npos) << ran.output;
}

INSTANTIATE_TEST_SUITE_P(
    Everywhere, Mistyped,
    ::testing::Values(
        Mistake{"Command", "reherse", "reherse is no command; the nearest known one is rehearse"},
        Mistake{"Option", rehearse + "--lvl x", "--lvl is no option of rehearse; the nearest known one is --level"},
        Mistake{"OptionWithValue", rehearse + "--fsp=60", "the nearest known one is --fps"},
        Mistake{"NothingAtAll", "", "subcommand is required"},
        Mistake{"NoTake", "rehearse " + demo + "trail.camera.toml --level " + demo + "refuge.level.toml",
                "--take is required"},
        Mistake{"NotANumberOfFrames", rehearse + "--fps nan", "--fps: nan is not in 1 to 10000"},
        Mistake{"NotANumberOfAspect", rehearse + "--aspect nan", "--aspect: nan is not in"},
        Mistake{"NotATime", "explain " + demo + "trail.camera.toml " + files + "--at nan", "--at: nan is not in"},
        Mistake{"AfterTheEnd", "explain " + demo + "trail.camera.toml " + files + "--at 99", "nothing to show --at 99"},
        Mistake{"SheetAfterTheEnd", "storyboard " + demo + "trail.camera.toml " + files + "-o x.png --at 99",
                "nothing to show --at 99"},
        Mistake{"NoSuchPicture", "storyboard " + demo + "trail.camera.toml " + files + "-o x.gif",
                "a sheet is a .png or a .jpg"},
        Mistake{"OverAnInput", "rehearse " + demo + "trail.camera.toml " + files + "--trace " + demo + "./corner.take",
                "is read, and must not be written"},
        Mistake{"Twice", rehearse + "--trace x.csv --motion ./x.csv", "would be written twice"},
        Mistake{"FullDisk", rehearse + "--trace /dev/full", "/dev/full: cannot be written: No space left"},
        Mistake{"World", rehearse + "--world bulet",
                "--world: bulet is none of bullet, embree, triangles; the nearest one is bullet"},
        Mistake{"Quality", "play --quality 1", "--quality: 1 is none of automatic, full, plain"},
        Mistake{"NewTake", "new x.take", "the ending says what is written: .camera.toml"},
        Mistake{"SwappedFiles",
                "rehearse " + demo + "corner.take --level " + demo + "refuge.level.toml --take " + demo +
                    "trail.camera.toml",
                "corner.take: this is a take, but a camera design is expected here"},
        Mistake{"DesignAsLevel",
                "rehearse " + demo + "trail.camera.toml --level " + demo + "warden.camera.toml --take " + demo +
                    "corner.take",
                "warden.camera.toml: this is a camera design, but a level is expected here. Try: alpglow check"},
        Mistake{"NothingToRehearse", "rehearse",
                "design is required (see alpglow rehearse --help. Example: alpglow rehearse"},
        Mistake{"NewText", "new foo.txt", "the ending says what is written: .camera.toml"},
        Mistake{"CheckedTake", "check " + demo + "corner.take",
                "this is a take, but a camera design is expected here. Try: alpglow rehearse"},
        Mistake{"PlottedTake", "plot " + demo + "corner.take -o x.png",
                "this is a take, but a trace is expected here. Try: alpglow rehearse"},
        Mistake{"AFolder", "feel " + demo, "is a directory"},
        Mistake{"TwoDesigns", "rehearse a.camera.toml " + demo + "trail.camera.toml " + files, "was not expected: "}),
    [](const auto& mistake) { return std::string(mistake.param.name); });

TEST(Mistakes, ADesignIsNewByTheEndOfItsName) {
  const std::string folder = temporaryPath("a.controls.toml.d"), path = folder + "/x.camera.toml";
  std::filesystem::create_directories(folder);
  std::filesystem::remove(path);
  EXPECT_EQ(testing::alpglow("new " + path).code, 0);
  EXPECT_EQ(testing::alpglow("check " + path).code, 0);
}

TEST(Mistakes, WhatCannotBePrintedIsNoSuccess) {
  const std::string check = std::string(ALPGLOW_PROGRAM) + " check " + demo + "trail.camera.toml";
  EXPECT_EQ(testing::run(check + " > /dev/full").code, 2);
  const testing::Ran cut = testing::run("( sleep 0.3; " + check + "; echo code $? >&2 ) | true");
  EXPECT_NE(cut.output.find("Broken pipe\ncode 2"), std::string::npos) << cut.output;
}

TEST(Mistakes, WithoutDriversAndFontsThatIsSaid) {
  const std::string sheet = "storyboard " + demo + "trail.camera.toml " + files + "-o " + temporaryPath("x.png");
  const testing::Ran bare = testing::run("__EGL_VENDOR_LIBRARY_DIRS=/nonexistent " ALPGLOW_PROGRAM " " + sheet);
  EXPECT_EQ(bare.code, 2) << bare.output;
  EXPECT_NE(bare.output.find("alpglow: no pictures: "), std::string::npos) << bare.output;
  const std::string fonts = temporaryFile("fonts.conf",
                                          "<?xml version=\"1.0\"?><!DOCTYPE fontconfig SYSTEM \"fonts.dtd\">"
                                          "<fontconfig><dir>/nonexistent</dir></fontconfig>");
  const testing::Ran plain = testing::run("FONTCONFIG_FILE=" + fonts + " " ALPGLOW_PROGRAM " " + sheet);
  EXPECT_EQ(plain.code, 0) << plain.output;
  EXPECT_NE(plain.output.find("no fonts here"), std::string::npos) << plain.output;
}

TEST(Mistakes, ADeviceIsWrittenToAndStays) {
  EXPECT_EQ(testing::alpglow(rehearse + "--trace /dev/null").code, 0);
  EXPECT_TRUE(std::filesystem::is_character_file("/dev/null"));
  const testing::Ran out =
      testing::run(std::string(ALPGLOW_PROGRAM) + " " + rehearse + "--trace /dev/stdout 2>/dev/null | head -1");
  EXPECT_EQ(out.output.rfind("frame,time_s", 0), 0u) << out.output;
}

TEST(Mistakes, WhatATakeAsksForInVainIsSaid) {
  const std::string take = temporaryFile("vain.take",
                                         "alpglow take 1\n0.1 MouseButton2 1\n0.2 KeyV 1\n0.3 push earthquake\n"
                                         "0.4 set wounded\n0.5 number fear 0.5\n1 end\n");
  const std::string one = temporaryFile("one.camera.toml", "format = 1\n[[framing]]\nname = \"a\"\n");
  const testing::Ran ran =
      testing::alpglow("rehearse " + one + " --level " + demo + "refuge.level.toml --take " + take);
  EXPECT_EQ(ran.code, 0) << ran.output;
  for (const char* note : {"note: the take aims", "note: the take switches the perspective", "no push earthquake",
                           "asks for wounded", "over the number fear"})
    EXPECT_NE(ran.output.find(note), std::string::npos) << note << " in " << ran.output;
  const testing::Ran compared = testing::alpglow("compare " + one + " " + demo + "warden.camera.toml --level " + demo +
                                                 "refuge.level.toml --take " + take);
  EXPECT_NE(compared.output.find("no framing of the design is for aiming (one)\n"), std::string::npos)
      << compared.output;
  EXPECT_NE(compared.output.find("no push earthquake\n"), std::string::npos) << "of both, once: " << compared.output;
  const std::string silent = temporaryFile("silent.take", "alpglow take 1\n0.1 mode menu\n0.2 MouseMove 40 0\n1 end\n");
  EXPECT_NE(testing::alpglow("rehearse " + one + " --level " + demo + "refuge.level.toml --take " + silent)
                .output.find("the mouse moves and never looks"),
            std::string::npos);
}

}  // namespace
}  // namespace alpglow
