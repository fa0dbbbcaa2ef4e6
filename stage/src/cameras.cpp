#include "cameras.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

/// The index of what has this name; throws with the nearest name if nothing has.
template <class Things>
int named(const Things& things, const std::string& name, const char* what) {
  std::vector<std::string> names;
  names.reserve(things.size());
  for (const auto& thing : things) names.push_back(thing.name);
  const auto found = std::find(names.begin(), names.end(), name);
  if (found != names.end()) return static_cast<int>(found - names.begin());
  throw io::InputError("take", names.empty() ? fmt::format("{} is no {}; the level has none", name, what)
                                             : fmt::format("{} is no {} of the level; the nearest known one is {}",
                                                           name, what, io::nearestName(name, names)));
}

/// What moves goes straight from tick to tick, as the walker does; so nothing depends on when it is asked for.
struct Straight {
  Straight(double time, double tickLength)
      : begins(std::floor(drawnTime(time, tickLength) / tickLength + 1e-9) * tickLength),
        ends(begins + tickLength),
        share((drawnTime(time, tickLength) - begins) / tickLength) {}
  double begins, ends, share;
};

}  // namespace

Cameras::Cameras(const CompiledDesign& design, const Stage& stage, const Obstacles& obstacles, const Subject& walker)
    : stage_(stage), obstacles_(obstacles), character_(design, walker) {
  for (const io::LevelRegion& of : stage.level().regions) regionsOf_.push_back(of.region);
  markRegions(walker.feet);
}

/// With the bits that the design has for their names.
void Cameras::markRegions(const Vector3d& feet) {
  const CompiledDesign& design = character_.design();
  regional_ = 0;
  for (std::size_t i = 0; i < regionsOf_.size(); ++i) {
    regionsOf_[i].conditions = design.flag(stage_.level().regions[i].flag);
    regional_ |= regionsOf_[i].conditions;
  }
  enterRegions(feet);
}

void Cameras::changeDesign(const CompiledDesign& next, double seconds, const Vector3d& feet) {
  character_.changeDesign(next, seconds);
  markRegions(feet);
}

void Cameras::enterRegions(const Vector3d& feet) {
  if (regional_ == 0) return;
  const std::uint32_t holds = regions_.step(feet, regionsOf_);
  if ((regional_ & ~holds) != 0) character_.setCondition(regional_ & ~holds, false);
  if (holds != 0) character_.setCondition(holds, true);
}

void Cameras::look(FrameTime time, const PlayerControls& controls) {
  if (!flying_) return character_.look(time, controls.intent());
  character_.look(time, {});
  flying_->step(time.player, controls.intent(), controls.move(), controls.rise(), controls.state(Action::run).held);
}

void Cameras::tick(double seconds, double time, const Subject& walker) {
  character_.tick(seconds, subject(time, walker));
  tellTarget(time);
}

bool Cameras::asksForAnother() const {
  const Rate asked = character_.flick();
  return asked.x != 0 || asked.y != 0 || flick_.x != 0 || flick_.y != 0;
}

void Cameras::lockAnother(double time) {
  const std::vector<Target> all = targets(time);
  const int next = nextTarget(view_, all, character_.target().id, flick_, RankingSettings());
  if (next >= 0 && character_.locked()) lock(next, time);
  flick_ = {};
}

View Cameras::update(FrameTime passed, double time, const Subject& walker, double aspect) {
  tellTarget(time);
  const View character = character_.update(passed, subject(time, walker), obstacles_, aspect);
  const View shown = live(character, passed.world, time, walker, aspect);
  drawnAt_ = time;
  view_ = change_.step(passed.player, shown, &obstacles_);
  if (view_.events & Event::targetFlick) flick_ = view_.flick;
  View result = view_;
  for (const io::Cue& cue : pending_) change(cue, time, walker, aspect);
  pending_.clear();
  return result;
}

/// At the end of its frame, from what is shown then.
void Cameras::change(const io::Cue& cue, double time, const Subject& walker, double aspect) {
  if (cue.kind == io::Cue::Kind::camera) {
    choose(cue.name);
  } else {
    filmedPlatform_ = cue.name == "character" ? -1 : named(stage_.level().platforms, cue.name, "platform");
    filmed_ = cue.name;
    character_.changeSubject(subject(time, walker));
  }
  change_.begin(cue.seconds);
  const View character = character_.update(0.0, subject(time, walker), obstacles_, aspect);
  change_.step(0, live(character, 0, time, walker, aspect), &obstacles_);
}

