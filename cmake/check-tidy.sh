#!/usr/bin/env bash
# Looks at the core with clang-tidy and the project's checks. Fails where it finds anything.
#   cmake/check-tidy.sh                  all of it
#   cmake/check-tidy.sh --changed [REV]  the files that differ from a commit; from the one before, where none is named
set -euo pipefail
cd "$(dirname "$0")/.."
most=40  # files that are looked at on the way; more are looked at by hand
if [ "${1:-}" = --changed ]; then
  since=${2:-HEAD~1}
  git rev-parse --quiet --verify "$since" >/dev/null 2>&1 || exit 0  # a first commit, or no repository
  mapfile -t files < <(git diff --name-only --diff-filter=d "$since" -- 'src/core/*.cpp')
  if [ ${#files[@]} -gt $most ]; then
    echo "clang-tidy: ${#files[@]} files changed, more than $most at once: run cmake/check-tidy.sh by hand."
    exit 0
  fi
else
  mapfile -t files < <(find src/core -name '*.cpp')
fi
[ ${#files[@]} -gt 0 ] || exit 0
# Each file by itself. The compiled headers are GCC's: clang reads the plain ones.
cmake -S . -B build/tidy -G Ninja -DCMAKE_BUILD_TYPE=Debug -DASKCOUNT_UNITY=OFF -DCMAKE_EXPORT_COMPILE_COMMANDS=ON >/dev/null
sed -i -E 's/-Winvalid-pch//g; s/-include [^ ]*cmake_pch\.hxx//g; s/-Werror//g; s/--param ggc-[^ ]*//g' build/tidy/compile_commands.json
printf '%s\0' "${files[@]}" |
  xargs -0 -P "$(nproc)" -n 4 clang-tidy -p build/tidy --quiet --warnings-as-errors='*' 2>/dev/null
