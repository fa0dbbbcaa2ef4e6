#!/usr/bin/env bash
# Plays every design of the demo, and the one that `alpglow new` writes: at a run from side to side the crosshair keeps
# clear of the head (1 % of the frames), and in the narrow corridor the subject is seen (faded out in 5 %).
#   tools/play_designs.sh [PROGRAM]
set -euo pipefail
cd "$(dirname "$0")/.."
program=${1:-build/release/cli/alpglow}
work=$(mktemp -d)
trap 'rm -rf "$work"' EXIT
"$program" new "$work/new.camera.toml" >/dev/null
wrong=0
play() { # DESIGN TAKE ROW MOST
  share=$("$program" rehearse "$1" --level demo/refuge.level.toml --take "demo/$2.take" --trace "$work/trace.csv" |
    sed -n "s/^ *$3 .*(\([0-9.]*\) %)$/\1/p")
  [ -n "$share" ] || return 0 # first person
  printf '%-20s %-9s %-22s %5s %%, at most %s %%\n' "$(basename "$1" .camera.toml)" "$2" "$3" "$share" "$4"
  awk -v share="$share" -v most="$4" 'BEGIN { exit share > most }' || wrong=1
}
for design in demo/*.camera.toml "$work/new.camera.toml"; do
  play "$design" strafe "head at the crosshair" 1
  play "$design" corridor "subject faded out" 5
done
exit $wrong
