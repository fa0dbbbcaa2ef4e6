#pragma once
// Seeded random numbers for property tests.

#include <Eigen/Core>

#include <random>
#include <vector>

namespace alpglow::testing {

class Random {
 public:
  explicit Random(unsigned seed) : engine_(seed) {}

  double between(double low, double high) { return std::uniform_real_distribution<double>(low, high)(engine_); }
  int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(engine_); }
  bool chance(double share) { return between(0, 1) < share; }
  Eigen::Vector3d point(double extent) {
    return {between(-extent, extent), between(-extent, extent), between(-extent, extent)};
  }

  /// Random parts of a whole, in order.
  std::vector<double> cut(double whole, int parts) {
    std::vector<double> weights;
    double sum = 0;
    for (int i = 0; i < parts; ++i) weights.push_back(between(0.01, 1)), sum += weights.back();
    for (double& weight : weights) weight *= whole / sum;
    return weights;
  }

 private:
  std::mt19937 engine_;
};

}  // namespace alpglow::testing
