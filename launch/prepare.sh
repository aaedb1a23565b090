# Sourced by ./start, ./test and ./fadenkreuz: what they all need before anything of ours can run.

say() { printf '%s\n' "$*"; }
fail() { printf 'Not started: %s Cure: %s\n' "$1" "$2" >&2; exit 1; }

need_node() {
  command -v node >/dev/null || fail 'Node.js is not installed.' 'install Node 20.19 or newer.'
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' ||
    fail "Node $(node --version) is too old." 'install Node 20.19 or newer.'
}

missing=()
# need_packages TEST PACKAGE...: notes Debian packages that fetch_packages is to install, unless TEST holds.
need_packages() { eval "$1" || missing+=("${@:2}"); }
# All at once: each call of apt costs seconds.
fetch_packages() {
  [ "${#missing[@]}" -gt 0 ] || return 0
  if [ "$(id -u)" -ne 0 ]; then
    fail "${missing[*]} is missing." "run as root: apt-get install ${missing[*]}"
  fi
  say "Installing from Debian's packages: ${missing[*]}"
  # Debian would make and start a database of its own; ours is made by the start command.
  if [ ! -e /etc/postgresql-common ]; then
    mkdir -p /etc/postgresql-common/createcluster.d
    echo 'create_main_cluster = false' >/etc/postgresql-common/createcluster.d/fadenkreuz.conf
  fi
  { apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}"; } >.apt.log 2>&1 ||
    fail "apt-get could not install ${missing[*]}." "read $PWD/.apt.log."
}

need_postgresql() { need_packages 'ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1' postgresql; }

# One preparation at a time, however many commands are started together. The lock stands in our own folder: in one that
# everybody may write to, the name could lead elsewhere.
alone() {
  exec 9>.prepare.lock
  flock 9
  "$@"
  flock -u 9
  exec 9>&-
}

install() {
  [ "$(cat node_modules/.fadenkreuz-lock 2>/dev/null)" = "$(cksum <package-lock.json)" ] && return
  say 'Installing npm packages'
  npm ci --no-audit --no-fund --loglevel=error || fail 'npm ci failed.' 'read the lines above.'
  cksum <package-lock.json >node_modules/.fadenkreuz-lock
}

build() {
  local sources
  sources=$(find packages apps launch demo package-lock.json -type f \
    -not -path '*/node_modules/*' -not -path '*/dist/*' -not -path '*/build/*' -not -path '*/build-setup/*' \
    -not -path '*/.svelte-kit/*' -not -name '*.test.ts' -printf '%p %T@ %s\n' | sort | cksum)
  local log=$PWD/.build.log
  [ "$(cat .build-stamp 2>/dev/null)" = "$sources" ] && return
  say 'Building'
  rm -f .build-stamp
  npm run build --silent >"$log" 2>&1 || fail 'the build failed.' "read $log."
  printf '%s' "$sources" >.build-stamp
}

prepare() {
  alone install
  alone build
}
