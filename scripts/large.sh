#!/usr/bin/env bash
# Fails when a tracked file over 1 MB is not on the list of those that belong here.
set -euo pipefail
cd "$(dirname "$0")/.."
allowed=(
  api/contract/server.gen.go # made from the contract, which grows with the product
)
found=0
while IFS= read -r -d '' file; do
  [ -f "$file" ] || continue
  if [ "$(wc -c <"$file")" -gt 1048576 ] && ! printf '%s\n' "${allowed[@]:-}" | grep -qxF "$file"; then
    echo "$file is larger than 1 MB: does it belong here? If so, list it in scripts/large.sh."
    found=1
  fi
done < <(git ls-files -z)
exit $found
