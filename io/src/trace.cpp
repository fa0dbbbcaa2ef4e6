#include "alpglow/io/trace.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <functional>
#include <optional>
#include <sstream>
#include <variant>

namespace alpglow::io {

namespace {

using Frame = TraceFrame;

struct Column {
  const char* name;
  std::variant<std::function<double&(Frame&)>, std::string Frame::*> field;
};

Column number(const char* name, double Frame::*field) {
  return {name, [field](Frame& frame) -> double& { return frame.*field; }};
}

Column part(const char* name, Eigen::Vector3d Frame::*field, int axis) {
  return {name, [field, axis](Frame& frame) -> double& { return (frame.*field)[axis]; }};
}

const std::vector<Column>& columns() {
  static const std::vector<Column> table = {
      number("frame", &Frame::frame),
      number("time_s", &Frame::time),
      number("dt_s", &Frame::dt),
      part("subject_x_m", &Frame::subject, 0),
      part("subject_y_m", &Frame::subject, 1),
      part("subject_z_m", &Frame::subject, 2),
      number("subject_heading_deg", &Frame::subjectHeading),
      part("head_x_m", &Frame::head, 0),
      part("head_y_m", &Frame::head, 1),
      part("head_z_m", &Frame::head, 2),
      part("pivot_x_m", &Frame::pivot, 0),
      part("pivot_y_m", &Frame::pivot, 1),
      part("pivot_z_m", &Frame::pivot, 2),
      part("camera_x_m", &Frame::camera, 0),
      part("camera_y_m", &Frame::camera, 1),
      part("camera_z_m", &Frame::camera, 2),
      number("yaw_deg", &Frame::yaw),
      number("pitch_deg", &Frame::pitch),
      number("roll_deg", &Frame::roll),
      number("fov_deg", &Frame::fieldOfView),
      number("aspect", &Frame::aspect),
      number("near_m", &Frame::near),
      number("distance_m", &Frame::distance),
      number("free_distance_m", &Frame::freeDistance),
      number("clearance_m", &Frame::clearance),
      {"framing", &Frame::framing},
      number("opacity", &Frame::opacity),
      {"obstacle", &Frame::obstacle},
      {"events", &Frame::events},
      number("look_x_counts", &Frame::lookX),
      number("look_y_counts", &Frame::lookY),
      number("stick_x", &Frame::stickX),
      number("stick_y", &Frame::stickY),
      number("look_rate_x_degps", &Frame::lookRateX),
      number("look_rate_y_degps", &Frame::lookRateY),
      number("move_x", &Frame::moveX),
      number("move_y", &Frame::moveY),
      number("zoom", &Frame::zoom),
      {"blocks", &Frame::blocks},
      {"device", &Frame::device},
      number("bob_x_m", &Frame::bobX),
      number("bob_y_m", &Frame::bobY),
      number("steady_yaw_deg", &Frame::steadyYaw),
      number("steady_pitch_deg", &Frame::steadyPitch),
      number("freelook_yaw_deg", &Frame::freeLookYaw),
      number("freelook_pitch_deg", &Frame::freeLookPitch),
      number("heading_deg", &Frame::heading),
      number("recentre_deg", &Frame::recentre),
      number("holdoff_s", &Frame::holdoff),
      {"lock", &Frame::lock},
      number("lock_error_deg", &Frame::lockError),
      {"camera", &Frame::cameraName},
      {"filmed", &Frame::filmed},
      {"framing_from", &Frame::framingFrom},
      {"framing_to", &Frame::framingTo},
      number("framing_blend", &Frame::framingBlend),
      part("aim_x_m", &Frame::aim, 0),
      part("aim_y_m", &Frame::aim, 1),
      part("aim_z_m", &Frame::aim, 2),
      number("aim_error_deg", &Frame::aimError),
      number("look_scale", &Frame::lookScale),
  };
  return table;
}

std::string quoted(const std::string& text) {
  if (text.find_first_of(",\"\n") == std::string::npos) return text;
  std::string result = "\"";
  for (const char c : text) result += c == '"' ? std::string("\"\"") : std::string(1, c);
  return result + '"';
}

/// The cells of one row; texts in quotes may hold commas, but no line ends.
std::vector<std::string> splitRow(const std::string& row) {
  std::vector<std::string> cells(1);
  bool inQuotes = false;
  for (std::size_t i = 0; i < row.size(); ++i) {
    const char c = row[i];
    if (c == '"' && inQuotes && i + 1 < row.size() && row[i + 1] == '"') {
      cells.back() += row[++i];
    } else if (c == '"') {
      inQuotes = !inQuotes;
    } else if (c == ',' && !inQuotes) {
      cells.emplace_back();
    } else if (c != '\r') {
      cells.back() += c;
    }
  }
  return cells;
}

}  // namespace

std::vector<std::string> traceColumns() {
  std::vector<std::string> names;
  for (const Column& column : columns()) names.emplace_back(column.name);
  return names;
}

std::string writeTrace(const Trace& trace) {
  std::string text = fmt::format("{}\n", fmt::join(traceColumns(), ","));
  for (Frame frame : trace) {
    const char* separator = "";
    for (const Column& column : columns()) {
      text += separator;
      separator = ",";
      if (const auto* field = std::get_if<std::function<double&(Frame&)>>(&column.field)) {
        text += fmt::format("{}", (*field)(frame));
      } else {
        text += quoted(frame.*std::get<std::string Frame::*>(column.field));
      }
    }
    text += '\n';
  }
  return text;
}

Trace readTrace(const std::string& path) {
  std::istringstream text(readWhole(path));
  std::string row;
  std::getline(text, row);
  const std::vector<std::string> names = splitRow(row);
  std::vector<const Column*> order;
  for (const std::string& name : names) {
    const auto found =
        std::find_if(columns().begin(), columns().end(), [&name](const Column& c) { return c.name == name; });
    order.push_back(found == columns().end() ? nullptr : &*found);
  }
  if (std::none_of(order.begin(), order.end(), [](const Column* column) { return column != nullptr; })) {
    throw InputError(path, 1, 1, "the first line names no column of a trace, such as time_s");
  }
  Trace trace;
  for (int line = 2; std::getline(text, row); ++line) {
    const std::vector<std::string> cells = splitRow(row);
    if (cells.size() != order.size()) {
      throw InputError(path, line, 0,
                       fmt::format("holds {} cells, but there are {} columns", cells.size(), order.size()));
    }
    Frame frame;
    for (std::size_t i = 0; i < cells.size(); ++i) {
      if (order[i] == nullptr) continue;
      if (const auto* field = std::get_if<std::function<double&(Frame&)>>(&order[i]->field)) {
        const char* end = cells[i].data() + cells[i].size();
        if (std::from_chars(cells[i].data(), end, (*field)(frame)).ptr != end || cells[i].empty()) {
          throw InputError(path, line, 0, fmt::format("{} is \"{}\", but must be a number", names[i], cells[i]));
        }
      } else {
        frame.*std::get<std::string Frame::*>(order[i]->field) = cells[i];
      }
    }
    trace.push_back(std::move(frame));
  }
  return trace;
}

}  // namespace alpglow::io
