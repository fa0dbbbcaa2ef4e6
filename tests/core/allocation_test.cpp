#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/group_camera.hpp"
#include "alpglow/camera/shot_search.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/view/fading.hpp"
#include "alpglow/view/view_transition.hpp"
#include "support/warden_camera.hpp"

#include <gtest/gtest.h>

#include <atomic>
#include <cstdlib>
#include <new>

// The pairs below do match: all go to malloc and free.
#if defined(__GNUC__) && !defined(__clang__)
#pragma GCC diagnostic ignored "-Wmismatched-new-delete"
#endif

namespace {

std::atomic<long> allocations{0};

void* counted(std::size_t size, std::size_t alignment) {
  ++allocations;
  void* memory = nullptr;
  if (alignment <= alignof(std::max_align_t)) {
    memory = std::malloc(size);
  } else if (posix_memalign(&memory, alignment, size) != 0) {
    memory = nullptr;
  }
  if (memory == nullptr) throw std::bad_alloc();
  return memory;
}

}  // namespace

void* operator new(std::size_t size) { return counted(size, 1); }
void* operator new[](std::size_t size) { return counted(size, 1); }
void* operator new(std::size_t size, std::align_val_t alignment) {
  return counted(size, static_cast<std::size_t>(alignment));
}
void* operator new[](std::size_t size, std::align_val_t alignment) {
  return counted(size, static_cast<std::size_t>(alignment));
}
void operator delete(void* memory) noexcept { std::free(memory); }
void operator delete[](void* memory) noexcept { std::free(memory); }
void operator delete(void* memory, std::size_t) noexcept { std::free(memory); }
void operator delete[](void* memory, std::size_t) noexcept { std::free(memory); }
void operator delete(void* memory, std::align_val_t) noexcept { std::free(memory); }
void operator delete[](void* memory, std::align_val_t) noexcept { std::free(memory); }
void operator delete(void* memory, std::size_t, std::align_val_t) noexcept { std::free(memory); }
void operator delete[](void* memory, std::size_t, std::align_val_t) noexcept { std::free(memory); }

