#!/usr/bin/env bash
# Builds everything and runs every demo rehearsal; the results are under out/.
set -euo pipefail
cd "$(dirname "$0")"
tools/install_packages.sh
cmake --preset release >/dev/null
cmake --build --preset release --target alpglow example_orbit_a_moving_point

alpglow=build/release/cli/alpglow
level=demo/refuge.level.toml
mkdir -p out
"$alpglow" check --reference > out/reference.txt
for design in trail eyes; do
  "$alpglow" check "demo/$design.camera.toml" > "out/$design-check.txt"
  for take in round corridor corner; do
    files=("demo/$design.camera.toml" --level "$level" --take "demo/$take.take")
    "$alpglow" rehearse "${files[@]}" --trace "out/$design-$take.csv"
    "$alpglow" storyboard "${files[@]}" -o "out/$design-$take.png"
  done
done
build/release/examples/example_orbit_a_moving_point > out/orbit.txt

cat <<END

Made under out/:
  trail-*.png, eyes-*.png   storyboards: look at trail-round.png first
  *.csv                     traces, frame by frame
  *-check.txt               the designs explained in words and numbers
  reference.txt             every key of a design
  orbit.txt                 what examples/orbit_a_moving_point.cpp prints
END
