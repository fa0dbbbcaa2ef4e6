#include "command_line.hpp"
#include "commands.hpp"
#include "feel_report.hpp"
#include "options.hpp"
#include "progress.hpp"
#include "rehearsal_files.hpp"
#include "workers.hpp"

#include "alpglow/base/angles.hpp"
#include "alpglow/io/design_file.hpp"
#include "alpglow/io/input_error.hpp"
#include "alpglow/io/level_file.hpp"
#include "alpglow/stage/audit.hpp"

#include <fmt/format.h>
#include <nlohmann/json.hpp>

#include <cmath>
#include <filesystem>
#include <memory>
#include <stdexcept>

namespace alpglow::cli {

namespace {

struct AuditRequest {
  std::string design, level;
  double step = 0.5;  // metres
  int directions = 16;
  int mostPlaces = 20000;
  double aspect = 16.0 / 9.0;
  stage::WorldKind world = stage::WorldKind::bullet;
  /// Heat maps, a folder for the takes of the worst places, limits.
  std::string output, takes, limits;
  int width = 1280, height = 800;  // pixels
  bool json = false;
};

/// What can be felt of poses at rest.
feel::Feel feltOf(const stage::Audit& audit) {
  using io::Felt;
  feel::Feel felt;
  if (audit.poses == 0) return felt;
  felt.of(Felt::worstPop) = audit.worst.empty() ? 0 : audit.worst.front().lost();
  felt.of(Felt::kept) = audit.kept;
  felt.of(Felt::pulledIn) = audit.pulledIn;
  felt.of(Felt::close) = audit.close;
  felt.of(Felt::visible) = audit.visible;
  return felt;
}

/// Without a minus before what is shown as zero.
double hundredths(double metres) { return std::round(100 * metres) / 100 + 0.0; }

std::string inWords(const stage::WorstStep& worst) {
  const bool turns = (worst.to - worst.from).norm() < 1e-9;
  const std::string way =
      turns
          ? fmt::format("turning from {:.1f}° to {:.1f}°", toDegrees(worst.fromDirection), toDegrees(worst.toDirection))
          : fmt::format("stepping to {:.2f} {:.2f} {:.2f} at {:.1f}°", hundredths(worst.to.x()),
                        hundredths(worst.to.y()), hundredths(worst.to.z()), toDegrees(worst.fromDirection));
  return fmt::format("{:.2f} m -> {:.2f} m of {:.2f} m at {:.2f} {:.2f} {:.2f} {}{}{}", worst.before, worst.after,
                     worst.wanted, hundredths(worst.from.x()), hundredths(worst.from.y()), hundredths(worst.from.z()),
                     way,
                     worst.after == 0         ? ", where the eyes take over"
                     : worst.obstacle.empty() ? ""
                                              : ", " + worst.obstacle,
                     ", framing " + worst.framing);
}

nlohmann::json asJson(const stage::Audit& audit, const feel::Feel& felt, const io::Limits& limits) {
  nlohmann::json worst = nlohmann::json::array();
  const auto place = [](const Eigen::Vector3d& p) { return nlohmann::json{p.x(), p.y(), p.z()}; };
  for (const stage::WorstStep& each : audit.worst)
    worst.push_back({{"framing", each.framing},
                     {"from_m", place(each.from)},
                     {"to_m", place(each.to)},
                     {"from_deg", toDegrees(each.fromDirection)},
                     {"to_deg", toDegrees(each.toDirection)},
                     {"before_m", each.before},
                     {"after_m", each.after},
                     {"wanted_m", each.wanted},
                     {"obstacle", each.obstacle}});
  return {{"places", audit.places.size()},
          {"poses", audit.poses},
          {"framings", audit.framings},
          {"hidden", audit.hidden},
          {"cut_short", audit.reach.cutShort},
          {"measured", cli::asJson(felt, limits)},
          {"worst", worst}};
}

void writeReplays(const stage::Audit& audit, const std::string& folder) {
  std::filesystem::create_directories(folder);
  for (std::size_t i = 0; i < audit.worst.size(); ++i) {
    const std::string path = (std::filesystem::path(folder) / fmt::format("worst-{:02}.take", i + 1)).string();
    io::writeWhole(path, stage::replayOf(audit.worst[i]));
  }
}

int run(const AuditRequest& request) {
  const io::Limits limits = limitsOf(request.limits);
  if (!request.output.empty() && std::filesystem::path(request.output).extension() != ".png")
    throw std::runtime_error(fmt::format("{}: heat maps are a .png", request.output));
  requireApart({request.output}, {request.design, request.level, request.limits});
  const CompiledDesign design(io::readDesign(request.design));
  const stage::Stage stage(io::readLevel(request.level), request.world);
  stage::AuditOptions options;
  options.step = request.step;
  options.directions = request.directions;
  options.aspect = request.aspect;
  options.mostPlaces = static_cast<std::size_t>(request.mostPlaces);
  options.forEach = [](std::size_t count, const std::function<void(std::size_t)>& work) {
    inParallel("places looked around at:", count, work);
  };
  Progress progress;
  options.found = [&progress](std::size_t places) {
    progress.say([places] { return fmt::format("places walked to: {}", places); });
  };
  const stage::Audit audit = stage::audit(design, stage, options);
  const feel::Feel felt = feltOf(audit);
  if (!request.output.empty()) {
    const auto name = [](const std::string& path) { return std::filesystem::path(path).filename().string(); };
    io::writeWhole(
        request.output,
        stage::auditPicture(stage, audit, fmt::format("{}  ·  {}", name(request.design), name(request.level)),
                            request.width, request.height));
  }
  if (!request.output.empty()) sayIfFontsAreMissing();
  if (!request.takes.empty()) writeReplays(audit, request.takes);
  if (request.json) {
    fmt::print("{}\n", asJson(audit, felt, limits).dump(2));
    return holdTo(felt, limits, request.limits);
  }
  fmt::print("{} in {}: {} places {:g} m apart, {} directions, framings {}: {} poses{}\n", request.design,
             request.level, audit.places.size(), request.step, request.directions, fmt::join(audit.framings, ", "),
             audit.poses, audit.reach.cutShort ? " (there are more places: --most, --step)" : "");
  const auto row = [&](io::Felt what, const char* help) { printFelt(felt, what, limits, help); };
  row(io::Felt::worstPop, "the most that is lost from one pose to the next");
  row(io::Felt::close, "share of the poses closer than 0.9 m although more is wanted");
  row(io::Felt::kept, "share of the distance that one wants, on average");
  row(io::Felt::pulledIn, "share of the poses in which the distance is shorter than wanted");
  row(io::Felt::visible, "share of the subject's body that is in the picture and not hidden, on average");
  fmt::print("  in {:.1f} % of the poses something hides more than half of the subject\n", 100 * audit.hidden);
  fmt::print("most lost from one pose to the next\n");
  for (std::size_t i = 0; i < audit.worst.size(); ++i) fmt::print("  {:>2}  {}\n", i + 1, inWords(audit.worst[i]));
  if (!request.takes.empty()) fmt::print("wrote {} takes to {}\n", audit.worst.size(), request.takes);
  if (!request.output.empty()) fmt::print("wrote {}\n", request.output);
  return holdTo(felt, limits, request.limits);
}

}  // namespace

void addAudit(CommandLine& line) {
  const auto request = std::make_shared<AuditRequest>();
  Command command = line.add("audit", "Stand everywhere in a level, look around, and paint what a camera finds",
                             "audit demo/trail.camera.toml --level demo/refuge.level.toml -o refuge.png --takes worst",
                             [request] { return run(*request); });
  command.option("design", request->design, "camera design (*.camera.toml)").required();
  command.option("--level", request->level, "level (*.level.toml, *.gltf, *.glb)").required();
  command.option("-o,--output", request->output, "PNG file to write: four heat maps on the plan");
  command.option("--takes", request->takes, "folder for a take of each of the ten worst places");
  command.option("--step", request->step, "metres between places").between(0.2, 5.0).showDefault();
  command.option("--directions", request->directions, "over the whole turn").between(4, 72).showDefault();
  command.option("--most", request->mostPlaces, "places at most").between(1, 1000000).showDefault();
  command.option("--width", request->width, "pixels").between(640, 8192).showDefault();
  command.option("--height", request->height, "pixels").between(480, 8192).showDefault();
  addAspectAndWorld(command, request->aspect, request->world);
  addLimits(command, request->limits);
  command.flag("--json", request->json, "everything as one object");
}

}  // namespace alpglow::cli
