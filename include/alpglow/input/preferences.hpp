#pragma once
// Preferences: the player's own, on top of the game's design and of the controls. Larger sensitivity is always faster.

#include "alpglow/base/angles.hpp"
#include "alpglow/base/setting.hpp"

namespace alpglow {

/// Multipliers and inversion for looking with one kind of device.
struct LookPreference {
  double sensitivityX = 1, sensitivityY = 1;
  bool invertX = false, invertY = false;
};

/// What a press means: as the controls have it, or the player's choice.
enum class PressPreference { asBound, hold, toggle };

/// Kinds of devices, for prompts.
enum class Device { keyboardAndMouse, pad, touch };

/// Which prompts to show: for the device that was used last, or always the same.
enum class PromptPreference { lastUsed, keyboardAndMouse, pad, touch };

/// What moves the screen without the player's doing: scales from 0 (none) to 1 (as designed), and caps.
struct Comfort {
  double bob = 1, dip = 1, breath = 1, lead = 1;
  /// Of pushes; but those that move the aim turn it as the game has it.
  double push = 1;
  double unrest = 1;
  /// Largest steadying turn, radians.
  double steadyCap = degrees(15);
  /// Fastest automatic turning, radians per second.
  double autoTurnCap = degrees(720);
};

struct Preferences {
  LookPreference mouse, stick, touch;
  PressPreference aim = PressPreference::asBound, crouch = PressPreference::asBound, run = PressPreference::asBound;
  PromptPreference prompts = PromptPreference::lastUsed;
  /// Vertical field of view of the base framings, radians; 0 = the design's. Framings over a base keep their
  /// magnification over it, however their lens is stated.
  double fieldOfView = 0;
  Comfort comfort;
};

template <>
Span<const Setting<Preferences>> settings<Preferences>();

}  // namespace alpglow
