#include "panel_events.hpp"

#include <backends/imgui_impl_sdl.h>
#include <imgui.h>

#include <algorithm>

namespace alpglow::play {

namespace {

bool ofKey(const SDL_Event& event) { return event.type == SDL_KEYDOWN || event.type == SDL_KEYUP; }
bool ofButton(const SDL_Event& event) { return event.type == SDL_MOUSEBUTTONDOWN || event.type == SDL_MOUSEBUTTONUP; }

/// Its character is what counts, and comes as text.
bool writes(const SDL_Keysym& key) {
  return key.sym >= ' ' && key.sym < 127 && (key.mod & (KMOD_CTRL | KMOD_ALT)) == 0;
}

/// Of Dear ImGui's mouse; none for a sixth.
std::size_t indexOf(const SDL_Event& event) {
  constexpr std::size_t order[] = {0, 2, 1, 3, 4};
  const unsigned number = event.button.button;
  return number >= 1 && number <= std::size(order) ? order[number - 1] : std::size(order);
}

}  // namespace

void PanelEvents::handOver() {
  keys_.clear();
  changed_ = {};
  while (!waiting_.empty() && (waiting_.size() > most || !goesToNextFrame(waiting_.front()))) {
    handOver(waiting_.front());
    waiting_.pop_front();
  }
}

bool PanelEvents::goesToNextFrame(const SDL_Event& event) const {
  const bool anyButton = std::find(changed_.begin(), changed_.end(), true) != changed_.end();
  // What is clicked has the typing from the next frame on, and a key may change what text goes to.
  if (event.type == SDL_TEXTINPUT) return anyButton || !keys_.empty();
  if (event.type == SDL_MOUSEMOTION) return anyButton;
  if (ofButton(event)) return indexOf(event) < changed_.size() && changed_[indexOf(event)];
  return ofKey(event) && std::find(keys_.begin(), keys_.end(), event.key.keysym.sym) != keys_.end();
}

void PanelEvents::handOver(const SDL_Event& event) {
  ImGui_ImplSDL2_ProcessEvent(&event);
  if (ofKey(event)) {
    ImGuiIO& io = ImGui::GetIO();  // the backend asks what is held now
    io.KeyCtrl = (event.key.keysym.mod & KMOD_CTRL) != 0;
    io.KeyShift = (event.key.keysym.mod & KMOD_SHIFT) != 0;
    io.KeyAlt = (event.key.keysym.mod & KMOD_ALT) != 0;
    if (!writes(event.key.keysym)) keys_.push_back(event.key.keysym.sym);
  }
  if (event.type == SDL_WINDOWEVENT && event.window.event == SDL_WINDOWEVENT_FOCUS_LOST) down_ = {};
  if (event.type == SDL_MOUSEMOTION) {
    x_ = event.motion.x;
    y_ = event.motion.y;
  } else if (ofButton(event)) {
    x_ = event.button.x;
    y_ = event.button.y;
    if (indexOf(event) < down_.size()) {
      changed_[indexOf(event)] = true;
      down_[indexOf(event)] = event.type == SDL_MOUSEBUTTONDOWN;
    }
  }
}

void PanelEvents::mouseOf(double dt) const {
  ImGuiIO& io = ImGui::GetIO();
  // Two clicks take four frames, however quick they were.
  io.MouseDoubleClickTime = std::max(0.3f, static_cast<float>(2.5 * dt));
  if (waiting_.empty()) return;  // it is where the backend says
  for (std::size_t i = 0; i < down_.size(); ++i) io.MouseDown[i] = down_[i];
  if (ImGui::IsMousePosValid(&io.MousePos)) io.MousePos = ImVec2(static_cast<float>(x_), static_cast<float>(y_));
}

}  // namespace alpglow::play
