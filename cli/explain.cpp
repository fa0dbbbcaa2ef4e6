#include "command_line.hpp"
#include "commands.hpp"
#include "options.hpp"
#include "rehearsal_files.hpp"

#include "alpglow/view/explanation.hpp"
#include "alpglow/view/hiding.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>
#include <nlohmann/json.hpp>

#include <algorithm>
#include <memory>

namespace alpglow::cli {

namespace {

struct ExplainRequest {
  RehearsalFiles files;
  std::vector<double> times;  // none: each time that the reason changes
  bool json = false;
};

std::vector<std::string> namesOf(const Hiding& hiding, const ExplanationNames& names) {
  std::vector<std::string> result;
  for (const ObstacleId thing : hiding.all()) result.push_back(names.of(thing));
  return result;
}

/// Prints the frames that are asked for, as they come.
class Explainer {
 public:
  Explainer(std::vector<double> times, bool json) : times_(std::move(times)), json_(json), always_(times_.empty()) {
    std::sort(times_.begin(), times_.end());
  }

  void operator()(const stage::Rehearsal& run, const stage::Stage& stage, const ExplanationNames& names) {
    const View& view = run.view();
    const Explanation why = explain(view, stage.obstacles());
    if (!due(run.now(), why)) return;
    const auto body = bodyPoints(run.subject(), view.position);
    const Hiding hiding = whatHides(view.position, body, stage.obstacles());
    const std::vector<std::string> hides = namesOf(hiding, names);
    if (json_) {
      fmt::print("{{\"time_s\":{:.9g},\"visible\":{:.4g},\"hides\":{},\"frame\":{}}}\n", run.now(), hiding.visible,
                 nlohmann::json(hides).dump(), asJson(view, why, names));
      return;
    }
    fmt::print("{:8.3f} s  {}", run.now(), inWords(view, why, names));
    if (hiding.visible < 1)
      fmt::print("; {:.0f} % of the subject in sight, before it {}", 100 * hiding.visible, fmt::join(hides, ", "));
    fmt::print("\n");
  }

 private:
  bool due(double now, const Explanation& why) {
    if (!always_) {
      const std::size_t before = next_;
      while (next_ < times_.size() && now >= times_[next_] - 1e-9) ++next_;
      return next_ > before;
    }
    const bool changed = !any_ || why.why != last_.why || why.obstacle != last_.obstacle;
    any_ = true;
    last_ = why;
    return changed;
  }

  std::vector<double> times_;
  bool json_, always_;
  std::size_t next_ = 0;
  bool any_ = false;
  Explanation last_;
};

int run(const ExplainRequest& request) {
  requireWithin(request.times, request.files.take);
  Explainer explainer(request.times, request.json);
  rehearseFiles(request.files, std::ref(explainer));
  return 0;
}

}  // namespace

void addExplain(CommandLine& line) {
  const auto request = std::make_shared<ExplainRequest>();
  Command command =
      line.add("explain", "Say why the camera is where it is, and what hides its subject",
               "explain demo/trail.camera.toml --level demo/refuge.level.toml --take demo/round.take --at 6,12",
               [request] { return run(*request); });
  addRehearsalFiles(command, request->files);
  command
      .option("--at", request->times,
              "times in seconds, such as 0.5,2,3.5; otherwise each time that the reason changes")
      .commas()
      .between(0, 1e6);
  command.flag("--json", request->json, "one object a line");
}

}  // namespace alpglow::cli
