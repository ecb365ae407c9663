#!/bin/sh
# The ways in for a program of a user's own: installed into a prefix and found there, and as a subdirectory.
# check.sh BUILD SOURCE
set -eu
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
cmake --install "$1" --prefix "$scratch/prefix" >/dev/null
version=$("$scratch/prefix/bin/nachklang" --version | cut -d' ' -f2)
cmake -S "$2" -B "$scratch/build" -DCMAKE_PREFIX_PATH="$scratch/prefix" -DEXPECTED_VERSION="$version" >/dev/null
cmake --build "$scratch/build" >/dev/null
"$scratch/build/consumer"
"$scratch/prefix/bin/nachklang" corpus check json >/dev/null
cmake -S "$2" -B "$scratch/within" -DNACHKLANG_SOURCE="$2/../.." >/dev/null
cmake --build "$scratch/within" -j2 --target consumer >/dev/null
"$scratch/within/consumer"
