#!/usr/bin/env bash
# Takes the pictures of docs/screenshots from the demo data.
source "$(dirname "$0")/common.sh"
check_tools
need_database
need_browser
build_ui
NIMBLEANVIL_SHOTS="$PWD/docs/screenshots" go test ./e2e -run TestScreenshots -count=1 -timeout 5m
