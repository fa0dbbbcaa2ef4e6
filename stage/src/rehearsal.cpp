#include "alpglow/stage/rehearsal.hpp"

#include "cameras.hpp"
#include "drawn_walker.hpp"

#include "alpglow/input/player_controls.hpp"
#include "alpglow/space/neighbourhood.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double clearanceRange = 10;

struct EventName {
  Event::Bit bit;
  const char* name;
};
constexpr EventName eventNames[] = {{Event::cut, "cut"},
                                    {Event::teleport, "teleport"},
                                    {Event::pullInBegan, "pull-in-began"},
                                    {Event::pullInEnded, "pull-in-ended"},
                                    {Event::headBlocked, "head-blocked"},
                                    {Event::headFreed, "head-freed"},
                                    {Event::swingBackBegan, "swing-back-began"},
                                    {Event::swingBackEnded, "swing-back-ended"},
                                    {Event::lockBegan, "lock-began"},
                                    {Event::lockEnded, "lock-ended"},
                                    {Event::lockLost, "lock-lost"},
                                    {Event::targetFlick, "target-flick"},
                                    {Event::platformChanged, "platform-changed"},
                                    {Event::framingChanged, "framing-changed"},
                                    {Event::shoulderSwapped, "shoulder-swapped"},
                                    {Event::eyesTookOver, "eyes-took-over"},
                                    {Event::eyesGaveBack, "eyes-gave-back"},
                                    {Event::transitionEnded, "transition-ended"}};

/// An angle to a millionth of a radian: bumping into something must not make metres out of rounding.
double coarse(double angle) { return std::round(angle * 1e6) / 1e6; }

std::string namesOf(std::uint32_t events) {
  std::vector<const char*> names;
  for (const EventName& known : eventNames) {
    if ((events & known.bit) != 0) names.push_back(known.name);
  }
  return fmt::format("{}", fmt::join(names, " "));
}

}  // namespace

class Rehearsal::Run {
 public:
  Run(const CompiledDesign& design, const Stage& stage, const io::Take& take, const RehearsalOptions& options)
      : stage_(stage),
        take_(take),
        aspect_(options.aspect),
        game_(options.game),
        mouse_(options.preferences.mouse),
        controls_(options.controls, options.preferences),
        walker_(stage),
        near_(stage.obstacles()),
        cameras_(design, stage, options.obstacles != nullptr ? *options.obstacles : near_, walker_.drawn(1)) {}

  double now() const { return now_; }
  const View& view() const { return view_; }
  const PlayerControls& controls() const { return controls_; }

  io::TraceFrame frameUntil(double end) {
    const double start = now_;
    looked_ = {};
    zoomed_ = 0;
    events_ = 0;
    while (nextTick() <= end) {
      advance(nextTick());
      if (nextTick() <= now_) tick();  // unless time has become slower meanwhile
    }
    advance(end);
    const Subject subject = drawnNow();
    updateCameras();
    view_.events |= events_;
    return record(view_, cameras_.subject(world(), subject), end, end - start);
  }

 private:
  /// The world's clock.
  double world() const { return worldFrom_ + (now_ - from_) * pace_; }
  /// By the player's clock, on which the take is played; never, while time stands still.
  double nextTick() const {
    const double tick = static_cast<double>(ticks_ + 1) / Walker::ticksPerSecond;
    return pace_ > 0 ? std::max(from_ + (tick - worldFrom_) / pace_, now_) : std::numeric_limits<double>::infinity();
  }
  Subject drawnNow() const {
    Subject subject =
        walker_.drawn((world() - static_cast<double>(ticks_) / Walker::ticksPerSecond) * Walker::ticksPerSecond);
    subject.teleported = teleported_;
    return subject;
  }

  /// The camera hears of the way so far before the walker asks for the heading, and of the way ahead after that.
  void tick() {
    const Rate move = cameras_.flies() ? Rate() : controls_.move();
    const double time = world();
    cameras_.tick(std::max(time - told_, 0.0), time, walker_.drawn(1));
    told_ = time;
    walker_.tick(groundDirection(coarse(cameras_.character().heading()), move), controls_.state(Action::run).held,
                 controls_.state(Action::crouch).held);
    ++ticks_;
    if (cameras_.asksForAnother()) {
      showWithinFrame();
      cameras_.lockAnother(time);
    }
    cameras_.tick(0, time, walker_.drawn(0));
    const bool runs = controls_.state(Action::run).held && move.x * move.x + move.y * move.y > 0.01;
    const bool crouched = walker_.walker().height() < stage_.level().body.height;
    cameras_.setConditions(runs && !crouched, crouched);
    cameras_.enterRegions(walker_.walker().feet());
    if (game_) game_(cameras_.character(), now_);
  }

