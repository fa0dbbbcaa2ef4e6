#pragma once
// A design in a panel of Dear ImGui: every setting, grouped like the flow of a frame, with search, undo, and what
// differs from the file marked. What comes out is the author's text with other numbers.
//
//   panel::DesignPanel panel(io::DesignText(io::readWhole(path), path));
//   if (panel.show()) camera.changeDesign(compiled(panel.design()));    // within ImGui::Begin … End

#include "alpglow/io/design_text.hpp"
#include "alpglow/panel/history.hpp"

#include <array>
#include <optional>
#include <string>
#include <vector>

namespace alpglow::panel {

class DesignPanel {
 public:
  explicit DesignPanel(io::DesignText design);

  /// Into the current window of Dear ImGui. True if the design has become another one.
  bool show();

  const io::DesignText& text() const { return design_; }
  const CameraDesign& design() const { return design_.design(); }
  /// Differs from what was saved, or read, last.
  bool changed() const { return design_.text() != saved_.text(); }
  /// It has been written as it is.
  void markSaved();
  /// Another text takes its place; it counts as saved, and can be undone.
  void replace(io::DesignText design);

  /// A number, as if it had been typed. False, with a complaint, where it cannot have this value.
  bool set(const io::SettingName& setting, double value, bool goesOn = false);
  void undo() { go(history_.undo()); }
  void redo() { go(history_.redo()); }
  std::size_t undoSteps() const { return history_.undoSteps(); }
  bool canUndo() const { return history_.canUndo(); }
  bool canRedo() const { return history_.canRedo(); }
  /// Why the last value was not taken; empty if it was.
  const std::string& complaint() const { return complaint_; }

  /// Sections with this name are open, such as to point at one.
  void open(const std::string& section) { open_ = section; }

 private:
  void go(const std::string& text);
  void showGroup(const char* name, const std::vector<const io::DesignSetting*>& rows);
  void showSection(const std::string& title, const std::vector<const io::DesignSetting*>& rows);
  void answer(const io::DesignSetting& setting, bool toFile);
  template <class Change>
  bool change(Change&& change, bool goesOn);

  io::DesignText design_, saved_;
  std::vector<io::DesignSetting> settings_, savedSettings_;
  History history_;
  std::string complaint_, open_;
  std::array<char, 64> search_ = {};
  bool onlyChanged_ = false, isAnother_ = false;
};

/// A setting that two designs have otherwise.
struct DesignDifference {
  io::DesignSetting first, second;
};
std::vector<DesignDifference> differences(const CameraDesign& first, const CameraDesign& second);

/// The group of a section, in the order of a frame; what it is in none of, is in the last one.
const char* groupOf(const io::SettingName& setting);
Span<const char* const> groups();

}  // namespace alpglow::panel
