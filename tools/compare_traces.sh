#!/usr/bin/env bash
# Compares the traces of every demo with those of another revision, built beside this one on the same machine.
#
#   tools/compare_traces.sh REVISION [FPS...]      # 60 frames a second if none is given
#
# Each revision rehearses its own demo files: every design with every take that both have. Prints a line for each pair
# that differs, with the first line and column that does; exits with 1 if any differs.
set -euo pipefail
cd "$(dirname "$0")/.."
[ $# -ge 1 ] || { sed -n '2,7s/^# \{0,1\}//p' "$0"; exit 2; }
revision=$(git rev-parse --verify --quiet "$1^{commit}") || { echo "$1 is no revision" >&2; exit 2; }
shift
rates=("${@:-60}")
out=${ALPGLOW_COMPARE_DIR:-build/compare}
there=$out/source-$revision
mkdir -p "$out"

build() {  # source build
  cmake -S "$1" -B "$2" -G Ninja -D CMAKE_BUILD_TYPE=Release -D ALPGLOW_BUILD_TESTS=OFF -D ALPGLOW_BUILD_EXAMPLES=OFF >/dev/null
  cmake --build "$2" --target alpglow >/dev/null
}
if [ ! -e "$there/CMakeLists.txt" ]; then
  mkdir -p "$there"
  git archive "$revision" | tar -x -C "$there"
fi
before=$out/build-$revision
build "$there" "$before"
build . "$out/build-here"
before=$(realpath "$before/cli/alpglow")
here=$(realpath "$out/build-here/cli/alpglow")

trace() {  # program demo-folder design take fps output
  local files=("$2/$3.camera.toml" --level "$2/refuge.level.toml" --take "$2/$4.take" --fps "$5")
  case $4 in pad*) files+=(--controls "$2/pad.controls.toml" --preferences "$2/player.preferences.toml") ;; esac
  "$1" rehearse "${files[@]}" --trace "$6" >/dev/null 2>"$6.error" || rm -f "$6"
}

same=0
different=0
for design in "$there"/demo/*.camera.toml; do
  design=$(basename "$design" .camera.toml)
  [ -e "demo/$design.camera.toml" ] || { echo "only in $revision: $design.camera.toml"; continue; }
  for take in "$there"/demo/*.take; do
    take=$(basename "$take" .take)
    [ -e "demo/$take.take" ] || { echo "only in $revision: $take.take"; continue; }
    for fps in "${rates[@]}"; do
      trace "$before" "$there/demo" "$design" "$take" "$fps" "$out/before.csv" &
      trace "$here" demo "$design" "$take" "$fps" "$out/here.csv"
      wait $!
      if [ ! -e "$out/before.csv" ] && [ ! -e "$out/here.csv" ]; then continue; fi  # a take that this design cannot play
      if [ ! -e "$out/before.csv" ] || [ ! -e "$out/here.csv" ]; then
        echo "$design with $take at $fps fps: only one revision can play it: $(cat "$out"/{before,here}.csv.error)"
        different=$((different + 1))
        continue
      fi
      if cmp -s "$out/before.csv" "$out/here.csv"; then
        same=$((same + 1))
      else
        different=$((different + 1))
        echo "$design with $take at $fps fps: $(awk -F, -v before="$out/before.csv" '
          { getline other < before; n = split(other, was)
            if (NR == 1) split($0, name)
            for (i = 1; i <= NF || i <= n; ++i) if ($i != was[i]) {
              printf "line %d, %s: %s before, %s here", NR, name[i], was[i], $i; exit } }' "$out/here.csv")"
      fi
      rm -f "$out"/{before,here}.csv
    done
  done
done
echo "$same traces are the same to the byte, $different differ (against $(git log -1 --format='%h %s' "$revision"))"
[ "$different" -eq 0 ] && [ "$same" -gt 0 ]
