# Set-up that runs before any Node.js package is there. Sourced by ./clear-mark and by its test.

say() { printf '%s\n' "$*" >&2; }

require_node() {
  if ! command -v node >/dev/null 2>&1 || ! command -v npm >/dev/null 2>&1; then
    say "Clear Mark needs Node.js 20 or newer with npm. Install it, then run this again."
    exit 3
  fi
  local major
  major="$(node -p 'process.versions.node.split(".")[0]')"
  if [ "$major" -lt 20 ]; then
    say "Clear Mark needs Node.js 20 or newer; this is $(node --version)."
    exit 3
  fi
}

# CLEAR_MARK_POSTGRES_ROOT and CLEAR_MARK_CHROMIUM let the test of this script look elsewhere.
postgres_there() {
  local bin
  for bin in "${CLEAR_MARK_POSTGRES_ROOT:-/usr/lib/postgresql}"/*/bin/initdb; do
    [ -x "$bin" ] && return 0
  done
  return 1
}
chromium_there() { [ -x "${CLEAR_MARK_CHROMIUM:-/usr/bin/chromium}" ]; }

# What several database machines are kept together by.
nodes_there() { [ -x /usr/bin/patroni ] && [ -x /usr/bin/etcd ] && [ -x /usr/sbin/haproxy ]; }

# Names of the Debian packages that are missing for these needs: database, browser, nodes.
missing_packages() {
  local need
  for need in "$@"; do
    case "$need" in
      database) postgres_there || printf 'postgresql ' ;;
      # The second is the same browser without windows: most browser tests run in it in less time.
      browser) chromium_there || printf 'chromium chromium-headless-shell ' ;;
      nodes) nodes_there || printf 'patroni etcd-server haproxy ' ;;
    esac
  done
}

require_packages() {
  local missing
  missing="$(missing_packages "$@")"
  missing="${missing% }"
  [ -z "$missing" ] && return 0
  local line="apt-get install -y --no-install-recommends $missing"
  if ! command -v apt-get >/dev/null 2>&1; then
    say "Missing: $missing. This is no Debian machine; install them by hand, then run this again."
    exit 3
  fi
  local as_root=()
  if [ "${CLEAR_MARK_UID:-$(id -u)}" -ne 0 ]; then
    if command -v sudo >/dev/null 2>&1 && { sudo -n true 2>/dev/null || [ -t 0 ]; }; then
      as_root=(sudo)
    else
      say "Missing Debian packages: $missing. Run this as root, then start again:"
      say "  $line"
      exit 3
    fi
  fi
  say "Installing Debian packages: $missing"
  no_main_cluster "${as_root[@]}"
  # shellcheck disable=SC2086
  if ! install_packages $missing; then
    say "The packages could not be installed. Run this as root and read what it says:"
    say "  $line"
    exit 3
  fi
}

# A server whose database is elsewhere needs no package of Debian's.
require_packages_of_start() { [ -n "${DATABASE_URL:-}" ] || require_packages database; }
require_packages_of_setup() { [ "$1" = server ] || require_packages database browser; }

# The package must not make and start a cluster of its own: ours is the only one we touch.
no_main_cluster() {
  local folder="${CLEAR_MARK_POSTGRES_CONF:-/etc/postgresql-common}"
  case "$missing" in *postgresql*) ;; *) return 0 ;; esac
  [ -e "$folder/createcluster.conf" ] && return 0
  "$@" mkdir -p "$folder"
  echo 'create_main_cluster = false' | "$@" tee "$folder/createcluster.conf" >/dev/null
}

install_packages() {
  local apt=("${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get -q)
  local options=(-y --no-install-recommends -o Dpkg::Options::=--force-confold)
  # The lists may be there and old: a first try costs seconds, an update minutes on a slow line.
  "${apt[@]}" install "${options[@]}" "$@" </dev/null >&2 && return 0
  "${apt[@]}" update </dev/null >&2 && "${apt[@]}" install "${options[@]}" "$@" </dev/null >&2
}

# npm packages follow the lock file: installed again when it changed.
require_npm() {
  local wanted stamp="node_modules/.clear-mark-lock"
  wanted="$(node -p 'require("crypto").createHash("sha256").update(require("fs").readFileSync("package-lock.json")).digest("hex")')"
  [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$wanted" ] && return 0
  say "Installing npm packages"
  if ! npm ci --no-audit --no-fund --loglevel=error </dev/null >&2; then
    say "The npm packages could not be installed. Is the npm registry within reach?"
    exit 3
  fi
  printf '%s' "$wanted" >"$stamp"
}
