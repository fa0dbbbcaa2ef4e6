#include "alpglow/stage/rehearsal.hpp"

#include "alpglow/character_camera.hpp"
#include "alpglow/controls.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace alpglow::stage {

using Eigen::Vector3d;

namespace {

constexpr double clearanceRange = 10;

/// The walker between its last two ticks, drawn one tick late.
class DrawnWalker {
 public:
  explicit DrawnWalker(const Stage& stage) : walker_(stage), earlier_(walker_), later_(walker_) {}

  void tick(const Vector3d& direction, bool run, bool crouch) {
    walker_.tick(direction, run, crouch);
    earlier_ = later_;
    later_ = Pose(walker_);
  }

  /// `share` of the way from the tick before the last one to the last one.
  Subject drawn(double share) const {
    Subject subject;
    subject.feet = earlier_.feet + share * (later_.feet - earlier_.feet);
    subject.head = subject.feet + (earlier_.eyes + share * (later_.eyes - earlier_.eyes)) * Vector3d::UnitY();
    subject.heading = wrapAngle(earlier_.heading + share * shortestTurn(earlier_.heading, later_.heading));
    subject.velocity = (later_.feet - earlier_.feet) * Walker::ticksPerSecond;
    subject.onGround = share < 1 ? earlier_.onGround : later_.onGround;
    return subject;
  }

 private:
  struct Pose {
    explicit Pose(const Walker& walker)
        : feet(walker.feet()), heading(walker.heading()), eyes(walker.eyeHeight()), onGround(walker.onGround()) {}
    Vector3d feet;
    double heading, eyes;
    bool onGround;
  };

  Walker walker_;
  Pose earlier_, later_;
};

}  // namespace

class Rehearsal::Run {
 public:
  Run(const CompiledDesign& design, const Stage& stage, const io::Take& take, const RehearsalOptions& options)
      : stage_(stage),
        take_(take),
        aspect_(options.aspect),
        controls_(options.controls, options.preferences),
        walker_(stage),
        camera_(design, walker_.drawn(1)) {}

  double now() const { return now_; }
  const View& view() const { return view_; }
  const Controls& controls() const { return controls_; }

  io::TraceFrame frameUntil(double end) {
    const double start = now_;
    bends_.clear();
    controls_.beginFrame();
    looked_ = {};
    zoomed_ = 0;
    while (nextTick() <= end) {
      const double tickTime = nextTick();
      lookUntil(tickTime);
      bends_.push_back({tickTime - start, walker_.drawn(1)});
      walker_.tick(groundDirection(camera_.heading(), controls_.move()), controls_.state(Action::run).held,
                   controls_.state(Action::crouch).held);
      ++ticks_;
    }
    lookUntil(end);
    const Subject subject =
        walker_.drawn((end - static_cast<double>(ticks_) / Walker::ticksPerSecond) * Walker::ticksPerSecond);
    view_ = camera_.update(end - start, SubjectPath(bends_, subject), stage_.obstacles(), aspect_);
    return record(view_, subject, end, end - start);
  }

 private:
  double nextTick() const { return static_cast<double>(ticks_ + 1) / Walker::ticksPerSecond; }

  /// Gives the camera the input up to a moment.
  void lookUntil(double time) {
    controls_.beginStretch();
    for (; nextEvent_ < take_.events.size() && take_.events[nextEvent_].time <= time; ++nextEvent_) {
      ControlEvent event = take_.events[nextEvent_];
      cuesUntil(event.time);
      event.time -= now_;
      controls_.feed(event);
    }
    cuesUntil(time);
    camera_.look(time - now_, controls_.intent());
    looked_ = {looked_.x + controls_.lookedBy().x, looked_.y + controls_.lookedBy().y};
    zoomed_ += controls_.zoomedBy();
    now_ = time;
  }

  void cuesUntil(double time) {
    for (; nextCue_ < take_.cues.size() && take_.cues[nextCue_].time <= time; ++nextCue_) {
      const io::Cue& cue = take_.cues[nextCue_];
      switch (cue.kind) {
        case io::Cue::Kind::block: controls_.block(cue.name, cue.what, cue.time - now_); break;
        case io::Cue::Kind::unblock: controls_.unblock(cue.name, cue.time - now_); break;
        case io::Cue::Kind::mode: controls_.setMode(cue.name); break;
      }
    }
  }

  io::TraceFrame record(const View& view, const Subject& subject, double time, double dt) {
    io::TraceFrame row;
    row.frame = frames_++;
    row.time = time;
    row.dt = dt;
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
    row.near = view.near;
    row.distance = view.distance;
    row.freeDistance = view.freeDistance;
    row.clearance = stage_.obstacles().clearance(view.position, clearanceRange);
    row.framing = camera_.design().design().framings[static_cast<std::size_t>(view.framing)].name;
    row.opacity = view.opacity;
    row.obstacle = stage_.nameOf(view.obstacle);
    row.events = fmt::format("{}", fmt::join(names(view.events), " "));
    recordIntent(row);
    return row;
  }

  void recordIntent(io::TraceFrame& row) const {
    static const char* const devices[] = {"keyboard-and-mouse", "pad", "touch"};
    row.lookX = looked_.x;
    row.lookY = looked_.y;
    row.stickX = controls_.turn().x;
    row.stickY = controls_.turn().y;
    row.lookRateX = toDegrees(camera_.turnRates().yaw);
    row.lookRateY = toDegrees(camera_.turnRates().pitch);
    row.moveX = controls_.move().x;
    row.moveY = controls_.move().y;
    row.zoom = zoomed_;
    row.bobX = view_.bobRight;
    row.bobY = view_.bobUp;
    row.steadyYaw = toDegrees(view_.steadyYaw);
    row.steadyPitch = toDegrees(view_.steadyPitch);
    row.freeLookYaw = toDegrees(view_.freeLookYaw);
    row.freeLookPitch = toDegrees(view_.freeLookPitch);
    row.heading = toDegrees(view_.heading);
    row.device = devices[static_cast<int>(controls_.device())];
    for (const Blocks::Reason& reason : controls_.blocks().reasons())
      row.blocks += (row.blocks.empty() ? "" : " ") + reason.name;
  }

  static std::vector<const char*> names(std::uint32_t events) {
    std::vector<const char*> result;
    for (const auto& [bit, name] :
         {std::pair(Event::cut, "cut"), std::pair(Event::teleport, "teleport"),
          std::pair(Event::pullInBegan, "pull-in-began"), std::pair(Event::pullInEnded, "pull-in-ended"),
          std::pair(Event::headBlocked, "head-blocked"), std::pair(Event::headFreed, "head-freed")}) {
      if ((events & bit) != 0) result.push_back(name);
    }
    return result;
  }

  const Stage& stage_;
  const io::Take& take_;
  double aspect_;
  Controls controls_;
  DrawnWalker walker_;
  CharacterCamera camera_;
  View view_;
  std::vector<SubjectSample> bends_;
  double now_ = 0, frames_ = 0;
  int ticks_ = 0;
  std::size_t nextEvent_ = 0, nextCue_ = 0;
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
const Controls& Rehearsal::controls() const { return run_->controls(); }

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
    before = &frame;
  }
  return summary;
}

}  // namespace alpglow::stage
