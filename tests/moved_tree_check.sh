#!/bin/sh
# A tree that was copied with its build folder is configured anew, and one that was not keeps it: moved_tree_check.sh SOURCE
set -eu
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
mkdir "$scratch/tree"
for part in CMakeLists.txt CMakePresets.json cmake scripts src include tool corpora docs README.md LICENSE; do cp -r "$1/$part" "$scratch/tree/"; done
cd "$scratch/tree"
off="-DNACHKLANG_TESTS=OFF -DNACHKLANG_ADAPTERS=OFF -DNACHKLANG_BENCH=OFF"
mkdir -p build/release
echo "CMAKE_HOME_DIRECTORY:INTERNAL=/elsewhere" >build/release/CMakeCache.txt
scripts/configure release $off
grep -qx "CMAKE_HOME_DIRECTORY:INTERNAL=$(pwd -P)" build/release/CMakeCache.txt
touch build/release/kept
scripts/configure release $off
test -e build/release/kept
