#!/usr/bin/env bash
# Writes NOTICE and the licence texts of what is shipped; with --check, says whether
# they are current.
source "$(dirname "$0")/common.sh"
check_tools
build_ui
go run -C tools ./notice "$@"