  /// Everything as it is drawn now.
  void updateCameras() {
    const double time = world();
    stage_.moveTo(drawnTime(time));
    view_ = cameras_.update({now_ - updated_, std::max(time - updatedWorld_, 0.0)}, time, drawnNow(), aspect_);
    updated_ = now_;
    updatedWorld_ = told_ = time;
  }

  /// Cues and control events happen at their moments, whatever the frame rate.
  void advance(double end) {
    while (true) {
      const bool cue = nextCue_ < take_.cues.size() && take_.cues[nextCue_].time <= end;
      const bool event = nextEvent_ < take_.events.size() && take_.events[nextEvent_].time <= end;
      const bool turn = nextTurn_ < take_.turns.size() && take_.turns[nextTurn_].time <= end &&
                        (!cue || take_.turns[nextTurn_].time < take_.cues[nextCue_].time) &&
                        (!event || take_.turns[nextTurn_].time < take_.events[nextEvent_].time);
      if (turn) {
        const io::Turn& next = take_.turns[nextTurn_++];
        lookUntil(next.time);
        feed(countsOf(next));
        continue;
      }
      if (!cue && !event) break;
      if (cue && (!event || take_.cues[nextCue_].time <= take_.events[nextEvent_].time)) {
        const io::Cue& next = take_.cues[nextCue_++];
        lookUntil(next.time);
        obey(next);
      } else {
        ControlEvent next = take_.events[nextEvent_++];
        lookUntil(next.time);
        feed(next);
      }
    }
    lookUntil(end);
  }

  void feed(ControlEvent event) {
    event.time = 0;
    controls_.feed(event);
    if (controls_.state(Action::lockOn).pressed || controls_.state(Action::nextTarget).pressed) showWithinFrame();
    cameras_.press(controls_, world());
  }

  /// As many counts as turn by that much through a lens that does not magnify, whatever the sensitivity is.
  ControlEvent countsOf(const io::Turn& turn) const {
    static const Control mouse = findControl("MouseMove");
    const LookSettings& look = cameras_.character().design().design().look;
    const auto counts = [](double angle, double perCount, double sensitivity, bool inverted) {
      return angle / (perCount * sensitivity) * (inverted ? -1 : 1);
    };
    return {turn.time, mouse,
            counts(turn.right, look.yawPerCount, mouse_.sensitivityX, mouse_.invertX != look.invertYaw),
            counts(turn.down, look.pitchPerCount, mouse_.sensitivityY, mouse_.invertY != look.invertPitch)};
  }

  /// Gives the camera the input so far, over the time until a moment.
  void lookUntil(double time) {
    const double before = world(), passed = std::max(time - now_, 0.0);
    now_ = std::max(time, now_);
    cameras_.look({passed, std::max(world() - before, 0.0)}, controls_);
    looked_ = {looked_.x + controls_.lookedBy().x, looked_.y + controls_.lookedBy().y};
    zoomed_ += controls_.zoomedBy();
    controls_.beginFrame();
  }

  void obey(const io::Cue& cue) {
    if (cue.kind == io::Cue::Kind::block) controls_.block(cue.name, cue.what, 0);
    if (cue.kind == io::Cue::Kind::unblock) controls_.unblock(cue.name, 0);
    if (cue.kind == io::Cue::Kind::mode) controls_.setMode(cue.name);
    if (cue.kind == io::Cue::Kind::jump) walker_.jump(cue.strength);
    const bool teleport = cue.kind == io::Cue::Kind::teleport;
    if (teleport) {
      showWithinFrame();  // the way so far
      walker_.place(cue.place, cue.direction ? degrees(*cue.direction) : walker_.walker().heading());
      cameras_.enterRegions(cue.place);
      teleported_ = true;
    }
    if (cue.kind == io::Cue::Kind::slow) {
      worldFrom_ = world();
      from_ = now_;
      pace_ = cue.strength;
    }
    cameras_.obey(cue, world());
    if (teleport || cue.kind == io::Cue::Kind::camera || cue.kind == io::Cue::Kind::subject) showWithinFrame();
    teleported_ = false;
  }

