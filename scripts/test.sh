#!/usr/bin/env bash
# Everything that must stand: types and texts of the interface, its unit tests,
# all Go tests, and the browser flows on private databases.
source "$(dirname "$0")/common.sh"
check_tools
need_database
need_browser
build_ui
say "interface: types are current, components, unit tests"
bash scripts/types.sh --check
(cd ui && npm run --silent check && npm run --silent test)
say "go vet and go test"
go vet ./...
# One package at a time beyond the core: two databases and a browser are enough
# for two cores.
go test ./internal/core/... ./internal/calc/... ./internal/problem/... ./ui/...
go test -p 1 -timeout 20m ./internal/api/... ./internal/store/... ./internal/localdb/... ./internal/demo/... ./cmd/... ./e2e/...
