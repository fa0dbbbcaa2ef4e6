#pragma once
// Controls: one player's devices become actions and one intent, through a bindings that can change at run time.
//
//   PlayerControls controls(standardBindings());
//   controls.beginFrame();
//   controls.feed({0.004, findControl("MouseMove"), 12, -3});    // whatever moved, in order of time
//   controls.feed({0.010, findControl("KeyC"), 1});
//   if (controls.state(Action::swingBack).pressed) camera.swingBack();
//   camera.look(dt, controls.intent());
//   walk(groundDirection(camera.heading(), controls.move()));
//
// Several players have a Controls each; the host says which device feeds which, and which camera gets which intent.

#include "alpglow/input/action.hpp"
#include "alpglow/input/bindings.hpp"
#include "alpglow/input/blocks.hpp"
#include "alpglow/input/intent.hpp"
#include "alpglow/input/movement.hpp"
#include "alpglow/input/preferences.hpp"

#include <string>
#include <string_view>
#include <vector>

namespace alpglow {

/// An action in this frame.
struct ActionState {
  /// There is such an action; one that there is not is never held.
  bool exists = false;
  /// It is on now, held or toggled; for actions with axes: it has a value.
  bool held = false;
  /// It began, or ended, at some moment of this frame: a press and a release within one frame report both.
  bool pressed = false;
  bool released = false;
  bool changed() const { return pressed || released; }
};

/// An action began or ended at some moment.
struct ActionChange {
  /// Seconds since the frame (or stretch) began.
  double time = 0;
  Action action = Action::look;
  bool began = false;
};

/// What became of a binding that was asked for.
enum class Bound {
  nothing,    ///< none was
  waiting,    ///< for a control to move
  yes,        ///< it is bound
  already,    ///< it was
  conflict,   ///< another binding is in the way
  cancelled,  ///< by the host, or by a control that cancels
  noMode,     ///< there is no mode of this name
  misfit,     ///< there is no such action or control, or they do not fit (misfitOf)
};
struct BindAnswer {
  Bound what = Bound::nothing;
  /// Where it is a conflict.
  Binding inTheWay;
  bool good() const { return what == Bound::yes || what == Bound::already; }
};

class PlayerControls {
 public:
  /// Bindings that can do nothing are left out; `misfits` of the same bindings names them.
  explicit PlayerControls(Bindings bindings, const Preferences& preferences = {});

  /// Forgets the presses and displacements of the last frame; times count from here.
  void beginFrame();
  /// Within a frame: forgets the samples that `intent` has handed out; times count from here.
  void beginStretch();
  /// A control moved, at a time in seconds since the frame (or stretch) began. Non-finite events are dropped.
  void feed(const ControlEvent& event);

  /// Look and zoom so far; refers to this object.
  Intent intent() const;
  /// Movement now: x right, y ahead, length 1 or shorter.
  Rate move() const { return blocks_.stops(Blocked::move) ? Rate() : axes(Action::move); }
  /// Up and down, −1 … 1.
  double rise() const { return blocks_.stops(Blocked::move) ? 0 : axes(Action::rise).x; }
  ActionState state(Action action) const;
  /// What began and ended in this frame, in order.
  Span<const ActionChange> changes() const { return changes_; }
  /// Where an action is now, length 1 or shorter: of its keys, buttons, triggers and sticks, along the axes that they
  /// drive; 1 while it is on by a toggle.
  Rate value(Action action) const;
  /// How far wheel, pointer and fingers have moved an action in this frame: notches, counts, thousandths.
  Displacement displaced(Action action) const;
  /// What looked and zoomed in this stretch, for traces: counts, shaped stick, notches.
  Displacement lookedBy() const { return looked_; }
  Rate turn() const { return turn_; }
  double zoomedBy() const { return zoomed_; }

  // Modes

  /// The same key may mean something else in another mode. Held actions end; toggled ones stay. False if there is none.
  bool setMode(std::string_view name);
  const std::string& mode() const { return bindings_.modes[mode_].name; }

  // Blocks

  /// Stops look, zoom, movement or pressed actions for a named reason, from a time in seconds since the frame (or
  /// stretch) began. Displacement that arrives meanwhile is discarded.
  void block(std::string_view reason, std::uint32_t what = Blocked::all, double time = 0);
  void unblock(std::string_view reason, double time = 0);
  const Blocks& blocks() const { return blocks_; }

  // The pointer and the window

  /// Asks for the pointer to be locked to the window, or not.
  void requestPointerLock(bool requested) { lockRequested_ = requested; }
  /// Whether the window should lock the pointer now: requested, and no block stops the look. After a block it is wanted
  /// again as before.
  bool wantsPointerLock() const { return lockRequested_ && !blocks_.stops(Blocked::look); }
  bool pointerLocked() const { return pointerLocked_; }
  /// Everything that is held is released: the window lost the focus or the pointer.
  void releaseAll();
  /// Everything that is held on a pad is released: it was unplugged.
  void releasePad();

