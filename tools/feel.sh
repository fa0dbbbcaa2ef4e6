#!/usr/bin/env bash
# What a player notices of obstacles: the demo's takes, and random play of two styles in random levels. Nothing is tuned
# on half of the levels ("apart"). With a revision, the same by that one, built beside.
#   tools/feel.sh [REVISION]            after ./demo.sh; LEVELS=10 TAKES=3 by default; the traces stay in build/feel
set -euo pipefail
cd "$(dirname "$0")/.."
work=$PWD/build/feel
demo=$PWD/demo
program=$PWD/build/release/cli/alpglow
shed="posts fence hall bend passage steps swing cart"
mkdir -p "$work"
rm -rf "$work/levels"
tools/random_levels.py "$work/levels" --levels "${LEVELS:-10}" --takes "${TAKES:-3}"

play() { # PROGRAM FOLDER DESIGNS
  rm -rf "$2"
  mkdir -p "$2"/{refuge,shed,{lively,moderate}-{tuned,apart}}
  for design in trail warden; do
    for take in "$demo"/*.take; do
      name=$(basename "$take" .take)
      level=refuge
      case " $shed " in *" $name "*) level=shed ;; esac
      # What an older program cannot read yet is left out.
      "$1" rehearse "$3/$design.camera.toml" --level "$demo/$level.level.toml" --take "$take" \
        --trace "$2/$level/$design-$name.csv" >/dev/null 2>&1 || echo "not played: $design, $name"
    done
  done
  for take in "$work"/levels/*.take; do
    name=$(basename "$take" .take)
    IFS=- read -r seed style _ <<< "$name"
    [ $((seed / 4 % 2)) = 0 ] && group=$style-tuned || group=$style-apart
    "$1" rehearse "$3/warden.camera.toml" --level "$work/levels/$seed.level.toml" --take "$take" \
      --trace "$2/$group/$name.csv" >/dev/null
  done
}
show() { # TITLE FOLDER
  for group in refuge shed {lively,moderate}-{tuned,apart}; do
    ls "$2/$group"/*.csv >/dev/null 2>&1 || continue
    printf '%s, %s\n' "$1" "$group"
    "$program" feel --bound "$2/$group"/*.csv | sed -n '1p;/^all/p;/^at best/p'
  done
}

if [ $# -gt 0 ]; then
  beside=$work/source
  git worktree remove --force "$beside" 2>/dev/null || true
  git worktree add --detach "$beside" "$1" >/dev/null 2>&1
  cmake -S "$beside" -B "$work/build" -G Ninja -DCMAKE_BUILD_TYPE=Release -DALPGLOW_BUILD_TESTS=OFF >/dev/null
  cmake --build "$work/build" --target alpglow >/dev/null
  mkdir -p "$work/designs"  # its own, as it may not know what is in ours
  cp "$beside"/demo/{trail,warden}.camera.toml "$work/designs"
  git worktree remove --force "$beside"
  play "$work/build/cli/alpglow" "$work/before" "$work/designs"
  show "$1" "$work/before"
fi
play "$program" "$work/now" "$demo"
show now "$work/now"
