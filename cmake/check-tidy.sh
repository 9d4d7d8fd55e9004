#!/usr/bin/env bash
# Looks at the core with clang-tidy and the project's checks, in the debug preset. Fails where it finds anything.
set -euo pipefail
cd "$(dirname "$0")/.."
[ -f build/debug/build.ninja ] || cmake --preset debug >/dev/null
# The compiled headers are GCC's: clang reads the plain ones.
database=build/debug/tidy
mkdir -p "$database"
sed -E 's/-Winvalid-pch//g; s/-include [^ ]*cmake_pch\.hxx//g; s/-Werror//g' build/debug/compile_commands.json \
  >"$database/compile_commands.json"
find src/core -name '*.cpp' -print0 |
  xargs -0 -P "$(nproc)" -n 8 clang-tidy -p "$database" --quiet --warnings-as-errors='*' 2>/dev/null
