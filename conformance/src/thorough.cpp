#include "thorough.hpp"

#include "dice.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <string>

namespace alpglow::conformance {

using Eigen::Vector3d;

namespace {

constexpr double far = 400;  // metres from which a crosshair still meets things

/// A thing of the level: where it is, as far as that is within the bounds that are asked about.
struct Target {
  Bounds around;
  ObstacleId id;
};

struct Collect {
  const Bounds& where;
  std::vector<Target> targets;
  template <class Shape>
  void operator()(const Shape& shape, const Thing& thing) {
    const Bounds all = boundsOf(shape), near{all.low.cwiseMax(where.low), all.high.cwiseMin(where.high)};
    if (!near.empty()) targets.push_back({near, thing.id});
  }
};

/// One question and both answers.
struct Answered {
  Sweep asked;
  Contact got, right;
  double way() const { return asked.displacement.norm(); }
};

/// What is wrong with the answers to one kind of question.
class Tally {
 public:
  Tally(Question question, const Options& options) : question_(question), options_(options) {}

  void judge(const Answered& a) {
    ++asked_;
    const double late = options_.late + 1e-5 * a.right.distance, got = a.got.distance;
    const bool hits = a.got.hit(), meets = a.right.hit() && a.right.distance < a.way() - late;
    if (meets) all_.push_back(a);
    if (!std::isfinite(got) || got < 0) {
      wrong_["no number"].push_back(a);
    } else if (meets && (!hits || got > a.right.distance + late)) {
      wrong_[hits ? "late" : "missed"].push_back(a);
    } else if (hits && got < (a.right.hit() ? a.right.distance : a.way()) - options_.early) {
      wrong_["early"].push_back(a);
    }
  }

  /// `cause` explains what is wrong in all that was asked, given the wrong ones.
  template <class Cause>
  void report(std::vector<Finding>& findings, Cause&& cause) const {
    for (const auto& [what, which] : wrong_) {
      const bool someTimes = which.size() > 2 || 50 * which.size() > all_.size();
      if (!someTimes) continue;  // of rays that graze an edge the one or other passes it
      const Answered& worst = *std::max_element(which.begin(), which.end(), [](const Answered& a, const Answered& b) {
        return std::abs(a.got.distance - a.right.distance) < std::abs(b.got.distance - b.right.distance);
      });
      findings.push_back({question_, what, cause(what, which), static_cast<int>(which.size()), asked_, worst.asked,
                          worst.got.distance, worst.right.distance});
    }
  }

  /// All that the truth stops before the end.
  const std::vector<Answered>& all() const { return all_; }

 private:
  const Question question_;
  const Options& options_;
  int asked_ = 0;
  std::vector<Answered> all_;
  std::map<std::string, std::vector<Answered>> wrong_;
};

std::string text(double number) {
  std::string digits = std::to_string(number);
  return digits.substr(0, digits.find('.') + 3);
}

class Thorough {
 public:
  Thorough(const Obstacles& adapter, const Surroundings& truth, const Bounds& where, const Options& options,
           std::vector<Finding>& findings)
      : adapter_(adapter),
        truth_(truth),
        where_(where),
        options_(options),
        findings_(findings),
        dice_(options.seed + 1),
        each_(std::max(options.questions / 8, 50)) {
    Collect collect{where, {}};
    ForEachFound<Collect> found(collect);
    truth.list(where, found);
    targets_ = std::move(collect.targets);
  }

  void run() {
    if (targets_.empty()) return;
    judgeFarRays();
    judgeRadii();
    judgeWays();
    judgeDeep();
    judgeEnds();
    judgeNames();
    judgeNormals();
    judgeLater();
    judgeLarge();
    judgeGathered();
  }

 private:
  const Target& target() { return targets_[dice_.oneOf(targets_.size())]; }

  /// From somewhere outside of it toward a thing.
  Sweep toward(const Target& thing, double from, double beyond, double radius) {
    const Vector3d point = dice_.within(thing.around), ahead = dice_.direction();
    return {point - from * ahead, (from + beyond) * ahead, radius};
  }
  bool apart(const Sweep& s) const { return truth_.clearance(s.from, s.radius + 0.05) > s.radius + options_.late; }
  Answered swept(const Sweep& s) {
    Answered a{s, adapter_.sweep(s.from, s.displacement, s.radius), truth_.sweep(s.from, s.displacement, s.radius)};
    if (a.right.hit()) met_.push_back(a);
    return a;
  }