namespace alpglow {
namespace {

struct alignas(64) Wide {
  double numbers[8] = {};
};

TEST(Allocation, TheCounterCountsEveryKind) {
  const long before = allocations;
  void* volatile seen = nullptr;  // so that no compiler leaves a pair out
  int* const one = new int(1);
  seen = one;
  delete one;
  int* const several = new int[3];
  seen = several;
  delete[] several;
  Wide* const wide = new Wide();
  seen = wide;
  delete wide;
  Wide* const wides = new Wide[2];
  seen = wides;
  delete[] wides;
  EXPECT_EQ(allocations - before, 4);
  EXPECT_NE(seen, nullptr);
}

/// A design in which everything is on.
CameraDesign busyDesign() {
  CameraDesign design = testing::wardenDesign();
  design.swingBack.rate = degrees(90);
  design.swingBack.holdoff = 0.05;
  design.swingBack.idle = 0.5;
  design.lead.time = 0.2;
  design.motion.bob.vertical = 0.03;
  design.motion.dip.depthPerSpeed = 0.02;
  design.motion.breath.amplitude = 0.005;
  design.lock.widest = degrees(90);
  design.look.smoothing = 0.03;
  design.freeShoulder.after = 0.05;
  design.unrest.yaw = design.unrest.up = 0.01;
  design.idleDrift = {degrees(5), 0.3, 0.1};
  PushSettings recoil;
  recoil.pitch = 0.02, recoil.movesAim = true;
  design.pushes = {{"recoil", recoil}};
  design.framings[0].framing.follow.rest.above = 1;
  design.framings[0].framing.follow.rest.radius = 0.3;
  design.framings[0].framing.follow.rest.after = 0.1;
  design.framings[0].curves = {{Curved::distance, CurveOver::pitch, "", Curve({{-1, 5}, {1, 2}})},
                               {Curved::fieldOfView, CurveOver::number, "fear", Curve({{0, 1}, {1, 1.3}})}};
  return design;
}

/// A wall behind, a crate that comes, and a long cart to look past.
class Yard final : public Surroundings {
 public:
  void list(const Bounds&, Found& found) const noexcept override {
    found.add(HalfSpace{-Eigen::Vector3d::UnitZ(), -2}, {1});
    found.add(Box{{5, 1, 1}, Eigen::Matrix3d::Identity(), {0.3, 1, 0.3}}, {2, Purpose::all, {{-1, 0, 0}}});
    found.add(Box{{60, 1, 1.2}, Eigen::Matrix3d::Identity(), {50, 1.2, 0.1}}, {3, Purpose::large});
  }
};

TEST(Allocation, NoCallOfARunningCameraAllocates) {
  const CompiledDesign design(busyDesign());
  Subject warden;
  CharacterCamera camera(design, warden);
  const Yard yard;
  const Neighbourhood walls(yard);
  GroupCamera group{GroupSettings()};
  ViewTransition change;
  Fading fading;
  std::uint32_t seen = 0;
  int past = 0, shots = 0;
  std::size_t faded = 0;
  const long before = allocations;
  for (int i = 0; i < 2000; ++i) {
    warden.feet.x() += 0.05;
    warden.head.x() += 0.05;
    warden.velocity = {3, 0, 0};
    warden.onGround = i % 50 < 40;
    if (i % 200 == 100) warden.frame.id = 1 + static_cast<std::uint32_t>(i) % 2;
    if (i % 200 == 180) warden.frame.id = 0;
    warden.frame.yawRate = warden.frame.id == 0 ? 0 : 0.3;
    if (i % 300 == 20) camera.setShoulder(i % 2 == 0 ? Shoulder::other : Shoulder::centred);
    if (i % 150 < 40)
      camera.lockOn({static_cast<std::uint32_t>(i) / 300, {warden.head.x() + 2, 2, -4}, {3, 0, 0}, 0.3});
    if (i % 150 == 40) camera.endLock();
    if (i % 150 > 60 && i % 150 < 120) camera.guide(GuideGoal::toward({warden.head.x(), 4, -9}, 0.5));
    if (i % 150 == 120) camera.endGuide();
    const GroupMember members[] = {{1, warden.head}, {static_cast<std::uint32_t>(2 + i / 90), {i % 7 * 1.0, 1, -6}}};
    group.update(0.016, members, walls, 1.5);
    if (i % 300 == 7) shots += searchShot({members[0].centre, 0.3}, {members[1].centre, 0.3}, {}, yard, 1.5) ? 1 : 0;
    if (i % 170 == 60) camera.swingBack();
    if (i % 400 == 399) camera.changeSubject(warden);
    if (i % 111 == 0) camera.shift({1, 0, -1});
    if (i % 90 == 0) change.begin(0.3);
    if (i % 70 == 0) camera.push(0);
    camera.setNumber(0, i % 50 / 50.0);
    camera.setCondition(Condition::sprinting, i % 60 < 20);
    const IntentSample samples[] = {
        IntentSample::look(0.001, {i % 40 < 4 ? 12.0 : 0.0, 0}),
        IntentSample::zoom(0.002, i % 7 - 3),
        IntentSample::aim(0.003, i % 100 < 30),
        IntentSample::glance(0.004, i % 80 > 70),
        IntentSample::turn(0.005, {i % 90 > 80 ? 0.5 : 0.0, 0.0}),
        IntentSample::zoomRate(0.006, i % 2 == 0 ? 0.1 : 0),
    };
    camera.look(0.016, i % 100 < 60 ? Intent{samples} : Intent());
    camera.tick(0.004, warden);
    if (i % 130 == 0) camera.switchPerspective();
    const View view = change.step(0.016, camera.update(0.016, warden, walls, 1.5), &walls);
    if (i % 500 == 0) camera.restore(camera.save());
    const auto body = bodyPoints(warden, view.position);
    fading.update(whatHides(view.position, body, walls, i % 30 < 20 ? Purpose::large : Purpose::soft), 0.016, {});
    faded += fading.all().size();
    seen |= view.events;
    past += view.covers[0].thing == 3;
  }
  EXPECT_EQ(allocations - before, 0);
  EXPECT_TRUE(past > 0 && shots > 0 && faded > 0);
  for (const Event::Bit event : {Event::framingChanged, Event::lockBegan, Event::lockEnded, Event::swingBackBegan,
                                 Event::platformChanged, Event::pullInBegan, Event::cut, Event::transitionEnded})
    EXPECT_NE(seen & event, 0u) << "it happened: " << event;
}

}  // namespace
}  // namespace alpglow
