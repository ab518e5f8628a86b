#!/usr/bin/env bash
# Kills the program, its database and both at fifty points of every step, and starts them
# again. KILLS=n for another number, KILLSEED=n for other points.
source "$(dirname "$0")/common.sh"
check_tools
tidy
need_database
build_ui
go test -count=1 -timeout 60m -v -run TestKilledAtEveryStep ./cmd/nimbleanvil -args -kills "${KILLS:-50}" -killseed "${KILLSEED:-10}"
