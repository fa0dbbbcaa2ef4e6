#!/usr/bin/env bash
# Builds everything and runs all tests. An argument names another preset: ./test.sh sanitize
set -euo pipefail
cd "$(dirname "$0")"
preset=${1:-release}
tools/install_packages.sh
cmake --preset "$preset" >/dev/null
cmake --build --preset "$preset"
ctest --preset "$preset" -j "$(nproc)"
