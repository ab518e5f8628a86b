#!/usr/bin/env bash
# The JS and CSS of the first route, gzipped, against its budget of 100 kB: what the page
# itself loads, and the view of Today with all that it needs before it is shown.
source "$(dirname "$0")/common.sh"
budget=100000
total=0
files="$(node -e '
  const manifest = JSON.parse(require("fs").readFileSync("ui/build/app/.vite/manifest.json", "utf8"))
  const seen = new Set(), files = new Set()
  const take = (key) => {
    if (seen.has(key)) return
    seen.add(key)
    const chunk = manifest[key]
    files.add(chunk.file)
    for (const css of chunk.css ?? []) files.add(css)
    for (const next of chunk.imports ?? []) take(next)
  }
  take("index.html")
  take("src/views/today/Today.svelte")
  console.log([...files].join("\n"))
')"
for f in $files; do
  n="$(gzip -9c "ui/build/app/$f" | wc -c)"
  total=$((total + n))
done
say "first route: $total bytes of JS and CSS, gzipped (budget $budget)"
[ "$total" -gt 0 ] && [ "$total" -le "$budget" ] || fail "the first route is over its budget"
