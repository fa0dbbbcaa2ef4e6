#!/usr/bin/env bash
# Builds everything and runs every demo rehearsal; the results are under out/.
set -euo pipefail
cd "$(dirname "$0")"
tools/install_packages.sh
cmake --preset release >/dev/null
cmake --build --preset release --target alpglow example_orbit_a_moving_point example_rebind_and_block example_first_person_walk example_fly_and_inspect \
  example_orbit_and_swing_back example_lock_on example_standing_camera example_scope_and_eyes

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
why=(demo/trail.camera.toml --level "$level" --take demo/round.take)
"$alpglow" explain "${why[@]}" > out/trail-round-why.txt
"$alpglow" storyboard "${why[@]}" --outside -o out/outside-round.png --at 5.4,10.32,13.29,14.1,16.98,22.1
padded=(demo/trail.camera.toml --level "$level" --take demo/pad.take --controls demo/pad.controls.toml)
"$alpglow" take demo/pad.take
"$alpglow" rehearse "${padded[@]}" --preferences demo/player.preferences.toml --trace out/trail-pad.csv
"$alpglow" storyboard "${padded[@]}" --preferences demo/player.preferences.toml -o out/trail-pad.png
for pair in wide-swing-back wide-lock wide-cameras close-cabin warden-scope warden-switch warden-doorway warden-mind warden-corner warden-flare; do
  files=("demo/${pair%%-*}.camera.toml" --level "$level" --take "demo/${pair#*-}.take")
  moments=()
  [ "$pair" = wide-cameras ] && moments=(--at 1.8,2.6,4,8.5,10.1,10.6,12.8,14.5)
  [ "$pair" = close-cabin ] && moments=(--at 9,12.4,14,17,20,22.5)
  [ "$pair" = warden-scope ] && moments=(--at 2.5,2.68,2.76,2.95,3.8,4.5,5.6,6.28,6.4,6.9)
  [ "$pair" = warden-switch ] && moments=(--at 5.1,5.3,5.38,5.46,5.54,5.8,6.7,6.8,6.9,7.1)
  [ "$pair" = warden-doorway ] && moments=(--at 0.55,0.75,1,1.4,1.55,1.9,2.6,2.85,3.1,4.8)
  [ "$pair" = warden-mind ] && moments=(--at 0.92,1.3,1.7,2.5,3.3,4.8,4.95,5.2,7.38,8.7)
  [ "$pair" = warden-flare ] && moments=(--at 1.55,1.64,1.75,2.4,2.84,3.1,4.25,4.34,4.5,5.6)
  [ "$pair" = warden-corner ] && moments=(--at 7,7.15,7.25,7.35,7.5,7.8,7.95,8.05,8.2,8.4)
  "$alpglow" rehearse "${files[@]}" --trace "out/$pair.csv"
  "$alpglow" storyboard "${files[@]}" -o "out/$pair.png" "${moments[@]}"
done
# What cameras find hard, each alone; the same without prediction, and both over time.
blind=out/blind.camera.toml
{ cat demo/warden.camera.toml; printf '\n[pull_in]\nhorizon_s = 0\n'; } > "$blind"
for take in posts fence hall bend passage steps swing; do
  files=(--level demo/shed.level.toml --take "demo/$take.take")
  "$alpglow" rehearse demo/warden.camera.toml "${files[@]}" --trace "out/$take.csv"
  "$alpglow" rehearse "$blind" "${files[@]}" --trace "out/$take-blind.csv"
  "$alpglow" plot "out/$take-blind.csv" "out/$take.csv" -o "out/plot-$take.png"
done
"$alpglow" feel --pops --bound out/{posts,fence,hall,bend,passage,steps,swing}.csv > out/feel.txt
# A game's build holds its camera to limits.
"$alpglow" feel out/trail-{round,corridor,corner}.csv --limits demo/refuge.limits.toml >> out/feel.txt
# What is felt side by side, against one number, and everywhere in a level.
round=(--level "$level" --take demo/round.take)
"$alpglow" compare demo/{trail,wide,warden}.camera.toml "${round[@]}" -o out/compare-designs.png > out/compare.txt
"$alpglow" compare demo/trail.camera.toml "${round[@]}" --fps 30,60,144 >> out/compare.txt
"$alpglow" compare demo/trail.camera.toml "${round[@]}" --vary follow_half_life_s=0:0.25:6 -o out/compare-lag.png >> out/compare.txt
"$alpglow" audit demo/trail.camera.toml --level "$level" -o out/audit-refuge.png --takes out/worst > out/audit.txt
# What is large is looked past, and pushes the camera back.
cart=(demo/trail.camera.toml --level demo/shed.level.toml --take demo/cart.take)
"$alpglow" rehearse "${cart[@]}" --trace out/cart.csv
"$alpglow" storyboard "${cart[@]}" -o out/cart.png --at 4.5,5.9,6.8,13.2,13.9,14.6
for brief in calm arena story platform; do
  files=("demo/briefs/$brief.camera.toml" --level "$level" --take "demo/briefs/$brief.take")
  moments=()
  [ "$brief" = calm ] && moments=(--at 1.6,3.0,4.6,7.2,9.2,10.5,12.8,15.45,19,25.5)
  [ "$brief" = story ] && moments=(--at 1.3,3.3,5.6,8.3,10.4,12.4)
  "$alpglow" check "demo/briefs/$brief.camera.toml" > "out/$brief-check.txt"
  "$alpglow" rehearse "${files[@]}" --trace "out/brief-$brief.csv"
  "$alpglow" storyboard "${files[@]}" -o "out/brief-$brief.png" "${moments[@]}"
done
together=(demo/warden.camera.toml --level "$level" --take demo/briefs/company.take)
"$alpglow" rehearse "${together[@]}" --trace out/company.csv
"$alpglow" storyboard "${together[@]}" -o out/company.png --at 1.5,2.2,2.8,8,12,16.4
for design in close wide warden; do "$alpglow" check "demo/$design.camera.toml" > "out/$design-check.txt"; done
for controls in keyboard pad touch; do
  "$alpglow" check demo/trail.camera.toml "demo/$controls.controls.toml" demo/player.preferences.toml > "out/$controls-check.txt"
done
build/release/examples/example_orbit_a_moving_point > out/orbit.txt
build/release/examples/example_rebind_and_block > out/rebind.txt
build/release/examples/example_first_person_walk > out/walk.txt
build/release/examples/example_fly_and_inspect > out/fly.txt
build/release/examples/example_orbit_and_swing_back > out/swing-back.txt
build/release/examples/example_lock_on > out/lock.txt
build/release/examples/example_standing_camera > out/standing.txt
build/release/examples/example_scope_and_eyes > out/scope.txt

cat <<END

Made under out/:
  {trail,eyes,close,wide,warden,brief}-*.png   storyboards: look at trail-round.png first
  cart.png                  a hay cart is looked past, fades, and pushes the camera back
  company.png               warden and chamois in one picture, by a camera for groups
  plot-*.png                what cameras find hard, over time, without prediction and with it; feel.txt has the numbers
  compare.txt, compare-*.png   what is felt of designs, at frame rates, and against one number
  audit.txt, audit-refuge.png, worst/   a whole level through one design, and its worst places as takes
  *.csv                     traces, frame by frame
  *-check.txt               designs, controls and preferences explained in words and numbers
  reference.txt             every key of designs, controls and preferences
  orbit.txt, rebind.txt, walk.txt, fly.txt, swing-back.txt, lock.txt, standing.txt, scope.txt   what the examples print

Play it:  build/release/cli/alpglow play
END
