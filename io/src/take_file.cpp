#include "alpglow/io/take_file.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/input/blocks.hpp"
#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/input_error.hpp"
#include "line_reader.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <optional>
#include <sstream>

namespace alpglow::io {

namespace {

constexpr double longestTake = 86400;
constexpr double reportRate = 125;  // events a second of a displacement that is spread over time

struct BlockName {
  const char* name;
  std::uint32_t bit;
};
constexpr BlockName blockNames[] = {{"look", Blocked::look},
                                    {"zoom", Blocked::zoom},
                                    {"move", Blocked::move},
                                    {"actions", Blocked::actions},
                                    {"all", Blocked::all}};
/// The number that a cue may have after its name.
struct CueNumber {
  double Cue::*into = nullptr;
  const char* meaning = "";
  double low = 0, high = 0;
  /// What it is where nothing is said; it has to be said where there is none.
  std::optional<double> usual = {};
};
struct CueName {
  const char* name;
  const char* example;
  CueNumber number = {};
  bool named = false;
  /// Whether a place follows, and whether then a direction may.
  bool placed = false, directed = false;
};
const CueNumber transition{&Cue::seconds, "time of the transition", 0, 60, 0.0};
const CueName cueNames[] = {
    {"block", "2.0 block menu look move", {}, true},
    {"unblock", "2.0 unblock menu", {}, true},
    {"mode", "2.0 mode flying", {}, true},
    {"lock", "2.0 lock lantern-1", {}, true},
    {"unlock", "2.0 unlock"},
    {"forbid", "2.0 forbid ladder", {}, true},
    {"allow", "2.0 allow ladder", {}, true},
    {"shoulder", "2.0 shoulder left", {}, true},
    {"camera", "2.0 camera yard 0.8", transition, true},
    {"subject", "2.0 subject chamois 1.0", transition, true},
    {"set", "2.0 set wounded", {}, true},
    {"clear", "2.0 clear wounded", {}, true},
    {"push", "2.0 push landing 1.5", {&Cue::strength, "strength", -1000, 1000, 1.0}, true, false, true},
    {"number", "2.0 number fear 0.6", {&Cue::strength, "number", 0, 1}, true},
    {"jump", "2.0 jump 1.2", {&Cue::strength, "height", 0, 20, 1.2}},
    {"teleport", "2.0 teleport 4 0 -2.5 90", {}, false, true, true},
    {"guide", "2.0 guide lantern-1 0.3", {&Cue::strength, "share", 0, 1, 0.0}, true},
    {"unguide", "2.0 unguide"},
    {"slow", "2.0 slow 0.25", {&Cue::strength, "pace", 0, 4}}};
constexpr const char* inDegrees = "MouseTurn";  // beside the controls

struct Line {
  int number;
  std::vector<std::string> words;
};

/// The next line that holds anything, without its comment; false after the last one.
bool nextLine(LineReader& text, Line& line) {
  for (std::string row; text.next(row);) {
    std::istringstream words(row.substr(0, row.find('#')));
    line = {text.number(), {}};
    for (std::string word; words >> word;) line.words.push_back(word);
    if (!line.words.empty()) return true;
  }
  return false;
}

std::optional<double> parseNumber(std::string_view word) {
  double value = 0;
  const auto [end, error] = std::from_chars(word.data(), word.data() + word.size(), value);
  if (error != std::errc() || end != word.data() + word.size() || !std::isfinite(value)) return std::nullopt;
  return value;
}

/// Stable. Each line gives a run that is in order already, be it of millions, so runs are merged.
template <class Timed>
void sortByTime(std::vector<Timed>& all) {
  const auto earlier = [](const Timed& a, const Timed& b) { return a.time < b.time; };
  std::vector<typename std::vector<Timed>::iterator> runs{all.begin()};
  while (runs.back() != all.end()) runs.push_back(std::is_sorted_until(runs.back(), all.end(), earlier));
  while (runs.size() > 2) {
    std::size_t kept = 1;
    for (std::size_t i = 2; i < runs.size(); i += 2) {
      std::inplace_merge(runs[i - 2], runs[i - 1], runs[i], earlier);
      runs[kept++] = runs[i];
    }
    if (runs.size() % 2 == 0) runs[kept++] = runs.back();
    runs.resize(kept);
  }
}

class TakeReader {
 public:
  explicit TakeReader(const std::string& path) : path_(path) {}

