// A short run of what readers.sh does for long: demo files with bytes changed, cut, doubled and exchanged.

#include "fuzz/readers.hpp"

#include "support/random.hpp"

#include <gtest/gtest.h>

#include <filesystem>
#include <vector>

namespace alpglow::testing {
namespace {

class Readers : public ::testing::TestWithParam<std::size_t> {
 protected:
  const Reader& reader = readers[GetParam()];
  Random random{static_cast<unsigned>(GetParam()) + 1};

  std::size_t below(std::size_t count) {
    return std::min(static_cast<std::size_t>(random.between(0, static_cast<double>(count))), count - 1);
  }

  std::vector<std::string> seeds() const {
    std::vector<std::string> found;
    const std::string ending = reader.ending;
    for (const auto& entry : std::filesystem::directory_iterator(ALPGLOW_DEMO)) {
      const std::string name = entry.path().filename().string();
      if (name.size() > ending.size() && name.compare(name.size() - ending.size(), ending.size(), ending) == 0)
        found.push_back(io::readWhole(entry.path().string()));
    }
    if (ending == ".gltf") found.push_back(smallGltf());
    if (ending == ".frames") found.emplace_back("0.016\n0.008 # short\n1e-3\n");
    if (ending == ".csv") found.emplace_back("frame,time_s,camera,events\n0,0.016,character,cut\n1,0.033,\"a,b\",\n");
    if (ending == ".camera.json") found.emplace_back(R"({"format": 1, "framing": [{"name": "a", "distance_m": 2}]})");
    if (found.empty()) found.emplace_back("format = 1\n");
    return found;
  }

  std::string changed(std::string text, const std::vector<std::string>& others) {
    static const char* const words[] = {
        "nan",     "inf",  "-1",           "1e999",    "18446744073709551615", "[[",   "{",      "\"\"\"", "..",
        "\x1b[2J", "\xff", "\xe2\x80\xae", "0..86400", "= {a.b.c=1}",          "null", "\\u0000"};
    for (std::size_t i = 0; i <= below(4); ++i) {
      const std::size_t at = text.empty() ? 0 : below(text.size());
      switch (below(6)) {
        case 0: text.insert(at, words[below(std::size(words))]); break;
        case 1: text.resize(at); break;
        case 2: text.erase(at, below(40) + 1); break;
        case 3: text.insert(at, text.substr(at, below(200) + 1)); break;
        case 4:
          if (!text.empty()) text[at] = static_cast<char>(below(256));
          break;
        default: {
          const std::string& other = others[below(others.size())];
          text = text.substr(0, at) + other.substr(below(other.size()));
        }
      }
    }
    return text;
  }
};

TEST_P(Readers, TakeOrRefuseWhateverTheyAreGiven) {
  const std::vector<std::string> all = seeds();
  std::size_t taken = 0;
  for (const std::string& seed : all) taken += wrongWith(reader, seed).empty() ? 1 : 0;
  EXPECT_EQ(taken, all.size());
  for (int i = 0; i < 1500; ++i) {
    const std::string input = changed(all[below(all.size())], all), wrong = wrongWith(reader, input);
    ASSERT_EQ(wrong, "") << reader.name << " with:\n" << io::plainText(input, 4000);
  }
}

INSTANTIATE_TEST_SUITE_P(Every, Readers, ::testing::Range(std::size_t{0}, std::size(readers)), [](const auto& which) {
  std::string name = readers[which.param].name;
  name.erase(std::remove(name.begin(), name.end(), '-'), name.end());
  return name;
});

}  // namespace
}  // namespace alpglow::testing
