#include "alpglow/design/when.hpp"

#include <algorithm>
#include <cctype>

namespace alpglow {

namespace {

constexpr std::size_t mostAlternatives = 64;  // of one condition, also on the way to it
constexpr int deepest = 32;                   // parentheses and `not` within each other

constexpr char tooLong[] = "has too many alternatives (at most 64)";

bool covers(const When::Alternative& a, const When::Alternative& b) {
  return (a.with & ~b.with) == 0 && (a.without & ~b.without) == 0;
}

bool ofName(char c) {
  const auto byte = static_cast<unsigned char>(c);
  return byte >= 0x80 || std::isalnum(byte) != 0 || c == '-' || c == '_' || c == '.';
}

/// Goes down the grammar: any = every {"or" every}; every = one {"and" one}; one = "not" one | "(" any ")" | name.
class WhenParser {
 public:
  WhenParser(std::string_view text, std::vector<std::string>& flags) : text_(text), flags_(flags) { next(); }

  ParsedWhen parse() {
    When when = any(0);
    if (!fault_ && !word_.empty()) {
      fail(word_ == ")" ? "closes a parenthesis that was not opened" : "needs and or or between two names");
    }
    if (fault_) return {{}, fault_};
    return {std::move(when), {}};
  }

 private:
  When any(int depth) {
    When result = every(depth);
    while (takes("or")) result = checked(result || every(depth));
    return result;
  }

  When every(int depth) {
    When result = one(depth);
    while (takes("and")) result = checked(result && one(depth));
    return result;
  }

  When one(int depth) {
    if (fault_) return {};
    if (depth > deepest) return fail("is nested too deep (at most 32)");
    if (takes("not")) return checked(!one(depth + 1));
    if (takes("(")) {
      When inside = any(depth + 1);
      if (!fault_ && !takes(")")) return fail("lacks a closing parenthesis");
      return inside;
    }
    if (word_.empty() || word_ == ")" || word_ == "and" || word_ == "or") return fail("lacks a name");
    if (!ofName(word_.front())) return fail("has a character that no name has; names are joined by and, or, not");
    When named(bit());
    next();
    return named;
  }

  std::uint32_t bit() {
    if (conditionBit(word_, flags_) == 0) {
      if (flags_.size() == mostFlags) return fail("names one flag too many (at most 29 in a design)"), 0;
      flags_.emplace_back(word_);
    }
    return conditionBit(word_, flags_);
  }

  When checked(When when) {
    if (when.alternatives().size() > mostAlternatives) return fail(tooLong);
    return when;
  }

  When fail(const char* what) {
    if (!fault_) fault_ = WhenFault{static_cast<std::size_t>(word_.data() - text_.data()), what};
    return {};
  }

  bool takes(std::string_view word) {
    if (fault_ || word_ != word) return false;
    next();
    return true;
  }

  /// The next name, or any other single character; empty at the end.
  void next() {
    while (at_ < text_.size() && std::isspace(static_cast<unsigned char>(text_[at_])) != 0) ++at_;
    const std::size_t start = at_;
    while (at_ < text_.size() && ofName(text_[at_])) ++at_;
    if (at_ == start && at_ < text_.size()) ++at_;
    word_ = text_.substr(start, at_ - start);
  }

  std::string_view text_, word_;
  std::vector<std::string>& flags_;
  std::size_t at_ = 0;
  std::optional<WhenFault> fault_;
};

}  // namespace

std::uint32_t conditionBit(std::string_view name, const std::vector<std::string>& flags) {
  if (name == "aiming") return Condition::aiming;
  if (name == "sprinting") return Condition::sprinting;
  if (name == "crouched") return Condition::crouched;
  const auto own = std::find(flags.begin(), flags.end(), name);
  return own == flags.end() ? 0 : std::uint32_t{8} << (own - flags.begin());
}

bool When::holds(std::uint32_t conditions) const {
  return std::any_of(alternatives_.begin(), alternatives_.end(), [=](const Alternative& a) {
    return (a.with & ~conditions) == 0 && (a.without & conditions) == 0;
  });
}

bool When::covers(const When& other) const {
  return std::all_of(other.alternatives_.begin(), other.alternatives_.end(), [this](const Alternative& theirs) {
    return std::any_of(alternatives_.begin(), alternatives_.end(),
                       [&](const Alternative& mine) { return alpglow::covers(mine, theirs); });
  });
}

void When::add(const Alternative& alternative) {
  if ((alternative.with & alternative.without) != 0) return;
  const auto has = [&](const Alternative& mine) { return alpglow::covers(mine, alternative); };
  if (std::any_of(alternatives_.begin(), alternatives_.end(), has)) return;
  const auto lost = [&](const Alternative& mine) { return alpglow::covers(alternative, mine); };
  alternatives_.erase(std::remove_if(alternatives_.begin(), alternatives_.end(), lost), alternatives_.end());
  // Beyond the most there is a fault anyway; what is kept up to there says so.
  if (alternatives_.size() <= mostAlternatives) alternatives_.push_back(alternative);
}

When operator||(const When& a, const When& b) {
  When result = a;
  for (const When::Alternative& alternative : b.alternatives_) result.add(alternative);
  return result;
}

When operator&&(const When& a, const When& b) {
  When result;
  for (const When::Alternative& mine : a.alternatives_) {
    for (const When::Alternative& theirs : b.alternatives_)
      result.add({mine.with | theirs.with, mine.without | theirs.without});
  }
  return result;
}

When operator!(const When& a) {
  When result;
  result.alternatives_.push_back({});  // always
  for (const When::Alternative& alternative : a.alternatives_) {
    When fails;
    for (std::uint32_t bit = 1; bit != 0; bit <<= 1) {
      if ((alternative.with & bit) != 0) fails.add({0, bit});
      if ((alternative.without & bit) != 0) fails.add({bit, 0});
    }
    result = result && fails;
  }
  return result;
}

ParsedWhen parseWhen(std::string_view text, std::vector<std::string>& flags) { return WhenParser(text, flags).parse(); }

}  // namespace alpglow
