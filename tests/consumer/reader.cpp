#include <alpglow/alpglow.hpp>
#include <alpglow/io/design_file.hpp>

int main() {
  const alpglow::CompiledDesign design(
      alpglow::io::parseDesign(R"({"format": 1, "look": {"pitch_per_count_deg": 0.05}})"));
  return design.design().look.pitchPerCount > 0 ? 0 : 1;
}
