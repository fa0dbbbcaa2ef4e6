#include "alpglow/conformance/suite.hpp"

#include "dice.hpp"
#include "suspects.hpp"
#include "thorough.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <map>
#include <random>
#include <sstream>
#include <thread>

namespace alpglow::conformance {

using Eigen::Vector3d;

namespace {

constexpr char notApart[] = "said to start apart where it touches";

/// Of an answer, as a suspect would give it: a distance, or nothing.
double answered(const Asked& a) {
  return a.question == Question::clearance || a.answer.hit() ? a.answer.distance : nothing;
}

class Suite {
 public:
  Suite(const Obstacles& adapter, const Surroundings& truth, const Bounds& where, const Options& options)
      : adapter_(adapter), truth_(truth), where_(where), options_(options), dice_(options.seed) {}

  Findings run() {
    for (const Question question : {Question::clearance, Question::cast, Question::sweep}) {
      for (int i = 0; i < options_.questions; ++i) asked_.push_back(random(question));
      judge(question);
    }
    judgeTouching();
    judgeWhatIsNoWay();
    judgeTogether();
    judgeThreads();
    proveThoroughly(adapter_, truth_, where_, options_, findings_.all);
    return std::move(findings_);
  }

 private:
  Asked random(Question question) {
    Asked a{question,
            {dice_.within(where_), dice_.direction() * dice_.between(0.1, options_.longest),
             dice_.between(options_.leastRadius, options_.mostRadius)},
            {}};
    // Half of the questions are about what is near: walls are thin and rooms are large.
    if (dice_.between(0, 1) < 0.5) {
      const Contact toward = truth_.cast(a.asked.from, a.asked.displacement * 4, Purpose::camera);
      if (toward.hit()) a.asked.from += a.asked.displacement.normalized() * std::max(toward.distance - 1, 0.0);
    }
    if (question == Question::clearance) a.asked.displacement.setZero(), a.asked.radius *= 4;
    const double room = truth_.clearance(a.asked.from, 10);
    const bool touches = question == Question::sweep ? room < a.asked.radius + options_.late : room == 0;
    a.answer = ask(adapter_, question, a.asked);
    const Contact right = ask(truth_, question, a.asked);
    a.truth = touches && question != Question::clearance ? blocked : right.distance;
    a.hit = right.hit() && (question != Question::clearance || right.distance < a.asked.radius);
    return a;
  }

  void judge(Question question) {
    std::map<std::string, std::vector<const Asked*>> wrong;
    int judged = 0;
    for (const Asked& a : asked_) {
      if (a.question != question) continue;
      if (a.truth == blocked && claimsToStartApart(a)) wrong[notApart].push_back(&a), ++judged;
      if (a.truth == blocked) continue;
      ++judged;
      const double got = a.answer.distance, late = options_.late + 1e-5 * a.truth;
      const bool finite = std::isfinite(got), ends = question != Question::clearance;
      if (!finite || got < 0) {
        wrong["no number"].push_back(&a);
      } else if (ends && !a.answer.hit() && a.hit && a.truth < a.length() - options_.late) {
        wrong["missed"].push_back(&a);
      } else if (got > a.truth + late && (a.answer.hit() || !ends)) {
        wrong[question == Question::clearance && a.truth == 0 ? "not 0 inside" : "late"].push_back(&a);
      } else if (got < a.truth - options_.early) {
        wrong["early"].push_back(&a);
      } else if (ends && a.answer.hit()) {
        if (options_.ids && a.answer.obstacle == unnamedObstacle) wrong["without an id"].push_back(&a);
        judgeNormal(a, wrong);
      }
    }
    for (const auto& [what, which] : wrong) report(question, what, which, judged);
  }

  bool claimsToStartApart(const Asked& a) const {
    return a.question == Question::sweep && a.answer.startsApart &&
           truth_.clearance(a.asked.from, a.asked.radius) < a.asked.radius - options_.late;
  }

  void judgeNormal(const Asked& a, std::map<std::string, std::vector<const Asked*>>& wrong) const {
    const Vector3d& normal = a.answer.normal;
    if (normal.isZero()) return;
    const Contact right = ask(truth_, a.question, a.asked);
    if (!(std::abs(normal.norm() - 1) < 1e-3)) {
      wrong["a normal that is not of unit length"].push_back(&a);
    } else if (normal.dot(right.normal) < -0.7) {
      wrong["a normal that points into the obstacle"].push_back(&a);
    }
  }

