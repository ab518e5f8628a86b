#!/usr/bin/env bash
# The first route's JS and CSS, gzipped, against its budget of 100 kB.
source "$(dirname "$0")/common.sh"
budget=100000
total=0
for f in $(grep -oE '/assets/[^"]+\.(js|css)' ui/build/app/index.html); do
  n="$(gzip -9c "ui/build/app$f" | wc -c)"
  total=$((total + n))
done
say "first route: $total bytes of JS and CSS, gzipped (budget $budget)"
[ "$total" -gt 0 ] && [ "$total" -le "$budget" ] || fail "the first route is over its budget"
