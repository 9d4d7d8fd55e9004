#!/usr/bin/env bash
# Fails, naming the places, when a source file is not formatted by .clang-format. Fixes nothing;
# `cmake/check-format.sh --fix` does.
set -euo pipefail
cd "$(dirname "$0")/.."
mode=(--dry-run -Werror)
[ "${1:-}" != --fix ] || mode=(-i)
find src tests bench \( -name '*.cpp' -o -name '*.h' \) -print0 | xargs -0 -P "$(nproc)" -n 40 clang-format "${mode[@]}"
