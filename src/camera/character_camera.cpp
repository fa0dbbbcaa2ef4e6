// The public face: each call goes to the core that stands in the camera's bytes.

#include "camera_core.hpp"

#include "alpglow/camera/character_camera.hpp"

#include <new>
#include <string>
#include <type_traits>

namespace alpglow {

using Eigen::Vector3d;

static_assert(std::is_trivially_copyable_v<CameraCore> && std::is_trivially_destructible_v<CameraCore>);
static_assert(std::is_trivially_copyable_v<CharacterCamera>);
static_assert(sizeof(CameraCore) <= sizeof(CharacterCamera) && alignof(CameraCore) <= alignof(CharacterCamera));
static_assert(sizeof(void*) < 8 || sizeof(CharacterCamera) - sizeof(CameraCore) < 64, "bytes that nothing needs");

CameraCore& CharacterCamera::core() { return *std::launder(reinterpret_cast<CameraCore*>(core_)); }
const CameraCore& CharacterCamera::core() const { return *std::launder(reinterpret_cast<const CameraCore*>(core_)); }

CharacterCamera::CharacterCamera(const CompiledDesign& design, const Subject& subject) {
  new (core_) CameraCore(design, subject);
}

void CharacterCamera::look(FrameTime time, const Intent& intent) { core().look(time, intent); }
double CharacterCamera::heading() const { return core().heading(); }
LookAngles CharacterCamera::lookAngles() const { return core().lookAngles(); }
LookAngles CharacterCamera::turnRates() const { return core().turnRates(); }
void CharacterCamera::tick(double seconds, const Subject& subject) { core().tick(seconds, subject); }
View CharacterCamera::update(FrameTime time, const Subject& subject, const Obstacles& obstacles, double aspect) {
  return core().update(time, subject, obstacles, aspect);
}
View CharacterCamera::updateWithoutSubject(FrameTime time) { return core().updateWithoutSubject(time); }
void CharacterCamera::changeSubject(const Subject& subject) { core().changeSubject(subject); }
void CharacterCamera::changeDesign(const CompiledDesign& next, double seconds) { core().changeDesign(next, seconds); }
void CharacterCamera::setCondition(std::uint32_t conditions, bool holds) { core().setCondition(conditions, holds); }
void CharacterCamera::switchPerspective() { core().switchPerspective(); }
void CharacterCamera::choose(Perspective perspective) { core().choose(perspective); }
Perspective CharacterCamera::perspective() const { return core().perspective(); }
void CharacterCamera::setShoulder(Shoulder shoulder) { core().setShoulder(shoulder); }
void CharacterCamera::swingBack() { core().swingBack(); }
void CharacterCamera::endHoldoff() { core().endHoldoff(); }
void CharacterCamera::cancelSwingBack() { core().cancelSwingBack(); }
bool CharacterCamera::forbidSwingBack(std::string_view reason) { return core().forbidSwingBack(reason); }
void CharacterCamera::allowSwingBack(std::string_view reason) { core().allowSwingBack(reason); }
void CharacterCamera::lockOn(const Target& target) { core().lockOn(target); }
void CharacterCamera::endLock() { core().endLock(); }
bool CharacterCamera::locked() const { return core().locked(); }
Rate CharacterCamera::flick() const { return core().flick(); }
Target CharacterCamera::target() const { return core().target(); }
void CharacterCamera::push(int kind, double strength, const Vector3d& direction) {
  core().push(kind, strength, direction);
}
void CharacterCamera::seed(std::uint32_t seed) { core().seed(seed); }
void CharacterCamera::setUnrest(double amount) { core().setUnrest(amount); }
void CharacterCamera::setNumber(int number, double value) { core().setNumber(number, value); }
std::uint32_t CharacterCamera::conditions() const { return core().conditions(); }
double CharacterCamera::number(int number) const { return core().number(number); }
void CharacterCamera::guide(const GuideGoal& goal) { core().guide(goal); }
void CharacterCamera::endGuide() { core().endGuide(); }
bool CharacterCamera::guided() const { return core().guided(); }
void CharacterCamera::setFocus(double distance) { core().setFocus(distance); }
void CharacterCamera::setPose(const CameraPose& pose) { core().setPose(pose); }
void CharacterCamera::shift(const Vector3d& offset) { core().shift(offset); }
View CharacterCamera::view() const { return core().view(); }
const CompiledDesign& CharacterCamera::design() const { return core().design(); }
CharacterCamera::Saved CharacterCamera::save() const { return core().save(); }
bool CharacterCamera::restore(const Saved& saved) { return core().restore(saved); }
std::string CharacterCamera::difference(const Saved& theirs, double tolerance) const {
  return core().difference(theirs, tolerance);
}

}  // namespace alpglow
