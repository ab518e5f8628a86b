#!/usr/bin/env bash
# Changes the core one token at a time and looks whether a test notices: 300 places drawn
# by a seed, and those that are written by hand. About an hour and a half on two cores;
# N=n for another number, MUTANTSEED=n for other places.
source "$(dirname "$0")/common.sh"
check_tools
tidy
cd tools
go run ./mutants -hand
go run ./mutants -n "${N:-300}" -seed "${MUTANTSEED:-12}"
