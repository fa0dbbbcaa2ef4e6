#!/usr/bin/env bash
# Random games with random designs, ordinary and hostile, on all cores: tests/fuzz/run.sh [MILLIONS_OF_FRAMES [FIRST_SEED]]
# Says which seeds go wrong; `ALPGLOW_FUZZ_TRACE=1 build/release/tests/fuzz SEED 1 1000 ordinary` shows each frame of one.
# PRESET=sanitize runs it with sanitizers.
set -euo pipefail
cd "$(dirname "$0")/../.."
preset=${PRESET:-release}
millions=${1:-50}
first=${2:-0}
frames=1000
cmake --preset "$preset" >/dev/null
cmake --build --preset "$preset" --target fuzz >/dev/null
cores=$(nproc)
seeds=$((millions * 1000000 / frames / 2 / cores))
jobs=()
for ((core = 0; core < cores; ++core)); do
  "build/$preset/tests/fuzz" $((first + core * seeds)) "$seeds" "$frames" &
  jobs+=($!)
done
wrong=0
for job in "${jobs[@]}"; do wait "$job" || wrong=1; done
exit $wrong
