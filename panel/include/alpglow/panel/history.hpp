#pragma once
// Texts of one document over time, to go back and forth in.

#include <cstddef>
#include <string>
#include <vector>

namespace alpglow::panel {

class History {
 public:
  static constexpr std::size_t most = 300;

  explicit History(std::string text) : texts_{std::move(text)} {}

  const std::string& now() const { return texts_[at_]; }
  /// A new text follows the present one; what was undone is gone. One that `goesOn` with a step, as while a slider is
  /// dragged, takes the place of that step's text.
  void add(std::string text, bool goesOn);
  bool canUndo() const { return at_ > 0; }
  bool canRedo() const { return at_ + 1 < texts_.size(); }
  const std::string& undo() { return texts_[at_ -= canUndo() ? 1 : 0]; }
  const std::string& redo() { return texts_[at_ += canRedo() ? 1 : 0]; }
  std::size_t undoSteps() const { return at_; }

 private:
  std::vector<std::string> texts_;
  std::size_t at_ = 0;
};

}  // namespace alpglow::panel
