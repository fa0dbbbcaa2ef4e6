#pragma once
// A camera for several: duels, companions, two players on one screen. It holds all of them in the picture, as closely
// as they allow and no closer, and turns to where a wall hides nobody.
//
//   GroupCamera camera(settings, {yaw, pitch});
//   const GroupMember members[] = {{1, hero.head, 0.6, 1}, {2, rival.head, 0.6, 0.5}};
//   const View view = camera.update(dt, members, rooms, aspect);          // the first is the one that it never loses
//   if (camera.report().splits) splitScreen(camera.report().leftOut);     // farther apart than the camera may go back
//
// Members that come, go or die are let in and out gently: a member's weight goes from 0 to 1 and back over `join`, and
// one of weight w counts as a ball w times as far from the middle and w times as large. If the farthest distance and
// the widest lens do not hold all of them, the least important one is left out until there is room again. Of several it
// is the one farthest out. The report says so.

#include "alpglow/base/saved_state.hpp"
#include "alpglow/base/state.hpp"
#include "alpglow/base/stored_vector.hpp"
#include "alpglow/framing/group_fit.hpp"
#include "alpglow/space/pull_in.hpp"
#include "alpglow/view/stored_view.hpp"
#include "alpglow/view/view.hpp"

#include <array>
#include <cstdint>

namespace alpglow {

struct GroupMember {
  std::uint32_t id = 0;
  Eigen::Vector3d centre = Eigen::Vector3d::Zero();
  /// Around the centre, metres: what has to be seen of it.
  double radius = 0.6;
  /// Less important members are left out first; any positive number.
  double importance = 1;
  Eigen::Vector3d velocity = Eigen::Vector3d::Zero();
};

struct GroupSettings {
  /// The share of the half picture that stays free at each edge, 0 … 0.9.
  double margin = 0.12;
  /// From the camera to the middle of the group, metres.
  double nearest = 3, farthest = 12;
  /// Vertical fields of view that it may go between, radians: the narrower one while the distance does, and nothing is
  /// in the way.
  double narrow = degrees(50), wide = degrees(70);
  PitchLimits pitch = {degrees(-70), degrees(10)};
  /// Of following, of the lens closing (it opens at once), and of turning; seconds, and radians per second.
  double halfLife = 0.05, lensHalfLife = 0.4, turnHalfLife = 0.3, turnRate = degrees(120);
  /// Time in which somebody is let in or out, seconds.
  double join = 0.6;
  /// Somebody must be hidden for so long before another direction is looked for, and so long again after it, seconds;
  /// 0 = never.
  double patience = 0.35;
  double nearPlane = 0.1, farPlane = 500;
  /// A place is looked for, not foreseen; and out again at once, as somebody may be lost meanwhile.
  PullInSettings pullIn = groupPullIn();

  static PullInSettings groupPullIn() {
    PullInSettings settings;
    settings.horizon = settings.waitAfterPump = settings.shoulderSpeed = 0;
    settings.wait = 0.05;
    settings.outSpeed = 20;
    return settings;
  }
};

/// What became of the group in a frame. Bits are places in the span of members.
struct GroupReport {
  std::uint32_t leftOut = 0, hidden = 0;
  /// Somebody as important as the first is left out: one picture cannot show both.
  bool splits = false;
};

/// A trivially copyable value.
class GroupCamera : public Saveable<GroupCamera> {
 public:
  static constexpr std::size_t mostMembers = 16;

  /// Settings are brought into reason: fields of view of 1 to 150°, a group no nearer than its near plane, and so on.
  explicit GroupCamera(const GroupSettings& settings, const LookAngles& look = {0, degrees(-15)});

  /// From where it would like to look from now on; it goes there, and comes back there after having looked for a clear
  /// place elsewhere.
  void turnTo(const LookAngles& look);
  /// The next frame is not connected to the one before.
  void cut() { fresh_ = true; }

