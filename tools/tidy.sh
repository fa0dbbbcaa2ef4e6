#!/usr/bin/env bash
# Runs clang-tidy on the sources that changed since a revision, headers by the sources that include them; on all of them
# with no revision. Needs the release preset configured.
#   tools/tidy.sh [REVISION]
set -euo pipefail
cd "$(dirname "$0")/.."
mapfile -t sources < <(git ls-files 'src/*.cpp' 'io/*.cpp' 'bullet/*.cpp' 'embree/*.cpp' 'feel/*.cpp' 'conformance/*.cpp' 'sdl/*.cpp' 'stage/*.cpp' 'panel/*.cpp' 'play/*.cpp' 'cli/*.cpp')
if [ $# -gt 0 ]; then
  changed=$(git diff --name-only --diff-filter=d "$1" -- "${sources[@]}")
  mapfile -t sources <<< "$changed"
  [ -n "$changed" ] || { echo "tidy: nothing has changed since $1"; exit 0; }
fi
# The compiler's precompiled headers are not clang's.
mkdir -p build/tidy
sed 's/-Winvalid-pch -include [^ ]*cmake_pch\.hxx//' build/release/compile_commands.json > build/tidy/compile_commands.json
printf '%s\0' "${sources[@]}" | xargs -0 -n 1 -P "$(nproc)" clang-tidy -p build/tidy --quiet 2>/dev/null
echo "tidy: ${#sources[@]} sources are clean"