  Take read() {
    LineReader text(path_);
    Line line;
    if (!nextLine(text, line)) throw InputError(path_, "is empty");
    if (line.words != std::vector<std::string>{"alpglow", "take", "1"})
      fail(line, "the first line must be: alpglow take 1");
    while (nextLine(text, line)) {
      if (ended_) fail(line, "nothing may follow the end");
      readLine(line);
    }
    if (!ended_) throw InputError(path_, "has no last line such as: 10.0 end");
    sortByTime(take_.events);
    sortByTime(take_.turns);
    if (!take_.turns.empty() && take_.turns.back().time > take_.length)
      throw InputError(path_,
                       fmt::format("ends at {} s, but a turn lies at {} s", take_.length, take_.turns.back().time));
    if (!take_.events.empty() && take_.events.back().time > take_.length) {
      throw InputError(path_,
                       fmt::format("ends at {} s, but an event lies at {} s", take_.length, take_.events.back().time));
    }
    return std::move(take_);
  }

 private:
  [[noreturn]] void fail(const Line& line, const std::string& what) const {
    throw InputError(path_, line.number, 0, what);
  }

  double number(const Line& line, const std::string& word, const char* meaning, double low, double high) const {
    const std::optional<double> value = parseNumber(word);
    if (!value) fail(line, fmt::format("{} is \"{}\", but must be a finite number", meaning, word));
    if (*value < low || *value > high) {
      fail(line, fmt::format("{} is {}, but must lie in [{}, {}]", meaning, word, low, high));
    }
    return *value;
  }

  void readLine(const Line& line) {
    const std::string& when = line.words.front();
    const std::size_t dots = when.find("..");
    const double from = number(line, when.substr(0, dots), "time", 0, longestTake);
    const double to =
        dots == std::string::npos ? from : number(line, when.substr(dots + 2), "end of the time", from, longestTake);
    if (line.words.size() < 2) fail(line, "a control must follow the time, such as: 1.5 KeyW 1");
    if (from < lastTime_) fail(line, fmt::format("time is {}, but the line before starts at {}", from, lastTime_));
    lastTime_ = from;
    if (line.words[1] == "end") {
      if (line.words.size() > 2 || to != from || from <= 0)
        fail(line, "the end is one time after 0 and nothing else, such as: 10.0 end");
      take_.length = from;
      ended_ = true;
      return;
    }
    const auto* cue = std::find_if(std::begin(cueNames), std::end(cueNames),
                                   [&](const CueName& known) { return known.name == line.words[1]; });
    if (cue == std::end(cueNames)) return addEvents(line, from, to);
    addCue(line, from, static_cast<Cue::Kind>(cue - cueNames));
  }

  void addCue(const Line& line, double time, Cue::Kind kind) {
    const CueName& known = cueNames[static_cast<int>(kind)];
    const bool block = kind == Cue::Kind::block;
    const CueNumber& has = known.number;
    const std::size_t place = (known.named ? 3 : 2) + (known.placed ? 3 : 0),
                      least = place + (has.into != nullptr && !has.usual ? 1 : 0),
                      direction = place + (has.into != nullptr ? 1 : 0), most = direction + (known.directed ? 1 : 0);
    if (line.words.size() < least || (!block && line.words.size() > most)) {
      fail(line, fmt::format("{} is written like: {}", known.name, known.example));
    }
    spend(line, 1);
    Cue cue;
    cue.line = line.number;
    cue.time = time;
    cue.kind = kind;
    if (known.named) cue.name = line.words[2];
    if (plainText(cue.name) != cue.name) fail(line, fmt::format("\"{}\" is no name", cue.name));
    if (block && line.words.size() == 3) cue.what = Blocked::all;
    if (has.into != nullptr && line.words.size() > place) {
      cue.*has.into = number(line, line.words[place], has.meaning, has.low, has.high);
    } else if (has.usual) {
      cue.*has.into = *has.usual;
    }
    for (int axis = 0; known.placed && axis < 3; ++axis)
      cue.place[axis] = number(line, line.words[place - 3 + static_cast<std::size_t>(axis)], "place", -1e5, 1e5);
    if (known.directed && line.words.size() > direction)
      cue.direction = number(line, line.words[direction], "direction", -360, 360);
    if (kind == Cue::Kind::shoulder && cue.name != "left" && cue.name != "right" && cue.name != "centred")
      fail(line, fmt::format("a shoulder is left, right or centred, not \"{}\"", cue.name));
    if (!block) return take_.cues.push_back(cue);
    for (std::size_t i = 3; i < line.words.size(); ++i) {
      const auto* part = std::find_if(std::begin(blockNames), std::end(blockNames),
                                      [&](const BlockName& b) { return b.name == line.words[i]; });
      if (part == std::end(blockNames))
        fail(line, fmt::format("a block stops look, zoom, move, actions or all, not \"{}\"", line.words[i]));
      cue.what |= part->bit;
    }
    take_.cues.push_back(cue);
  }

