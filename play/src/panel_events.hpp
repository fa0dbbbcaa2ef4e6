#pragma once
// What a hand does between two frames, for panels that look once a frame.

#include <SDL.h>

#include <array>
#include <deque>
#include <vector>

namespace alpglow::play {

/// Dear ImGui 1.86 asks once a frame what is down: a key that came down and up in between is lost, two clicks are one,
/// and a click followed by motion falls where the motion ended. Here such events wait for the next frame, in their
/// order, so that nobody types or clicks too fast for a slow picture. Usually nothing waits at all.
class PanelEvents {
 public:
  void add(const SDL_Event& event) { waiting_.push_back(event); }
  /// Between the new frames of Dear ImGui's SDL backend and of Dear ImGui itself, whose frame takes `dt` seconds.
  void mouseOf(double dt) const;
  /// Hands Dear ImGui what belongs to this frame.
  void handOver();

 private:
  static constexpr std::size_t most = 256;  // that wait; no hand is faster

  bool goesToNextFrame(const SDL_Event& event) const;
  void handOver(const SDL_Event& event);

  std::deque<SDL_Event> waiting_;
  std::vector<SDL_Keycode> keys_;  // that changed in this frame; the buttons beside them
  std::array<bool, 5> changed_ = {}, down_ = {};
  int x_ = 0, y_ = 0;
};

}  // namespace alpglow::play
