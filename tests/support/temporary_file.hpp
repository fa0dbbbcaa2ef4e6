#pragma once
// Files for a test, in a folder of the build tree that is the test's own.

#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <string>

namespace alpglow::testing {

inline std::string temporaryPath(const std::string& name) {
  const auto* test = ::testing::UnitTest::GetInstance()->current_test_info();
  std::string folder = std::string(ALPGLOW_OUT) + "/files/" + test->test_suite_name() + "." + test->name();
  for (char& c : folder) c = c == '\0' ? '_' : c;
  std::filesystem::create_directories(folder);
  return folder + "/" + name;
}

inline std::string temporaryFile(const std::string& name, const std::string& content) {
  const std::string path = temporaryPath(name);
  std::ofstream(path, std::ios::binary) << content;
  return path;
}

}  // namespace alpglow::testing