  void addTurns(const Line& line, double from, double to) {
    if (line.words.size() != 4) fail(line, "MouseTurn is written like: 1.0..1.5 MouseTurn 90 -10");
    const double right = degrees(number(line, line.words[2], "turn to the right", -36000, 36000));
    const double down = degrees(number(line, line.words[3], "turn down", -36000, 36000));
    const int count = spreadOver(line, from, to);
    for (int i = 1; i <= count; ++i) {
      const double part = handsShare(i, count) - handsShare(i - 1, count);
      take_.turns.push_back({from + (to - from) * i / count, right * part, down * part});
    }
  }

  /// Into how many events; a short file must not stand for more than fit into memory.
  int spreadOver(const Line& line, double from, double to) {
    const int count = std::max(1, static_cast<int>(std::lround((to - from) * reportRate)));
    spend(line, static_cast<std::size_t>(count));
    return count;
  }
  void spend(const Line& line, std::size_t events) {
    constexpr std::size_t most = 4'000'000;
    events_ += events;
    if (events_ > most)
      fail(line, fmt::format("the take comes to more than {} events; what is spread over a time is {:g} a second", most,
                             reportRate));
  }

  /// Of the minimum-jerk profile of a hand's reach: s(t) = t³(10 − 15t + 6t²).
  static double handsShare(int i, int count) {
    const double t = static_cast<double>(i) / count;
    return t * t * t * (10 - 15 * t + 6 * t * t);
  }

  void addEvents(const Line& line, double from, double to) {
    if (line.words[1] == inDegrees) return addTurns(line, from, to);
    const Control control = findControl(line.words[1]);
    if (!control.valid()) {
      std::vector<std::string> known(controlNames().begin(), controlNames().end());
      known.emplace_back("end");
      known.emplace_back(inDegrees);
      for (const CueName& cue : cueNames) known.emplace_back(cue.name);
      fail(line, fmt::format("unknown control {}; the nearest known one is {}", line.words[1],
                             nearestName(line.words[1], known)));
    }
    const int values = valuesOf(control);
    if (static_cast<int>(line.words.size()) != 2 + values) {
      fail(line, fmt::format("{} takes {} value{}, but {} given", line.words[1], values, values == 1 ? "" : "s",
                             line.words.size() == 3 ? "1 is" : fmt::format("{} are", line.words.size() - 2)));
    }
    const ControlKind kind = kindOf(control);
    const double high = kind == ControlKind::displacement ? 1e6 : 1;
    const double low = kind == ControlKind::button ? 0 : -high;
    const double x = number(line, line.words[2], nameOf(control), low, high);
    const double y = values == 2 ? number(line, line.words[3], nameOf(control), low, high) : 0;
    if (to == from) {
      spend(line, 1);
      take_.events.push_back({from, control, x, y});
    } else if (kind != ControlKind::displacement) {
      fail(line, fmt::format("{} cannot be spread over a time; give the moments at which it changes", line.words[1]));
    } else {
      spread(control, from, to, x, y, spreadOver(line, from, to));
    }
  }

  /// Whole counts (a pinch has none) that add up to the total.
  void spread(Control control, double from, double to, double x, double y, int count) {
    double doneX = 0, doneY = 0;
    for (int i = 1; i <= count; ++i) {
      const double t = static_cast<double>(i) / count;
      const double share = handsShare(i, count);
      const auto counted = [&](double whole) {
        if (i == count) return whole;
        return nameOf(control) == std::string_view("TouchPinch") ? whole * share : std::round(whole * share);
      };
      const double goalX = counted(x), goalY = counted(y);
      if (goalX == doneX && goalY == doneY) continue;
      take_.events.push_back({from + (to - from) * t, control, goalX - doneX, goalY - doneY});
      doneX = goalX, doneY = goalY;
    }
  }