  /// The suspect that would have given most of these answers; half of them at least.
  std::string cause(const std::vector<const Asked*>& which) const {
    std::string best;
    int most = 0;
    for (const Suspect& suspect : suspects_) {
      int alike = 0, counted = 0;
      for (const Asked* a : which) {
        if (counted++ == 200) break;
        const double expected = suspect.answers(*a), got = answered(*a);
        alike += std::abs(expected - got) < 2e-3 * (1 + std::min(expected, got)) ? 1 : 0;
      }
      if (2 * alike > counted && alike > most) most = alike, best = suspect.cause;
    }
    return best;
  }

  void report(Question question, const std::string& what, const std::vector<const Asked*>& which, int of) {
    Finding finding;
    finding.question = question;
    finding.what = what;
    if (what == "without an id") {
      finding.cause = "what is answered or listed carries the default id";
    } else if (what.compare(0, 8, "a normal") != 0 && what != notApart) {
      finding.cause = cause(which);
    }
    const bool hits = std::any_of(asked_.begin(), asked_.end(),
                                  [question](const Asked& a) { return a.question == question && a.answer.hit(); });
    if (finding.cause == neverHits && hits) finding.cause.clear();
    if (finding.cause.empty() && what == "missed" && seenFromOneSide(which))
      finding.cause = "surfaces that are there from one side only";
    if (finding.cause.empty() && what == "missed")
      finding.cause = "thin things are passed: a way taken in steps, or a shape that is not listed";
    finding.times = static_cast<int>(which.size());
    finding.of = of;
    const auto off = [](const Asked* a) {
      const double difference = std::abs(a->answer.distance - a->truth);
      return std::isfinite(difference) ? difference : 1e300;
    };
    const Asked* worst =
        *std::max_element(which.begin(), which.end(), [&](const Asked* a, const Asked* b) { return off(a) < off(b); });
    finding.worst = worst->asked;
    finding.answer = worst->answer.distance;
    finding.truth = worst->truth;
    findings_.all.push_back(finding);
  }

  /// The same ways backward are stopped where they should be.
  bool seenFromOneSide(const std::vector<const Asked*>& which) const {
    int stopped = 0, counted = 0;
    for (const Asked* a : which) {
      if (counted++ == 200) break;
      const Vector3d to = a->asked.from + a->asked.displacement;
      const Sweep backward{to, -a->asked.displacement, a->asked.radius};
      const Contact got = ask(adapter_, a->question, backward), right = ask(truth_, a->question, backward);
      stopped += got.hit() && std::abs(got.distance - right.distance) < options_.early ? 1 : 0;
    }
    return 3 * stopped > 2 * counted;
  }

  /// A sphere that touches: stopped where it would go deeper, and free where it would not.
  void judgeTouching() {
    std::vector<Asked> stuck, deeper;
    for (const Asked& a : asked_) {
      if (a.question != Question::sweep || a.truth == blocked || !a.hit) continue;
      const Contact right = truth_.sweep(a.asked.from, a.asked.displacement, a.asked.radius);
      const Vector3d end = a.asked.from + right.distance * a.asked.displacement.normalized();
      const Sweep away{end, right.normal * 0.5, a.asked.radius}, on{end, right.normal * -0.5, a.asked.radius};
      const Contact back = truth_.sweep(away.from, away.displacement, away.radius);
      const Contact gotAway = adapter_.sweep(away.from, away.displacement, away.radius);
      const Contact gotOn = adapter_.sweep(on.from, on.displacement, on.radius);
      if (!back.hit() && gotAway.hit() && gotAway.distance < options_.early)
        stuck.push_back({Question::sweep, away, gotAway, 0.5, false});
      if (gotOn.distance > options_.early + options_.late) deeper.push_back({Question::sweep, on, gotOn, 0, true});
      if (stuck.size() + deeper.size() > 400) break;
    }
    add(stuck, "stuck", "a sphere that touches at its start is stopped also where it moves away");
    add(deeper, "deeper", "a sphere that touches at its start goes on into what it touches");
  }
  void add(const std::vector<Asked>& wrong, const char* what, const char* cause) {
    // A few are rounding: a sweep that starts exactly in touch may be a hair off.
    if (wrong.size() < 20) return;
    const Asked& first = wrong.front();
    findings_.all.push_back({first.question, what, cause, static_cast<int>(wrong.size()), options_.questions,
                             first.asked, first.answer.distance, first.truth});
  }

  void judgeWhatIsNoWay() {
    const Vector3d at = where_.centre();
    const Sweep still{at, {0, 0, 0}, 0.1};
    for (const Question question : {Question::sweep, Question::cast}) {
      const Contact contact = ask(adapter_, question, still);
      if (!contact.hit() && contact.distance == 0) continue;
      findings_.all.push_back(
          {question, "a way of no length", "it must answer 0 and no obstacle", 1, 1, still, contact.distance, 0});
    }
  }

