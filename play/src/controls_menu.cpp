#include "controls_menu.hpp"

#include "alpglow/panel/rows.hpp"
#include "alpglow/panel/theme.hpp"

#include "alpglow/design/settings.hpp"

#include <fmt/format.h>
#include <imgui.h>

#include <algorithm>
#include <utility>

namespace alpglow::play {

using panel::Colours;
using panel::ShownItems;

std::string controlText(const Binding& binding) {
  const std::string control = nameOf(binding.control);
  return binding.modifier.valid() ? std::string(nameOf(binding.modifier)) + " + " + control : control;
}

bool ControlsMenu::show(Session& session) {
  settle(session);
  const Bindings bindings = session.controls().bindings();
  const std::string mode = session.controls().mode();
  ImGui::TextDisabled("%s, mode %s", bindings.name.c_str(), mode.c_str());
  if (waiting_) {
    ImGui::TextColored(ImGui::ColorConvertU32ToFloat4(Colours::changed), "press what %s is to be; Escape cancels",
                       bindings.nameOf(asked_.action).c_str());
  } else if (!said_.empty()) {
    ImGui::TextWrapped("%s", said_.c_str());
  }
  ImGui::BeginChild("actions");
  const std::size_t actions = builtInActionNames().size() + bindings.ownActions.size();
  for (std::size_t i = 0; i < actions; ++i) showAction(session, bindings, mode, static_cast<Action>(i));
  Bindings tuned = bindings;
  bool another = false;
  forEachControlSection(tuned, [&](const char* name, auto& section, auto settings) {
    if (!ImGui::CollapsingHeader(name)) return;
    for (const auto& setting : settings) {
      const panel::RowAnswer asked = panel::showRow(panel::rowOf(setting, section, std::string("controls.") + name));
      if (!asked.value) continue;
      auto before = section;
      setting.assign(section, *asked.value);
      if (brokenRelation(section).key != nullptr) {
        section = before;
      } else {
        another = true;
      }
    }
  });
  ImGui::EndChild();
  if (another) {
    session.tune(tuned);
    changed_ = true;
  }
  return std::exchange(changed_, false);
}

/// One line: the action, its controls, each of which can be another one, and one more.
void ControlsMenu::showAction(Session& session, const Bindings& bindings, const std::string& mode, Action action) {
  const std::string name = bindings.nameOf(action);
  ImGui::PushID(name.c_str());
  ImGui::AlignTextToFramePadding();
  ImGui::TextUnformatted(name.c_str());
  float along = ImGui::GetFontSize() * 9;
  const float room = ImGui::GetWindowContentRegionMax().x;
  const auto button = [&](const std::string& label, const std::string& id) {
    const float wide = ImGui::CalcTextSize(label.c_str()).x + 2 * ImGui::GetStyle().FramePadding.x;
    if (along + wide > room) {
      along = ImGui::GetFontSize() * 9;
      ImGui::NewLine();
    }
    ImGui::SameLine(along);
    along += wide + ImGui::GetStyle().ItemSpacing.x;
    const bool pressed = ImGui::Button((label + "##" + id).c_str());
    ShownItems::note("bind " + name + " " + id);
    return pressed;
  };
  Binding last;
  last.action = action;
  last.axis = axesOf(action) == 2 ? Axis::both : Axis::x;
  std::size_t count = 0;
  for (const Binding& binding : bindings.modes[bindings.findMode(mode)].bindings) {
    if (binding.action != action) continue;
    last = binding;
    if (!button(controlText(binding), std::to_string(count++))) {
      if (ImGui::IsItemHovered()) {
        const char* axes[] = {"x", "y", "both axes"};
        ImGui::SetTooltip("%s times %g; right click takes it away", axes[static_cast<int>(binding.axis)],
                          binding.scale);
        if (ImGui::IsMouseClicked(1)) {
          session.controls().unbind(mode, action, binding.control);
          session.setBindings(session.controls().bindings());
          changed_ = true;
        }
      }
      continue;
    }
    asked_ = binding;
    session.controls().bindNext(mode, binding);
    waiting_ = true;
  }
  if (button("+", "more")) {
    asked_ = last;
    asked_.control = {};
    session.controls().bindNext(mode, asked_);
    waiting_ = true;
  }
  ImGui::PopID();
}

void ControlsMenu::settle(Session& session) {
  if (!waiting_ || session.controls().waitingToBind()) return;
  waiting_ = false;
  const Bindings bindings = session.controls().bindings();
  const BindAnswer answer = session.controls().boundNext();
  session.setBindings(bindings);  // also where nothing was bound: what was pressed for it is still down
  switch (answer.what) {
    case Bound::yes:
      said_ = bindings.nameOf(asked_.action) + " is bound";
      changed_ = true;
      return;
    case Bound::already: said_ = "it was bound so already"; return;
    case Bound::conflict:
      said_ = fmt::format("{} drives {} already; take it away there first", nameOf(answer.inTheWay.control),
                          bindings.nameOf(answer.inTheWay.action));
      return;
    case Bound::misfit: said_ = "that control cannot drive this action"; return;
    default: said_.clear();
  }
}

}  // namespace alpglow::play
