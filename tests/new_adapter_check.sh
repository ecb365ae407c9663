#!/bin/sh
# Every skeleton that scripts/new-adapter writes passes the protocol check: new_adapter_check.sh SOURCE TOOL
set -eu
scratch=$(mktemp -d)
trap 'rm -rf "$scratch"' EXIT
cd "$scratch"
for pair in python:/usr/bin/python3 javascript:node ruby:ruby perl:perl php:php; do
  command -v "${pair#*:}" >/dev/null || continue
  "$1/scripts/new-adapter" "${pair%%:*}" "my-${pair%%:*}" >/dev/null
done
"$2" implementations check --config nachklang.toml
"$2" run json --config nachklang.toml --aspect names --results r.jsonl >/dev/null || [ $? -eq 1 ]
grep -q '"implementation":"my-python","operation":"round-trip","outcome":"accepted"' r.jsonl
# The C++ skeleton reads integers only; it builds without the rest of the project and answers.
"$1/scripts/new-adapter" cpp my-cpp >/dev/null
g++ -std=c++20 -I"$1/include" my-cpp-adapter.cpp -o my-cpp-adapter
echo 7 | tr -d '\n' >seven.json
"$2" try seven.json --config nachklang.toml --implementation my-cpp | grep -q conforms
# Wrong calls get one line and status 2.
for call in "cobol x" "python Bad_Name" "python my-python"; do
  status=0
  "$1/scripts/new-adapter" $call 2>message || status=$?
  [ $status -eq 2 ] && [ "$(wc -l <message)" -eq 1 ]
done