  /// Several sweeps at once are answered as each alone.
  void judgeTogether() {
    constexpr std::size_t together = 7;
    std::vector<const Asked*> sweeps, wrong;
    for (const Asked& a : asked_) {
      if (a.question == Question::sweep) sweeps.push_back(&a);
    }
    Contact first;
    for (std::size_t begin = 0; begin + together <= sweeps.size(); begin += together) {
      std::array<Sweep, together> asked;
      std::array<Contact, together> answers;
      answers.fill(noAnswer());
      for (std::size_t i = 0; i < together; ++i) asked[i] = sweeps[begin + i]->asked;
      adapter_.sweepAll(asked, answers.data());
      for (std::size_t i = 0; i < together; ++i) {
        const Asked& alone = *sweeps[begin + i];
        const double difference = std::abs(answers[i].distance - alone.answer.distance);
        const double tolerance = std::min(options_.late, options_.early) + 1e-5 * alone.length();
        if (difference <= tolerance || std::isnan(alone.answer.distance)) continue;
        if (wrong.empty()) first = answers[i];
        wrong.push_back(&alone);
      }
    }
    if (wrong.empty()) return;
    findings_.all.push_back({Question::sweep, "other answers to several sweeps at once",
                             "the contacts of `sweepAll` are those of the sweeps, in their order",
                             static_cast<int>(wrong.size()), static_cast<int>(sweeps.size()), wrong[0]->asked,
                             first.distance, wrong[0]->answer.distance});
  }

  void judgeThreads() {
    if (options_.threads < 2 || asked_.empty()) return;
    std::vector<std::vector<const Asked*>> different(static_cast<std::size_t>(options_.threads));
    std::vector<std::thread> threads;
    threads.reserve(different.size());
    std::atomic<std::size_t> ready = 0;
    for (auto& mine : different) {
      // Each begins elsewhere: equal questions at the same time disturb nobody.
      const std::size_t start = threads.size() * asked_.size() / different.size();
      threads.emplace_back([this, &mine, start, &ready, count = different.size()] {
        for (++ready; ready < count;) std::this_thread::yield();
        for (int round = 0; round < 3; ++round) {
          for (std::size_t i = 0; i < asked_.size(); ++i) {
            const Asked& a = asked_[(start + i) % asked_.size()];
            const Contact again = ask(adapter_, a.question, a.asked);
            const bool same =
                again.distance == a.answer.distance || (std::isnan(again.distance) && std::isnan(a.answer.distance));
            if (!same) mine.push_back(&a);
          }
        }
      });
    }
    for (std::thread& thread : threads) thread.join();
    for (const auto& mine : different) {
      if (mine.empty()) continue;
      findings_.all.push_back({mine[0]->question, "other answers from several threads",
                               "something that is written to is shared", static_cast<int>(mine.size()),
                               static_cast<int>(3 * asked_.size()), mine[0]->asked, mine[0]->answer.distance,
                               mine[0]->truth});
      return;
    }
  }

  const Obstacles& adapter_;
  const Surroundings& truth_;
  const Bounds where_;
  const Options options_;
  Dice dice_;
  std::vector<Asked> asked_;
  const std::vector<Suspect> suspects_ = suspects(truth_);
  Findings findings_;
};

const char* nameOf(Question question) {
  switch (question) {
    case Question::sweep: return "sweep";
    case Question::cast: return "cast";
    case Question::clearance: return "clearance";
    case Question::sweepLater: return "sweepLater";
    case Question::sweepLarge: return "sweepLarge";
    case Question::nothingNear: return "nothingNear";
  }
  return "";
}

}  // namespace

Findings prove(const Obstacles& adapter, const Surroundings& truth, const Bounds& where, const Options& options) {
  return Suite(adapter, truth, where, options).run();
}

std::string Findings::text() const {
  std::ostringstream text;
  text.precision(9);
  const auto vector = [&text](const char* before, const Vector3d& v) {
    text << before << '(' << v.x() << ", " << v.y() << ", " << v.z() << ')';
  };
  for (const Finding& f : all) {
    text << nameOf(f.question) << ": " << f.what << ", " << f.times << " of " << f.of << " times";
    if (!f.cause.empty()) text << " — " << f.cause;
    vector("\n  worst: from ", f.worst.from);
    if (f.question != Question::clearance) vector(" by ", f.worst.displacement);
    if (f.question == Question::clearance) text << " range " << f.worst.radius;
    if (f.worst.radius > 0 && f.question != Question::clearance) text << " radius " << f.worst.radius;
    text << ": answered " << f.answer << ", should be " << f.truth << '\n';
  }
  return text.str();
}

}  // namespace alpglow::conformance
