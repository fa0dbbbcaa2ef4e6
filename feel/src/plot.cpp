#include "gnuplot.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <iterator>

namespace alpglow::feel {

namespace {

using io::Trace;
using io::TraceFrame;

constexpr std::size_t mostEventRows = 10;
constexpr double left = 0.1, right = 0.93;  // of the picture's width

using Point = std::pair<double, double>;
/// Pieces, between which there is no line.
using Line = std::vector<std::vector<Point>>;

struct Series {
  std::string title;
  Line line;
  std::string style;  // as gnuplot has it, after `with`
  bool rightAxis = false;
};

struct Panel {
  std::string label, rightLabel;
  std::vector<Series> series;
  double weight = 1;
  bool fromZero = false;
  double leastSpan = 1e-3;
};

/// The frames that are shown, and what each says.
class Shown {
 public:
  Shown(const Trace& trace, const PlotOptions& options) {
    for (const TraceFrame& frame : trace) {
      if (frame.time >= options.from && frame.time <= options.to) frames_.push_back(&frame);
    }
  }
  const std::vector<const TraceFrame*>& frames() const { return frames_; }

  /// What is not a number is left out; cuts break the line.
  Line line(const std::function<double(const TraceFrame& frame)>& of) const {
    Line result;
    for (const TraceFrame* frame : frames_) {
      if (result.empty() || io::happened(*frame, "cut")) result.emplace_back();
      const double value = of(*frame);
      if (std::isfinite(value)) result.back().push_back({frame->time, value});
    }
    return result;
  }
  /// An angle that goes on where it would turn over.
  Line unwrapped(double TraceFrame::*angle) const {
    double last = 0, shown = 0;
    bool first = true;
    return line([&, angle](const TraceFrame& frame) {
      const double value = frame.*angle;
      shown = first ? value : shown + std::remainder(value - last, 360);
      first = false;
      last = value;
      return shown;
    });
  }
  /// Of a place, metres per second.
  Line speed(Eigen::Vector3d TraceFrame::*place) const {
    const TraceFrame* before = nullptr;
    return line([&, place](const TraceFrame& frame) {
      const bool known = before != nullptr && frame.dt > 0 && !io::happened(frame, "cut");
      const double metres = known ? (frame.*place - before->*place).norm() : 0;
      before = &frame;
      return known ? metres / frame.dt : std::nan("");
    });
  }

 private:
  std::vector<const TraceFrame*> frames_;
};

bool anything(const Line& line) {
  return std::any_of(line.begin(), line.end(), [](const auto& piece) {
    return std::any_of(piece.begin(), piece.end(), [](const Point& point) { return point.second != 0; });
  });
}

/// Every pop at the distance that is left.
Line popsOf(const Trace& trace, const PlotOptions& options) {
  FeelMeter meter;
  meter.add(trace);
  Line line(1);
  for (const Pop& pop : meter.feel().pops) {
    const auto at = std::lower_bound(trace.begin(), trace.end(), pop.time,
                                     [](const TraceFrame& frame, double time) { return frame.time < time; });
    if (at != trace.end() && pop.time >= options.from && pop.time <= options.to)
      line[0].push_back({pop.time, at->distance});
  }
  return line;
}

/// All panels of numbers; of one trace each quantity has its colour, of several each trace.
class Panels {
 public:
  Panels(const std::vector<PlottedTrace>& traces, const PlotOptions& options) {
    several_ = traces.size() > 1;
    for (std::size_t i = 0; i < traces.size(); ++i) add(traces[i], i, options);
  }

  std::vector<Panel> filled() const {
    std::vector<Panel> result;
    for (const Panel* panel : {&distance_, &look_, &hand_, &speed_, &lens_}) {
      if (!panel->series.empty()) result.push_back(*panel);
    }
    return result;
  }

