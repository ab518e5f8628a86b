#!/usr/bin/env bash
# Speed and memory of the core; figures are kept in docs/benchmarks.md.
source "$(dirname "$0")/common.sh"
go test -run '^$' -bench . -benchmem ./internal/core/... ./internal/calc/... | grep -E 'Benchmark|^pkg|^cpu'
