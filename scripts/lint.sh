#!/usr/bin/env bash
# Style and static checks of both sides, and the size of the first page.
source "$(dirname "$0")/common.sh"
tidy
check_tools
build_ui
unformatted="$(gofmt -l cmd internal ui/*.go e2e tools)"
[ -z "$unformatted" ] || fail "gofmt these: $unformatted"
say "lines to 120 columns (tests keep their tables as rows)"
# shellcheck disable=SC2046
long="$(go tool -modfile=tools/go.mod golines -m 120 --no-reformat-tags -l $(git ls-files 'cmd/*.go' 'internal/*.go' 'tools/*.go' 'scripts/*.go' | grep -v _test.go))"
[ -z "$long" ] || fail "break the long lines of: $long"
go vet ./...
say "staticcheck"
go tool -modfile=tools/go.mod staticcheck ./...
say "eslint, prettier, svelte-check"
(cd ui && npm run --silent lint && npm run --silent check)
bash scripts/types.sh --check
bash scripts/texts.sh --check
bash scripts/notice.sh --check
bash scripts/size.sh
