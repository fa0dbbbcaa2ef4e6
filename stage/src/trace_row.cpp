#include "trace_row.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <string>
#include <vector>

namespace alpglow::stage {

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

std::string namesOf(std::uint32_t events) {
  std::vector<const char*> names;
  for (const EventName& known : eventNames) {
    if ((events & known.bit) != 0) names.push_back(known.name);
  }
  return fmt::format("{}", fmt::join(names, " "));
}

void addScreen(io::TraceFrame& row, const View& view, const Cameras& cameras) {
  if (const auto head = view.onScreen(view.head)) row.headX = head->x(), row.headY = head->y();
  for (const auto& [name, target] : cameras.targets()) {
    if (const auto place = view.onScreen(target.position))
      row.targets += fmt::format("{}{}={:.3f},{:.3f}", row.targets.empty() ? "" : " ", name, place->x(), place->y());
  }
  if (view.lock == noTarget) return;
  if (const auto target = view.onScreen(cameras.character().target().position))
    row.lockX = target->x(), row.lockY = target->y();
}

void addConditions(io::TraceFrame& row, const Cameras& cameras) {
  const CompiledDesign& design = cameras.character().design();
  std::vector<std::string> flags = {"aiming", "sprinting", "crouched"};
  flags.insert(flags.end(), design.flags().begin(), design.flags().end());
  for (const std::string& flag : flags) {
    if ((cameras.character().conditions() & design.flag(flag)) == 0) continue;
    row.flags += (row.flags.empty() ? "" : " ") + flag;
  }
  for (std::size_t i = 0; i < design.numbers().size(); ++i)
    row.numbers += fmt::format("{}{}={:.6g}", i == 0 ? "" : " ", design.numbers()[i],
                               cameras.character().number(static_cast<int>(i)));
}

void addIntent(io::TraceFrame& row, const View& view, const Cameras& cameras, const PlayerControls& controls) {
  static const char* const devices[] = {"keyboard-and-mouse", "pad", "touch"};
  row.stickX = controls.turn().x;
  row.stickY = controls.turn().y;
  row.lookRateX = toDegrees(cameras.character().turnRates().yaw);
  row.lookRateY = toDegrees(cameras.character().turnRates().pitch);
  row.moveX = controls.move().x;
  row.moveY = controls.move().y;
  row.bobX = view.bobRight;
  row.bobY = view.bobUp;
  row.steadyYaw = toDegrees(view.steadyYaw);
  row.steadyPitch = toDegrees(view.steadyPitch);
  row.glanceYaw = toDegrees(view.glanceYaw);
  row.glancePitch = toDegrees(view.glancePitch);
  row.heading = toDegrees(view.heading);
  row.device = devices[static_cast<int>(controls.device())];
  for (const Blocks::Reason& reason : controls.blocks().reasons())
    row.blocks += (row.blocks.empty() ? "" : " ") + reason.name;
}

}  // namespace

io::TraceFrame traceRow(const View& view, const Subject& subject, const Stage& stage, const Cameras& cameras,
                        const PlayerControls& controls) {
  io::TraceFrame row;
  row.subject = subject.feet;
  row.speed = std::hypot(subject.velocity.x(), subject.velocity.z());
  row.climb = subject.velocity.y();
  row.subjectHeading = toDegrees(subject.heading);
  row.head = view.head;
  row.pivot = view.pivot;
  row.camera = view.position;
  row.free = view.freePosition;
  row.yaw = toDegrees(view.yaw);
  row.pitch = toDegrees(view.pitch);
  row.roll = toDegrees(view.roll);
  row.fieldOfView = toDegrees(view.fieldOfView);
  row.aspect = view.aspect;
  row.nearPlane = view.nearPlane;
  row.distance = view.distance;
  row.freeDistance = view.freeDistance;
  row.clearDistance = view.clearDistance;
  row.clearance = stage.obstacles().clearance(view.position, clearanceRange);
  const std::vector<NamedFraming>& framings = cameras.character().design().design().framings;
  row.framing = row.framingTo = framings[static_cast<std::size_t>(view.framing)].name;
  row.framingFrom = framings[static_cast<std::size_t>(view.framingFrom)].name;
  row.framingBlend = view.framingBlend;
  row.aim = view.aimPoint;
  row.aimError = toDegrees(view.aimError);
  row.lookScale = view.lookScale;
  row.handShare = view.handShare;
  row.opacity = view.opacity;
  row.obstacle = stage.nameOf(view.obstacle);
  const Covering& covers =
      *std::min_element(view.covers.begin(), view.covers.end(),
                        [](const Covering& a, const Covering& b) { return a.opacity < b.opacity; });
  row.covering = stage.nameOf(covers.thing);
  row.coveringOpacity = covers.opacity;
  row.foreseen = stage.nameOf(view.foreseen);
  row.foreseenIn = view.foreseenIn;
  row.shoulderGivenUp = view.shoulderGivenUp;
  row.outIn = view.outIn;
  row.stooped = toDegrees(view.stooped);
  row.pushYaw = toDegrees(view.pushYaw);
  row.pushPitch = toDegrees(view.pushPitch);
  row.swayYaw = toDegrees(view.swayYaw);
  row.swayPitch = toDegrees(view.swayPitch);
  row.rest = view.rest;
  row.restAside = view.restAside;
  row.events = namesOf(view.events);
  row.swingBack = toDegrees(view.swungBack);
  row.holdoff = view.holdoff;
  row.driftRate = toDegrees(view.driftRate);
  row.lock = cameras.lockedOn(view);
  row.lockError = toDegrees(view.lockError);
  row.groupLeftOut = cameras.leftOut();
  row.groupHidden = cameras.hidden();
  row.groupSplits = cameras.splits() ? 1 : 0;
  row.cameraName = cameras.name();
  row.filmed = cameras.filmed();
  addScreen(row, view, cameras);
  addConditions(row, cameras);
  addIntent(row, view, cameras, controls);
  return row;
}

double visibleShare(const View& view, const Subject& subject, const Obstacles& world) {
  std::vector<Eigen::Vector3d> inPicture;
  const auto body = bodyPoints(subject, view.position);
  for (const Eigen::Vector3d& point : body) {
    const auto place = view.onScreen(point);
    if (place && place->cwiseAbs().maxCoeff() <= 1) inPicture.push_back(point);
  }
  return whatHides(view.position, inPicture, world, Purpose::camera).visible * static_cast<double>(inPicture.size()) /
         static_cast<double>(body.size());
}

void addHiding(io::TraceFrame& row, const View& view, const Subject& subject, const Stage& stage,
               const Fading& fading) {
  row.visible = visibleShare(view, subject, stage.obstacles());
  for (const Covering& each : fading.all())
    row.fading += fmt::format("{}{}={:.3f}", row.fading.empty() ? "" : " ", stage.nameOf(each.thing), each.opacity);
}

}  // namespace alpglow::stage
