#!/usr/bin/env bash
# Everything that must stand: types and texts of the interface, its unit tests,
# all Go tests, and the browser flows on private databases.
source "$(dirname "$0")/common.sh"
check_tools
tidy
need_database
need_browser
need glpsol glpk-utils # outside checks of the making of loads
need pdftotext poppler-utils # what is printed is read back
build_ui
say "interface: types and texts are current, components, unit tests"
bash scripts/types.sh --check
bash scripts/texts.sh --check
(cd ui && npm run --silent check && npm run --silent test)
say "go vet and go test"
go vet -tags outside ./...
mkdir -p .local
results=.local/test-events.json
tests() { go tool -modfile=tools/go.mod gotestsum --format pkgname --format-hide-empty-pkg --jsonfile-timing-events "$results" -- "$@"; }
tests -tags outside ./internal/core/... ./internal/calc/... ./internal/formats/... ./internal/problem/... ./internal/names/... ./internal/strictjson/... ./internal/contract/... ./internal/texts/... ./internal/golden/... ./ui/...
cat "$results" >.local/all-test-events.json
# Two packages at a time beyond the core: two databases and a browser are enough
# for two cores.
tests -p 2 -timeout 45m ./internal/api/... ./internal/store/... ./internal/localdb/... ./internal/demo/... ./internal/studio/... ./cmd/... ./e2e/...
cat "$results" >>.local/all-test-events.json
say "the ten slowest tests"
go tool -modfile=tools/go.mod gotestsum tool slowest --jsonfile .local/all-test-events.json --threshold 1s --num 10
