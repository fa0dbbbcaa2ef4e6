#include "commands.hpp"
#include "design_report.hpp"

#include "alpglow/io/design_file.hpp"

#include <fmt/format.h>

namespace alpglow::cli {

int runCheck(const CheckOptions& options) {
  if (options.reference) fmt::print("{}", io::designReference());
  if (options.design.empty()) return 0;
  const CameraDesign design = io::readDesign(options.design);
  fmt::print("{}", explain(design));
  const std::vector<std::string> warnings = implausible(design);
  for (const std::string& warning : warnings) fmt::print("warning: {}\n", warning);
  fmt::print("{}\n", warnings.empty() ? "Nothing looks implausible." : "");
  return warnings.empty() ? 0 : 1;
}

}  // namespace alpglow::cli