  /// A frame of its own, which nobody sees: for what depends on the view, or cuts, at its moment.
  void showWithinFrame() {
    updateCameras();
    events_ |= view_.events;
  }

  io::TraceFrame record(const View& view, const Subject& subject, double time, double dt) {
    io::TraceFrame row;
    row.frame = frames_++;
    row.time = time;
    row.dt = dt;
    row.world = world();
    row.subject = subject.feet;
    row.subjectHeading = toDegrees(subject.heading);
    row.head = view.head;
    row.pivot = view.pivot;
    row.camera = view.position;
    row.yaw = toDegrees(view.yaw);
    row.pitch = toDegrees(view.pitch);
    row.roll = toDegrees(view.roll);
    row.fieldOfView = toDegrees(view.fieldOfView);
    row.aspect = view.aspect;
    row.nearPlane = view.nearPlane;
    row.distance = view.distance;
    row.freeDistance = view.freeDistance;
    row.clearDistance = view.clearDistance;
    row.clearance = stage_.obstacles().clearance(view.position, clearanceRange);
    const std::vector<NamedFraming>& framings = cameras_.character().design().design().framings;
    row.framing = row.framingTo = framings[static_cast<std::size_t>(view.framing)].name;
    row.framingFrom = framings[static_cast<std::size_t>(view.framingFrom)].name;
    row.framingBlend = view.framingBlend;
    row.aim = view.aimPoint;
    row.aimError = toDegrees(view.aimError);
    row.lookScale = view.lookScale;
    row.handShare = view.handShare;
    row.opacity = view.opacity;
    row.obstacle = stage_.nameOf(view.obstacle);
    row.foreseen = stage_.nameOf(view.foreseen);
    row.foreseenIn = view.foreseenIn;
    row.shoulderGivenUp = view.shoulderGivenUp;
    row.outIn = view.outIn;
    row.pushYaw = toDegrees(view.pushYaw);
    row.pushPitch = toDegrees(view.pushPitch);
    row.swayYaw = toDegrees(view.swayYaw);
    row.swayPitch = toDegrees(view.swayPitch);
    row.rest = view.rest;
    row.events = namesOf(view.events);
    row.swingBack = toDegrees(view.swungBack);
    row.holdoff = view.holdoff;
    row.lock = cameras_.lockedOn(view);
    row.lockError = toDegrees(view.lockError);
    row.cameraName = cameras_.name();
    row.filmed = cameras_.filmed();
    recordScreen(view, row);
    recordConditions(row);
    recordIntent(row);
    return row;
  }

  void recordScreen(const View& view, io::TraceFrame& row) const {
    const auto onScreen = [&view](const Vector3d& point, double& x, double& y) {
      const Vector3d seen = view.rotation().transpose() * (point - view.position);
      if (seen.z() >= -1e-6) return;
      const double up = std::tan(view.fieldOfView / 2);
      x = -seen.x() / seen.z() / (up * view.aspect);
      y = -seen.y() / seen.z() / up;
    };
    onScreen(view.head, row.headX, row.headY);
    if (view.lock != noTarget) onScreen(cameras_.character().target().position, row.lockX, row.lockY);
  }

  void recordConditions(io::TraceFrame& row) const {
    const CompiledDesign& design = cameras_.character().design();
    std::vector<std::string> flags = {"aiming", "sprinting", "crouched"};
    flags.insert(flags.end(), design.flags().begin(), design.flags().end());
    for (const std::string& flag : flags) {
      if ((cameras_.character().conditions() & design.flag(flag)) == 0) continue;
      row.flags += (row.flags.empty() ? "" : " ") + flag;
    }
    for (std::size_t i = 0; i < design.numbers().size(); ++i)
      row.numbers += fmt::format("{}{}={:.6g}", i == 0 ? "" : " ", design.numbers()[i],
                                 cameras_.character().number(static_cast<int>(i)));
  }

  void recordIntent(io::TraceFrame& row) const {
    static const char* const devices[] = {"keyboard-and-mouse", "pad", "touch"};
    row.lookX = looked_.x;
    row.lookY = looked_.y;
    row.stickX = controls_.turn().x;
    row.stickY = controls_.turn().y;
    row.lookRateX = toDegrees(cameras_.character().turnRates().yaw);
    row.lookRateY = toDegrees(cameras_.character().turnRates().pitch);
    row.moveX = controls_.move().x;
    row.moveY = controls_.move().y;
    row.zoom = zoomed_;
    row.bobX = view_.bobRight;
    row.bobY = view_.bobUp;
    row.steadyYaw = toDegrees(view_.steadyYaw);
    row.steadyPitch = toDegrees(view_.steadyPitch);
    row.glanceYaw = toDegrees(view_.glanceYaw);
    row.glancePitch = toDegrees(view_.glancePitch);
    row.heading = toDegrees(view_.heading);
    row.device = devices[static_cast<int>(controls_.device())];
    for (const Blocks::Reason& reason : controls_.blocks().reasons())
      row.blocks += (row.blocks.empty() ? "" : " ") + reason.name;
  }

