#!/usr/bin/env bash
# Live reload of both sides: air rebuilds the program on 8080, Vite serves the
# interface on 5173 and passes /api on.
source "$(dirname "$0")/common.sh"
check_tools
need_database
need_packages
(cd ui && npm run --silent dev) &
vite=$!
trap 'kill $vite 2>/dev/null || true' EXIT
go tool -modfile=tools/go.mod air -build.cmd 'go build -o bin/nimbleanvil ./cmd/nimbleanvil' -build.entrypoint bin/nimbleanvil \
  -build.args_bin demo -build.include_ext go,json,sql -build.exclude_dir ui,docs,e2e,.local -build.send_interrupt true
