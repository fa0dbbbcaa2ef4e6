#include "alpglow/stage/audit.hpp"

#include "trace_row.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "alpglow/view/hiding.hpp"

#include <fmt/format.h>

#include <bitset>
#include <cmath>
#include <map>
#include <optional>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double settleFor = 3;  // seconds, in pieces
constexpr int settlePieces = 12;
constexpr double closeDistance = 0.9, apartFrom = 3, leastLoss = 0.05;  // metres
constexpr double fromTheEyes = 0.2;                                     // metres of distance, and less
constexpr std::size_t mostWorst = 10;

/// A framing of third person, and what has to hold for it.
struct Framed {
  std::size_t framing;
  std::uint32_t conditions;
};

/// The fewest conditions under which a framing applies, if there are any.
std::optional<std::uint32_t> conditionsFor(const CompiledDesign& design, std::size_t framing) {
  const std::size_t bits = std::min<std::size_t>(3 + design.flags().size(), 12);
  std::optional<std::uint32_t> fewest;
  for (std::uint32_t conditions = 0; conditions < (1u << bits); ++conditions) {
    if (design.select(Perspective::third, conditions) != framing) continue;
    const auto count = [](std::uint32_t of) { return std::bitset<32>(of).count(); };
    if (!fewest || count(conditions) < count(*fewest)) fewest = conditions;
  }
  return fewest;
}

std::vector<Framed> framedOf(const CompiledDesign& design) {
  std::vector<Framed> all;
  if (design.baseOf(Perspective::third) < 0) return all;
  for (std::size_t i = 0; i < design.design().framings.size(); ++i) {
    const NamedFraming& named = design.design().framings[i];
    if (named.perspective != Perspective::third || named.framing.distance <= fromTheEyes) continue;
    if (const auto conditions = conditionsFor(design, i)) all.push_back({i, *conditions});
  }
  return all;
}

Subject subjectAt(const io::Body& body, const Vector3d& feet, double direction, bool crouched) {
  Subject subject;
  subject.feet = feet;
  subject.head = feet + (crouched ? body.crouchEyeHeight : body.eyeHeight) * Vector3d::UnitY();
  subject.heading = direction;
  return subject;
}

/// Time passes until the camera rests.
View settled(CharacterCamera& camera, const Subject& subject, const Obstacles& world, double aspect) {
  View view;
  for (int i = 0; i < settlePieces; ++i) view = camera.step(settleFor / settlePieces, {}, subject, world, aspect);
  return view;
}

AuditedPose poseAt(const CompiledDesign& design, const Framed& framed, const Subject& subject, const Obstacles& world,
                   double aspect) {
  CharacterCamera camera(design, subject);
  if (framed.conditions != 0) {
    camera.setCondition(framed.conditions, true);
    settled(camera, subject, world, aspect);
    camera.changeSubject(subject);
  }
  View view = camera.update(0, subject, world, aspect);
  AuditedPose pose;
  pose.wanted = static_cast<float>(view.freeDistance);
  pose.obstacle = view.obstacle;
  // The shoulder is given up, and the eyes take over, after a while.
  if (view.obstacle != noObstacle) view = settled(camera, subject, world, aspect);
  pose.distance = static_cast<float>(view.distance);
  const bool eyes = view.freeDistance == 0 && pose.wanted > 0;
  pose.visible = eyes ? 1 : static_cast<float>(visibleShare(view, subject, world));
  const auto body = bodyPoints(subject, view.position);
  pose.unhidden = eyes ? 1 : static_cast<float>(whatHides(view.position, body, world, Purpose::camera).visible);
  return pose;
}

/// "set aiming", and so on, as lines of a take.
std::string cuesFor(const CompiledDesign& design, std::uint32_t conditions) {
  std::string text;
  if ((conditions & Condition::aiming) != 0) text += "0.0  set aiming\n";
  if ((conditions & Condition::crouched) != 0) text += "0.0  ControlLeft 1\n";
  for (const std::string& flag : design.flags()) {
    if ((conditions & design.flag(flag)) != 0) text += fmt::format("0.0  set {}\n", flag);
  }
  return text;
}

