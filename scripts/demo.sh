#!/usr/bin/env bash
# Installs what is missing, builds, and runs the demo hall. Arguments go to the
# program: scripts/demo.sh --addr 127.0.0.1:9000
source "$(dirname "$0")/common.sh"
check_tools
need_database
build_ui
build_program
exec bin/nimbleanvil demo "$@"
