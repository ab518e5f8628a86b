#!/usr/bin/env bash
# Speed and memory of the core, and of reading a circuit against a bare handler;
# figures are kept in docs/benchmarks.md.
source "$(dirname "$0")/common.sh"
tidy
go test -run '^$' -bench . -benchmem ./internal/core/... ./internal/calc/... | grep -E 'Benchmark|^pkg|^cpu'
need wrk wrk
need_database
go run ./scripts/load