class Auditor {
 public:
  Auditor(const CompiledDesign& design, const Stage& stage, const AuditOptions& options)
      : design_(design), stage_(stage), options_(options), framed_(framedOf(design)) {
    audit_.reach = reachOf(stage, options.step, options.mostPlaces, options.found);
    for (const Framed& each : framed_) audit_.framings.push_back(design.design().framings[each.framing].name);
    directions_ = static_cast<std::size_t>(std::max(options.directions, 1));
    poses_.resize(audit_.reach.feet.size() * framed_.size() * directions_);
    audit_.poses = poses_.size();
    audit_.places.resize(audit_.reach.feet.size());
  }

  Audit run() {
    const auto each = [this](std::size_t place) { standAt(place); };
    if (options_.forEach) {
      options_.forEach(audit_.reach.feet.size(), each);
    } else {
      for (std::size_t i = 0; i < audit_.reach.feet.size(); ++i) each(i);
    }
    if (poses_.empty()) return std::move(audit_);
    for (std::size_t place = 0; place < audit_.places.size(); ++place) sumUp(place);
    total();
    chooseWorst();
    return std::move(audit_);
  }

 private:
  std::size_t at(std::size_t place, std::size_t framed, std::size_t direction) const {
    return (place * framed_.size() + framed) * directions_ + direction;
  }
  double angle(std::size_t direction) const {
    return wrapAngle(2 * pi * static_cast<double>(direction) / static_cast<double>(directions_));
  }

  void standAt(std::size_t place) {
    const Neighbourhood near(stage_.obstacles());
    for (std::size_t f = 0; f < framed_.size(); ++f) {
      for (std::size_t d = 0; d < directions_; ++d) {
        const bool crouched = (framed_[f].conditions & Condition::crouched) != 0;
        const Subject subject = subjectAt(stage_.level().body, audit_.reach.feet[place], angle(d), crouched);
        poses_[at(place, f, d)] = poseAt(design_, framed_[f], subject, near, options_.aspect);
      }
    }
  }

  struct Neighbour {
    std::size_t place, direction;
  };
  std::vector<Neighbour> neighbours(std::size_t place, std::size_t direction) const {
    std::vector<Neighbour> all = {{place, (direction + 1) % directions_},
                                  {place, (direction + directions_ - 1) % directions_}};
    for (const int next : audit_.reach.next[place]) {
      if (next >= 0) all.push_back({static_cast<std::size_t>(next), direction});
    }
    return all;
  }
  static double lossFrom(const AuditedPose& before, const AuditedPose& after) {
    return std::min(before.distance, after.wanted) - after.distance;
  }

  void sumUp(std::size_t place) {
    double distance = 0, wanted = 0, hidden = 0;
    std::map<ObstacleId, double> taken;
    AuditedPlace& result = audit_.places[place];
    for (std::size_t f = 0; f < framed_.size(); ++f) {
      for (std::size_t d = 0; d < directions_; ++d) {
        const AuditedPose& pose = poses_[at(place, f, d)];
        distance += pose.distance, wanted += pose.wanted;
        hidden += pose.unhidden < 0.5f ? 1 : 0;
        if (pose.obstacle != noObstacle) taken[pose.obstacle] += pose.wanted - pose.distance;
        for (const Neighbour& next : neighbours(place, d))
          result.lost = std::max(result.lost, lossFrom(pose, poses_[at(next.place, f, next.direction)]));
      }
    }
    if (wanted > 0) result.kept = distance / wanted;
    result.hidden = hidden / static_cast<double>(framed_.size() * directions_);
    double most = 0;
    for (const auto& [thing, metres] : taken) {
      if (metres > most) most = metres, result.taker = thing;
    }
  }

