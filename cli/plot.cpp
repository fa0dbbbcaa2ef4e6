#include "commands.hpp"

#include "alpglow/feel/plot.hpp"
#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <memory>
#include <stdexcept>

#include <sys/wait.h>
#include <unistd.h>

namespace alpglow::cli {

namespace {

/// A file of its own that is gone with this.
class ScratchFile {
 public:
  explicit ScratchFile(const std::string& content) {
    path_ = (std::filesystem::temp_directory_path() / "alpglow-XXXXXX").string();
    const int file = mkstemp(path_.data());
    if (file < 0) throw std::runtime_error(fmt::format("cannot write to {}", path_));
    const std::unique_ptr<std::FILE, int (*)(std::FILE*)> stream(fdopen(file, "w"), &std::fclose);
    if (std::fwrite(content.data(), 1, content.size(), stream.get()) != content.size() ||
        std::fflush(stream.get()) != 0)
      throw std::runtime_error(fmt::format("cannot write to {}", path_));
  }
  ScratchFile(const ScratchFile&) = delete;
  ScratchFile& operator=(const ScratchFile&) = delete;
  ~ScratchFile() { unlink(path_.c_str()); }
  const std::string& path() const { return path_; }

 private:
  std::string path_;
};

}  // namespace

std::string drawnByGnuplot(const std::string& script) {
  const ScratchFile file(script);
  std::FILE* const pipe = popen(fmt::format("gnuplot '{}'", file.path()).c_str(), "r");
  if (pipe == nullptr) throw std::runtime_error("cannot start gnuplot");
  std::string picture;
  char buffer[65536];
  while (const std::size_t count = std::fread(buffer, 1, sizeof buffer, pipe)) picture.append(buffer, count);
  const int status = pclose(pipe);
  if (WIFEXITED(status) && WEXITSTATUS(status) == 127)
    throw std::runtime_error("plots are drawn by gnuplot, which is not installed (on Debian: gnuplot-nox)");
  if (status != 0 || picture.empty()) throw std::runtime_error("gnuplot failed");
  return picture;
}

int runPlot(const PlotRequest& request) {
  const std::string ending = std::filesystem::path(request.output).extension().string();
  if (ending != ".png" && ending != ".svg")
    throw std::runtime_error(fmt::format("{}: a plot is a .png or a .svg", request.output));
  if (!(request.from < request.to)) throw std::runtime_error("--from has to be before --to");
  std::vector<io::Trace> read;
  for (const std::string& path : request.traces) read.push_back(io::readTrace(path));
  std::vector<feel::PlottedTrace> traces;
  for (std::size_t i = 0; i < read.size(); ++i)
    traces.push_back({std::filesystem::path(request.traces[i]).stem().string(), &read[i]});
  feel::PlotOptions options;
  options.format = ending == ".svg" ? feel::PictureFormat::svg : feel::PictureFormat::png;
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

}  // namespace alpglow::cli
