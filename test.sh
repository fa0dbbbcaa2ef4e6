#!/usr/bin/env bash
# Builds everything and runs the tests, without those that take long (the label `long`); then makes the site of the
# documents and follows its links.
#   ./test.sh                            with GCC, optimised
#   ./test.sh clang                      another preset: clang (core only), sanitize (everything, by Clang), debug
#   ./test.sh release long               the long tests as well, each with its short part of seeds
#   ALPGLOW_SEEDS=10 ./test.sh release long      … with ten times as many: more than a million frames in random levels
set -euo pipefail
cd "$(dirname "$0")"
preset=${1:-release}
tools/install_packages.sh
cmake --preset "$preset" >/dev/null
cmake --build --preset "$preset"
leave_out=(-LE long)
[ "${2:-}" = long ] && leave_out=()
ctest --preset "$preset" -j "$(nproc)" "${leave_out[@]}"
[ "$preset" != release ] || tools/docs.sh
