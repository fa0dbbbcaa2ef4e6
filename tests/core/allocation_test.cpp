#include "alpglow/character_camera.hpp"
#include "support/walls.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <atomic>
#include <cstdlib>
#include <new>

// The pair below does match: both go to malloc and free.
#pragma GCC diagnostic ignored "-Wmismatched-new-delete"

namespace {
std::atomic<long> allocations{0};
}

void* operator new(std::size_t size) {
  ++allocations;
  if (void* memory = std::malloc(size)) return memory;
  throw std::bad_alloc();
}
void operator delete(void* memory) noexcept { std::free(memory); }
void operator delete(void* memory, std::size_t) noexcept { std::free(memory); }

namespace alpglow {
namespace {

TEST(Allocation, LookAndUpdateAllocateNothing) {
  const CompiledDesign design(testing::wardenDesign());
  Subject warden;
  CharacterCamera camera(design, warden);
  testing::Walls walls;
  walls.walls.push_back({-Eigen::Vector3d::UnitZ(), -2});
  const long before = allocations;
  for (int i = 0; i < 1000; ++i) {
    warden.feet.x() += 0.05;
    warden.head.x() += 0.05;
    const IntentSample samples[] = {IntentSample::look(0.001, {12, 3}), IntentSample::zoom(0.002, i % 7 - 3),
                                    IntentSample::aim(0.003, i % 5 < 3), IntentSample::switchPerspective(i % 9 * 0.01)};
    camera.step(0.016, Intent{samples}, warden, walls, 1.5);
  }
  EXPECT_EQ(allocations - before, 0);
  EXPECT_GT(allocations, 0) << "the counter counts";
}

}  // namespace
}  // namespace alpglow
