#!/usr/bin/env bash
# Makes the interface's types from docs/formats/openapi.json; with --check only
# tells whether they are current.
source "$(dirname "$0")/common.sh"
need_packages
out=ui/src/lib/api/schema.d.ts
made="$(mktemp)"
trap 'rm -f "$made"' EXIT
(cd ui && npx --no-install openapi-typescript ../docs/formats/openapi.json -o "$made" >/dev/null 2>&1) || fail "openapi-typescript failed"
if [ "${1:-}" = --check ]; then
  cmp -s "$made" "$out" || fail "$out is not current: run scripts/types.sh"
else
  cp "$made" "$out"
fi
