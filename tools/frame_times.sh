#!/usr/bin/env bash
# What a frame costs by this revision and by another one, built beside: the same walks, in turns, so that what else the
# machine does falls on both. Microseconds, the least of five rounds each: a clock that slows down for a while only
# ever adds.
#   tools/frame_times.sh REVISION [FRAMES]      after ./test.sh
set -euo pipefail
cd "$(dirname "$0")/.."
work=$PWD/build/frame_times
beside=$work/source
frames=${2:-20000}
mkdir -p "$work"
git worktree remove --force "$beside" 2>/dev/null || true
git worktree add --detach "$beside" "$1" >/dev/null 2>&1
cp bench/frame_times.cpp bench/slope.hpp "$beside/bench"
# What the other revision has not got yet is left out.
has() { grep -qs "$1" "$beside"/include/alpglow/space/*.hpp; }
without() { sed -i "$1" "$beside"/bench/{frame_times.cpp,slope.hpp}; }
has "double horizon" || without '/^CameraDesign blind/,/^}/d; /blind/d'
has 'class TriangleMesh' || without '/[mM]esh\>/{/bulletMesh/!d}; /triangle_mesh/d'
[ -d "$beside/embree" ] || without '/[eE]mbree/d'
has 'class Neighbourhood' || without '/[nN]eighbourhood/d'
grep -q frame_times "$beside/bench/CMakeLists.txt" || cat >> "$beside/bench/CMakeLists.txt" <<'EOF'
add_executable(frame_times frame_times.cpp)
target_link_libraries(frame_times PRIVATE alpglow::stage)
target_compile_definitions(frame_times PRIVATE ALPGLOW_DEMO="${PROJECT_SOURCE_DIR}/demo")
EOF
cmake -S "$beside" -B "$work/build" -G Ninja -DCMAKE_BUILD_TYPE=Release -DALPGLOW_BUILD_TESTS=OFF \
  -DALPGLOW_BUILD_EXAMPLES=OFF -DALPGLOW_BUILD_BENCHMARKS=ON >/dev/null
cmake --build "$work/build" --target frame_times >/dev/null
for round in 1 2 3 4 5; do
  "$work/build/bench/frame_times" "$frames" > "$work/before-$round.txt"
  build/release/bench/frame_times "$frames" > "$work/now-$round.txt"
done
git worktree remove --force "$beside"
python3 - "$work" <<'EOF'
import sys

rows = {"before": {}, "now": {}}
for when, found in rows.items():
    for number in range(1, 6):
        with open(f"{sys.argv[1]}/{when}-{number}.txt") as lines:
            for line in list(lines)[1:]:
                found.setdefault(line[:34].strip(), []).append([float(word) for word in line[34:].split()[:3]])
print(f"{'microseconds, before and now':34} {'median':>15} {'ratio':>6} {'99.9 %':>15} {'ratio':>6}")
for name, now in rows["now"].items():
    before = rows["before"].get(name) or rows["before"].get(name.replace(" listed", ""))
    if not before:
        continue
    cells = []
    for column in (0, 2):
        a, b = (min(each[column] for each in of) for of in (before, now))
        cells.append(f"{a:7.2f} {b:7.2f} {b / a:6.2f}")
    print(f"{name:34} " + " ".join(cells))
EOF
