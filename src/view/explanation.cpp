#include "alpglow/view/explanation.hpp"

#include "alpglow/framing/lens.hpp"
#include "alpglow/input/blocks.hpp"
#include "alpglow/space/guarded_obstacles.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <ios>
#include <locale>
#include <sstream>

namespace alpglow {

using Eigen::Vector3d;
using Why = Explanation::Why;

namespace {

constexpr double unseen = 1e-3, told = 5e-3, touching = 1e-6;  // metres
constexpr double leastStoop = degrees(0.05);

/// From a surface that is so near to a point.
Vector3d normalAt(const Vector3d& point, double range, const Obstacles& world) {
  constexpr double step = 1e-3;
  Vector3d slope;
  for (int axis = 0; axis < 3; ++axis) {
    const Vector3d off = step * Vector3d::Unit(axis);
    slope[axis] = world.clearance(point + off, 2 * range) - world.clearance(point - off, 2 * range);
  }
  const double length = slope.norm();
  return length > 0 && std::isfinite(length) ? Vector3d(slope / length) : Vector3d(0, 0, 0);
}

void meet(Explanation& why, const View& view, const Vector3d& way, const Contact& contact, const Obstacles& world) {
  if (why.met || !contact.hit()) return;
  why.met = true;
  why.sphere = view.head + contact.distance * way.normalized();
  why.normal = contact.normal.isZero(0) ? normalAt(why.sphere, why.radius, world) : contact.normal;
  why.point = why.sphere - why.radius * why.normal;
}

/// What the head touches.
ObstacleId touched(const Vector3d& head, double radius, const Obstacles& world) {
  for (int axis = 0; axis < 3; ++axis) {
    for (const double way : {-radius, radius}) {
      const Contact contact = world.sweep(head, way * Vector3d::Unit(axis), radius);
      if (contact.hit() && contact.distance <= 0) return contact.obstacle;
    }
  }
  return noObstacle;
}

struct WhyName {
  Why why;
  const char* name;
};
constexpr WhyName whyNames[] = {{Why::asWanted, "as-wanted"},     {Why::obstacle, "obstacle"},
                                {Why::foreseen, "foreseen"},      {Why::waiting, "waiting"},
                                {Why::goingOut, "going-out"},     {Why::large, "large"},
                                {Why::pushedBack, "pushed-back"}, {Why::headBlocked, "head-blocked"}};

struct BitName {
  std::uint32_t bit;
  const char* name;
};
constexpr BitName faultNames[] = {{Fault::badTime, "bad-time"},       {Fault::badIntent, "bad-intent"},
                                  {Fault::badSubject, "bad-subject"}, {Fault::subjectMissing, "subject-missing"},
                                  {Fault::badAspect, "bad-aspect"},   {Fault::badTarget, "bad-target"},
                                  {Fault::samePoint, "same-point"},   {Fault::noYaw, "no-yaw"},
                                  {Fault::inBody, "in-body"},         {Fault::badObstacles, "bad-obstacles"},
                                  {Fault::badPush, "bad-push"},       {Fault::badGuide, "bad-guide"},
                                  {Fault::badUnits, "bad-units"},     {Fault::costly, "costly"}};
constexpr BitName blockedNames[] = {
    {Blocked::look, "look"}, {Blocked::zoom, "zoom"}, {Blocked::move, "movement"}, {Blocked::actions, "actions"}};

/// In no language but that of numbers, whatever the host's is.
std::string number(double value, std::ios_base::fmtflags format, int precision) {
  constexpr double longest = 1e40;  // beyond that nobody counts digits
  if (!std::isfinite(value)) return "null";
  std::ostringstream text;
  text.imbue(std::locale::classic());
  text.setf(std::abs(value) < longest ? format : std::ios_base::scientific, std::ios_base::floatfield);
  text.precision(precision);
  text << value;
  return text.str();
}
std::string plain(double value, int digits = 2) {
  const double half = 0.5 * std::pow(10, -digits);
  return number(std::abs(value) < half ? 0 : value, std::ios_base::fixed, digits);
}

std::string placeOf(const Vector3d& v) { return plain(v.x()) + " " + plain(v.y()) + " " + plain(v.z()); }

std::string distanceInWords(const View& view, const Explanation& why, const ExplanationNames& names) {
  const std::string name = names.of(why.obstacle);
  const std::string there = why.met ? " " + plain((why.sphere - view.head).norm()) + " m from the head, at " +
                                          placeOf(names.axes.toHost(why.point)) + ", facing " +
                                          placeOf(names.axes.directionToHost(why.normal))
                                    : std::string();
  const std::string of = plain(view.distance) + " m of " + plain(view.freeDistance) + " m: ";
  switch (why.why) {
    case Why::asWanted: return plain(view.distance) + " m: nothing limits it";
    case Why::obstacle: return of + name + " is in the way" + there;
    case Why::large: return of + name + " is too large to look past" + there;
    case Why::foreseen: return of + "comes in, " + plain(view.foreseenIn) + " s before " + name;
    case Why::waiting: return of + "there is room; goes out in " + plain(view.outIn) + " s";
    case Why::goingOut: return of + "goes out";
    case Why::pushedBack:
      return plain(view.distance) + " m instead of " + plain(view.freeDistance) + " m: pushed back behind " + name;
    case Why::headBlocked: return of + "the head touches " + name;
  }
  return {};
}

template <std::size_t N>
std::string listed(const BitName (&known)[N], std::uint32_t bits, const char* quote, const char* between) {
  std::string text;
  for (const BitName& each : known) {
    if ((bits & each.bit) != 0) text += (text.empty() ? "" : between) + (quote + std::string(each.name) + quote);
  }
  return text;
}

/// In quotes.
std::string jsonText(const std::string& text) {
  static const char* const digits = "0123456789abcdef";
  std::string result = "\"";
  for (const char c : text) {
    const auto code = static_cast<unsigned char>(c);
    if (c == '"' || c == '\\') {
      result += {'\\', c};
    } else if (code < 0x20) {
      result += std::string("\\u00") + digits[code >> 4] + digits[code & 15];
    } else {
      result += c;
    }
  }
  return result + '"';
}

/// One member after the other.
class JsonObject {
 public:
  JsonObject& raw(const char* key, const std::string& value) {
    text_ += (text_.empty() ? "{\"" : ",\"") + std::string(key) + "\":" + value;
    return *this;
  }
  JsonObject& add(const char* key, double value) { return raw(key, json(value)); }
  JsonObject& add(const char* key, const std::string& value) { return raw(key, jsonText(value)); }
  JsonObject& add(const char* key, const Vector3d& v) {
    return raw(key, "[" + json(v.x()) + "," + json(v.y()) + "," + json(v.z()) + "]");
  }
  JsonObject& none(const char* key) { return raw(key, "null"); }
  std::string end() const { return text_ + "}"; }