 private:
  void add(const PlottedTrace& traced, std::size_t i, const PlotOptions& options) {
    const Shown shown(*traced.trace, options);
    name_ = several_ ? traced.name + ": " : "";
    const auto of = [&shown](double TraceFrame::*number) {
      return shown.line([number](const TraceFrame& frame) { return frame.*number; });
    };
    const auto perSecond = [&shown](double TraceFrame::*number) {
      return shown.line([number](const TraceFrame& f) { return f.dt > 0 ? f.*number / f.dt : std::nan(""); });
    };
    const std::string main = colourOf(i), other = several_ ? main : colourOf(1);
    const std::string solid = "lines lw 2 lc rgb ", thin = "lines lw 1 lc rgb ", dashed = "lines lw 1.5 dt 2 lc rgb ";
    const Line wanted = of(&TraceFrame::freeDistance);
    if (anything(wanted)) {
      if (i == 0) put(distance_, "wanted", wanted, dashed + quoted(grey));
      put(distance_, "possible", of(&TraceFrame::clearDistance),
          (several_ ? "lines lw 1.3 dt 4 lc rgb " : "lines lw 1.5 lc rgb ") + quoted(several_ ? main : amber));
      put(distance_, "shown", of(&TraceFrame::distance), solid + quoted(main));
      const Line pops = popsOf(*traced.trace, options);
      if (!pops[0].empty())
        put(distance_, fmt::format("{} pop{}", pops[0].size(), pops[0].size() == 1 ? "" : "s"), pops,
            "points pt 6 ps 2.2 lw 2 lc rgb " + quoted(several_ ? main : red));
    }
    put(look_, "yaw", shown.unwrapped(&TraceFrame::yaw), solid + quoted(main));
    put(look_, "pitch, right", of(&TraceFrame::pitch), dashed + quoted(other), true);
    put(hand_, "mouse", perSecond(&TraceFrame::lookX), thin + quoted(main));
    put(hand_, "up and down", perSecond(&TraceFrame::lookY), dashed + quoted(other));
    put(hand_, "stick, right", of(&TraceFrame::stickX), solid + quoted(several_ ? main : colourOf(2)), true);
    put(hand_, "stick up and down, right", of(&TraceFrame::stickY), dashed + quoted(several_ ? main : colourOf(3)),
        true);
    put(speed_, "subject", shown.speed(&TraceFrame::subject), dashed + quoted(several_ ? main : grey));
    put(speed_, "camera", shown.speed(&TraceFrame::camera), solid + quoted(main));
    put(lens_, "field of view", of(&TraceFrame::fieldOfView), solid + quoted(main));
  }
  /// What is nothing but zeros is nothing.
  void put(Panel& panel, const std::string& title, Line line, const std::string& style, bool rightAxis = false) const {
    if (!anything(line)) return;
    // The first panel has the legend.
    const bool named = !several_ || &panel == &distance_ || distance_.series.empty();
    const bool known =
        std::any_of(panel.series.begin(), panel.series.end(), [&](const Series& s) { return s.title == title; });
    panel.series.push_back({named ? name_ + title : known ? "" : title, std::move(line), style, rightAxis});
  }

  Panel distance_{"distance, m", "", {}, 2, true, 0.5}, look_{"yaw, °", "pitch, °", {}, 1.2, false, 20},
      hand_{"counts/s", "stick", {}, 1, false, 0.5}, speed_{"m/s", "", {}, 1, true, 1},
      lens_{"lens, °", "", {}, 0.8, false, 10};
  std::string name_;
  bool several_ = false;
};

/// Framings as bands and events as marks, a row each.
class Strip {
 public:
  Strip(const std::vector<PlottedTrace>& traces, const PlotOptions& options) {
    for (std::size_t i = 0; i < traces.size(); ++i) {
      const Shown shown(*traces[i].trace, options);
      const std::size_t row = addRow(traces.size() > 1 ? traces[i].name : "framing");
      bands(shown, row, i);
    }
    for (std::size_t i = 0; i < traces.size(); ++i) marks(Shown(*traces[i].trace, options), i);
  }
  std::size_t rows() const { return rows_.size(); }

  std::string commands() const {
    std::string tics;
    for (std::size_t i = 0; i < rows_.size(); ++i)
      tics += fmt::format("{}{} {}", i == 0 ? "" : ", ", quoted(rows_[i]), -static_cast<int>(i));
    std::string result = fmt::format("set ytics ({}) nomirror\nunset key\nset yrange [{}:0.6]\n", tics,
                                     0.4 - static_cast<double>(rows_.size()));
    return result + objects_;
  }
  std::vector<Series> series() const {
    std::vector<Series> result;
    for (std::size_t i = 0; i < marks_.size(); ++i)
      result.push_back({"", {marks_[i]}, fmt::format("points pt 7 ps 0.7 lc rgb {}", quoted(colourOf(i)))});
    return result;
  }

 private:
  std::size_t addRow(const std::string& name) {
    rows_.push_back(name);
    return rows_.size() - 1;
  }
  void bands(const Shown& shown, std::size_t row, std::size_t i) {
    const std::vector<const TraceFrame*>& frames = shown.frames();
    bool dark = false;
    for (std::size_t begin = 0; begin < frames.size();) {
      std::size_t end = begin;
      while (end + 1 < frames.size() && frames[end + 1]->framing == frames[begin]->framing) ++end;
      const double from = frames[begin]->time, to = frames[end]->time, y = -static_cast<double>(row);
      objects_ += fmt::format(
          "set object rectangle from first {0}, first {1} to first {2}, first {3} fc rgb {5} fs solid {4} noborder\n"
          "set label {6} at first {7}, first {8} center front textcolor rgb {9} font ',9'\n",
          from, y - 0.42, to, y + 0.42, dark ? 0.30 : 0.15, quoted(colourOf(i)),
          quoted(to - from > 0 ? frames[begin]->framing : ""), (from + to) / 2, y, quoted(night));
      dark = !dark;
      begin = end + 1;
    }
  }
  void marks(const Shown& shown, std::size_t i) {
    marks_.resize(i + 1);
    for (const TraceFrame* frame : shown.frames()) {
      for (const std::string& event : io::wordsOf(frame->events)) {
        const auto first = rows_.begin() + 1;
        auto row = std::find(first, rows_.end(), event);
        if (row == rows_.end() && rows_.size() < mostEventRows) row = rows_.insert(row, event);
        if (row != rows_.end()) marks_[i].push_back({frame->time, -static_cast<double>(row - rows_.begin())});
      }
    }
  }

