#include "design_report.hpp"

#include "alpglow/base/half_life.hpp"
#include "alpglow/design/settings.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/space/go_out.hpp"
#include "alpglow/view/view.hpp"

#include <fmt/format.h>

#include <cmath>

namespace alpglow::cli {

namespace {

/// How high a jump leaves the camera level, and how long that is in the air; how far one walks in the picture.
std::string restText(const FollowSettings& follow) {
  const RestZoneSettings& rest = follow.rest;
  std::string text;
  if (rest.above + rest.below > 0) {
    text += fmt::format(
        "  rests in the air      level through jumps up to {:.2f} m ({:.2f} s) and falls up to {:.2f} m; after landing "
        "caught up within {:.2f} s\n",
        rest.above, 2 * std::sqrt(2 * rest.above / 9.81), rest.below, rest.catchUp);
  }
  if (rest.aside()) {
    text += fmt::format("  rests on the ground   the subject walks {}{} before the camera goes along",
                        rest.radius > 0 ? fmt::format("{:.2f} m", rest.radius) : std::string(),
                        rest.screen > 0 ? fmt::format("{}{:.0f} % of half of the picture's height",
                                                      rest.radius > 0 ? " or " : "", 100 * rest.screen)
                                        : std::string());
    text += rest.after > 0
                ? fmt::format("; caught up within {:.2f} s once it has stood for {:.1f} s\n", rest.catchUp, rest.after)
                : std::string("\n");
  }
  return text;
}

std::string lagText(const char* where, FollowKind kind, double halfLife, double leash) {
  if (halfLife == 0 || leash == 0) return fmt::format("  lag {:<17} none\n", where);
  const bool damped = kind == FollowKind::criticallyDamped;
  constexpr double tenthLeft = 3.889720169867429;  // (1 + x)·e^(−x) = 0.1
  const double trailing = damped ? 2 * brisk * halfLife / criticalRate : brisk * halfLife / ln2;
  return fmt::format(
      "  lag {:<17} half-life {:.3g} s{}: 90 % covered after {:.2f} s; trails {:.2f} m behind a run of {:.1f} m/s{}\n",
      where, halfLife, damped ? ", critically damped" : "",
      damped ? tenthLeft * halfLife / criticalRate : timeToCover(0.9, halfLife), std::min(trailing, leash), brisk,
      trailing > leash ? fmt::format(" (on its leash of {:.2f} m)", leash) : fmt::format(", {:.2f} m at most", leash));
}

std::string seatText(const Framing& framing) {
  const bool eyes = framing.distanceRange.farthest == 0;
  const std::string side = framing.shoulder == 0
                               ? std::string("centred")
                               : fmt::format("{:.2f} m over the {} shoulder", std::abs(framing.shoulder),
                                             framing.shoulder > 0 ? "right" : "left");
  const std::string anchor =
      fmt::format("anchor at {:.0f} % of eye height {:+.2f} m", 100 * framing.anchorHeight, framing.anchorRise);
  if (eyes) return fmt::format("  position              first person, {}, {}\n", side, anchor);
  if (framing.distanceScale > 0) {
    return fmt::format(
        "  position              {:.3g} times as far behind as the player has chosen for the base ({:.2f} … {:.2f} m), "
        "{}, {}\n",
        framing.distanceScale, framing.distanceRange.nearest, framing.distanceRange.farthest, side, anchor);
  }
  return fmt::format("  position              {:.2f} m behind ({:.2f} … {:.2f} m), {}, {}\n", framing.distance,
                     framing.distanceRange.nearest, framing.distanceRange.farthest, side, anchor);
}

/// What each curve makes of its number, point by point.
std::string curvesText(const NamedFraming& named) {
  struct Unit {
    const char* text;
    double scale;
  };
  std::string text;
  for (const FramingCurve& curve : named.curves) {
    const Unit overs[] = {{"° of pitch", degrees(1)}, {" m/s", 1}, {" m/s upward", 1}, {" m away", 1}, {"", 1}};
    const Unit over = overs[static_cast<std::size_t>(curve.over)];
    const bool angle = curve.what == Curved::tilt || curve.what == Curved::fieldOfView;
    std::vector<std::string> points;
    for (const CurvePoint& point : curve.curve.points())
      points.push_back(
          fmt::format("{:.3g} at {:.3g}{}", angle ? toDegrees(point.y) : point.y, point.x / over.scale, over.text));
    text += fmt::format(
        "  {:<21} a curve: {}{}\n", settingOf(curve.what).key, fmt::join(points, ", "),
        curve.over == CurveOver::number ? fmt::format(" of \"{}\", which the game sets", curve.number) : "");
  }
  return text;
}

/// What a framing changes of what the design says for all of them.
std::string scalesText(const Framing& framing) {
  std::vector<std::string> parts;
  const auto scaled = [&](const char* what, double by) {
    if (by != 1) parts.push_back(fmt::format("{} {:.3g} %", what, 100 * by));
  };
  scaled("head motion", framing.bobScale);
  scaled("unrest", framing.unrestScale);
  scaled("lead", framing.leadScale);
  scaled("swinging back by itself", framing.swingBackScale);
  scaled("pulling in and easing out", framing.pullInScale);
  return parts.empty() ? "" : fmt::format("  of the design's       {}\n", fmt::join(parts, ", "));
}

std::string framingText(const NamedFraming& named, double fieldOfView) {
  const Framing& framing = named.framing;
  const Lens lens = Lens::vertical(fieldOfView);
  return fmt::format("Framing \"{}\"\n", named.name) + seatText(framing) +
         fmt::format(
             "  lens                  {:.1f}° vertical = {:.1f}° horizontal at 16:9 = {:.1f} mm on a sensor 24 mm "
             "high\n",
             toDegrees(fieldOfView), toDegrees(lens.horizontalFieldOfView(wide)), 1000 * lens.focalLengthAt(0.024)) +
         fmt::format("  near-plane sphere     {:.3f} m at 16:9 for near {:.3g} m: the room that the head needs\n",
                     nearPlaneRadius(framing.nearPlane, fieldOfView, wide), framing.nearPlane) +
         fmt::format("  pitch                 {:.0f}° … {:.0f}°, {:.0f}° by default{}\n", toDegrees(framing.pitch.low),
                     toDegrees(framing.pitch.high), toDegrees(framing.defaultPitch),
                     framing.tilt == 0 ? "" : fmt::format("; tilted by {:.3g}°", toDegrees(framing.tilt))) +
         (framing.orbitHalfLife > 0
              ? fmt::format("  orbit                 trails the look: 90 % covered after {:.2f} s\n",
                            timeToCover(0.9, framing.orbitHalfLife))
              : std::string()) +
         lagText("along the ground", framing.follow.kind, framing.follow.halfLife, framing.follow.leash) +
         lagText("in the vertical", framing.follow.kind, framing.follow.verticalHalfLife,
                 framing.follow.verticalLeash) +
         restText(framing.follow) + curvesText(named) + scalesText(framing) +
         fmt::format("  teleport              a jump of more than {:.3g} m is cut\n", framing.follow.teleportDistance) +
         fmt::format("  transition            into it within {:.2f} s{}\n", framing.transition,
                     framing.sway > 0 ? fmt::format("; the hand sways it by {:.2g}°", toDegrees(framing.sway)) : "") +
         (framing.keeps == Keeps::aim
              ? fmt::format("  changes               keep the point under the crosshair, by turning up to {:.3g}°\n",
                            toDegrees(framing.keepCap))
              : "  changes               keep the look: nothing turns\n");
}

std::string lookText(const LookSettings& look) {
  const auto axis = [](const char* name, double perCount, bool inverted) {
    return fmt::format("  mouse {:<15} {:.4g}° per count{}: a full turn takes {:.0f} counts, {:.1f} cm at {:.0f} dpi\n",
                       name, toDegrees(perCount), inverted ? ", inverted" : "", 2 * pi / perCount,
                       centimetresFor(2 * pi, perCount), dotsPerInch);
  };
  const auto stick = [](const char* name, double rate, bool inverted, double angle, const char* what) {
    if (rate == 0) return fmt::format("  stick {:<15} off\n", name);
    return fmt::format("  stick {:<15} {:.0f}°/s{}: {} takes {:.2f} s\n", name, toDegrees(rate),
                       inverted ? ", inverted" : "", what, angle / rate);
  };
  std::string eased;
  if (look.smoothing > 0)
    eased += fmt::format("  smoothing             half-life {:.3g} s: 90 % of a mouse's turn shown after {:.2f} s\n",
                         look.smoothing, timeToCover(0.9, look.smoothing));
  if (look.turnHalfLife > 0)
    eased += fmt::format("  easing of the stick   half-life {:.3g} s: 90 % of its rate after {:.2f} s\n",
                         look.turnHalfLife, timeToCover(0.9, look.turnHalfLife));
  if (look.edgeFactor != 1)
    eased +=
        fmt::format("  stick at its edge     {:.3g} times as fast after {:.2f} s\n", look.edgeFactor, look.edgeDwell);
  return "Look\n" + axis("sideways", look.yawPerCount, look.invertYaw) +
         axis("up and down", look.pitchPerCount, look.invertPitch) +
         stick("sideways", look.yawRate, look.invertYaw, pi, "half a turn") +
         stick("up and down", look.pitchRate, look.invertPitch, pi / 2, "a quarter turn") + eased;
}

std::string zoomText(const CameraDesign& design) {
  const DistanceRange& range = design.framings.front().framing.distanceRange;
  if (range.nearest == range.farthest) return "Zoom\n  wheel                 off: the distance is fixed\n";
  if (design.zoom.factorPerNotch == 1) return "Zoom\n  wheel                 off\n";
  if (range.nearest == 0)
    return fmt::format("Zoom\n  wheel                 each notch changes the distance by a factor {:.3g}\n",
                       design.zoom.factorPerNotch);
  return fmt::format(
      "Zoom\n  wheel                 {:.0f} notches from {:.2f} m to {:.2f} m; 90 % shown after {:.2f} s\n",
      std::ceil(std::log(range.farthest / range.nearest) / std::log(design.zoom.factorPerNotch) - 1e-9), range.farthest,
      range.nearest, timeToCover(0.9, design.zoom.halfLife));
}

std::string motionText(const CameraDesign& design) {
  const BobSettings& bob = design.motion.bob;
  const DipSettings& dip = design.motion.dip;
  std::string text = "Motion of the eyes\n";
  if (bob.vertical + bob.lateral > 0) {
    const double stride = bob.stride + bob.strideGrowth * bob.fullSpeed;
    text += fmt::format(
        "  bob                   {:.0f} mm down twice and {:.0f} mm aside once a stride of {:.2f} m at {:.1f} m/s; "
        "still within "
        "{:.2f} s of stopping\n",
        1000 * bob.vertical, 1000 * bob.lateral, stride, bob.fullSpeed, bob.finishTime);
  } else {
    text += "  bob                   none\n";
  }
  if (dip.depthPerSpeed > 0) {
    const double drop = dip.depthPerSpeed * std::sqrt(2 * 9.81 * 1.0);
    text += fmt::format("  dip                   {:.0f} mm after a drop of 1 m, {:.0f} mm at most\n",
                        1000 * std::min(drop, dip.deepest), 1000 * dip.deepest);
  }
  if (design.motion.breath.amplitude > 0) {
    text += fmt::format("  breath                {:.0f} mm every {:.1f} s when still\n",
                        1000 * design.motion.breath.amplitude, design.motion.breath.period);
  }
  text += fmt::format("  steadying             up to {:.1f}°\n", toDegrees(design.steady.cap));
  const GlanceSettings& free = design.glance;
  return text + fmt::format(
                    "Glance\n  limits                {:.0f}° to either side of the body, {:.0f}° up, {:.0f}° down; "
                    "90 % back after {:.2f} s\n",
                    toDegrees(free.side), toDegrees(free.up), toDegrees(free.down),
                    timeToCover(0.9, free.returnHalfLife));
}

std::string pushText(const CameraDesign& design) {
  if (design.pushes.empty()) return "";
  std::string text = "Pushes\n";
  for (const NamedPush& named : design.pushes) {
    const PushSettings& push = named.push;
    std::vector<std::string> parts;
    const auto part = [&](double value, const char* format) {
      if (value != 0) parts.push_back(fmt::format(fmt::runtime(format), value));
    };
    part(toDegrees(push.pitch), "{:+.2g}° up");
    part(toDegrees(push.yaw), "{:+.2g}° to its side");
    part(toDegrees(push.roll), "rolls {:+.2g}°");
    part(100 * push.right, "eye {:+.2g} cm to its side");
    part(100 * push.up, "eye {:+.2g} cm up");
    part(100 * push.back, "eye {:+.2g} cm back");
    part(100 * (push.lens - 1), "picture {:+.2g} % wider");
    text += fmt::format("  {:<21} {}; strongest after {:.3f} s, then half of it back every {:.2f} s; moves {}\n",
                        named.name, parts.empty() ? std::string("nothing") : fmt::format("{}", fmt::join(parts, ", ")),
                        push.strongestAfter(), push.comesBack, push.movesAim ? "the aim" : "the picture only");
  }
  const PushLimits& most = design.pushLimits;
  return text + fmt::format(
                    "  all together          below {:.3g}° of turning, {:.3g}° of roll, {:.3g} cm, {:.3g} % of width\n",
                    toDegrees(most.turn), toDegrees(most.roll), 100 * most.place, 100 * (most.lens - 1));
}

std::string unrestText(const CameraDesign& design) {
  const UnrestSettings& unrest = design.unrest;
  if (!unrest.any()) return "";
  return fmt::format(
      "Unrest\n  the hand              up to {:.2g}° of yaw, {:.2g}° of pitch, {:.2g}° of roll; {:.2g} cm aside, "
      "{:.2g} cm up, {:.2g} cm back; slowest wave {:.2g} s; {:.0f} % unless the game says otherwise\n",
      toDegrees(unrest.yaw), toDegrees(unrest.pitch), toDegrees(unrest.roll), 100 * unrest.right, 100 * unrest.up,
      100 * unrest.back, unrest.period, 100 * unrest.amount);
}

/// The framings in the order in which they are looked through, with their lenses in all ways.
std::string framingTable(const CameraDesign& plain) {
  if (plain.framings.size() < 2) return "";
  const CompiledDesign design(plain);
  std::string text =
      "Framings, the first whose condition holds, else the base\n"
      "  name         when         person   vertical  horizontal   24 mm sensor   magnified   look\n";
  for (std::size_t i = 0; i < plain.framings.size(); ++i) {
    const NamedFraming& named = design.design().framings[i];
    for (int step = 0; step < named.framing.lens.steps(); ++step) {
      const double fov = design.fieldOfView(i, step), base = design.baseFieldOfView(i);
      const Lens lens = Lens::vertical(fov);
      text += fmt::format("  {:<12} {:<12} {:<7} {:8.1f}° {:10.1f}° {:10.1f} mm {:10.2f}× {:6.3f}\n",
                          step == 0 ? named.name : "", step == 0 ? (named.when.empty() ? "base" : named.when) : "",
                          named.perspective == Perspective::first ? "first" : "third", toDegrees(fov),
                          toDegrees(lens.horizontalFieldOfView(wide)), 1000 * lens.focalLengthAt(0.024),
                          std::tan(base / 2) / std::tan(fov / 2), named.framing.lookScale.at(fov, base, wide));
    }
  }
  return text;
}

std::string helpText(const CameraDesign& design) {
  const SwingBackSettings& r = design.swingBack;
  const LockSettings& l = design.lock;
  std::string text = "Helping\n";
  if (r.rate > 0) {
    text += fmt::format(
        "  swinging back         after {:.2g} s without a look: up to {:.0f}°/s at {:.2g} m/s and more, half a turn "
        "takes "
        "{:.1f} s; {}\n",
        r.holdoff, toDegrees(r.rate), r.fullSpeed, pi / r.rate + r.easeIn / 2,
        r.cone > 0 ? fmt::format("silent within {:.0f}° of walking toward the camera", toDegrees(r.cone)) : "no cone");
  } else {
    text += "  swinging back         never by itself\n";
  }
  if (r.idle > 0) text += fmt::format("  idle                  the pose goes back after {:.2g} s\n", r.idle);
  text += fmt::format("  button                the pose is back after {:.2g} s\n", r.buttonTime);
  if (design.lead.time > 0) {
    text += fmt::format("  lead                  {:.2f} m ahead of a run of {:.1f} m/s, {:.2f} m at most\n",
                        std::min(brisk * design.lead.time, design.lead.longest), brisk, design.lead.longest);
  }
  const GuideSettings& g = design.guide;
  text += fmt::format(
      "  guided by the game    half a turn within {:.1f} s; sets in and gives the hand back within {:.2g} s\n",
      pi / g.rate + timeToCover(0.99, g.halfLife) + g.easeIn / 2, g.easeIn);
  const FreeShoulderSettings& f = design.freeShoulder;
  text += f.after > 0
              ? fmt::format(
                    "  free shoulder         goes over after {:.2g} s in which the other side leaves {:.2g} m more; "
                    "{:.2g} s from one to the next; {}\n",
                    f.after, f.gain, f.rest, f.whileAiming ? "also while aiming" : "not while aiming")
              : "  free shoulder         never goes over by itself\n";
  const IdleDriftSettings& d = design.idleDrift;
  text += d.rate != 0
              ? fmt::format(
                    "  idle drift            once nobody has looked or walked for {:.2g} s: {:.2g}°/s to the "
                    "{}, once round in {:.0f} s\n",
                    d.after, std::abs(toDegrees(d.rate)), d.rate > 0 ? "left" : "right", 2 * pi / std::abs(d.rate))
              : "  idle drift            none\n";
  return text +
         fmt::format(
             "  lock on               both within {:.0f} % of the screen; half a turn within {:.1f} s; lost beyond "
             "{:.0f} m or hidden for {:.1f} s\n",
             100 * l.screenFraction, pi / l.cap + timeToCover(0.99, l.halfLife), l.range, l.hiddenFor);
}

std::string clearSpaceText(const CameraDesign& design) {
  const PullInSettings& p = design.pullIn;
  const double distance = design.framings[0].framing.distance, early = std::min(distance / p.speed, p.horizon);
  std::string text = "Clear space\n";
  text += p.horizon > 0
              ? fmt::format(
                    "  pull-in               starts {:.2f} s before a wall that will take {:.1f} m ({:.1f} m/s); a "
                    "surprise glides in at up to {:.3g} m/s, {:.3g} in flicks\n",
                    early, distance, distance / std::max(early, 1e-9), p.fastest, p.fastestInFlicks)
              : "  pull-in               at once, without prediction\n";
  const LookPastSettings& l = design.large;
  text += fmt::format(
      "  large things          looked past, {:.0f} % drawn within {:.2g} s; {}\n", 100 * l.opacity,
      timeToCover(0.9, l.fadeHalfLife),
      l.push > 0 ? fmt::format("they push the camera back by up to {:.2g} m, and more makes it come in", l.push)
                 : "a subject that backs into the camera makes it come in");
  text += p.shoulderSpeed > 0
              ? fmt::format(
                    "  shoulder              over to the other one where that keeps more than {:.2g} times it "
                    "in distance, at {:.2g} m/s at most\n",
                    p.shoulderPrice, p.shoulderSpeed)
              : "  shoulder              never changes sides by itself\n";
  const auto waits = [&p](double share, bool pumped) { return GoOut::waitsAtFirst(share, pumped, p); };
  text += fmt::format(
      "  going out             after {:.2f} s of quiet from the head, {:.2f} s from almost all the way out; "
      "{:.2g} m/s at most\n",
      waits(0, false), waits(1, false), p.outSpeed);
  if (p.waitAfterPump > 0)
    text +=
        fmt::format("  pumping               after it had to come in again soon it waits {:.2f} to {:.2f} s instead\n",
                    waits(0, true), waits(1, true));
  if (p.stoop > 0)
    text += fmt::format(
        "  low rooms             orbits up to {:.3g}\u00b0 lower than it looks where that keeps more distance\n",
        toDegrees(p.stoop));
  if (p.margin > 0)
    text += fmt::format("  margin                {:.2f} m between walls and the near-plane sphere\n", p.margin);
  return text;
}

}  // namespace

std::string explain(const CameraDesign& design) {
  std::string text = fmt::format("Design \"{}\"\n", design.name) + lookText(design.look) + zoomText(design);
  text += clearSpaceText(design);
  text += fmt::format("Fade\n  subject               fades from {:.2f} m, gone at {:.2f} m\n", design.fade.opaqueFrom,
                      design.fade.invisibleBelow);
  const CompiledDesign compiled(design);
  if (design.fade.eyesBelow > 0 && compiled.baseOf(Perspective::first) > 0)
    text += fmt::format(
        "  the eyes              take over below {:.2f} m because of an obstacle, until {:.2f} m are free\n",
        design.fade.eyesBelow, design.fade.eyesUntil);
  text += motionText(design);
  text += unrestText(design);
  text += pushText(design);
  text += helpText(design);
  text += framingTable(design);
  for (std::size_t i = 0; i < design.framings.size(); ++i)
    text += framingText(design.framings[i], compiled.fieldOfView(i));
  return text;
}

}  // namespace alpglow::cli