  void judgeFarRays() {
    constexpr struct {
      Purpose::Bit bit;
      const char* name;
    } purposes[] = {
        {Purpose::camera, "camera"}, {Purpose::aim, "aim"}, {Purpose::sight, "sight"}, {Purpose::focus, "focus"}};
    std::set<std::string> wrongFor;
    std::vector<Finding> found;
    for (const auto& purpose : purposes) {
      Tally tally(Question::cast, options_);
      for (int i = 0; i < each_; ++i) {
        const Sweep s = toward(target(), dice_.spread(1, far), 5, 0);
        if (!apart(s)) continue;
        tally.judge(
            {s, adapter_.cast(s.from, s.displacement, purpose.bit), truth_.cast(s.from, s.displacement, purpose.bit)});
      }
      const std::size_t before = found.size();
      tally.report(found, [&](const std::string& what, const std::vector<Answered>& which) {
        return what == "missed" ? endOf(tally.all(), which, "rays see nothing beyond about ") : std::string();
      });
      if (found.size() > before) wrongFor.insert(purpose.name);
    }
    for (Finding& each : found) {
      if (each.cause.empty() && wrongFor.size() < std::size(purposes))
        each.cause = "the purpose `" + *wrongFor.begin() + "` is answered otherwise than by the truth's `Thing::stops`";
      findings_.push_back(each);
      if (findings_.size() > 40) return;
    }
  }

  /// Whether all that is met is nearer than all that is missed.
  static std::string endOf(const std::vector<Answered>& all, const std::vector<Answered>& missed, const char* cause) {
    double nearest = 1e300, farthest = 0;
    for (const Answered& a : missed) nearest = std::min(nearest, a.right.distance);
    for (const Answered& a : all) {
      if (a.got.hit()) farthest = std::max(farthest, a.right.distance);
    }
    return farthest <= nearest ? cause + text(farthest) + " m" : std::string();
  }

  void judgeRadii() {
    Tally tally(Question::sweep, options_);
    for (int i = 0; i < 2 * each_; ++i) {
      const Sweep s = toward(target(), dice_.between(0.8, 3), 1, dice_.spread(0.003, 1));
      if (apart(s)) tally.judge(swept(s));
    }
    tally.report(findings_, [&](const std::string&, const std::vector<Answered>& which) -> std::string {
      int rays = 0;
      double largest = 0, smallest = 1e300;
      for (const Answered& a : which) {
        const Contact ray = truth_.cast(a.asked.from, a.asked.displacement, Purpose::camera);
        rays += std::abs(ray.distance - a.got.distance) < options_.late && ray.hit() == a.got.hit() ? 1 : 0;
        largest = std::max(largest, a.asked.radius);
        smallest = std::min(smallest, a.asked.radius);
      }
      if (2 * rays > static_cast<int>(which.size()))
        return "spheres of up to " + text(100 * largest) + " cm are answered as rays";
      return missing(which, tally.all());
    });
  }

  /// The thing that is never met.
  std::string missing(const std::vector<Answered>& wrong, const std::vector<Answered>& all) const {
    std::map<ObstacleId, int> passed, met;
    for (const Answered& a : all) ++met[a.right.obstacle];
    for (const Answered& a : wrong) ++passed[a.right.obstacle];
    for (const auto& [id, times] : passed) {
      if (times > 3 && 10 * times > 9 * met[id] && 2 * times > static_cast<int>(wrong.size()))
        return "thing " + std::to_string(id) + " of the truth is not there";
    }
    return {};
  }

  void judgeWays() {
    Tally longWays(Question::sweep, options_), shortWays(Question::sweep, options_);
    for (int i = 0; i < each_; ++i) {
      const Sweep s = toward(target(), dice_.spread(3, 60), 2, dice_.between(0.05, 0.3));
      if (apart(s)) longWays.judge(swept(s));
      // To just before it, and from there a short step.
      Sweep step = toward(target(), dice_.between(0.8, 3), 1, dice_.between(0.05, 0.3));
      const Contact first = truth_.sweep(step.from, step.displacement, step.radius);
      const double way = dice_.spread(0.005, 0.15), before = dice_.between(0.2, 0.8) * way;
      if (!apart(step) || !first.hit() || first.distance < 0.3) continue;
      const Vector3d ahead = step.displacement.normalized();
      step.from += (first.distance - before) * ahead;
      step.displacement = way * ahead;
      if (apart(step)) shortWays.judge(swept(step));
    }
    longWays.report(findings_, [&](const std::string& what, const std::vector<Answered>& which) {
      const std::string end =
          what == "missed" ? endOf(longWays.all(), which, "sweeps end after about ") : std::string();
      return end.empty() ? missing(which, longWays.all()) : end;
    });
    shortWays.report(findings_, [&](const std::string& what, const std::vector<Answered>& which) -> std::string {
      double longest = 0;
      for (const Answered& a : which) longest = std::max(longest, a.way());
      return what == "missed" ? "ways of up to " + text(100 * longest) + " cm are not asked" : "";
    });
  }

