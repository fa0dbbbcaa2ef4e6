#!/usr/bin/env bash
# Pictures of the playground, on a display of its own: play-*.png into a folder.
#   tools/play_pictures.sh docs/screenshots
set -euo pipefail
cd "$(dirname "$0")/.."
out=$1
work=$(mktemp -d)
server='' program=''
trap 'kill $program $server 2>/dev/null || true; rm -rf "$work"' EXIT
Xvfb -displayfd 3 -screen 0 1400x900x24 -nolisten tcp -noreset 3> "$work/display" 2> /dev/null &
server=$!
until [ -s "$work/display" ]; do sleep 0.05; done
export DISPLAY=":$(cat "$work/display")" SDL_VIDEODRIVER=x11
demo=$PWD/demo alpglow=$PWD/build/release/cli/alpglow
(cd "$work" && exec "$alpglow" play "$demo/warden.camera.toml" "$demo/trail.camera.toml" --quality full \
  --status status.json --out picture) &
program=$!
# Waits until the status says a line.
says() { until grep -qE "$1" "$work/status.json" 2>/dev/null; do kill -0 "$program"; sleep 0.05; done; }
# So many more frames.
frames() {
  local at
  at=$(sed -n 's/^ "frames": \([0-9]*\),/\1/p' "$work/status.json")
  until [ "$(sed -n 's/^ "frames": \([0-9]*\),/\1/p' "$work/status.json")" -ge $((at + $1)) ]; do sleep 0.02; done
}
count=0
picture() {
  count=$((count + 1))
  xdotool key F12
  says "wrote picture-$count.png"
  mv "$work/picture-$count.png" "$out/play-$1.png"
}
# The middle of an item of the panels.
click() {
  local x y
  read -r x y < <(python3 -c "import json,sys
s=json.load(open('$work/status.json')); i=s['items'][sys.argv[1]]; w=s['window']
print(int(w[0]+i[0]+i[2]*float(sys.argv[2])), int(w[1]+i[1]+i[3]/2))" "$1" "${2:-0.5}")
  xdotool mousemove $((x - 1)) "$y" mousemove_relative -- 1 0
  frames 2
  xdotool click 1
  frames 2
}
says '"frames": [3-9]'
xdotool search --name 'alpglow play' windowfocus mousemove 900 300 mousemove_relative -- 1 0
frames 2
xdotool click 1
says '"pointer_locked": true'
xdotool mousemove_relative -- 3 0
frames 2
for _ in 1 2 3 4 5 6 7 8 9 10 11; do xdotool mousemove_relative -- 330 6; frames 1; done
xdotool key F3 key F3
frames 8
picture outside
xdotool key F3
for _ in 1 2 3; do xdotool mousemove_relative -- -330 -6; frames 1; done
xdotool keydown w
frames 20
xdotool keydown shift
frames 12
picture third
xdotool keyup w keyup shift key v
frames 12
xdotool mousedown 3
frames 12
picture aim
xdotool mouseup 3 key v
frames 14
xdotool key F8
frames 10
picture both
xdotool key F8 key Escape
says '"pointer_locked": false'
click trail.fov_deg 0.42
click trail.distance_m 0.35
frames 12
picture tune
click 'tab controls'
click 'bind jump 0'
xdotool key w  # which walks already
frames 4
xdotool key F1
frames 4
picture controls
