# Sourced by the other scripts: checks the tools, installs what is missing on
# Debian, builds the interface. Everything is done once and then needs no network.
set -euo pipefail
cd "$(dirname "${BASH_SOURCE[0]}")/.."
export CGO_ENABLED="${CGO_ENABLED:-0}"

say() { printf '%s\n' "· $*"; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

# at_least HAVE WANT: compares dotted versions.
at_least() { [ "$(printf '%s\n%s\n' "$2" "$1" | sort -V | head -n 1)" = "$2" ]; }

check_tools() {
  local want_go have
  want_go="$(sed -n 's/^go //p' go.mod)"
  command -v go >/dev/null || fail "Go $want_go or newer is needed: install it from your distribution or https://go.dev/dl and put it on the PATH."
  have="$(go env GOVERSION | sed 's/^go//')"
  at_least "$have" "$want_go" || fail "Go $want_go or newer is needed, this is $have."
  # Where there is a Node for the system and processor among the interface's packages (ui/
  # package.json), it builds the interface and the system's only runs npm; elsewhere the
  # system's builds it.
  local want_node=22.12.0
  [ "$(uname -sm)" = "Linux x86_64" ] && want_node=20.19.0
  command -v node >/dev/null || fail "Node $want_node or newer with npm is needed: install it and put it on the PATH."
  have="$(node -v | sed 's/^v//')"
  at_least "$have" "$want_node" || fail "Node $want_node or newer is needed on $(uname -sm), this is $have."
}

# tidy: from here to its end the script leaves the working copy as it found it, or
# says what it left.
tidy() {
  tidy_before="$(git status --porcelain 2>/dev/null || true)"
  trap 'tidy_end $?' EXIT
}
tidy_end() {
  local now
  now="$(git status --porcelain 2>/dev/null || true)"
  [ "$now" = "$tidy_before" ] || fail "files were left behind: $now"
  exit "$1"
}

# need COMMAND PACKAGE ...: installs Debian packages whose command is missing.
need() {
  local missing=()
  while [ $# -gt 0 ]; do
    command -v "$1" >/dev/null || [ -x "/usr/sbin/$1" ] || missing+=("$2")
    shift 2
  done
  [ ${#missing[@]} -eq 0 ] && return
  command -v apt-get >/dev/null || fail "These Debian packages are needed: ${missing[*]}. Install their like on this system."
  local as=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null || fail "Run as root: apt-get install --no-install-recommends ${missing[*]}"
    as=(sudo)
  fi
  say "installing ${missing[*]} with apt-get (no service is started)"
  "${as[@]}" apt-get update -qq
  "${as[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

need_database() {
  # my_print_defaults is used by the script that makes the data folder.
  need mariadbd mariadb-server-core my_print_defaults mariadb-client-core
  export PATH="$PATH:/usr/sbin"
}

need_browser() { need chromium chromium; }

# stamp FILE ...: one hash over the contents of tracked and new files.
stamp() { git ls-files -co --exclude-standard -- "$@" | LC_ALL=C sort | xargs -d '\n' sha256sum 2>/dev/null | sha256sum | cut -d' ' -f1; }

need_packages() {
  local now
  now="$(sha256sum ui/package-lock.json | cut -d' ' -f1)"
  if [ ! -f ui/node_modules/.nimbleanvil ] || [ "$(cat ui/node_modules/.nimbleanvil)" != "$now" ]; then
    say "installing the interface's packages (npm ci, install scripts off)"
    (cd ui && npm ci --silent --no-progress 2>&1 | { grep -v EBADENGINE || true; })
    printf '%s' "$now" >ui/node_modules/.nimbleanvil
  fi
}

build_ui() {
  need_packages
  local now
  now="$(stamp ui/src ui/public ui/index.html ui/vite.config.ts ui/package-lock.json)"
  if [ ! -f ui/build/app/index.html ] || [ "$(cat ui/build/stamp 2>/dev/null)" != "$now" ]; then
    say "building the interface"
    (cd ui && npm run --silent build -- --logLevel warn)
    printf '%s' "$now" >ui/build/stamp
  fi
}

build_program() {
  mkdir -p bin
  go build -buildvcs=auto -o bin/nimbleanvil ./cmd/nimbleanvil
}
