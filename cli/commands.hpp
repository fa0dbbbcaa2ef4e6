#pragma once
// The commands behind the command line. Each returns the exit code: 0 done, 1 a check found something. Bad input is
// thrown as io::InputError.

#include <string>
#include <vector>

namespace alpglow::cli {

int runNew(const std::string& output);

struct CheckOptions {
  std::string design;
  bool reference = false;
};
int runCheck(const CheckOptions& options);

struct RehearsalFiles {
  std::string design, level, take;
  double framesPerSecond = 60;
  std::string frames;
  double aspect = 16.0 / 9.0;
};

int runRehearse(const RehearsalFiles& files, const std::string& trace);
int runStoryboard(const RehearsalFiles& files, const std::string& output, const std::vector<double>& times);

}  // namespace alpglow::cli