/// Names in the order of the group's members.
std::string Cameras::groupNames(std::uint32_t GroupReport::*bits) const {
  std::string names;
  for (std::size_t i = 0; group_ && i < grouped_.members.size(); ++i) {
    if ((group_->report().*bits >> i & 1u) == 0) continue;
    const int target = grouped_.members[i];
    names += names.empty() ? "" : " ";
    names += target < 0 ? "character" : stage_.level().targets[static_cast<std::size_t>(target)].name;
  }
  return names;
}

View Cameras::ofGroup(double seconds, double time, const Subject& walker, double aspect) {
  const std::vector<Target> all = targets(time);
  std::vector<GroupMember> members;
  for (const int which : grouped_.members) {
    GroupMember& member = members.emplace_back();
    member.id = static_cast<std::uint32_t>(which + 1);
    if (which < 0) {
      const Subject character = subject(time, walker);
      member.centre = character.head;
      member.velocity = character.velocity;
      member.radius = grouped_.characterRadius;
    } else {
      const Target& target = all[static_cast<std::size_t>(which)];
      member.centre = target.position;
      member.velocity = target.velocity;
      member.radius = target.radius;
    }
  }
  return group_->update(seconds, members, obstacles_, aspect);
}

View Cameras::live(const View& character, double seconds, double time, const Subject& walker, double aspect) {
  if (flying_) return flying_->view(aspect);
  if (group_) {
    View view = ofGroup(seconds, time, walker, aspect);
    view.events |= character.events & ~std::uint32_t{Event::cut};
    view.heading = character.heading;
    view.head = character.head;
    return view;
  }
  if (!standing_) return character;
  const auto thing = [&](const io::Thing& which) -> std::optional<ReferenceFrame> {
    if (which.kind == io::Thing::Kind::world) return std::nullopt;
    if (which.kind == io::Thing::Kind::platform)
      return frameOf(stage_.level(), which.platform, drawnTime(time, stage_.tickLength()), {0, 0, 0});
    ReferenceFrame frame;
    frame.origin = walker.feet;
    frame.velocity = walker.velocity;
    frame.rotation = Rotation(Eigen::AngleAxisd(walker.heading, Vector3d::UnitY()));
    return frame;
  };
  const std::optional<ReferenceFrame> stand = thing(standsOn_), look = thing(looksAt_);
  View view = standing_->view(stand ? &*stand : nullptr, look ? &*look : nullptr, aspect, &obstacles_);
  view.events |= character.events & ~std::uint32_t{Event::cut};
  view.lock = character.lock;
  view.lockError = character.lockError;
  view.heading = character.heading;
  view.head = view.pivot = character.head;
  return view;
}

void Cameras::obey(const io::Cue& cue, double time) {
  using Kind = io::Cue::Kind;
  switch (cue.kind) {
    case Kind::lock: return lock(named(stage_.level().targets, cue.name, "target"), time);
    case Kind::unlock: return character_.endLock();
    case Kind::forbid: character_.forbidSwingBack(cue.name); return;
    case Kind::allow: return character_.allowSwingBack(cue.name);
    case Kind::shoulder: {
      const double designed = character_.design().design().framings.front().framing.shoulder;
      if (cue.name == "centred") return character_.setShoulder(Shoulder::centred);
      return character_.setShoulder((cue.name == "right") == (designed >= 0) ? Shoulder::designed : Shoulder::other);
    }
    case Kind::set:
    case Kind::clear: return character_.setCondition(character_.design().flag(cue.name), cue.kind == Kind::set);
    case Kind::push: {
      const int kind = character_.design().push(cue.name);
      const double way = degrees(cue.direction.value_or(0));
      const Vector3d along(-std::sin(way), 0, -std::cos(way));
      if (kind >= 0) character_.push(kind, cue.strength, cue.direction ? along : Vector3d(0, 0, 0));
      return;
    }
    case Kind::number: return character_.setNumber(character_.design().number(cue.name), cue.strength);
    case Kind::camera:
    case Kind::subject: return pending_.push_back(cue);
    case Kind::guide:
      guide_ = named(stage_.level().targets, cue.name, "target");
      handShare_ = cue.strength;
      return tellTarget(time);
    case Kind::unguide: guide_ = -1; return character_.endGuide();
    case Kind::teleport:
      if (cue.direction) character_.setPose({degrees(*cue.direction), {}, {}});
      return;
    case Kind::block:
    case Kind::unblock:
    case Kind::mode:          // the controls'
    case Kind::jump:          // the walker's
    case Kind::slow: return;  // the rehearsal's
  }
}

