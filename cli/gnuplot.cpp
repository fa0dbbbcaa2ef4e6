#include "gnuplot.hpp"

#include <fmt/format.h>

#include <cstdio>
#include <filesystem>
#include <memory>
#include <stdexcept>

#include <fcntl.h>
#include <spawn.h>
#include <sys/wait.h>
#include <unistd.h>

namespace alpglow::cli {

namespace {

using File = std::unique_ptr<std::FILE, int (*)(std::FILE*)>;

[[noreturn]] void fail(const char* what) { throw std::runtime_error(what); }

}  // namespace

/// The script stands in a file without a name, which is gnuplot's standard input; no shell reads anything, and no file
/// of the user's changes what is drawn (-d).
std::string drawnByGnuplot(const std::string& script) {
  const File input(std::tmpfile(), &std::fclose);
  if (!input || std::fwrite(script.data(), 1, script.size(), input.get()) != script.size() ||
      std::fflush(input.get()) != 0 || std::fseek(input.get(), 0, SEEK_SET) != 0)
    fail("cannot write a temporary file");
  int ends[2];
  if (pipe2(ends, O_CLOEXEC) != 0) fail("cannot start gnuplot");
  const File output(fdopen(ends[0], "r"), &std::fclose);
  posix_spawn_file_actions_t actions;
  posix_spawn_file_actions_init(&actions);
  posix_spawn_file_actions_adddup2(&actions, fileno(input.get()), 0);
  posix_spawn_file_actions_adddup2(&actions, ends[1], 1);
  char name[] = "gnuplot", plain[] = "-d";
  char* const arguments[] = {name, plain, nullptr};
  pid_t child = 0;
  const int started = posix_spawnp(&child, name, &actions, nullptr, arguments, environ);
  posix_spawn_file_actions_destroy(&actions);
  close(ends[1]);
  if (started != 0) fail("plots are drawn by gnuplot, which is not installed (on Debian: gnuplot-nox)");
  std::string picture;
  char buffer[65536];
  while (const std::size_t count = std::fread(buffer, 1, sizeof buffer, output.get())) picture.append(buffer, count);
  int status = 0;
  waitpid(child, &status, 0);
  if (status != 0 || picture.empty()) fail("gnuplot failed");
  return picture;
}

feel::PictureFormat pictureFormatOf(const std::string& path) {
  const std::string ending = std::filesystem::path(path).extension().string();
  if (ending != ".png" && ending != ".svg")
    throw std::runtime_error(fmt::format("{}: a plot is a .png or a .svg", path));
  return ending == ".svg" ? feel::PictureFormat::svg : feel::PictureFormat::png;
}

}  // namespace alpglow::cli