  /// `members` in any order but for the first, at most `mostMembers`, each with an id of its own; those with bad
  /// numbers are left out, and so is a second one of an id; a bad first one, time or aspect keeps the last view and is
  /// a fault.
  View update(double dt, Span<const GroupMember> members, const Obstacles& obstacles, double aspect);
  const GroupReport& report() const { return report_; }
  /// Moves the world's origin: `offset` is added to every stored position. One that is not finite changes nothing.
  void shift(const Eigen::Vector3d& offset);
  /// Where it looks, radians, and where it would like to.
  LookAngles look() const { return look_; }

  static constexpr std::uint64_t savedVersion = 1;
  /// Its fields, with what is legal (base/state.hpp).
  template <class Fields>
  void state(Fields& fields) {
    fields.named("look goal wish").angles(1e9, look_, goal_, wish_);
    for (Slot& slot : slots_) fields.named("member").part(slot);
    fields.named("position lead leadVelocity").vectors(farthestState, position_, lead_, leadVelocity_);
    fields.named("lens").number(lens_, 0, pi);
    fields.named("openness").number(openness_, 0, 1);
    fields.named("hiddenFor sinceSearch").times(hiddenFor_, sinceSearch_);
    fields.named("fresh splits").flags(fresh_, report_.splits);
    fields.named("leftOut hidden").ids(report_.leftOut, report_.hidden);
    fields.named("pullIn last").part(pullIn_, last_);
  }

 private:
  struct Slot {
    std::uint32_t id = 0;
    double weight = 0;  // of the time that joining takes, 0 … 1
    StoredVector3 centre;
    double radius = 0, importance = 0;
    bool taken = false, present = false, out = false;
    int place = -1;  // in the span

    template <class Fields>
    void state(Fields& fields) {
      fields.named("id").ids(id);
      fields.named("weight").number(weight, 0, 1);
      fields.named("centre").vectors(farthestState, centre);
      fields.named("radius importance").within(0, 1e9, radius, importance);
      fields.named("taken present out").flags(taken, present, out);
      std::uint32_t where = static_cast<std::uint32_t>(place + 1);
      fields.named("place").whole(where, mostMembers);
      place = static_cast<int>(where) - 1;
    }
  };
  /// Those that count in this frame, by their weights.
  struct Balls {
    std::array<Ball, mostMembers> all;
    std::size_t count = 0;
    Span<const Ball> span() const { return {all.data(), count}; }
  };

  Slot* slotOf(std::uint32_t id);
  void keepSlots(double seconds, Span<const GroupMember> members);
  void chooseWhoIsOut(double aspect);
  Balls weighted() const;
  GroupPlace placeFor(Span<const Ball> balls, const LookAngles& look, double aspect, double openness) const;
  Bounds reach(Span<const Ball> balls, double aspect) const;
  double clearTo(const Eigen::Vector3d& position, const Obstacles& obstacles, double aspect) const;
  double opennessFor(Span<const Ball> balls, const LookAngles& look, const Obstacles& obstacles, double aspect) const;
  double hiddenFrom(const Eigen::Vector3d& eye, const Obstacles& obstacles, std::uint32_t& who) const;
  double costOf(const LookAngles& look, Span<const Ball> balls, const Obstacles& obstacles, double aspect) const;
  void search(double seconds, double hidden, Span<const Ball> balls, const Obstacles& obstacles, double aspect);
  void turn(double seconds);
  PullInRequest requestFrom(const Eigen::Vector3d& position, const LookAngles& look, double distance,
                            double fieldOfView, double aspect) const;

  GroupSettings settings_;
  LookAngles look_, goal_, wish_;
  std::array<Slot, mostMembers> slots_;
  StoredVector3 position_, lead_, leadVelocity_;
  double lens_ = 0, openness_ = 0;  // radians; how far walls open it, 0 … 1
  double hiddenFor_ = 0, sinceSearch_ = 0;
  bool fresh_ = true;
  PullIn pullIn_;
  GroupReport report_;
  StoredView last_;
};

}  // namespace alpglow