  /// Where the sphere, but not its centre, is deep inside something, it is stopped if it would go deeper. From a centre
  /// that is inside nobody asks: clearance is 0 there, and a head that is blocked has no way.
  void judgeDeep() {
    std::vector<Answered> wrong;
    int asked = 0;
    for (int i = 0; i < 4 * each_; ++i) {
      const Target& thing = target();
      const double radius = dice_.between(0.05, 0.35);
      const Sweep s{dice_.within(thing.around) + dice_.between(0, 0.7) * radius * dice_.direction(),
                    dice_.between(0.3, 2) * dice_.direction(), radius};
      const double room = truth_.clearance(s.from, radius);
      if (room == 0 || room > 0.7 * radius) continue;
      bool surely = true;  // not only by a hair
      for (int k = 0; k < 5 && surely; ++k) {
        const Vector3d way = s.displacement + 0.1 * s.displacement.norm() * dice_.direction();
        const Contact contact = truth_.sweep(s.from, way, radius);
        surely = contact.hit() && contact.distance == 0;
      }
      if (!surely) continue;
      ++asked;
      const Answered a{s, adapter_.sweep(s.from, s.displacement, s.radius), {0, thing.id}};
      if (!a.got.hit() || a.got.distance > options_.early) wrong.push_back(a);
    }
    if (wrong.size() <= 2 && 50 * wrong.size() <= static_cast<std::size_t>(asked)) return;
    findings_.push_back({Question::sweep, "goes on from deep inside",
                         "a sphere that is deep inside something must be stopped at 0 where it would go deeper",
                         static_cast<int>(wrong.size()), asked, wrong[0].asked, wrong[0].got.distance, 0});
  }

  /// What is just beyond the end is not there yet.
  void judgeEnds() {
    std::vector<Answered> wrong;
    const std::vector<Answered> met = met_;
    int asked = 0;
    for (const Answered& a : met) {
      const double gap = dice_.between(3, 40) * options_.early;
      if (a.right.distance < 2 * gap || asked > each_) continue;
      Sweep s = a.asked;
      s.displacement *= (a.right.distance - gap) / a.way();
      const Answered end{s, adapter_.sweep(s.from, s.displacement, s.radius),
                         truth_.sweep(s.from, s.displacement, s.radius)};
      if (end.right.hit()) continue;
      ++asked;
      if (end.got.hit()) wrong.push_back(end);
    }
    if (wrong.size() <= 2) return;
    findings_.push_back({Question::sweep, "a hit beyond the end",
                         "what a way does not come to is answered as met at its end", static_cast<int>(wrong.size()),
                         asked, wrong[0].asked, wrong[0].got.distance, wrong[0].right.distance});
  }

  void judgeNames() {
    if (!options_.ids) return;
    std::set<ObstacleId> things, names;
    for (const Answered& a : met_) {
      if (!a.got.hit()) continue;
      things.insert(a.right.obstacle);
      names.insert(a.got.obstacle);
    }
    if (things.size() < 3 || names.size() != 1 || *names.begin() == unnamedObstacle) return;
    const Answered& a = met_.front();
    findings_.push_back({Question::sweep, "one id for everything",
                         "the id names a thing: what fades or is faded by it would all be the same",
                         static_cast<int>(met_.size()), static_cast<int>(met_.size()), a.asked, a.got.distance,
                         a.right.distance});
  }

