#!/usr/bin/env bash
# Drives a program with real X events, on a display of its own: with_x_events.sh PREFIX PROGRAM ARGUMENT...
# The keys and the mouse move for about two seconds; what the program prints is printed.
set -euo pipefail
prefix=$1
shift
server=
trap 'kill $server 2>/dev/null || true' EXIT
for _ in 1 2 3; do  # two servers that start at once may want the same display
  rm -f "$prefix.display"
  # Without -noreset a server begins anew whenever its last client leaves, and drops whoever is just coming in.
  Xvfb -displayfd 3 -screen 0 1024x768x24 -nolisten tcp -noreset 3> "$prefix.display" 2> "$prefix.xvfb" &
  server=$!
  for _ in $(seq 100); do
    [ -s "$prefix.display" ] && break 2
    kill -0 $server 2>/dev/null || break
    sleep 0.05
  done
  kill $server 2>/dev/null || true
done
# What the libraries of the desktop leave behind at the end is not ours.
export ASAN_OPTIONS="detect_leaks=0${ASAN_OPTIONS:+:$ASAN_OPTIONS}"
export DISPLAY=":$(cat "$prefix.display")" SDL_VIDEODRIVER=x11
"$@" > "$prefix.out" 2>&1 &
program=$!
window=
for _ in $(seq 600); do
  window=$(xdotool search --pid $program --onlyvisible 2>/dev/null | head -1) && [ -n "$window" ] && break
  kill -0 $program 2>/dev/null || break
  sleep 0.05
done
if [ -z "$window" ]; then
  echo "no window came; what the program said:"
  cat "$prefix.out" "$prefix.xvfb"
  kill $program 2>/dev/null || true
  exit 1
fi
xdotool windowfocus "$window"
sleep 0.4
xdotool keydown w
sleep 0.3
for _ in $(seq 10); do xdotool mousemove_relative -- 12 0; sleep 0.03; done
sleep 0.4
xdotool keyup w
sleep 0.3
xdotool key Escape
code=0
wait $program || code=$?
cat "$prefix.out"
exit $code
