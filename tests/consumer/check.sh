#!/bin/sh
# Installs into a scratch prefix, then builds and runs a program that finds the package there: check.sh BUILD SOURCE
set -eu
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
cmake --install "$1" --prefix "$scratch/prefix" >/dev/null
cmake -S "$2" -B "$scratch/build" -DCMAKE_PREFIX_PATH="$scratch/prefix" >/dev/null
cmake --build "$scratch/build" >/dev/null
"$scratch/build/consumer"
"$scratch/prefix/bin/nachklang" corpus check json >/dev/null
