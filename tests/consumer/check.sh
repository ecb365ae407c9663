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
# The tool works from any folder, and writes nothing into its prefix.
chmod -R a-w "$scratch/prefix"
(
  cd /
  tool="$scratch/prefix/bin/nachklang"
  "$tool" implementations | grep -q '^rapidjson/default '
  "$tool" run json --implementation rapidjson/default --aspect names >/dev/null || [ $? -eq 1 ]
  "$tool" manual | grep -q '^.SS run \[CORPUS'
)
chmod -R u+w "$scratch/prefix"
grep -q 'nachklang run' "$scratch/prefix/share/doc/nachklang/README.md"
test -s "$scratch/prefix/share/man/man1/nachklang.1"
# Completions: the commands, a command's options, and what an inner command takes.
completed() {
  bash -c 'source "$0"; COMP_WORDS=(nachklang "$@"); COMP_CWORD=$#; _nachklang; echo "${COMPREPLY[*]}"' \
    "$scratch/prefix/share/bash-completion/completions/nachklang" "$@"
}
completed sh | grep -q '^shrink$'
completed run --fail | grep -q '^--fail-on$'
completed results q | grep -q '^query$'
# From C, by pkg-config alone.
library=$(dirname "$(find "$scratch/prefix" -name nachklang.pc)")
export PKG_CONFIG_PATH="$library"
cc "$2/../../examples/c/read_document.c" -o "$scratch/reader" $(pkg-config --cflags --libs nachklang) \
  -Wl,-rpath,"$(dirname "$library")"
printf '{"b":1,"a":[1.50]}' >"$scratch/bell.json"
[ "$("$scratch/reader" "$scratch/bell.json")" = '{"a":[1.5],"b":1}' ]
cmake -S "$2" -B "$scratch/within" -DNACHKLANG_SOURCE="$2/../.." >/dev/null
cmake --build "$scratch/within" -j2 --target consumer >/dev/null
"$scratch/within/consumer"