void Cameras::choose(const std::string& name) {
  standing_.reset();
  flying_.reset();
  group_.reset();
  const auto& groups = stage_.level().groups;
  const auto group = std::find_if(groups.begin(), groups.end(), [&](const auto& each) { return each.name == name; });
  if (name == "flying") {
    flying_.emplace(character_.design().design().flight, view_.position, LookAngles{view_.yaw, view_.pitch});
  } else if (group != groups.end()) {
    grouped_ = *group;
    group_.emplace(group->settings, group->look);
  } else if (name != "character") {
    const auto& cameras = stage_.level().cameras;
    const io::LevelCamera& camera = cameras[static_cast<std::size_t>(named(cameras, name, "camera"))];
    standing_.emplace(camera.settings);
    standsOn_ = camera.standsOn;
    looksAt_ = camera.looksAt;
  }
  name_ = name;
}

void Cameras::press(const PlayerControls& controls, double time) {
  const bool begins = controls.state(Action::lockOn).pressed, next = controls.state(Action::nextTarget).pressed;
  if (!begins && !next) return;
  const std::vector<Target> all = targets(time);
  if (begins && character_.locked()) return character_.endLock();
  if (begins) lock(bestTarget(view_, all, RankingSettings()), time);
  if (next && character_.locked()) lock(nextTarget(view_, all, view_.lock, {1, 0}, RankingSettings()), time);
}

void Cameras::lock(int target, double time) {
  if (target >= 0) character_.lockOn(targets(time)[static_cast<std::size_t>(target)]);
}

/// Where the target is at the time that is drawn.
void Cameras::tellTarget(double time) {
  if (character_.locked()) lock(static_cast<int>(character_.target().id), time);
  if (guide_ < 0) return;
  const Vector3d point = targets(time)[static_cast<std::size_t>(guide_)].position;
  character_.guide(GuideGoal::toward(point, handShare_));
}

std::vector<Target> Cameras::targets(double time) const {
  std::vector<Target> result;
  for (const io::LevelTarget& target : stage_.level().targets) {
    Target now{static_cast<std::uint32_t>(result.size()), target.position, Vector3d::Zero(), target.radius};
    if (target.platform >= 0) {
      const ReferenceFrame start = frameOf(stage_.level(), target.platform, 0, {0, 0, 0});
      const auto at = [&](double moment) {
        return frameOf(stage_.level(), target.platform, moment, {0, 0, 0}).toWorld(start.toLocal(target.position));
      };
      const Straight tick(time, stage_.tickLength());
      const Vector3d from = at(tick.begins), to = at(tick.ends);
      now.velocity = (to - from) / stage_.tickLength();
      now.position = from + tick.share * (to - from);
    }
    result.push_back(now);
  }
  return result;
}

Subject Cameras::subject(double time, const Subject& walker) const {
  if (filmedPlatform_ < 0) return walker;
  const Straight tick(time, stage_.tickLength());
  const ReferenceFrame from = frameOf(stage_.level(), filmedPlatform_, tick.begins, {0, 0, 0}),
                       to = frameOf(stage_.level(), filmedPlatform_, tick.ends, {0, 0, 0});
  const double eyes = stage_.level().platforms[static_cast<std::size_t>(filmedPlatform_)].eyeHeight;
  Subject subject;
  const double heading = turnAbout(Vector3d::UnitY(), from.rotation);
  subject.feet = from.origin + tick.share * (to.origin - from.origin);
  subject.head = subject.feet + eyes * Vector3d::UnitY();
  subject.heading = wrapAngle(heading + tick.share * shortestTurn(heading, turnAbout(Vector3d::UnitY(), to.rotation)));
  subject.velocity = (to.origin - from.origin) / stage_.tickLength();
  return subject;
}

std::vector<std::pair<std::string, Target>> Cameras::targets() const {
  std::vector<std::pair<std::string, Target>> named;
  for (const Target& target : targets(drawnAt_)) named.emplace_back(stage_.level().targets[target.id].name, target);
  return named;
}

std::string Cameras::lockedOn(const View& view) const {
  return view.lock < stage_.level().targets.size() ? stage_.level().targets[view.lock].name : std::string();
}

}  // namespace alpglow::stage
