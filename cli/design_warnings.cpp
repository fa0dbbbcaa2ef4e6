// What a design will not do as its numbers promise.

#include "alpglow/base/half_life.hpp"
#include "alpglow/design/settings.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/view/view.hpp"
#include "design_report.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace alpglow::cli {

namespace {

/// What the conditions of framings cannot do.
std::vector<std::string> implausibleConditions(const CompiledDesign& compiled) {
  const std::vector<NamedFraming>& framings = compiled.design().framings;
  std::vector<std::string> warnings;
  const std::vector<std::string> builtIn = {"aiming", "sprinting", "crouched"};
  for (std::size_t i = 0; i < framings.size(); ++i) {
    const NamedFraming& named = framings[i];
    const std::string name = "framing \"" + named.name + "\"", when = "when = \"" + named.when + "\"";
    std::vector<std::string> flags;
    const When& own = compiled.when(i);
    if (!named.when.empty()) parseWhen(named.when, flags);
    for (const std::string& flag : flags) {
      const std::string meant = io::nearestName(flag, builtIn);
      if (io::editDistance(flag, meant) <= 2)
        warnings.push_back(
            fmt::format("{}: {} asks for \"{}\", a flag of the game; \"{}\" is built in", name, when, flag, meant));
    }
    if (!named.when.empty() && !own.possible()) warnings.push_back(fmt::format("{}: {} can never hold", name, when));
    for (std::size_t k = 0; k < i; ++k) {
      const NamedFraming& above = framings[k];
      if (above.perspective != named.perspective || above.when.empty() != named.when.empty()) continue;
      if (!named.when.empty() && (!own.possible() || !compiled.when(k).covers(own))) continue;
      warnings.push_back(
          fmt::format("{}: {} stands above it with {}, and goes first", name, "framing \"" + above.name + "\"",
                      named.when.empty()         ? std::string("no condition: a second base")
                      : above.when == named.when ? when
                                                 : "when = \"" + above.when + "\", which then holds, too"));
      break;
    }
  }
  return warnings;
}

/// How far ahead of a brisk walker the lead takes the pivot, and what is left of that behind the lag, metres.
struct LeadLeft {
  double promised, seen;
};
LeadLeft leadOf(const LeadSettings& lead, const FollowSettings& follow) {
  const double behind =
      follow.kind == FollowKind::criticallyDamped ? 2 * follow.halfLife / criticalRate : follow.halfLife / ln2;
  const double promised = std::min(lead.time * brisk, lead.longest);
  return {promised, promised - std::min(behind * brisk, follow.leash)};
}

}  // namespace

std::vector<std::string> implausible(const CameraDesign& design) {
  std::vector<std::string> warnings;
  for (const NamedFraming& named : design.framings) {
    for (const FramingCurve& curve : named.curves) {
      if (curve.over != CurveOver::number) continue;
      const std::string meant = io::nearestName(curve.number, {"pitch_deg", "speed_mps", "climb_mps", "distance_m"});
      if (io::editDistance(curve.number, meant) <= 3)
        warnings.push_back(
            fmt::format("framing \"{}\": {} is a curve over \"{}\", a number that the game sets; \"{}\" is built in",
                        named.name, settingOf(curve.what).key, curve.number, meant));
    }
  }
  const auto warnIf = [&warnings](bool doubtful, const std::string& text) {
    if (doubtful) warnings.push_back(text);
  };
  const double turn = centimetresFor(2 * pi, design.look.yawPerCount);
  warnIf(turn < 3, fmt::format("look.yaw_deg_per_count: a full turn takes only {:.2g} cm of mouse travel at {:.0f} dpi",
                               turn, dotsPerInch));
  warnIf(turn > 200, fmt::format("look.yaw_deg_per_count: a full turn takes {:.0f} cm of mouse travel at {:.0f} dpi",
                                 turn, dotsPerInch));
  const double ratio = design.look.pitchPerCount / design.look.yawPerCount;
  warnIf(ratio < 0.4 || ratio > 2.5,
         fmt::format("look: pitch per count is {:.3g} times yaw per count; circles of the hand become flat", ratio));
  warnIf(design.swingBack.rate > 0 && design.swingBack.holdoff < 0.3,
         fmt::format("swing_back.holdoff_s: the view turns back {:.2g} s after a look; it will feel like a fight",
                     design.swingBack.holdoff));
  warnIf(design.pullIn.wait > 3,
         fmt::format("pull_in.wait_s: the camera stays close for {:.3g} s after every pole", design.pullIn.wait));
  for (const std::string& warning : implausibleConditions(CompiledDesign(design))) warnings.push_back(warning);
  for (const NamedFraming& named : design.framings) {
    const Framing& f = named.framing;
    const LeadLeft lead = leadOf(design.lead, f.follow);
    warnIf(lead.promised > 0 && lead.seen < lead.promised / 2,
           fmt::format("framing \"{}\": of the lead's {:.2f} m at {:.1f} m/s its lag leaves {:.2f} m", named.name,
                       lead.promised, brisk, std::max(lead.seen, 0.0)));
    warnIf(f.distanceRange.farthest > 0 && f.distanceRange.nearest <= f.nearPlane,
           fmt::format("framing \"{}\": at its nearest distance of {:.2f} m the pivot is in front of the near plane "
                       "(near_m {:.3g} m)",
                       named.name, f.distanceRange.nearest, f.nearPlane));
    if (f.lens.kind == LensKind::magnification) continue;
    const double fieldOfView = f.lens.lens().verticalFieldOfView();
    const double radius = nearPlaneRadius(f.nearPlane, fieldOfView, wide);
    const std::string name = "framing \"" + named.name + "\"";
    warnIf(fieldOfView < degrees(20) || fieldOfView > degrees(110),
           fmt::format("{}: a vertical field of view of {:.0f}° is far from the usual 40° … 90°", name,
                       toDegrees(fieldOfView)));
    warnIf(radius > 0.3,
           fmt::format("{}: the near-plane sphere is {:.2f} m; a head beside a wall has less room, and near shrinks",
                       name, radius));
    warnIf(f.follow.halfLife > 0.6,
           fmt::format("{}: 90 % of the lag takes {:.1f} s to catch up", name, timeToCover(0.9, f.follow.halfLife)));
    warnIf(f.pitch.high - f.pitch.low < degrees(20),
           fmt::format("{}: pitch moves by {:.0f}° only", name, toDegrees(f.pitch.high - f.pitch.low)));
    warnIf(f.distance > 0 && f.distance <= design.fade.invisibleBelow,
           fmt::format("{}: at its distance of {:.2f} m the subject is never drawn (fade.invisible_below_m)", name,
                       f.distance));
    warnIf(f.farPlane / f.nearPlane > 1e6,
           fmt::format("{}: far is {:.0e} times near; depth is coarse unless it is reversed", name,
                       f.farPlane / f.nearPlane));
  }
  return warnings;
}

}  // namespace alpglow::cli
