#include "app.hpp"

#include "alpglow/io/camera_motion.hpp"
#include "alpglow/io/controls_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/play/place_by_eye.hpp"
#include "alpglow/stage/storyboard.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace alpglow::play {

void App::say(const std::string& words, bool bad) {
  said_ = words;
  saidBad_ = bad;
  saidAt_ = clock_;
}

void App::switchSlot() {
  active_ = 1 - active_;
  useDesign();
  say(fmt::format("{} is played: {}", active_ == 0 ? "A" : "B", slots_[active_].path));
}

void App::toggleBeside() {
  if (session_.beside()) return session_.stopBeside();
  outside_ = outside_ == Outside::full ? Outside::inset : outside_;
  session_.playBeside(compiled(slots_[1 - active_].panel));
}

void App::toggleRecording(bool here) {
  if (!session_.recording()) {
    session_.record(here);
    felt_.clear();
    return say("recording; the same key ends it");
  }
  recorded_ = session_.stopRecording();
  std::string frames;
  for (const double time : recorded_->frameTimes) frames += io::frameTimeText(time);
  try {
    io::writeWhole(options_.out + ".take", io::writeTake(recorded_->take));
    io::writeWhole(options_.out + ".frames", frames);
    io::writeWhole(options_.out + ".csv", io::writeTrace(recorded_->trace));
    if (!recorded_->trace.empty())
      io::writeWhole(options_.out + ".gltf", io::cameraMotion(recorded_->trace, design().design().name));
    say(fmt::format(
        "wrote {0}.take, {0}.frames, {0}.csv and {0}.gltf; to rehearse it: --aspect {1}{2}{3}", options_.out,
        session_.shown().aspect,
        stage_.ticksPerSecond() != 60 ? fmt::format(" --ticks {:g}", stage_.ticksPerSecond()) : "",
        recorded_->designChanged ? "; the design, the body, controls or preferences changed on the way" : ""));
  } catch (const io::InputError& error) {
    say(error.what(), true);
  }
}

/// Of the last recording; it takes a moment, and a context of OpenGL of its own.
void App::writeSheet() {
  if (!recorded_ || recorded_->trace.empty()) return say("a sheet shows what was recorded; F5 records", true);
  try {
    const std::string path = options_.out + "-sheet.png";
    const std::string sheet = stage::storyboard(stage_, recorded_->trace, stage::storyboardTimes(recorded_->trace, {}),
                                                design().design().name);
    io::writeWhole(path, sheet);
    say("wrote " + path);
  } catch (const std::exception& error) {
    say(error.what(), true);
  }
  SDL_GL_MakeCurrent(window_.get(), window_.context());
}

void App::toggleReplay() {
  if (session_.replaying()) {
    session_.stopReplay();
    felt_.clear();
    return say("live again");
  }
  if (session_.recording()) toggleRecording(false);
  if (!recorded_ && options_.take.empty()) return say("there is nothing to replay; F5 records", true);
  try {
    session_.replay(recorded_ ? recorded_->take : io::readTake(options_.take));
    felt_.clear();
    say("replaying, over and over; tune while it runs");
  } catch (const io::InputError& error) {
    say(error.what(), true);
  }
}

void App::rewind() {
  const double back = session_.rewind(10);
  felt_.clear();
  say(fmt::format("back by {:.1f} s", back));
}

void App::setTicks(double ticks) {
  if (session_.recording()) toggleRecording(false);
  stage_.setTicksPerSecond(ticks);
  session_.ticksChanged();
  felt_.clear();
}

void App::fly(bool flies) { showCamera(flies ? "flying" : "character"); }

/// What is held stays with neither design, and the pointer stays locked or free.
void App::inspect() {
  releaseHeld();
  const bool asked = controls().wantsPointerLock();
  if (inHand_) {
    inHand_.reset();
  } else {
    const int which = smallThingAhead(stage_.level(), session_.view());
    if (which < 0) return say("nothing in the picture is small and near enough to be taken into the hand", true);
    inHand_.emplace(stage_.level(), which, session_.controls().bindings(), preferences_,
                    plain_ ? stage::Quality::plain : stage::Quality::full);
  }
  controls().requestPointerLock(asked);
  deliver({0, findControl("Focus"), 1, 0});
  deliver({0, findControl("PointerLock"), pointerFree_ ? 0.0 : 1.0, 0});
}

void App::showCamera(const std::string& name) {
  cameraName_ = name;
  io::Cue cue;
  cue.kind = io::Cue::Kind::camera;
  cue.name = name;
  cue.seconds = name == "flying" ? 0 : 0.6;
  session_.obey(cue);
}

/// What the free camera shows becomes the numbers of the framing that applies.
void App::placeByEye() {
  const CameraDesign& numbers = design().design();
  const auto framing = static_cast<std::size_t>(session_.rehearsal().camera().view().framing);
  const NamedFraming& named = numbers.framings[std::min(framing, numbers.framings.size() - 1)];
  const auto keys = placedByEye(session_.view(), session_.rehearsal().subject(), named.framing);
  if (keys.empty()) return say("from there no framing looks at the character: go behind, and look less steeply", true);
  const std::string name = named.name;
  for (const auto& [key, value] : keys) {
    if (!design().set({"framing", name, key}, value, key != keys.front().first)) return say(design().complaint(), true);
  }
  fly(false);
  useDesign();
  say(name + " sits there now");
}

void App::save() {
  Slot& slot = slots_[active_];
  try {
    io::writeWhole(slot.path, slot.panel.text().text());
    slot.panel.markSaved();
    // The other design may come from the same file, and stays what it is.
    for (Slot& each : slots_) {
      if (each.path == slot.path) each.writtenAt = std::filesystem::last_write_time(slot.path);
    }
    say("wrote " + slot.path);
  } catch (const std::exception& error) {
    say(error.what(), true);
  }
}

void App::write(const std::string& path, const std::string& text) {
  try {
    io::writeWhole(path, text);
    say("wrote " + path);
  } catch (const io::InputError& error) {
    say(error.what(), true);
  }
}

void App::saveControls() {
  write(options_.controls.empty() ? options_.out + ".controls.toml" : options_.controls,
        io::writeControls(session_.controls().bindings()));
  controlsChanged_ = controlsChanged_ && saidBad_;
}

void App::savePreferences() {
  write(options_.preferences.empty() ? options_.out + ".preferences.toml" : options_.preferences,
        io::writePreferences(preferences_));
}

/// Half a second after a file was written by somebody else it counts; a broken one leaves the last good design.
void App::watchFiles() {
  constexpr double every = 0.4;
  if (clock_ < watchedAt_ + every) return;
  watchedAt_ = clock_;
  for (Slot& slot : slots_) {
    std::error_code gone;
    const auto written = std::filesystem::last_write_time(slot.path, gone);
    if (gone || written == slot.writtenAt) continue;
    slot.writtenAt = written;
    reload(slot);
  }
}

void App::reload(Slot& slot) {
  try {
    const std::string text = io::readWhole(slot.path);
    if (text == slot.panel.text().text()) return slot.panel.markSaved();
    if (slot.panel.changed())
      return say(slot.path + " has changed on disk; what was changed here stays until it is saved or undone", true);
    slot.panel.replace(io::DesignText(text, slot.path));
    useDesign();
    say("read " + slot.path + " again");
  } catch (const io::InputError& error) {
    say(error.what(), true);
  }
}

}  // namespace alpglow::play
