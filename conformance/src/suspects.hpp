#pragma once
// Known mistakes of adapters: what each would answer.

#include "alpglow/conformance/suite.hpp"

#include <functional>
#include <vector>

namespace alpglow::conformance {

inline constexpr double blocked = -1;   // as a truth: too near to say
inline constexpr double nothing = 1e9;  // as an answer: nothing there
inline constexpr double silent = 2e9;   // a suspect does not speak of this question

inline constexpr char neverHits[] = "never hits anything: a filter, or a world that was not stepped";

/// What was asked, what came back, and what should have.
struct Asked {
  Question question;
  Sweep asked;
  Contact answer;
  double truth = 0;
  bool hit = false;
  double length() const { return asked.displacement.norm(); }
};

Contact ask(const Obstacles& world, Question question, const Sweep& s);

/// A known mistake: what it would answer.
struct Suspect {
  const char* cause;
  std::function<double(const Asked&)> answers;
};

std::vector<Suspect> suspects(const Surroundings& truth);

}  // namespace alpglow::conformance
