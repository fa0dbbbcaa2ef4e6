// Coverage-guided: one reader, which ALPGLOW_READER names. See readers.sh.

#include "fuzz/readers.hpp"

#include <cstdint>
#include <cstdio>
#include <cstring>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace alpglow::testing;
  static const Reader* const reader = [] {
    const char* name = std::getenv("ALPGLOW_READER");
    for (const Reader& each : readers) {
      if (name != nullptr && std::strcmp(each.name, name) == 0) return &each;
    }
    std::fprintf(stderr, "ALPGLOW_READER names no reader\n");
    std::exit(2);
  }();
  const std::string wrong = wrongWith(*reader, {reinterpret_cast<const char*>(data), size});
  if (wrong.empty()) return 0;
  std::fprintf(stderr, "%s %s\n", reader->name, wrong.c_str());
  std::abort();
}
