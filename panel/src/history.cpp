#include "alpglow/panel/history.hpp"

namespace alpglow::panel {

void History::add(std::string text, bool goesOn) {
  texts_.resize(at_ + 1);
  if (goesOn && at_ > 0) {
    texts_[at_] = std::move(text);
    return;
  }
  if (text == texts_[at_]) return;
  texts_.push_back(std::move(text));
  if (texts_.size() > most) texts_.erase(texts_.begin());
  at_ = texts_.size() - 1;
}

}  // namespace alpglow::panel
