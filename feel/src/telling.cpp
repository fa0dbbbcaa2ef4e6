#include "alpglow/feel/telling.hpp"

#include "alpglow/feel/feel.hpp"

#include <algorithm>
#include <cmath>
#include <string>

namespace alpglow::feel {

namespace {

struct Moment {
  double weight, time;
};

struct Weighed {
  const char* event;
  double weight;
};
constexpr Weighed events[] = {{"cut", 6},          {"eyes-took-over", 6},   {"eyes-gave-back", 5},

                              {"lock-began", 5},   {"transition-ended", 4}, {"lock-lost", 4},
                              {"lock-ended", 3},   {"target-flick", 3},     {"shoulder-swapped", 4},
                              {"head-blocked", 5}, {"platform-changed", 3}, {"swing-back-ended", 2}};

constexpr double changeWeight = 5;

/// The moment at which something is least, if it is less than that.
void addLeast(std::vector<Moment>& moments, const io::Trace& trace, double below, double weight,
              double (*of)(const io::TraceFrame&)) {
  const auto least = std::min_element(trace.begin(), trace.end(),
                                      [of](const io::TraceFrame& a, const io::TraceFrame& b) { return of(a) < of(b); });
  if (least != trace.end() && of(*least) < below) moments.push_back({weight, least->time});
}

/// When a change of framing that begins in a frame has come half of its way, or something else begins.
double halfWay(const io::Trace& trace, std::size_t from) {
  for (std::size_t i = from; i < trace.size(); ++i) {
    if (trace[i].framingBlend >= 0.5 || (i > from && io::happened(trace[i], "framing-changed"))) return trace[i].time;
  }
  return trace[from].time;
}

bool thirdPerson(const io::TraceFrame& frame) { return frame.freeDistance > 0.2; }

}  // namespace

std::vector<double> tellingMoments(const io::Trace& trace, std::size_t most, double apart) {
  std::vector<Moment> moments;
  FeelMeter meter;
  meter.add(trace);
  for (const Pop& pop : meter.feel().pops) moments.push_back({7 + pop.loss, pop.time});
  for (std::size_t i = 1; i < trace.size(); ++i) {  // the first one always cuts
    for (const std::string& word : io::wordsOf(trace[i].events)) {
      if (word == "framing-changed") moments.push_back({changeWeight, halfWay(trace, i)});
      for (const Weighed& known : events) {
        if (word == known.event) moments.push_back({known.weight, trace[i].time});
      }
    }
  }
  addLeast(moments, trace, 0.7, 5.5,
           [](const io::TraceFrame& f) { return thirdPerson(f) ? f.distance / f.freeDistance : 1; });
  addLeast(moments, trace, 0.5, 4.5, [](const io::TraceFrame& f) { return thirdPerson(f) ? f.visible : 1; });
  std::stable_sort(moments.begin(), moments.end(),
                   [](const Moment& a, const Moment& b) { return a.weight > b.weight; });
  std::vector<double> times;
  for (const Moment& moment : moments) {
    if (times.size() == most) break;
    const bool known =
        std::any_of(times.begin(), times.end(), [&](double time) { return std::abs(time - moment.time) < apart; });
    if (!known) times.push_back(moment.time);
  }
  return times;
}

}  // namespace alpglow::feel