  const std::string& path_;
  Take take_;
  double lastTime_ = 0;
  std::size_t events_ = 0;
  bool ended_ = false;
};

}  // namespace

const char* nameOf(Cue::Kind kind) { return cueNames[static_cast<int>(kind)].name; }

Take readTake(const std::string& path) {
  requireKind(path, FileKind::take);
  return TakeReader(path).read();
}

void checkNames(const Take& take, const std::string& path, const Level& level, const Bindings& bindings) {
  const auto namesOf = [](const auto& things, std::vector<std::string> names) {
    for (const auto& thing : things) names.push_back(thing.name);
    return names;
  };
  const std::vector<std::string> modes = namesOf(bindings.modes, {}), targets = namesOf(level.targets, {}),
                                 subjects = namesOf(level.platforms, {"character"}),
                                 cameras = namesOf(level.groups, namesOf(level.cameras, {"character", "flying"}));
  for (const Cue& cue : take.cues) {
    const auto require = [&](const std::vector<std::string>& known, const char* what) {
      if (std::find(known.begin(), known.end(), cue.name) != known.end()) return;
      throw InputError(path, cue.line, 0,
                       known.empty() ? fmt::format("{} is no {}; there is none", cue.name, what)
                                     : fmt::format("{} is no {}; the nearest known one is {}", cue.name, what,
                                                   nearestName(cue.name, known)));
    };
    switch (cue.kind) {
      case Cue::Kind::mode: require(modes, "mode of the controls"); break;
      case Cue::Kind::lock:
      case Cue::Kind::guide: require(targets, "target of the level"); break;
      case Cue::Kind::camera: require(cameras, "camera of the level"); break;
      case Cue::Kind::subject: require(subjects, "platform of the level"); break;
      default: break;
    }
  }
}

std::string writeTake(const Take& take) {
  std::string text = "alpglow take 1\n";
  auto cue = take.cues.begin();
  const auto writeCuesUntil = [&](double time) {
    for (; cue != take.cues.end() && cue->time <= time; ++cue) {
      const CueName& known = cueNames[static_cast<int>(cue->kind)];
      text += fmt::format("{} {}{}{}", cue->time, known.name, known.named ? " " : "", cue->name);
      if (known.number.into != nullptr) text += fmt::format(" {}", (*cue).*known.number.into);
      if (known.placed) text += fmt::format(" {} {} {}", cue->place.x(), cue->place.y(), cue->place.z());
      if (cue->direction) text += fmt::format(" {}", *cue->direction);
      for (const BlockName& block : blockNames) {
        if (cue->kind == Cue::Kind::block && block.bit != Blocked::all && (cue->what & block.bit) != 0)
          text += fmt::format(" {}", block.name);
      }
      text += '\n';
    }
  };
  auto turn = take.turns.begin();
  const auto writeTurnsUntil = [&](double time) {
    for (; turn != take.turns.end() && turn->time <= time; ++turn) {
      writeCuesUntil(turn->time);
      text += fmt::format("{} {} {} {}\n", turn->time, inDegrees, toDegrees(turn->right), toDegrees(turn->down));
    }
  };
  for (const ControlEvent& event : take.events) {
    writeTurnsUntil(event.time);
    writeCuesUntil(event.time);
    text += fmt::format("{} {} {}", event.time, nameOf(event.control), event.x);
    text += valuesOf(event.control) == 2 ? fmt::format(" {}\n", event.y) : "\n";
  }
  writeTurnsUntil(take.length);
  writeCuesUntil(take.length);
  return text + fmt::format("{} end\n", take.length);
}

std::string frameTimeText(double seconds) { return fmt::format("{}\n", seconds); }

std::vector<double> readFrameTimes(const std::string& path) {
  std::vector<double> times;
  LineReader text(path);
  for (Line line; nextLine(text, line);) {
    constexpr std::size_t most = 20'000'000;
    if (times.size() == most) throw InputError(path, line.number, 0, fmt::format("holds more than {} frames", most));
    const std::optional<double> time = parseNumber(line.words.front());
    constexpr double least = 1e-4, longest = 10;  // seconds
    if (line.words.size() != 1 || !time || *time < least || *time > longest) {
      throw InputError(path, line.number, 0,
                       fmt::format("frame time is \"{}\", but must be one number of seconds in [{}, {}]",
                                   fmt::join(line.words, " "), least, longest));
    }
    times.push_back(*time);
  }
  if (times.empty()) throw InputError(path, "holds no frame time");
  return times;
}

}  // namespace alpglow::io
