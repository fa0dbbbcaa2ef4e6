#pragma once
// A design: all tunable numbers of one character camera, as plain data, and its compiled, immutable form.
//
//   CameraDesign design;
//   design.framings[0].framing.distance = 4;
//   const CompiledDesign compiled(design);       // brings every number into its range
//   CharacterCamera camera(compiled, subject);   // `compiled` must outlive the camera

#include "alpglow/ease_out.hpp"
#include "alpglow/frame_follow.hpp"
#include "alpglow/framing.hpp"
#include "alpglow/free_look.hpp"
#include "alpglow/head_motion.hpp"
#include "alpglow/lock_on.hpp"
#include "alpglow/look.hpp"
#include "alpglow/orbit_distance.hpp"
#include "alpglow/preferences.hpp"
#include "alpglow/recentre.hpp"
#include "alpglow/steadying.hpp"

#include <cstdint>
#include <string>
#include <vector>

namespace alpglow {

/// The subject fades as the camera comes close to its head.
struct FadeSettings {
  /// Distance head to camera, metres, from which on the subject is fully drawn.
  double opaqueFrom = 0.9;
  /// Distance below which it is not drawn at all.
  double invisibleBelow = 0.45;
  /// The subject is always drawn, as for a first person that sees its own body.
  bool keepBody = false;
};

struct NamedFraming {
  std::string name;
  Framing framing;
};

struct CameraDesign {
  std::string name = "camera";
  LookSettings look;
  ZoomSettings zoom;
  EaseOutSettings clear;
  FadeSettings fade;
  HeadMotionSettings motion;
  SteadySettings steady;
  FreeLookSettings freeLook;
  LeadSettings lead;
  PlatformSettings platform;
  RecentreSettings recentre;
  LockSettings lock;
  /// The first one is the base.
  std::vector<NamedFraming> framings = {{"base", {}}};
};

/// A design whose numbers are all finite and in range, with a digest. Immutable; copies are equal.
class CompiledDesign {
 public:
  /// Values out of range are brought to the nearest legal one, non-finite ones to their default.
  explicit CompiledDesign(CameraDesign design);
  /// With the player's preferences on top.
  CompiledDesign(CameraDesign design, const Preferences& preferences);

  const CameraDesign& design() const { return design_; }
  /// A number that differs when any setting differs (64-bit FNV-1a over all values).
  std::uint64_t digest() const { return digest_; }

 private:
  CameraDesign design_;
  std::uint64_t digest_;
};

}  // namespace alpglow
