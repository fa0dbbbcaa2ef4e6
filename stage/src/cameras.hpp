#pragma once
// Which camera films which subject during a rehearsal: the character's, a standing one or a group's of the level, or a
// flying one; with transitions between them, and the targets of the level to lock on to.

#include "drawn_walker.hpp"

#include "alpglow/assist/target.hpp"
#include "alpglow/camera/character_camera.hpp"
#include "alpglow/camera/flying_camera.hpp"
#include "alpglow/camera/group_camera.hpp"
#include "alpglow/camera/standing_camera.hpp"
#include "alpglow/input/player_controls.hpp"
#include "alpglow/io/take_file.hpp"
#include "alpglow/view/view_transition.hpp"

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace alpglow::stage {

class Cameras {
 public:
  /// Design, stage and obstacles must outlive it.
  Cameras(const CompiledDesign& design, const Stage& stage, const Obstacles& obstacles, const Subject& walker);

  /// Input goes to whatever camera is live; a flying one flies.
  void look(FrameTime time, const PlayerControls& controls);
  /// Within a frame, at a tick of the walker: where it has come to in so many seconds, and how it goes on.
  void tick(double seconds, double time, const Subject& walker);
  /// The player has flicked toward another target since the last tick; the last view decides which one that is.
  bool asksForAnother() const;
  void lockAnother(double time);
  /// What the walker does, for framings that ask for it.
  void setConditions(bool sprinting, bool crouched) {
    character_.setCondition(Condition::sprinting, sprinting);
    character_.setCondition(Condition::crouched, crouched);
  }
  /// The regions of the level that it is in now.
  void enterRegions(const Eigen::Vector3d& feet);
  void changeDesign(const CompiledDesign& next, double seconds, const Eigen::Vector3d& feet);
  /// Places everything as drawn at a time of the rehearsal.
  View update(FrameTime passed, double time, const Subject& walker, double aspect);

  /// What the game does now; a change of camera or subject takes place with the next update.
  void obey(const io::Cue& cue, double time);
  /// The buttons for locking on.
  void press(const PlayerControls& controls, double time);

  const CharacterCamera& character() const { return character_; }
  CharacterCamera& character() { return character_; }
  /// Movement is the walker's while it is not the flying camera's.
  bool flies() const { return flying_.has_value(); }
  const std::string& name() const { return name_; }
  const std::string& filmed() const { return filmed_; }
  std::string lockedOn(const View& view) const;
  /// The targets of the level by name, as they were drawn last.
  std::vector<std::pair<std::string, Target>> targets() const;
  /// The members that a group's camera leaves out, and those that something hides: names with spaces between.
  std::string leftOut() const { return groupNames(&GroupReport::leftOut); }
  std::string hidden() const { return groupNames(&GroupReport::hidden); }
  /// One picture cannot show the most important members of the group.
  bool splits() const { return group_ && group_->report().splits; }
  Subject subject(double time, const Subject& walker) const;

 private:
  View live(const View& character, double seconds, double time, const Subject& walker, double aspect);
  View ofGroup(double seconds, double time, const Subject& walker, double aspect);
  std::string groupNames(std::uint32_t GroupReport::*bits) const;
  void change(const io::Cue& cue, double time, const Subject& walker, double aspect);
  void choose(const std::string& name);
  void markRegions(const Eigen::Vector3d& feet);
  void lock(int target, double time);
  void tellTarget(double time);
  std::vector<Target> targets(double time) const;

  const Stage& stage_;
  const Obstacles& obstacles_;
  CharacterCamera character_;
  std::optional<StandingCamera> standing_;
  std::optional<FlyingCamera> flying_;
  std::optional<GroupCamera> group_;
  io::LevelGroup grouped_;
  io::Thing standsOn_, looksAt_;
  ViewTransition change_;
  std::vector<io::Cue> pending_;
  View view_;
  std::string name_ = "character", filmed_ = "character";
  int filmedPlatform_ = -1;
  std::vector<Region> regionsOf_;
  Regions regions_;
  std::uint32_t regional_ = 0;  // all that regions set
  int guide_ = -1;              // the target that the look is guided to
  double handShare_ = 0;
  double drawnAt_ = 0;
  Rate flick_;  // asked for, and answered at the next tick
};

}  // namespace alpglow::stage
