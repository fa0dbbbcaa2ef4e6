#!/usr/bin/env bash
# Builds the proof of adapters with the thread sanitizer and runs it: several threads ask Bullet, triangles and a
# neighbourhood at once.
set -euo pipefail
cd "$(dirname "$0")/.."
cmake --preset threads >/dev/null
cmake --build --preset threads --target conformance_tests
build/threads/tests/conformance_tests
