#!/usr/bin/env bash
# Makes the functions that say the texts of texts/*.json, in Go and in TypeScript; with
# --check only tells whether they are current.
source "$(dirname "$0")/common.sh"
need_packages
made="$(mktemp -d)"
trap 'rm -rf "$made"' EXIT
mkdir -p "$made/docs/formats" "$made/internal/texts" "$made/ui/src/lib/text"
cp -r texts "$made/"
cp docs/formats/openapi.json "$made/docs/formats/"
node ui/scripts/texts.mjs "$made" || fail "the texts cannot be read"
gofmt -w "$made/internal/texts/messages.go"
for part in ui/src/lib/text/gen internal/texts/messages.go internal/texts/messages.json; do
  if [ "${1:-}" = --check ]; then
    diff -rq "$made/$part" "$part" >/dev/null || fail "$part is not current: run scripts/texts.sh"
  else
    rm -rf "$part"
    cp -r "$made/$part" "$part"
  fi
done
