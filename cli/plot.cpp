#include "command_line.hpp"
#include "commands.hpp"
#include "gnuplot.hpp"
#include "options.hpp"
#include "rehearsal_files.hpp"

#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <filesystem>
#include <limits>
#include <memory>
#include <stdexcept>

namespace alpglow::cli {

namespace {

struct PlotRequest {
  std::vector<std::string> traces;
  std::string output;
  int width = 1280, height = 800;  // pixels
  double from = 0, to = std::numeric_limits<double>::infinity();
};

int run(const PlotRequest& request) {
  feel::PlotOptions options;
  options.format = pictureFormatOf(request.output);
  if (!(request.from < request.to)) throw std::runtime_error("--from has to be before --to");
  requireApart({request.output}, request.traces);
  std::vector<io::Trace> read;
  for (const std::string& path : request.traces) read.push_back(io::readTrace(path));
  std::vector<feel::PlottedTrace> traces;
  for (std::size_t i = 0; i < read.size(); ++i)
    traces.push_back({std::filesystem::path(request.traces[i]).stem().string(), &read[i]});
  options.width = request.width;
  options.height = request.height;
  options.from = request.from;
  options.to = request.to;
  const std::string script = feel::plotScript(traces, options);
  if (script.empty()) throw std::runtime_error(fmt::format("no frame between {} and {} s", request.from, request.to));
  io::writeWhole(request.output, drawnByGnuplot(script));
  fmt::print("wrote {}\n", request.output);
  return 0;
}

}  // namespace

void addPlot(CommandLine& line) {
  const auto request = std::make_shared<PlotRequest>();
  Command command = line.add("plot", "Draw traces over time, laid over each other",
                             "plot before.csv after.csv -o both.png", [request] { return run(*request); });
  command.option("traces", request->traces, "traces (*.csv)").required();
  command.option("-o,--output", request->output, "picture to write (*.png, *.svg)").required();
  command.option("--from", request->from, "seconds at which it begins").between(0, 1e6);
  command.option("--to", request->to, "seconds at which it ends").between(0, 1e6);
  command.option("--width", request->width, "pixels").between(320, 8192).showDefault();
  command.option("--height", request->height, "pixels").between(240, 8192).showDefault();
}

}  // namespace alpglow::cli