 private:
  static std::string json(double value) { return number(value, std::ios_base::fmtflags{}, 9); }
  std::string text_;
};

bool covers(const Covering& each) { return each.thing != noObstacle && each.opacity < 1; }

}  // namespace

std::string ExplanationNames::of(ObstacleId id) const {
  std::string name = obstacle && id != unnamedObstacle ? obstacle(id) : std::string();
  if (!name.empty()) return name;
  return id == unnamedObstacle || id == noObstacle ? "something" : "obstacle " + std::to_string(id);
}

std::string ExplanationNames::ofFraming(int index) const {
  std::string name = framing ? framing(index) : std::string();
  return name.empty() ? "framing " + std::to_string(index) : name;
}

Explanation explain(const View& view, const Obstacles& host) {
  const GuardedObstacles world(host);
  Explanation why;
  why.radius = nearPlaneRadius(view.nearPlane, view.fieldOfView, view.aspect);
  const Vector3d way = view.freePosition - view.head;
  if (!(view.freeDistance > 0) || !way.allFinite() || !(way.norm() > unseen)) return why;
  const bool atHead = view.distance == 0 && (view.position - view.head).norm() < unseen;
  if (atHead && view.obstacle == noObstacle && world.clearance(view.head, why.radius) < touching) {
    why.why = Why::headBlocked;
    why.obstacle = touched(view.head, why.radius, world);
    return why;
  }
  // Where a part of the shoulder is given up the camera is on its own line.
  const double whole = view.distance > unseen ? view.freeDistance / view.distance : 0;
  const Vector3d line = whole > 0 ? Vector3d(whole * (view.position - view.head)) : way;
  const Contact large = world.sweepLarge(view.head, line, why.radius);
  if (view.obstacle != noObstacle) {
    const bool isLarge = large.hit() && large.obstacle == view.obstacle;
    why.why = isLarge ? Why::large : Why::obstacle;
    why.obstacle = view.obstacle;
    if (isLarge) meet(why, view, line, large, world);
    for (const Vector3d& each : {line, way}) meet(why, view, each, world.sweep(view.head, each, why.radius), world);
  } else if (view.foreseen != noObstacle) {
    why.why = Why::foreseen;
    why.obstacle = view.foreseen;
  } else if (view.distance > view.freeDistance * (1 + 1e-9)) {
    why.why = Why::pushedBack;
    why.obstacle = large.obstacle;
    meet(why, view, line, large, world);
  } else if (view.freeDistance - view.distance > told) {
    why.why = view.outIn > 0 ? Why::waiting : Why::goingOut;
  }
  return why;
}

std::string inWords(const View& view, const Explanation& why, const ExplanationNames& names) {
  std::string text = distanceInWords(view, why, names);
  const auto also = [&text](const std::string& more) { text += "; " + more; };
  if (view.shoulderGivenUp > told) also(plain(view.shoulderGivenUp) + " m from its shoulder");
  if (view.stooped > leastStoop) also("stooped by " + plain(toDegrees(view.stooped), 1) + "\u00b0");
  for (const Covering& each : view.covers) {
    if (covers(each)) also("past " + names.of(each.thing) + ", " + plain(100 * each.opacity, 0) + " % drawn");
  }
  if (view.framingBlend < 1)
    also("from " + names.ofFraming(view.framingFrom) + " to " + names.ofFraming(view.framing) + ", " +
         plain(100 * view.framingBlend, 0) + " %");
  if (view.designBlend < 1) also("on the way between designs, " + plain(100 * view.designBlend, 0) + " %");
  if (view.lock != noTarget)
    also("locked on " + std::to_string(view.lock) + ", " + plain(toDegrees(view.lockError), 1) + "\u00b0 to turn");
  if (view.handShare < 1) also("guided, the hand has " + plain(100 * view.handShare, 0) + " %");
  if (view.blocked != 0) also("blocked: " + listed(blockedNames, view.blocked, "", ", "));
  if (view.faults != 0) also("faults: " + listed(faultNames, view.faults, "", ", "));
  return text;
}

std::string asJson(const View& view, const Explanation& why, const ExplanationNames& names) {
  const auto known = std::find_if(std::begin(whyNames), std::end(whyNames),
                                  [&why](const WhyName& each) { return each.why == why.why; });
  JsonObject json;
  json.add("why", std::string(known->name))
      .add("distance_m", view.distance)
      .add("room_m", view.clearDistance)
      .add("without_m", view.freeDistance)
      .add("head", names.axes.toHost(view.head))
      .add("camera", names.axes.toHost(view.position))
      .add("camera_without", names.axes.toHost(view.freePosition))
      .add("sphere_radius_m", why.radius);
  why.obstacle == noObstacle ? json.none("obstacle") : json.add("obstacle", names.of(why.obstacle));
  why.met ? json.add("point", names.axes.toHost(why.point)) : json.none("point");
  why.met ? json.add("normal", names.axes.directionToHost(why.normal)) : json.none("normal");
  json.add("foreseen_in_s", view.foreseenIn).add("out_in_s", view.outIn);
  json.add("shoulder_given_up_m", view.shoulderGivenUp).add("stooped_deg", toDegrees(view.stooped));
  std::string past;
  for (const Covering& each : view.covers) {
    if (!covers(each)) continue;
    past += past.empty() ? "" : ",";
    past += JsonObject().add("obstacle", names.of(each.thing)).add("opacity", each.opacity).end();
  }
  json.raw("past", "[" + past + "]").add("framing", names.ofFraming(view.framing));
  json.add("framing_from", names.ofFraming(view.framingFrom)).add("framing_blend", view.framingBlend);
  json.add("design_blend", view.designBlend).add("hand_share", view.handShare);
  view.lock == noTarget ? json.none("lock") : json.add("lock", static_cast<double>(view.lock));
  json.raw("blocked", "[" + listed(blockedNames, view.blocked, "\"", ",") + "]");
  json.raw("faults", "[" + listed(faultNames, view.faults, "\"", ",") + "]");
  return json.add("words", inWords(view, why, names)).end();
}

}  // namespace alpglow
