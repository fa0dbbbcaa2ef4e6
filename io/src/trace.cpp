#include "alpglow/io/trace.hpp"

#include "alpglow/io/file_kind.hpp"
#include "alpglow/io/input_error.hpp"
#include "line_reader.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <iterator>
#include <limits>
#include <sstream>
#include <string_view>

namespace alpglow::io {

namespace {

/// A line end in a name becomes a space: a row is a line.
std::string quoted(std::string text) {
  std::replace_if(
      text.begin(), text.end(), [](char c) { return c == '\n' || c == '\r'; }, ' ');
  if (text.find_first_of(",\"") == std::string::npos) return text;
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

std::vector<std::string> wordsOf(const std::string& column) {
  std::istringstream text(column);
  return {std::istream_iterator<std::string>(text), std::istream_iterator<std::string>()};
}

std::map<std::string, double> pairsOf(const std::string& column) {
  std::map<std::string, double> pairs;
  for (const std::string& word : wordsOf(column)) {
    const std::size_t equals = word.rfind('=');
    if (equals != std::string::npos) pairs[word.substr(0, equals)] = std::strtod(word.c_str() + equals + 1, nullptr);
  }
  return pairs;
}

bool happened(const TraceFrame& frame, const std::string& event) {
  const std::vector<std::string> events = wordsOf(frame.events);
  return std::find(events.begin(), events.end(), event) != events.end();
}

std::string writeTrace(const Trace& trace) {
  std::string text;
  const char* separator = "";
  for (const TraceColumn& column : traceColumns) {
    text += fmt::format("{}{}", separator, column.name);
    separator = ",";
  }
  text += '\n';
  for (TraceFrame frame : trace) {
    separator = "";
    for (const TraceColumn& column : traceColumns) {
      text += separator;
      separator = ",";
      text += column.number != nullptr ? fmt::format("{}", column.number(frame)) : quoted(column.text(frame));
    }
    text += '\n';
  }
  return text;
}

namespace {

constexpr double largest = 1e15;

}  // namespace

Trace readTrace(const std::string& path) {
  requireKind(path, FileKind::trace);
  LineReader text(path);
  std::string row;
  text.next(row);
  const std::vector<std::string> names = splitRow(row);
  std::vector<const TraceColumn*> order;
  for (const std::string& name : names) {
    const auto* found = std::find_if(std::begin(traceColumns), std::end(traceColumns),
                                     [&name](const TraceColumn& c) { return c.name == name; });
    order.push_back(found == std::end(traceColumns) ? nullptr : found);
  }
  if (std::none_of(order.begin(), order.end(), [](const TraceColumn* column) { return column != nullptr; })) {
    throw InputError(path, 1, 1, "the first line names no column of a trace, such as time_s");
  }
  const auto has = [&order](std::string_view name) {
    return std::any_of(order.begin(), order.end(),
                       [name](const TraceColumn* column) { return column != nullptr && column->name == name; });
  };
  const bool timed = has("time_s"), saysFree = has("free_x_m") && has("free_y_m") && has("free_z_m");
  Trace trace;
  while (text.next(row)) {
    const int line = text.number();
    const std::vector<std::string> cells = splitRow(row);
    if (cells.size() != order.size()) {
      throw InputError(path, line, 0,
                       fmt::format("holds {} cells, but there are {} columns", cells.size(), order.size()));
    }
    TraceFrame frame;
    if (!saysFree) frame.free.setConstant(std::numeric_limits<double>::quiet_NaN());
    for (std::size_t i = 0; i < cells.size(); ++i) {
      if (order[i] == nullptr) continue;
      if (order[i]->text != nullptr) {
        order[i]->text(frame) = plainText(cells[i], LineReader::longest);
        continue;
      }
      const char* end = cells[i].data() + cells[i].size();
      double& number = order[i]->number(frame);
      const bool read = !cells[i].empty() && std::from_chars(cells[i].data(), end, number).ptr == end;
      if (!read || !(std::abs(number) <= largest)) {
        throw InputError(path, line, 0,
                         fmt::format("{} is \"{}\", but must be a number within ±1e15", names[i], cells[i]));
      }
    }
    if (timed && !trace.empty() && !(frame.time > trace.back().time))
      throw InputError(
          path, line, 0,
          fmt::format("time_s is {}, but must be later than {} in the line above", frame.time, trace.back().time));
    trace.push_back(std::move(frame));
  }
  return trace;
}

}  // namespace alpglow::io