  std::vector<std::string> rows_;
  std::string objects_;
  std::vector<std::vector<Point>> marks_;
};

class Script {
 public:
  Script(const PlotOptions& options, double from, double to) : from_(from), to_(to) { text_ = terminal(options); }

  void begin(const std::string& title) {
    text_ += fmt::format(
        "set multiplot\nset border lc rgb {0}\nset tics textcolor rgb {0} nomirror\nset grid xtics ytics lt 1 lw 0.5 "
        "lc "
        "rgb '#e2ded6'\nset xrange [{1}:{2}]\nset label 1 {3} at screen {4}, screen 0.975 font ',12' textcolor rgb "
        "{0}\n",
        quoted(night), from_, to_, quoted(title), left);
  }
  /// Between two heights of the picture, 0 … 1 from below.
  void panel(const Panel& panel, double bottom, double top, bool last, const std::string& extra = "") {
    const bool two = std::any_of(panel.series.begin(), panel.series.end(), [](const Series& s) { return s.rightAxis; });
    std::vector<std::string> plots;
    for (const Series& series : panel.series) {
      const int block = blocks_++;
      text_ += fmt::format("$d{} << EOD\n", block);
      for (const auto& piece : series.line) {
        for (const Point& point : piece) text_ += fmt::format("{:.7g} {:.7g}\n", point.first, point.second);
        text_ += "\n";
      }
      text_ += "EOD\n";
      plots.push_back(fmt::format("$d{} using 1:2 axes x1y{} with {} {}", block, series.rightAxis ? 2 : 1, series.style,
                                  series.title.empty() ? "notitle" : "title " + quoted(series.title)));
    }
    text_ += fmt::format(
        "set lmargin at screen {}\nset rmargin at screen {}\nset bmargin at screen {}\nset tmargin at screen {}\n",
        left, right, bottom, top);
    text_ += fmt::format("set ylabel {} offset 1\nset key inside top right horizontal samplen 2 opaque width 1\n",
                         quoted(panel.label));
    text_ += two ? fmt::format("set y2label {} offset -1\nset y2tics\nset y2range {}\n", quoted(panel.rightLabel),
                               rangeOf(panel, true))
                 : std::string("unset y2label\nunset y2tics\n");
    text_ += fmt::format("set yrange {}\n", rangeOf(panel, false));
    text_ += last ? "set format x\nset xlabel 'seconds' offset 0,0.5\n" : "set format x ''\nunset xlabel\n";
    text_ += extra;
    text_ += fmt::format("plot {}\nunset label 1\n", fmt::join(plots, ", \\\n  "));
  }
  /// With room for the key above; never empty.
  static std::string rangeOf(const Panel& panel, bool rightAxis) {
    double low = panel.fromZero ? 0 : std::numeric_limits<double>::infinity(), high = panel.fromZero ? 0 : -low;
    for (const Series& series : panel.series) {
      if (series.rightAxis != rightAxis) continue;
      for (const auto& piece : series.line) {
        for (const Point& point : piece) low = std::min(low, point.second), high = std::max(high, point.second);
      }
    }
    if (!(low <= high)) low = 0, high = 1;
    const double span = std::max(high - low, panel.leastSpan);
    return fmt::format("[{:.7g}:{:.7g}]", panel.fromZero ? 0 : low - 0.06 * span, low + 1.32 * span);
  }
  std::string end() { return text_ + "unset multiplot\n"; }

 private:
  double from_, to_;
  std::string text_;
  int blocks_ = 0;
};

}  // namespace

std::string plotScript(const std::vector<PlottedTrace>& traces, const PlotOptions& options) {
  double from = std::numeric_limits<double>::infinity(), to = -from;
  for (const PlottedTrace& traced : traces) {
    const Shown shown(*traced.trace, options);
    for (const TraceFrame* frame : shown.frames()) {
      from = std::min(from, frame->time);
      to = std::max(to, frame->time);
    }
  }
  if (!(from <= to)) return {};
  const std::vector<Panel> panels = Panels(traces, options).filled();
  const Strip strip(traces, options);
  std::vector<std::string> names;
  names.reserve(traces.size());
  for (const PlottedTrace& traced : traces) names.push_back(traced.name);

  Script script(options, from, std::max(to, from + 1e-3));
  script.begin(fmt::format("{}", fmt::join(names, "  ·  ")));
  constexpr double highest = 0.95, lowest = 0.065, gap = 0.016;
  const double rowHeight = 0.022, stripHeight = rowHeight * static_cast<double>(strip.rows());
  double weights = 0;
  for (const Panel& panel : panels) weights += panel.weight;
  const double room = highest - lowest - stripHeight - gap * static_cast<double>(panels.size());
  double top = highest;
  for (const Panel& panel : panels) {
    const double height = room * panel.weight / weights;
    script.panel(panel, top - height, top, false);
    top -= height + gap;
  }
  script.panel({"", "", strip.series(), 1, false}, lowest, top, true, "unset grid\n" + strip.commands());
  return script.end();
}

}  // namespace alpglow::feel
