#include "alpglow/stage/rehearsal.hpp"

#include "cameras.hpp"
#include "drawn_walker.hpp"
#include "trace_row.hpp"

#include "alpglow/input/player_controls.hpp"
#include "alpglow/space/neighbourhood.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double never = std::numeric_limits<double>::infinity();

/// An angle to a millionth of a radian: bumping into something must not make metres out of rounding.
double coarse(double angle) { return std::round(angle * 1e6) / 1e6; }

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
        near_(std::make_shared<Neighbourhood>(stage.obstacles())),
        cameras_(design, stage, options.obstacles != nullptr ? *options.obstacles : *near_, walker_.drawn(0)),
        soft_(std::any_of(stage.level().objects.begin(), stage.level().objects.end(),
                          [](const io::LevelObject& object) { return object.labelled("soft"); })) {}

  double now() const { return now_; }
  const View& view() const { return view_; }
  const Subject& subject() const { return filmed_; }
  PlayerControls& controls() { return controls_; }
  const CharacterCamera& camera() const { return cameras_.character(); }

  void takeBeginsAnew() { nextEvent_ = nextCue_ = nextTurn_ = 0; }
  void changeDesign(const CompiledDesign& next, double seconds) {
    cameras_.changeDesign(next, seconds, walker_.walker().feet());
  }
  void setPreferences(const Preferences& preferences) {
    mouse_ = preferences.mouse;
    controls_.setPreferences(preferences);
  }
  void setAspect(double aspect) { aspect_ = aspect; }
  void setInterpolated(bool interpolated) { interpolated_ = interpolated; }

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
    updateCameras();
    view_.events |= events_;
    filmed_ = cameras_.subject(world(), subject_);
    return record(filmed_, end, end - start);
  }

 private:
  /// The world's clock.
  double world() const { return worldFrom_ + (now_ - from_) * pace_; }
  /// By the player's clock, on which the take is played; never, while time stands still.
  double nextTick() const {
    const double tick = static_cast<double>(ticks_ + 1) * stage_.tickLength();
    return pace_ > 0 ? std::max(from_ + (tick - worldFrom_) / pace_, now_) : never;
  }
  /// The camera hears of the way so far before the walker asks for the heading, and of the way ahead after that.
  void tick() {
    const Rate move = cameras_.flies() ? Rate() : controls_.move();
    const double time = world();
    cameras_.tick(std::max(time - told_, 0.0), time, walker_.drawnBeforeTick());
    told_ = time;
    walker_.tick(groundDirection(coarse(cameras_.character().heading()), move), controls_.state(Action::run).held,
                 controls_.state(Action::crouch).held);
    ++ticks_;
    if (cameras_.asksForAnother()) {
      showWithinFrame();
      cameras_.lockAnother(time);
    }
    cameras_.tick(0, time, walker_.drawnAfterTick());
    const bool runs = controls_.state(Action::run).held && move.x * move.x + move.y * move.y > 0.01;
    const bool crouched = walker_.walker().height() < stage_.level().body.height;
    cameras_.setConditions(runs && !crouched, crouched);
    cameras_.enterRegions(walker_.walker().feet());
    if (game_) game_(cameras_.character(), now_);
  }

  /// Everything as it is drawn now.
  void updateCameras() {
    const double time = world(), drawn = interpolated_ ? time : ticks_ * stage_.tickLength();
    stage_.moveTo(drawnTime(drawn, stage_.tickLength()));
    subject_ = walker_.drawn(drawn);
    view_ = cameras_.update({now_ - updated_, std::max(time - updatedWorld_, 0.0)}, time, subject_, aspect_);
    updated_ = now_;
    updatedWorld_ = told_ = time;
  }

  /// Cues and control events happen at their moments, whatever the frame rate.
  void advance(double end) {
    const auto nextOf = [end](const auto& list, std::size_t place) {
      return place < list.size() && list[place].time <= end ? list[place].time : never;
    };
    while (true) {
      const double cue = nextOf(take_.cues, nextCue_), event = nextOf(take_.events, nextEvent_),
                   next = std::min({cue, event, nextOf(take_.turns, nextTurn_)});
      if (next == never) break;
      lookUntil(next);
      if (cue == next) {
        obey(take_.cues[nextCue_++]);
      } else if (event == next) {
        feed(take_.events[nextEvent_++]);
      } else {
        feed(countsOf(take_.turns[nextTurn_++]));
      }
    }
    lookUntil(end);
  }

  void feed(ControlEvent event) {
    event.time = 0;
    controls_.feed(event);
    if (controls_.state(Action::jump).pressed && !cameras_.flies()) walker_.jump(stage_.level().body.jumpHeight);
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
    }
    if (cue.kind == io::Cue::Kind::slow) {
      worldFrom_ = world();
      from_ = now_;
      pace_ = cue.strength;
    }
    cameras_.obey(cue, world());
    if (teleport || cue.kind == io::Cue::Kind::camera || cue.kind == io::Cue::Kind::subject) showWithinFrame();
  }

  /// A frame of its own, which nobody sees: for what depends on the view, or cuts, at its moment.
  void showWithinFrame() {
    updateCameras();
    events_ |= view_.events;
  }

  io::TraceFrame record(const Subject& subject, double time, double dt) {
    io::TraceFrame row = traceRow(view_, subject, stage_, cameras_, controls_);
    if (showsSubject(row)) {
      if (soft_) fadeSoft(subject, dt);
      addHiding(row, view_, subject, stage_, fading_);
    } else {
      fading_.cut();
    }
    row.frame = frames_++;
    row.time = time;
    row.dt = dt;
    row.world = world();
    row.lookX = looked_.x;
    row.lookY = looked_.y;
    row.zoom = zoomed_;
    return row;
  }

  /// Not from its own eyes.
  bool showsSubject(const io::TraceFrame& row) const { return cameras_.name() != "character" || row.freeDistance > 0; }

  void fadeSoft(const Subject& subject, double dt) {
    if (view_.cut) fading_.cut();
    const auto body = bodyPoints(subject, view_.position);
    fading_.update(whatHides(view_.position, body, stage_.obstacles(), Purpose::soft), dt,
                   cameras_.character().design().design().large);
  }

  const Stage& stage_;
  const io::Take& take_;
  double aspect_;
  std::function<void(CharacterCamera&, double)> game_;
  LookPreference mouse_;
  PlayerControls controls_;
  DrawnWalker walker_;
  std::shared_ptr<const Neighbourhood> near_;  // one for all copies: it remembers nothing from frame to frame
  Cameras cameras_;
  View view_;
  Subject subject_, filmed_;  // as they are drawn in this frame: the walker, and the one that the camera films
  double now_ = 0, updated_ = 0, told_ = 0, updatedWorld_ = 0, frames_ = 0;  // told and so on by the world's clock
  double from_ = 0, worldFrom_ = 0, pace_ = 1;  // since when, by either clock, time goes so fast
  int ticks_ = 0;
  std::uint32_t events_ = 0;  // of what was shown within this frame
  std::size_t nextEvent_ = 0, nextCue_ = 0, nextTurn_ = 0;
  Displacement looked_;
  double zoomed_ = 0;
  bool interpolated_ = true;
  bool soft_;  // there is something soft in the level
  Fading fading_;
};

