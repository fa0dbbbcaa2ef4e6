#pragma once
// One frame of many cameras: spectators, the candidates of a director, the players of a split screen.
//
//   const FrameOfOne frames[] = {{&wardens, dt, intent, warden, 8.0 / 9}, {&cooks, dt, {}, cook, 8.0 / 9}};
//   View views[2];
//   updateMany(frames, world, views);
//
// By several threads: each takes a part of the frames, and a `Neighbourhood` of its own around the one world.

#include "alpglow/base/span.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/follow/subject.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/view.hpp"

namespace alpglow {

/// What `CharacterCamera::step` takes.
struct FrameOfOne {
  CharacterCamera* camera = nullptr;
  FrameTime time = 0.0;
  Intent intent;
  Subject subject;
  double aspect = 16.0 / 9.0;
};

/// Each camera's step, in order: as many views as frames, the same as one by one. A frame without a camera leaves its
/// view as it is. Allocates nothing and throws nothing; no camera may stand in the frames of two threads at once.
inline void updateMany(Span<const FrameOfOne> frames, const Obstacles& world, View* views) {
  for (std::size_t i = 0; i < frames.size(); ++i) {
    const FrameOfOne& frame = frames[i];
    if (frame.camera != nullptr)
      views[i] = frame.camera->step(frame.time, frame.intent, frame.subject, world, frame.aspect);
  }
}

}  // namespace alpglow
