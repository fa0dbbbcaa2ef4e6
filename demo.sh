#!/usr/bin/env bash
# Builds everything and runs every demo rehearsal; the results are under out/.
set -euo pipefail
cd "$(dirname "$0")"
tools/install_packages.sh
cmake --preset release >/dev/null
cmake --build --preset release --target alpglow example_orbit_a_moving_point example_rebind_and_block example_first_person_walk example_fly_and_inspect

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
for take in stairs cliff crouch ledge; do
  files=(demo/eyes.camera.toml --level "$level" --take "demo/$take.take")
  "$alpglow" rehearse "${files[@]}" --trace "out/eyes-$take.csv"
  moments=()
  [ "$take" = crouch ] && moments=(--at 11,12.6,14.5,15.7,17.8,20)
  "$alpglow" storyboard "${files[@]}" -o "out/eyes-$take.png" "${moments[@]}"
done
padded=(demo/trail.camera.toml --level "$level" --take demo/pad.take --controls demo/pad.controls.toml)
"$alpglow" take demo/pad.take
"$alpglow" rehearse "${padded[@]}" --preferences demo/player.preferences.toml --trace out/trail-pad.csv
"$alpglow" storyboard "${padded[@]}" --preferences demo/player.preferences.toml -o out/trail-pad.png
for controls in keyboard pad touch; do
  "$alpglow" check demo/trail.camera.toml "demo/$controls.controls.toml" demo/player.preferences.toml > "out/$controls-check.txt"
done
build/release/examples/example_orbit_a_moving_point > out/orbit.txt
build/release/examples/example_rebind_and_block > out/rebind.txt
build/release/examples/example_first_person_walk > out/walk.txt
build/release/examples/example_fly_and_inspect > out/fly.txt

cat <<END

Made under out/:
  trail-*.png, eyes-*.png   storyboards: look at trail-round.png first
  *.csv                     traces, frame by frame
  *-check.txt               designs, controls and preferences explained in words and numbers
  reference.txt             every key of designs, controls and preferences
  orbit.txt, rebind.txt, walk.txt, fly.txt   what the examples print
END