Rehearsal::Rehearsal(const CompiledDesign& design, const Stage& stage, const io::Take& take,
                     const RehearsalOptions& options)
    : run_(std::make_unique<Run>(design, stage, take, options)) {}
Rehearsal::Rehearsal(const Rehearsal& other) : run_(std::make_unique<Run>(*other.run_)) {}
Rehearsal& Rehearsal::operator=(const Rehearsal& other) { return *this = Rehearsal(other); }
Rehearsal::Rehearsal(Rehearsal&&) noexcept = default;
Rehearsal& Rehearsal::operator=(Rehearsal&&) noexcept = default;
Rehearsal::~Rehearsal() = default;

io::TraceFrame Rehearsal::frameUntil(double end) { return run_->frameUntil(end); }
void Rehearsal::takeBeginsAnew() { run_->takeBeginsAnew(); }
void Rehearsal::changeDesign(const CompiledDesign& next, double seconds) { run_->changeDesign(next, seconds); }
void Rehearsal::setPreferences(const Preferences& preferences) { run_->setPreferences(preferences); }
void Rehearsal::setAspect(double aspect) { run_->setAspect(aspect); }
void Rehearsal::setInterpolated(bool interpolated) { run_->setInterpolated(interpolated); }
double Rehearsal::now() const { return run_->now(); }
const CharacterCamera& Rehearsal::camera() const { return run_->camera(); }
const View& Rehearsal::view() const { return run_->view(); }
const Subject& Rehearsal::subject() const { return run_->subject(); }
const PlayerControls& Rehearsal::controls() const { return run_->controls(); }
PlayerControls& Rehearsal::controls() { return run_->controls(); }

io::Trace rehearse(const CompiledDesign& design, const Stage& stage, const io::Take& take,
                   const RehearsalOptions& options) {
  Rehearsal rehearsal(design, stage, take, options);
  io::Trace trace;
  for (std::size_t frame = 0; rehearsal.now() < take.length; ++frame) {
    const double end = options.frameTimes.empty()
                           ? static_cast<double>(frame + 1) / options.framesPerSecond
                           : rehearsal.now() + options.frameTimes[frame % options.frameTimes.size()];
    trace.push_back(rehearsal.frameUntil(std::min(end, take.length)));
    if (options.shown) options.shown(rehearsal);
    if (options.progress) options.progress(rehearsal.now());
  }
  return trace;
}

}  // namespace alpglow::stage