  void judgeNormals() {
    std::vector<Answered> wrong;
    int asked = 0, against = 0;
    for (const Answered& a : met_) {
      if (!a.got.hit() || a.got.normal.isZero() || a.right.normal.isZero()) continue;
      if (std::abs(a.got.distance - a.right.distance) > options_.early) continue;
      ++asked;
      const double alike = a.got.normal.dot(a.right.normal);
      if (alike > 0.9 || alike < -0.7) continue;  // these are asked about elsewhere
      wrong.push_back(a);
      against += a.got.normal.dot(a.asked.displacement.normalized()) < -0.99 ? 1 : 0;
    }
    const int count = static_cast<int>(wrong.size());
    if (10 * count < asked || count < 5) return;  // at an edge two faces have as good a claim
    findings_.push_back({Question::sweep, "a normal that is not the surface's",
                         2 * against > count ? "it looks against the way" : "", count, asked, wrong[0].asked,
                         wrong[0].got.distance, wrong[0].right.distance});
  }

  void judgeLater() {
    if (truth_.moves({})) return;  // where it will be is for the host to know
    Tally tally(Question::sweepLater, options_);
    for (int i = 0; i < each_; ++i) {
      const Sweep s = toward(target(), dice_.between(0.8, 4), 1, dice_.between(0.05, 0.3));
      if (!apart(s)) continue;
      const MomentAhead later{dice_.between(0, 1), {}};
      tally.judge({s, adapter_.sweepLater(s.from, s.displacement, s.radius, later),
                   truth_.sweep(s.from, s.displacement, s.radius)});
    }
    tally.report(findings_, [&](const std::string& what, const std::vector<Answered>& which) -> std::string {
      const bool never = what == "missed" && which.size() == tally.all().size();
      return never ? "it is never stopped: what is at rest will be there as well"
                   : "what is at rest is answered otherwise than by `sweep`";
    });
  }

  void judgeLarge() {
    Tally tally(Question::sweepLarge, options_);
    for (int i = 0; i < each_; ++i) {
      const Sweep s = toward(target(), dice_.between(0.8, 4), 1, dice_.between(0.05, 0.3));
      tally.judge({s, adapter_.sweepLarge(s.from, s.displacement, s.radius),
                   truth_.sweepLarge(s.from, s.displacement, s.radius)});
    }
    tally.report(findings_, [](const std::string&, const std::vector<Answered>&) -> std::string {
      return "what the truth calls large (`Purpose::large`) is not what the host does";
    });
    if (tally.all().empty() || adapter_.anyLarge()) return;
    const Answered& a = tally.all().front();
    findings_.push_back({Question::sweepLarge, "anyLarge says no where something is large",
                         "then nobody asks for what is large", 1, 1, a.asked, 0, 1});
  }

  /// Lists of one frame after the other, here and where nothing is.
  void judgeGathered() {
    std::vector<Answered> blind;
    const int rounds = std::min(each_, 200);
    Tally tally(Question::sweep, options_);
    for (int i = 0; i < rounds; ++i) {
      const bool away = i % 2 == 0;
      const Sweep s = toward(target(), 1.5, 0.5, 0.1);
      const Vector3d aside = away ? Vector3d(0, 3 * far, 0) : Vector3d(0, 0, 0);
      const Bounds bounds = Bounds::around(s.from, 0.2).with(Bounds::around(s.from + s.displacement, 0.2)).moved(aside);
      adapter_.gather(bounds);
      const bool nothing = adapter_.nothingNear();
      const Sweep asked{s.from + aside, s.displacement, s.radius};
      const Answered a{asked, adapter_.sweep(asked.from, asked.displacement, asked.radius),
                       truth_.sweep(asked.from, asked.displacement, asked.radius)};
      if (nothing && a.right.hit()) blind.push_back(a);
      if (apart(asked)) tally.judge(a);
    }
    adapter_.gather(Bounds());
    tally.report(findings_, [](const std::string&, const std::vector<Answered>&) {
      return std::string("the list of one frame is answered from in the next");
    });
    if (blind.empty()) return;
    findings_.push_back({Question::nothingNear, "says that nothing is near where something is",
                         "it speaks of the bounds that were gathered last, and of nothing else",
                         static_cast<int>(blind.size()), rounds, blind[0].asked, 1, 0});
  }

  const Obstacles& adapter_;
  const Surroundings& truth_;
  const Bounds where_;
  const Options& options_;
  std::vector<Finding>& findings_;
  Dice dice_;
  const int each_;
  std::vector<Target> targets_;
  std::vector<Answered> met_;
};

}  // namespace

void proveThoroughly(const Obstacles& adapter, const Surroundings& truth, const Bounds& where, const Options& options,
                     std::vector<Finding>& findings) {
  Thorough(adapter, truth, where, options, findings).run();
}

}  // namespace alpglow::conformance
