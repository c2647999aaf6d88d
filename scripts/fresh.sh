#!/usr/bin/env bash
# Fails when a generated file is not what its source makes now.
set -euo pipefail
cd "$(dirname "$0")/.."
kept=$(mktemp -d)
trap 'rm -rf "$kept"' EXIT
files=(api/contract/server.gen.go web/src/contract/api-schema.d.ts web/src/places/write/blank.gen.json)
for f in "${files[@]}"; do cp -p "$f" "$kept/$(basename "$f")"; done
make --no-print-directory generate >/dev/null
stale=0
for f in "${files[@]}"; do
  if ! cmp -s "$f" "$kept/$(basename "$f")"; then
    echo "$f was stale: run 'make generate' and commit it"
    stale=1
  else
    cp -p "$kept/$(basename "$f")" "$f" # as old as it was: nothing is built anew for it
  fi
done
exit $stale
