#!/usr/bin/env bash
# Proves that a second `make demo` needs no network: runs it where there is none
# but loopback, reads the first page, and ends it. Needs root, or user namespaces.
source "$(dirname "$0")/common.sh"
tidy
bash scripts/demo.sh --help >/dev/null # everything is there once
need ip iproute2 curl curl
as=(); [ "$(id -u)" = 0 ] || as=(-r)
unshare "${as[@]}" -n bash -c '
  ip link set lo up
  bash scripts/demo.sh --addr 127.0.0.1:0 >.local/offline.log 2>&1 &
  for _ in $(seq 300); do
    url="$(sed -n "s/.*is at //p" .local/offline.log)"
    [ -n "$url" ] && break
    sleep 0.1
  done
  [ -n "$url" ] || { cat .local/offline.log; exit 1; }
  curl -sf "$url/" | grep -q "<title>" && curl -sf "$url/api/today" >/dev/null || exit 1
  kill -TERM "$!"; wait
'
say "make demo works without a network"
