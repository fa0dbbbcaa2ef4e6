#pragma once
// What each control does, and binding them anew by pressing the wanted one.

#include "alpglow/play/session.hpp"

#include <string>

namespace alpglow::play {

class ControlsMenu {
 public:
  /// Into the current window of Dear ImGui. True when the bindings have changed.
  bool show(Session& session);
  bool waiting() const { return waiting_; }
  const std::string& said() const { return said_; }

 private:
  void showAction(Session& session, const Bindings& bindings, const std::string& mode, Action action);
  void settle(Session& session);

  bool waiting_ = false, changed_ = false;
  std::string said_;
  Binding asked_;
};

/// "KeyW", "ShiftLeft + KeyF".
std::string controlText(const Binding& binding);

}  // namespace alpglow::play
