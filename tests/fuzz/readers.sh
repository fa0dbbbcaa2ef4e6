#!/usr/bin/env bash
# Coverage-guided fuzzing of the readers with sanitizers, by Clang's fuzzer: tests/fuzz/readers.sh [SECONDS_EACH [READER...]]
# Begins with the demo's files, keeps what it learns in build/fuzz/corpus, and stops at what is wrong, slower than 2 s or larger
# than 500 MB.
set -euo pipefail
cd "$(dirname "$0")/../.."
seconds=${1:-1800}
shift || true
readers=("$@")
[ ${#readers[@]} -gt 0 ] || readers=(design json-design controls preferences block-out gltf take frame-times limits trace)
mkdir -p build/fuzz
# What is kept only to find uses of it after its end is not what a reader takes.
export ASAN_OPTIONS=quarantine_size_mb=32
flags=(-std=c++17 -g1 -O1 -fsanitize=fuzzer,address,undefined -fno-sanitize-recover=undefined -DALPGLOW_MOST_FRAMINGS=8
  -DTOML_HEADER_ONLY=0 -DTOML_SHARED_LIB=1 -DFMT_HEADER_ONLY -Iinclude -Iio/include -Iio/src -Itests -isystem /usr/include/eigen3)
mapfile -t sources < <(find src io/src -name '*.cpp'; echo tests/fuzz/readers_fuzzer.cpp)
newestHeader=$(find include src io tests -name '*.hpp' -printf '%T@ %p\n' | sort -n | tail -n 1 | cut -d ' ' -f 2-)
objects=()
for source in "${sources[@]}"; do
  object=build/fuzz/${source//\//_}.o
  objects+=("$object")
  if [ "$object" -ot "$source" ] || [ "$object" -ot "$newestHeader" ]; then printf '%s %s\n' "$source" "$object"; fi
done > build/fuzz/compile
xargs -r -P "$(nproc)" -L 1 sh -c 'clang++ '"${flags[*]}"' -c "$0" -o "$1"' < build/fuzz/compile
clang++ "${flags[@]}" "${objects[@]}" -ltinygltf -ltomlplusplus -o build/fuzz/readers
for reader in "${readers[@]}"; do
  corpus=build/fuzz/corpus/$reader
  mkdir -p "$corpus"
  case $reader in
    design) cp demo/*.camera.toml "$corpus" ;;
    json-design) cp demo/*.camera.json "$corpus" 2>/dev/null || printf '{"format": 1, "framing": [{"name": "a"}]}' > "$corpus/a" ;;
    controls) cp demo/*.controls.toml "$corpus" ;;
    preferences) cp demo/*.preferences.toml "$corpus" ;;
    block-out) cp demo/*.level.toml "$corpus" ;;
    limits) cp demo/*.limits.toml "$corpus" 2>/dev/null || printf 'format = 1\npops = 1\n' > "$corpus/a" ;;
    take) cp demo/*.take "$corpus" ;;
    gltf) sed -n 's/.*R"(\(.*\))".*/\1/p' tests/fuzz/readers.hpp | tr -d '\n' > "$corpus/small.gltf" ;;
    frame-times) printf '0.016\n0.008 # short\n' > "$corpus/a" ;;
    trace) printf 'frame,time_s,camera,events\n0,0.016,character,cut\n1,0.033,"a,b",\n' > "$corpus/a" ;;
  esac
  echo "== $reader"
  ALPGLOW_READER=$reader build/fuzz/readers "$corpus" -max_total_time="$seconds" -timeout=2 -rss_limit_mb=500 -max_len=65536 \
    -print_final_stats=1 -verbosity=0 -artifact_prefix="build/fuzz/$reader-"
done
