#pragma once
// What a seeded run came to, in a few numbers under a few names: the mean of everything that was added, squashed so
// that nothing large hides what is small. Kept in a file beside the test, one line for each seed; whatever the change
// to the code, a run that comes to something else is noticed.
//
//   ALPGLOW_RECORD=1 recorded_tests        writes the files anew; the commit says what changed, and why

#include <gtest/gtest.h>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <initializer_list>
#include <sstream>
#include <string>
#include <vector>

namespace alpglow::testing {

class Record {
 public:
  explicit Record(std::size_t names) : sums_(names, 0), counts_(names, 0) {}

  void add(std::size_t name, std::initializer_list<double> numbers) {
    double weight = 1;
    for (const double number : numbers) sums_[name] += weight * std::asinh(number), weight *= 0.83;
    ++counts_[name];
  }
  std::vector<double> means() const {
    std::vector<double> result;
    for (std::size_t i = 0; i < sums_.size(); ++i) result.push_back(sums_[i] / std::max(counts_[i], 1));
    return result;
  }

 private:
  std::vector<double> sums_;
  std::vector<int> counts_;
};

/// Compares what seeds come to with the file, or writes it.
template <class Run>
void compareWithRecord(const std::string& file, const std::vector<std::string>& names, unsigned seeds, Run&& run) {
  std::stringstream now;
  now.precision(13);
  now << "seed";
  for (const std::string& name : names) now << ' ' << name;
  for (unsigned seed = 0; seed < seeds; ++seed) {
    Record record(names.size());
    run(seed, record);
    now << '\n' << seed;
    for (const double mean : record.means()) now << ' ' << mean;
  }
  now << '\n';
  if (std::getenv("ALPGLOW_RECORD") != nullptr) {
    std::ofstream(file) << now.str();
    return;
  }
  std::ifstream before(file);
  std::string was, is;
  std::getline(before, was), std::getline(now, is);
  ASSERT_EQ(was, is) << "other names in " << file;
  for (unsigned seed = 0; seed < seeds; ++seed) {
    before >> was, now >> is;
    ASSERT_EQ(was, is) << "the seed in " << file;
    for (const std::string& name : names) {
      double then = 0, today = 0;
      ASSERT_TRUE(before >> then && now >> today) << name << " of seed " << seed << " in " << file;
      EXPECT_NEAR(today, then, 1e-9 * (1 + std::abs(then))) << name << " of seed " << seed;
    }
  }
}

}  // namespace alpglow::testing
