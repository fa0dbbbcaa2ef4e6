#!/usr/bin/env bash
# Fails if a source is not formatted as .clang-format says; `tools/check_format.sh --fix` formats them.
set -euo pipefail
cd "$(dirname "$0")/.."
how=(--dry-run --Werror)
[ "${1:-}" = --fix ] && how=(-i)
git ls-files -z '*.hpp' '*.cpp' | xargs -0 clang-format "${how[@]}"