  // Bindings at run time

  /// Adds a binding to a mode. A conflicting one is not added, and the answer holds the one that is in its way. Nothing
  /// that is held now starts to act before it moves anew.
  BindAnswer bind(std::string_view mode, const Binding& binding);
  /// Removes a control from an action of a mode. What it held ends. False if it was not there.
  bool unbind(std::string_view mode, Action action, Control control);
  /// Removes all controls from an action of a mode; false if there were none.
  bool unbindAll(std::string_view mode, Action action);
  /// Whatever moves next is bound in place of `binding.control`; until then nothing begins to act. For rebinding menus.
  /// These controls cancel instead; Escape if none is named.
  void bindNext(std::string_view mode, const Binding& binding, std::vector<Control> cancelledBy = {});
  void cancelBindNext();
  /// What became of `bindNext`.
  const BindAnswer& boundNext() const { return boundNext_; }
  bool waitingToBind() const { return boundNext_.what == Bound::waiting; }
  const Bindings& bindings() const { return bindings_; }

  // Sticks, keys and fingers at run time

  /// Dead zones, response curves, triggers, the slow factor, the pointer and touch zones from now on, as a menu sets
  /// them; what drives what, and what is held, stays. False, and nothing changes, where a number is not finite or edges
  /// are out of order.
  bool tune(const Bindings& numbers);
  /// A stick as it is and as its dead zone and curve shape it, for showing it.
  struct Stick {
    Rate raw, shaped;
  };
  Stick leftStick() const { return stickAt(0, bindings_.leftStick); }
  Stick rightStick() const { return stickAt(2, bindings_.rightStick); }

  // The player

  void setPreferences(const Preferences& preferences);
  /// The device whose prompts to show: the one used last, or the player's fixed choice. A drifting stick claims
  /// nothing.
  Device device() const;

  // The state, to send, store and compare

  /// Everything that is held, toggled, blocked and handed out at this moment; equal states have equal bytes. Bindings,
  /// preferences and a menu that waits for a control are not in it.
  std::vector<unsigned char> save() const;
  /// Takes over a saved state of controls with the same bindings. Refuses one of other bindings or another version, and
  /// one that was damaged: returns false, and nothing changes.
  bool restore(Span<const unsigned char> saved);
  std::uint64_t hash() const;

 private:
  template <class Fields>
  void walk(Fields& fields);
  std::uint64_t digest() const;

  struct BindingMemory {
    bool engaged = false;  // its control was pressed while it applied
    bool pushed = false;   // its stick is far enough, whether that counts or not
    double notches = 0;    // what is there of the next whole one
  };
  struct ActionMemory {
    bool latched = false, held = false, pressed = false, released = false;
  };

  const std::vector<Binding>& modeBindings() const { return bindings_.modes[mode_].bindings; }
  bool applies(const Binding& binding) const;
  bool isDown(Control control) const { return control.valid() && down_[control.index]; }
  PressStyle styleOf(const Binding& binding) const;
  Rate stickOf(Control control) const;
  Stick stickAt(std::size_t firstAxis, const StickSettings& settings) const;
  double axisValue(Control control) const;
  Rate axes(Action action) const;

  void displace(const ControlEvent& event);
  void lookBy(const ControlEvent& event, const Binding& binding);
  void turnWheel(std::size_t binding, double notches);
  void press(Control control);
  void engage(std::size_t binding);
  void pushSticks(bool act);
  void release(Control control);
  bool blocked(Action action) const;
  void note(Action action, bool began);
  void refresh(double time);
  void releaseControl(Control control);
  void noteDevice(const ControlEvent& event);
  void whileWaiting(const ControlEvent& event);
  bool captured(const ControlEvent& event);
  bool remove(std::string_view mode, Action action, Control control);
  void bindingsChanged();

  Bindings bindings_;
  Preferences preferences_;
  std::size_t mode_ = 0;
  Blocks blocks_;

  std::vector<double> values_;        // by control
  std::vector<bool> down_;            // by control, with hysteresis
  std::vector<BindingMemory> bound_;  // by binding of the mode
  std::vector<ActionMemory> memory_;  // by action
  std::vector<Displacement> moved_;   // by action, in this frame
  std::vector<bool> scratch_;
  std::vector<ActionChange> changes_;

  std::vector<IntentSample> samples_;
  Rate turn_, turnAtStart_;
  double zoomRate_ = 0, zoomRateAtStart_ = 0;
  bool glance_ = false, glanceAtStart_ = false, aim_ = false, aimAtStart_ = false;
  double now_ = 0;  // time of the last event
  Displacement looked_;
  double zoomed_ = 0;

  bool lockRequested_ = false, pointerLocked_ = false, discardNext_ = false;
  BindAnswer boundNext_;
  std::string waitingMode_;
  Binding waitingBinding_;
  std::vector<Control> cancelling_;
  Device lastDevice_ = Device::keyboardAndMouse;
};

}  // namespace alpglow