  const Stage& stage_;
  const io::Take& take_;
  double aspect_;
  std::function<void(CharacterCamera&, double)> game_;
  LookPreference mouse_;
  PlayerControls controls_;
  DrawnWalker walker_;
  const Neighbourhood near_;
  Cameras cameras_;
  View view_;
  double now_ = 0, updated_ = 0, told_ = 0, updatedWorld_ = 0, frames_ = 0;  // told and so on by the world's clock
  double from_ = 0, worldFrom_ = 0, pace_ = 1;  // since when, by either clock, time goes so fast
  int ticks_ = 0;
  bool teleported_ = false;
  std::uint32_t events_ = 0;  // of what was shown within this frame
  std::size_t nextEvent_ = 0, nextCue_ = 0, nextTurn_ = 0;
  Displacement looked_;
  double zoomed_ = 0;
};

Rehearsal::Rehearsal(const CompiledDesign& design, const Stage& stage, const io::Take& take,
                     const RehearsalOptions& options)
    : run_(std::make_unique<Run>(design, stage, take, options)) {}
Rehearsal::~Rehearsal() = default;

io::TraceFrame Rehearsal::frameUntil(double end) { return run_->frameUntil(end); }
double Rehearsal::now() const { return run_->now(); }
const View& Rehearsal::view() const { return run_->view(); }
const PlayerControls& Rehearsal::controls() const { return run_->controls(); }

io::Trace rehearse(const CompiledDesign& design, const Stage& stage, const io::Take& take,
                   const RehearsalOptions& options) {
  Rehearsal rehearsal(design, stage, take, options);
  io::Trace trace;
  for (std::size_t frame = 0; rehearsal.now() < take.length; ++frame) {
    const double end = options.frameTimes.empty()
                           ? static_cast<double>(frame + 1) / options.framesPerSecond
                           : rehearsal.now() + options.frameTimes[frame % options.frameTimes.size()];
    trace.push_back(rehearsal.frameUntil(std::min(end, take.length)));
    if (options.progress) options.progress(rehearsal.now());
  }
  return trace;
}

namespace {

constexpr double headRadius = 0.13;  // metres

/// The ray of the crosshair passes through the head.
bool headInTheWay(const io::TraceFrame& frame) {
  const Vector3d ahead = -rotationOf(degrees(frame.yaw), degrees(frame.pitch)).col(2),
                 toHead = frame.head - frame.camera;
  const double along = ahead.dot(toHead);
  return along > 0 && (toHead - along * ahead).norm() < headRadius;
}

}  // namespace

Summary summarise(const io::Trace& trace) {
  Summary summary;
  summary.frames = trace.size();
  if (trace.empty()) return summary;
  const io::TraceFrame& first = trace.front();
  summary.length = trace.back().time;
  summary.lowestPitch = summary.highestPitch = first.pitch;
  summary.closest = summary.farthest = first.distance;
  summary.leastClearance = first.clearance;
  const io::TraceFrame* before = &first;
  for (const io::TraceFrame& frame : trace) {
    summary.subjectPath += (frame.subject - before->subject).norm();
    summary.cameraPath += (frame.camera - before->camera).norm();
    summary.lowestPitch = std::min(summary.lowestPitch, frame.pitch);
    summary.highestPitch = std::max(summary.highestPitch, frame.pitch);
    summary.closest = std::min(summary.closest, frame.distance);
    summary.farthest = std::max(summary.farthest, frame.distance);
    summary.leastClearance = std::min(summary.leastClearance, frame.clearance);
    if (!frame.obstacle.empty()) ++summary.framesPulledIn;
    if (frame.freeDistance > 0) {
      ++summary.framesOfThirdPerson;
      if (headInTheWay(frame)) ++summary.framesHeadInTheWay;
      if (frame.opacity < 0.5) ++summary.framesFaded;
    }
    before = &frame;
  }
  return summary;
}

}  // namespace alpglow::stage
