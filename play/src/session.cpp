#include "alpglow/play/session.hpp"

#include <algorithm>
#include <utility>

namespace alpglow::play {

Session::Session(const stage::Stage& stage, Design design, const Bindings& bindings, const Preferences& preferences,
                 double aspect)
    : stage_(stage),
      design_(std::move(design)),
      bindings_(bindings),
      preferences_(preferences),
      aspect_(aspect),
      rehearsal_(fromTheStart(live_)) {}

stage::RehearsalOptions Session::options() const {
  stage::RehearsalOptions options;
  options.controls = bindings_;
  options.preferences = preferences_;
  options.aspect = aspect_;
  return options;
}

stage::Rehearsal Session::fromTheStart(const io::Take& take) const {
  stage::Rehearsal rehearsal(*design_, stage_, take, options());
  rehearsal.setInterpolated(interpolated_);
  return rehearsal;
}

void Session::feed(const ControlEvent& event) {
  if (replaying()) return;
  live_.events.push_back(event);
}

void Session::obey(io::Cue cue) {
  if (replaying()) return;
  cue.time = now();
  live_.cues.push_back(std::move(cue));
}

void Session::wait() {
  const auto moved = [](const ControlEvent& event) { return kindOf(event.control) == ControlKind::displacement; };
  live_.events.erase(std::remove_if(live_.events.begin(), live_.events.end(), moved), live_.events.end());
}

io::TraceFrame Session::frame(double dt) {
  if (replaying() && now() >= replayed_->length) loop();
  remember();
  const double start = now(), end = replaying() ? std::min(start + dt, replayed_->length) : start + dt;
  for (ControlEvent& event : live_.events) event.time = end;
  shown_ = rehearsal_.frameUntil(end);
  if (beside_) shownBeside_ = beside_->frameUntil(end);
  if (recording_) keep(shown_, end - start);
  if (!replaying()) {
    live_ = {};
    rehearsal_.takeBeginsAnew();
    if (beside_) beside_->takeBeginsAnew();
  }
  return shown_;
}

void Session::keep(const io::TraceFrame& row, double dt) {
  io::Take& take = recording_->take;
  take.events.insert(take.events.end(), live_.events.begin(), live_.events.end());
  take.cues.insert(take.cues.end(), live_.cues.begin(), live_.cues.end());
  take.length = row.time;
  recording_->frameTimes.push_back(dt);
  recording_->trace.push_back(row);
}

void Session::remember() {
  if (!moments_.empty() && now() < moments_.back().rehearsal.now() + apart) return;
  const bool keeps = recording_.has_value();
  moments_.push_back({rehearsal_, design_, keeps ? recording_->frameTimes.size() : 0,
                      keeps ? recording_->take.events.size() : 0, keeps ? recording_->take.cues.size() : 0});
  // A replay can be gone to anywhere.
  if (!replaying() && moments_.front().rehearsal.now() < now() - remembered) moments_.pop_front();
}

void Session::goBackTo(const Moment& moment) {
  const Design before = moment.design;
  rehearsal_ = moment.rehearsal;
  if (before != design_) rehearsal_.changeDesign(*design_, 0);
  rehearsal_.setPreferences(preferences_);
  rehearsal_.setAspect(aspect_);
  rehearsal_.setInterpolated(interpolated_);
  if (beside_) playBeside(designBeside_);
}

double Session::rewind(double seconds) {
  if (moments_.empty()) return 0;
  const double from = now(), locked = rehearsal_.controls().pointerLocked() ? 1 : 0;
  const bool asked = rehearsal_.controls().wantsPointerLock();
  while (moments_.size() > 1 && moments_.back().rehearsal.now() > from - seconds) moments_.pop_back();
  const Moment moment = moments_.back();
  live_ = {};
  goBackTo(moment);
  if (recording_) {
    recording_->designChanged |= moment.design != design_;
    recording_->frameTimes.resize(moment.frames);
    recording_->trace.resize(moment.frames);
    recording_->take.events.resize(moment.events);
    recording_->take.cues.resize(moment.cues);
  }
  if (!replaying()) {
    feed({0, findControl("Focus"), 0, 0});
    feed({0, findControl("Focus"), 1, 0});
    feed({0, findControl("PointerLock"), locked, 0});
  }
  controls().requestPointerLock(asked);
  return from - now();
}

void Session::use(Design design, double seconds) {
  if (recording_ && design->digest() != design_->digest()) recording_->designChanged = true;
  rehearsal_.changeDesign(*design, seconds);
  design_ = std::move(design);
}

void Session::setPreferences(const Preferences& preferences) {
  if (recording_) recording_->designChanged = true;
  preferences_ = preferences;
  rehearsal_.setPreferences(preferences);
  if (beside_) beside_->setPreferences(preferences);
}

/// The mode stays; what is held must be pressed anew.
void Session::setBindings(const Bindings& bindings) {
  if (recording_) recording_->designChanged = true;
  bindings_ = bindings;
  const auto renew = [&](stage::Rehearsal& rehearsal) {
    PlayerControls& controls = rehearsal.controls();
    const std::string mode = controls.mode();
    const bool locked = controls.pointerLocked();
    controls = PlayerControls(bindings, preferences_);
    controls.setMode(mode);
    controls.requestPointerLock(locked);
    controls.feed({0, findControl("PointerLock"), locked ? 1.0 : 0.0, 0});
    controls.beginFrame();
  };
  renew(rehearsal_);
  if (beside_) renew(*beside_);
}

void Session::tune(const Bindings& numbers) {
  if (!rehearsal_.controls().tune(numbers)) return;
  if (recording_) recording_->designChanged = true;
  bindings_ = rehearsal_.controls().bindings();
  if (beside_) beside_->controls().tune(numbers);
}

void Session::setAspect(double aspect) {
  aspect_ = aspect;
  rehearsal_.setAspect(aspect);
  if (beside_) beside_->setAspect(aspect);
}

void Session::setInterpolated(bool interpolated) {
  if (recording_) recording_->designChanged |= interpolated != interpolated_;
  interpolated_ = interpolated;
  rehearsal_.setInterpolated(interpolated);
  if (beside_) beside_->setInterpolated(interpolated);
}

void Session::bodyChanged() {
  if (recording_) recording_->designChanged = true;
}

void Session::ticksChanged() {
  if (replaying()) return loop();
  startOver(true);
}

void Session::startOver(bool here) {
  const Subject subject = rehearsal_.subject();
  const double yaw = rehearsal_.view().heading;
  replayed_.reset();
  recording_.reset();
  moments_.clear();
  live_ = {};
  const bool asked = rehearsal_.controls().wantsPointerLock(), locked = rehearsal_.controls().pointerLocked();
  rehearsal_ = fromTheStart(live_);
  controls().requestPointerLock(asked);
  feed({0, findControl("PointerLock"), locked ? 1.0 : 0.0, 0});
  if (beside_) playBeside(designBeside_);
  if (!here) return;
  io::Cue teleport;
  teleport.kind = io::Cue::Kind::teleport;
  teleport.place = subject.feet;
  teleport.direction = toDegrees(yaw);
  obey(teleport);
}

void Session::record(bool here) {
  startOver(here);
  recording_.emplace();
}

std::optional<Recording> Session::stopRecording() { return std::exchange(recording_, std::nullopt); }

void Session::replay(io::Take take) {
  startOver();
  replayed_ = std::move(take);
  loop();
}

void Session::loop() {
  moments_.clear();
  rehearsal_ = fromTheStart(*replayed_);
  if (beside_) playBeside(designBeside_);
}

void Session::stopReplay() {
  if (replaying()) startOver();
}

void Session::seek(double time) {
  if (!replaying()) return;
  time = std::clamp(time, 0.0, replayed_->length);
  if (time < now()) {
    while (moments_.size() > 1 && moments_.back().rehearsal.now() > time) moments_.pop_back();
    if (moments_.empty()) {
      loop();
    } else {
      goBackTo(Moment(moments_.back()));
    }
  }
  constexpr double step = 1.0 / 60;
  while (now() < time - 1e-9) frame(std::min(step, time - now()));
}

void Session::playBeside(Design design) {
  designBeside_ = std::move(design);
  beside_ = rehearsal_;
  beside_->changeDesign(*designBeside_, 0);
  shownBeside_ = shown_;
}

void Session::stopBeside() {
  beside_.reset();
  designBeside_.reset();
}

}  // namespace alpglow::play
