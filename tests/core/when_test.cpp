#include "alpglow/design/when.hpp"

#include "alpglow/design/design.hpp"

#include <gtest/gtest.h>

#include <functional>
#include <random>

namespace alpglow {
namespace {

constexpr const char* names[] = {"aiming", "sprinting", "crouched", "hurt", "on-cliff"};  // bit by bit, in this order

/// A random condition as text, and what it means.
struct Said {
  std::string text;
  std::function<bool(std::uint32_t)> means;
};

/// `binds`: 0 after or, 1 after and, 2 after not.
Said say(std::mt19937& random, int depth, int binds) {
  const auto roll = depth == 0 ? 0 : random() % 4;
  if (roll == 0) {
    const auto which = static_cast<std::uint32_t>(random() % 5);
    return {names[which], [=](std::uint32_t c) { return (c >> which & 1) != 0; }};
  }
  if (roll == 1) {
    const Said inner = say(random, depth - 1, 2);
    return {"not " + inner.text, [=](std::uint32_t c) { return !inner.means(c); }};
  }
  const bool all = roll == 2;
  const Said a = say(random, depth - 1, all ? 1 : 0), b = say(random, depth - 1, all ? 1 : 0);
  const std::string text = a.text + (all ? " and " : " or ") + b.text;
  return {binds > (all ? 1 : 0) ? "(" + text + ")" : text,
          [=](std::uint32_t c) { return all ? a.means(c) && b.means(c) : a.means(c) || b.means(c); }};
}

ParsedWhen read(const std::string& text) {
  std::vector<std::string> flags = {"hurt", "on-cliff"};
  return parseWhen(text, flags);
}

TEST(When, MeansWhatItSays) {
  std::mt19937 random(5);
  int impossible = 0;
  for (int i = 0; i < 3000; ++i) {
    const Said said = say(random, 4, 0);
    const ParsedWhen parsed = read(said.text);
    ASSERT_FALSE(parsed.fault) << said.text;
    bool ever = false;
    for (std::uint32_t c = 0; c < 32; ++c) {
      ASSERT_EQ(parsed.when.holds(c), said.means(c)) << said.text << " under " << c;
      ever = ever || said.means(c);
    }
    EXPECT_EQ(parsed.when.possible(), ever) << said.text;
    impossible += ever ? 0 : 1;
  }
  EXPECT_GT(impossible, 20);
}

TEST(When, CoversOnlyWhatItAlwaysHoldsWith) {
  std::mt19937 random(6);
  int covered = 0;
  for (int i = 0; i < 3000; ++i) {
    const Said a = say(random, 3, 0), b = say(random, 3, 0);
    if (!read(a.text).when.covers(read(b.text).when)) continue;
    ++covered;
    for (std::uint32_t c = 0; c < 32; ++c) ASSERT_TRUE(a.means(c) || !b.means(c)) << a.text << " / " << b.text;
  }
  EXPECT_GT(covered, 300);
  EXPECT_TRUE(read("aiming or hurt").when.covers(read("hurt and not crouched").when));
  EXPECT_FALSE(read("hurt and not crouched").when.covers(read("hurt").when));
}

TEST(When, SaysWhatIsWrongAndWhere) {
  const auto fault = [](const std::string& text, std::size_t at, const char* words) {
    const ParsedWhen parsed = read(text);
    ASSERT_TRUE(parsed.fault) << text;
    EXPECT_EQ(parsed.fault->at, at) << text;
    EXPECT_NE(std::string(parsed.fault->what).find(words), std::string::npos) << text << ": " << parsed.fault->what;
    EXPECT_FALSE(parsed.when.possible()) << text;
  };
  fault("", 0, "lacks a name");
  fault("aiming and", 10, "lacks a name");
  fault("not or hurt", 4, "lacks a name");
  fault("aiming crouched", 7, "and or or");
  fault("(aiming or hurt", 15, "closing parenthesis");
  fault("aiming) or hurt", 6, "not opened");
  fault("aiming && hurt", 7, "and or or");
  fault("aiming and !hurt", 11, "a character that no name has");
  fault(std::string(200, '(') + "aiming" + std::string(200, ')'), 33, "nested too deep");
  std::string many = "(a0 or b0)";
  for (int i = 1; i < 10; ++i) many += " and (a" + std::to_string(i) + " or b" + std::to_string(i) + ")";
  ASSERT_TRUE(read(many).fault);
  EXPECT_NE(std::string(read(many).fault->what).find("alternatives"), std::string::npos);
  std::string flags = "f0";
  for (int i = 1; i < 40; ++i) flags += " and f" + std::to_string(i);
  ASSERT_TRUE(read(flags).fault);
  EXPECT_NE(std::string(read(flags).fault->what).find("29"), std::string::npos);
}

TEST(When, AFramingAppliesWhileItsConditionHolds) {
  CameraDesign design;
  design.framings.push_back({"prone", {}, "(hurt or aiming) and not sprinting", Perspective::third});
  design.framings.push_back({"broken", {}, "aiming or", Perspective::third});
  design.framings.push_back({"steady", {}, "not hurt and crouched", Perspective::third});
  const CompiledDesign compiled(design);
  const std::uint32_t hurt = compiled.flag("hurt");
  EXPECT_EQ(hurt, 8u);
  EXPECT_EQ(compiled.flags(), std::vector<std::string>{"hurt"});
  const auto shown = [&](std::uint32_t c) { return compiled.select(Perspective::third, c); };
  EXPECT_EQ(shown(0), 0u);
  EXPECT_EQ(shown(hurt), 1u);
  EXPECT_EQ(shown(hurt | Condition::sprinting), 0u);
  EXPECT_EQ(shown(Condition::aiming | Condition::sprinting), 0u) << "what cannot be read never holds";
  EXPECT_EQ(shown(Condition::crouched), 3u);
  EXPECT_EQ(shown(Condition::crouched | hurt), 1u);
}

}  // namespace
}  // namespace alpglow
