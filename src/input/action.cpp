#include "alpglow/input/action.hpp"

namespace alpglow {

namespace {

const char* const names[] = {
    "look",       "move",    "rise",        "zoom", "aim",  "glance", "swap-shoulder", "switch-perspective",
    "swing-back", "lock-on", "next-target", "run",  "slow", "crouch", "jump",          "pointer-lock"};
static_assert(sizeof names / sizeof *names == static_cast<std::size_t>(Action::firstOfTheGame));

}  // namespace

Span<const char* const> builtInActionNames() { return names; }

}  // namespace alpglow
