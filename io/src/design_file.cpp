#include "alpglow/io/design_file.hpp"

#include "alpglow/design/settings.hpp"
#include "alpglow/io/design_text.hpp"
#include "json_text.hpp"
#include "setting_text.hpp"
#include "toml_keys.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace alpglow::io {

namespace {

/// What a curve may be over, as files say it; a number of the game's has a name of its own.
constexpr const char* curveInputs[] = {"pitch_deg", "speed_mps", "climb_mps", "distance_m"};
double scaleOf(CurveOver over) { return over == CurveOver::pitch ? degrees(1) : 1; }

/// { over = "pitch_deg", points = [[-60, 5.0], [0, 3.2]] }
FramingCurve readCurve(TomlKeys keys, Curved what) {
  const Setting<Framing>& setting = settingOf(what);
  FramingCurve curve;
  curve.what = what;
  const std::string over = keys.requiredText("over");
  const auto found = std::find(std::begin(curveInputs), std::end(curveInputs), over);
  curve.over = static_cast<CurveOver>(found - std::begin(curveInputs));
  if (curve.over == CurveOver::number) {
    curve.number = over;
    if (over.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789-_") != std::string::npos)
      keys.fail("over", fmt::format("over is \"{}\", but must be one of {}, or a number that the game sets: small "
                                    "letters, digits, - and _",
                                    over, fmt::join(curveInputs, ", ")));
  }
  if (what == Curved::distance && curve.over == CurveOver::distance)
    keys.fail("over", "over is \"distance_m\", but a distance cannot be a curve over itself");
  const Bounds any = curve.over == CurveOver::number ? Bounds{0, 1} : Bounds{-1e6, 1e6};
  const auto pairs = keys.requiredPairs("points", any, {setting.low, setting.high});
  if (pairs.size() < 2 || pairs.size() > Curve::most)
    keys.fail("points", fmt::format("points are {}, but must be 2 to {}", pairs.size(), Curve::most));
  std::vector<CurvePoint> points;
  for (const auto& [x, y] : pairs) {
    const CurvePoint point{x * scaleOf(curve.over), y * setting.scale};
    if (!points.empty() && !(point.x > points.back().x))
      keys.fail("points", fmt::format("points go from {:.6g} to {:.6g}, but each must be farther than the one before",
                                      points.back().x / scaleOf(curve.over), x));
    points.push_back(point);
  }
  keys.finish();
  curve.curve = Curve(Span<const CurvePoint>(points.data(), points.size()));
  return curve;
}

/// Those that a framing has are its own or its base's; a plain number takes the place of a curve.
void readCurves(TomlKeys& keys, NamedFraming& named) {
  for (std::size_t i = 0; i < curvedCount; ++i) {
    const auto what = static_cast<Curved>(i);
    const std::string key = settingOf(what).key;
    const auto inherited = std::find_if(named.curves.begin(), named.curves.end(),
                                        [what](const FramingCurve& each) { return each.what == what; });
    if (!keys.has(key)) continue;
    if (inherited != named.curves.end() && !keys.isTable(key)) {
      if (!keys.isText(key)) {
        named.curves.erase(inherited);
        continue;
      }
      // Relative to the curve at each of its points.
      const Setting<Framing>& setting = settingOf(what);
      const std::string by = *keys.text(key);
      inherited->curve = inherited->curve.mapped([&](double y) {
        return setting.scale * keys.relativeNumber(key, by, y / setting.scale, {setting.low, setting.high});
      });
      keys.leave(key);
      continue;
    }
    if (!keys.isTable(key)) continue;
    if (inherited != named.curves.end()) named.curves.erase(inherited);
    named.curves.push_back(readCurve(*keys.table(key), what));
    keys.leave(key);
  }
}

std::string curveText(const FramingCurve& curve, double scale) {
  std::vector<std::string> points;
  for (const CurvePoint& point : curve.curve.points()) {
    const double over = scaleOf(curve.over);
    points.push_back(fmt::format("[{}, {}]", shortest(point.x / over, over), shortest(point.y / scale, scale)));
  }
  const std::string over =
      curve.over == CurveOver::number ? curve.number : curveInputs[static_cast<std::size_t>(curve.over)];
  return fmt::format("{{ over = \"{}\", points = [{}] }}", over, fmt::join(points, ", "));
}

/// Its numbers, and in the place of some of them curves.
std::string writeFraming(const NamedFraming& named) {
  std::string text = writeSection(named.framing);
  for (const FramingCurve& curve : named.curves) {
    const Setting<Framing>& setting = settingOf(curve.what);
    const std::string key = fmt::format("\n{} = ", setting.key);
    const std::size_t at = text.find(key) + key.size();
    text.replace(at, text.find('\n', at) - at, curveText(curve, setting.scale));
  }
  return text;
}

/// With everything that it leaves out from its base: the framing that it names, or else the first one.
NamedFraming readFraming(TomlKeys& keys, const std::vector<NamedFraming>& before, std::vector<std::string>& flags) {
  NamedFraming named{before.empty() ? CameraDesign().framings.front() : before.front()};
  const std::string name = keys.text("name").value_or(before.empty() ? named.name : "");
  std::vector<std::string> known;
  known.reserve(before.size());
  for (const NamedFraming& other : before) known.push_back(other.name);
  if (name.empty()) keys.fail("", "name is missing in [[framing]]; only the first one may go without");
  if (std::find(known.begin(), known.end(), name) != known.end())
    keys.fail("name", fmt::format("name is \"{}\", which a framing above has already", name));
  if (const auto base = keys.text("base")) {
    const auto found = std::find(known.begin(), known.end(), *base);
    if (found == known.end()) {
      keys.fail("base", fmt::format("base is \"{}\", but must be a framing above{}", *base,
                                    known.empty()
                                        ? "; there is none"
                                        : fmt::format("; the nearest known one is \"{}\"", nearestName(*base, known))));
    }
    named = before[static_cast<std::size_t>(found - known.begin())];
  }
  named.name = name;
  named.when = keys.text("when").value_or("");
  if (!named.when.empty()) {
    if (const auto fault = parseWhen(named.when, flags).fault)
      keys.fail("when", 1 + fault->at, fmt::format("when is \"{}\", which {}", named.when, fault->what));
  }
  if (const auto perspective = keys.text("perspective")) {
    if (*perspective != "first" && *perspective != "third")
      keys.fail("perspective", fmt::format("perspective is \"{}\", but must be \"first\" or \"third\"", *perspective));
    named.perspective = *perspective == "first" ? Perspective::first : Perspective::third;
  }
  readCurves(keys, named);
  keys.fill(named.framing, settings<Framing>(), !before.empty());
  settleCurves(named);
  const bool lens = std::any_of(named.curves.begin(), named.curves.end(),
                                [](const FramingCurve& curve) { return curve.what == Curved::fieldOfView; });
  if (lens && named.framing.lens.kind != LensKind::verticalFieldOfView)
    keys.fail(settingOf(Curved::fieldOfView).key, "fov_deg is a curve, which needs lens = \"vertical_fov\"");
  finishSection(keys, named.framing);
  return named;
}

NamedPush readPush(TomlKeys& keys, const std::vector<NamedPush>& before) {
  NamedPush named;
  named.name = keys.requiredText("name");
  for (const NamedPush& other : before) {
    if (other.name == named.name)
      keys.fail("name", fmt::format("name is \"{}\", which a push above has already", named.name));
  }
  readSection(keys, named.push);
  return named;
}

/// The tables of a name, at most so many.
std::vector<TomlKeys> fewTables(TomlKeys& keys, const char* name, std::size_t most) {
  std::vector<TomlKeys> tables = keys.tables(name);
  if (tables.size() > most)
    keys.fail(name, fmt::format("{} is given {} times, but must be at most {}", name, tables.size(), most));
  return tables;
}

/// What `new` shows of what a design does without.
constexpr char pushExample[] =
    "# Pushes by the game: up to 6, each called by its name.\n"
    "# [[push]]\n"
    "# name = \"landing\"\n"
    "# pitch_deg = -1.5\n"
    "# up_m = -0.08\n"
    "# return_half_life_s = 0.15\n"
    "#\n"
    "# [[push]]\n"
    "# name = \"recoil\"\n"
    "# pitch_deg = 1.2               # and to a side by chance, as far as spread says\n"
    "# yaw_deg = 1.2\n"
    "# spread = 0.4\n"
    "# moves_aim = true              # the player can fight it, and what was fought is not taken back\n\n";

constexpr char curveExample[] =
    "# Some numbers may be curves, in the place of a plain number:\n"
    "# distance_m = { over = \"pitch_deg\", points = [[-60, 5.0], [0, 3.2], [50, 1.6]] }   # widens as one looks down\n"
    "# fov_deg = { over = \"speed_mps\", points = [[2, 58], [7, 74]] }                     # of lens = "
    "\"vertical_fov\"\n"
    "# tilt_deg = { over = \"fear\", points = [[0, 0], [1, 6]] }                           # a number that the game "
    "sets\n";

}  // namespace

namespace {

CameraDesign designOf(const toml::table& table, const std::string& file) {
  TomlKeys keys(file, table, "");
  CameraDesign design;
  keys.number("format", {designFormat, designFormat});
  if (const auto called = keys.text("name")) design.name = *called;
  forEachSection(design, [&keys](const char* name, auto& section, auto) {
    if (auto inside = keys.table(name)) readSection(*inside, section);
  });
  design.zoomIntoEyes = keys.flag("zoom_into_eyes").value_or(design.zoomIntoEyes);
  std::vector<TomlKeys> framings = fewTables(keys, "framing", mostFramings),
                        pushes = fewTables(keys, "push", mostPushes);
  keys.finish();
  for (TomlKeys& push : pushes) design.pushes.push_back(readPush(push, design.pushes));
  if (!framings.empty()) design.framings.clear();
  std::vector<std::string> flags;
  for (TomlKeys& framing : framings) design.framings.push_back(readFraming(framing, design.framings, flags));
  return design;
}

}  // namespace

CameraDesign parseDesign(const std::string& text, const std::string& name) {
  return readEither(text, name,
                    [&](const std::string& toml) { return designOf(parseToml(toml, name, designFormat), name); });
}

namespace {

/// Of the first framing, or else of the only section that has it.
DesignSetting numberOf(const CameraDesign& design, const std::string& number, const std::string& file) {
  const std::size_t dot = number.rfind('.');
  const std::string section = dot == std::string::npos ? "" : number.substr(0, dot), key = number.substr(dot + 1);
  std::vector<DesignSetting> found;
  std::vector<std::string> known, wholly;
  for (const DesignSetting& each : settingsOf(design)) {
    if (each.kind != SettingKind::number) continue;
    known.push_back(dot == std::string::npos ? each.name.key : inWords(each.name));
    if (each.name.key != key || (dot != std::string::npos && each.name.section != section)) continue;
    found.push_back(each);
    wholly.push_back(inWords(each.name));
  }
  if (found.empty())
    throw InputError(file, fmt::format("\"{}\" is no number of a design; the nearest known one is {}", number,
                                       nearestName(number, known)));
  const bool first = found[0].name.list == "framing" && found[0].name.section == design.framings.front().name;
  if (found.size() > 1 && !first)
    throw InputError(file, fmt::format("{} may be {}", number, fmt::join(wholly, " or ")));
  return found[0];
}

/// The table in which it stands, or would stand.
toml::table& tableOf(toml::table& table, const SettingName& place) {
  if (place.list.empty()) {
    table.insert(place.section, toml::table());
    return *table.get(place.section)->as_table();
  }
  toml::array first;
  first.push_back(toml::table());
  table.insert(place.list, first);  // of a design that says nothing of framings
  toml::array& list = *table.get(place.list)->as_array();
  for (toml::node& each : list) {
    if (each.as_table()->at_path("name").value_or(std::string()) == place.section) return *each.as_table();
  }
  return *list.front().as_table();  // the first may go without a name
}

}  // namespace

CameraDesign parseDesignWith(const std::string& text, const std::string& name, const std::string& number,
                             double value) {
  const DesignSetting place = numberOf(parseDesign(text, name), number, name);
  if (!(value >= place.low && value <= place.high))
    throw InputError(name,
                     fmt::format("{} is {:g}, but must be from {:g} to {:g}", number, value, place.low, place.high));
  return readEither(text, name, [&](const std::string& toml) {
    toml::table table = parseToml(toml, name, designFormat);
    tableOf(table, place.name).insert_or_assign(place.name.key, value);
    return designOf(table, name);
  });
}

std::string writeDesign(const CameraDesign& design) {
  std::string text = fmt::format(
      "# A camera design. Keys that are left out take their default. Units stand in the names.\n\n"
      "format = {}\nname = \"{}\"\n\n",
      designFormat, design.name);
  text +=
      fmt::format("# zooming in beyond the nearest distance is a transition to first person\nzoom_into_eyes = {}\n\n",
                  design.zoomIntoEyes);
  forEachSection(design, [&text](const char* name, const auto& section, auto) {
    text += fmt::format("[{}]\n{}", name, writeSection(section));
  });
  if (design.pushes.empty()) text += pushExample;
  for (const NamedPush& named : design.pushes)
    text += fmt::format("[[push]]\n# what the game calls it\nname = \"{}\"\n{}", named.name, writeSection(named.push));
  for (const NamedFraming& named : design.framings) {
    text += fmt::format(
        "[[framing]]\n{}# what views, traces and reports call it\nname = \"{}\"\n"
        "# aiming, sprinting, crouched or a flag of the game, joined by and, or, not and parentheses; left out: the "
        "base\n"
        "{}when = \"{}\"\n# \"third\" or \"first\": where it applies\nperspective = \"{}\"\n{}",
        &named == &design.framings.front() && named.curves.empty() ? curveExample : "", named.name,
        named.when.empty() ? "# " : "", named.when.empty() ? "aiming" : named.when,
        named.perspective == Perspective::first ? "first" : "third", writeFraming(named));
  }
  text.pop_back();
  return text;
}

std::string designReference() {
  std::string text = fmt::format("Keys of a design (*.camera.toml), format {}\n\n", designFormat);
  CameraDesign design;
  forEachSection(design, [&text](const char* name, const auto& section, auto) {
    text += referenceOf<std::decay_t<decltype(section)>>(fmt::format("[{}]", name));
  });
  text += referenceOf<PushSettings>("[[push]]   name = \"…\"");
  return text + referenceOf<Framing>("[[framing]]   name, base, when, perspective = \"…\"");
}

}  // namespace alpglow::io