  void total() {
    double distance = 0, wanted = 0, in = 0, close = 0, hidden = 0, visible = 0;
    for (const AuditedPose& pose : poses_) {
      distance += pose.distance, wanted += pose.wanted;
      in += pose.distance < pose.wanted - 0.01f ? 1 : 0;
      close += pose.distance < closeDistance && pose.wanted >= closeDistance ? 1 : 0;
      hidden += pose.unhidden < 0.5f ? 1 : 0;
      visible += pose.visible;
    }
    const auto count = static_cast<double>(poses_.size());
    if (wanted > 0) audit_.kept = distance / wanted;
    audit_.pulledIn = in / count, audit_.close = close / count, audit_.hidden = hidden / count;
    audit_.visible = visible / count;
  }

  struct Loss {
    double metres;
    std::size_t framed, place, direction;
    Neighbour to;
  };

  void chooseWorst() {
    std::vector<Loss> losses;
    for (std::size_t place = 0; place < audit_.places.size(); ++place) {
      for (std::size_t f = 0; f < framed_.size(); ++f) {
        if ((framed_[f].conditions & Condition::sprinting) != 0) continue;
        for (std::size_t d = 0; d < directions_; ++d) {
          for (const Neighbour& next : neighbours(place, d)) {
            const double metres = lossFrom(poses_[at(place, f, d)], poses_[at(next.place, f, next.direction)]);
            if (metres > leastLoss) losses.push_back({metres, f, place, d, next});
          }
        }
      }
    }
    std::stable_sort(losses.begin(), losses.end(), [](const Loss& a, const Loss& b) { return a.metres > b.metres; });
    for (const Loss& loss : losses) {
      if (audit_.worst.size() == mostWorst) break;
      const Vector3d& feet = audit_.reach.feet[loss.place];
      const bool known = std::any_of(audit_.worst.begin(), audit_.worst.end(),
                                     [&feet](const WorstStep& each) { return (each.from - feet).norm() < apartFrom; });
      if (!known) audit_.worst.push_back(worstOf(loss));
    }
  }

  WorstStep worstOf(const Loss& loss) const {
    const AuditedPose &before = poses_[at(loss.place, loss.framed, loss.direction)],
                      &after = poses_[at(loss.to.place, loss.framed, loss.to.direction)];
    WorstStep worst;
    worst.framing = audit_.framings[loss.framed];
    worst.conditions = cuesFor(design_, framed_[loss.framed].conditions);
    worst.from = audit_.reach.feet[loss.place];
    worst.to = audit_.reach.feet[loss.to.place];
    worst.fromDirection = angle(loss.direction);
    worst.toDirection = angle(loss.to.direction);
    worst.before = before.distance;
    worst.after = after.distance;
    worst.wanted = after.wanted;
    worst.obstacle = stage_.nameOf(after.obstacle);
    return worst;
  }

  const CompiledDesign& design_;
  const Stage& stage_;
  const AuditOptions& options_;
  std::vector<Framed> framed_;
  std::size_t directions_ = 0;
  std::vector<AuditedPose> poses_;
  Audit audit_;
};

}  // namespace

Audit audit(const CompiledDesign& design, const Stage& stage, const AuditOptions& options) {
  return Auditor(design, stage, options).run();
}

std::string replayOf(const WorstStep& worst) {
  std::string text = fmt::format(
      "alpglow take 1\n# {:.2f} m of {:.2f} m are left in the framing {}, {:.2f} m before{}.\n{}"
      "0.0  teleport {:.4f} {:.4f} {:.4f} {:.3f}\n",
      worst.after, worst.wanted, worst.framing, worst.before,
      worst.obstacle.empty() ? std::string() : "; the rest goes to " + worst.obstacle, worst.conditions, worst.from.x(),
      worst.from.y(), worst.from.z(), toDegrees(worst.fromDirection));
  const double turn = shortestTurn(worst.fromDirection, worst.toDirection);
  if (turn != 0) {
    text += fmt::format("3.0..3.25  MouseTurn {:.4f} 0\n", -toDegrees(turn));
  } else {
    text += fmt::format("3.0  teleport {:.4f} {:.4f} {:.4f} {:.3f}\n", worst.to.x(), worst.to.y(), worst.to.z(),
                        toDegrees(worst.toDirection));
  }
  return text + "6.0  end\n";
}

}  // namespace alpglow::stage
