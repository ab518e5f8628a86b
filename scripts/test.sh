#!/usr/bin/env bash
# Everything that must stand: types and texts of the interface, its unit tests,
# all Go tests, and the browser flows on private databases.
source "$(dirname "$0")/common.sh"
check_tools
before="$(git status --porcelain 2>/dev/null || true)"
need_database
need_browser
build_ui
say "interface: types are current, components, unit tests"
bash scripts/types.sh --check
(cd ui && npm run --silent check && npm run --silent test)
say "go vet and go test"
go vet ./...
results="$(mktemp)"
trap 'rm -f "$results"' EXIT
tests() { go tool -modfile=tools/go.mod gotestsum --format pkgname --format-hide-empty-pkg --jsonfile-timing-events "$results" -- "$@"; }
tests ./internal/core/... ./internal/calc/... ./internal/formats/... ./internal/problem/... ./ui/...
cat "$results" >"$results.all"
# One package at a time beyond the core: two databases and a browser are enough
# for two cores.
tests -p 1 -timeout 20m ./internal/api/... ./internal/store/... ./internal/localdb/... ./internal/demo/... ./cmd/... ./e2e/...
cat "$results" >>"$results.all"
say "the ten slowest tests"
go tool -modfile=tools/go.mod gotestsum tool slowest --jsonfile "$results.all" --threshold 1s --num 10
rm -f "$results.all"
[ -z "${before:-}" ] || [ "$before" = "$(git status --porcelain 2>/dev/null)" ] || fail "the tests left files behind: $(git status --porcelain)"
