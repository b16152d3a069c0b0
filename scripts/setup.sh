# Shared by ./start and ./test: installs what is missing and runs a PostgreSQL of our own. Sourced, not run.
root="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
cd "$root" || exit 1
postgres_bin=/usr/lib/postgresql/15/bin

say() { printf '%s\n' "$@"; }
fail() { printf '%s\n' "$*" >&2; exit 1; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else fail "These Debian packages are missing, and installing them needs root: $debian_missing"; fi
}

# need_debian PACKAGE...: installs the ones that are not there.
need_debian() {
  local package
  debian_missing=""
  for package in "$@"; do
    dpkg-query -W -f '${Status}' "$package" 2>/dev/null | grep -q 'install ok installed' || debian_missing="$debian_missing $package"
  done
  [ -z "$debian_missing" ] && return 0
  say "Installing from Debian:$debian_missing"
  mkdir -p tmp
  as_root apt-get update >tmp/apt.log 2>&1
  # shellcheck disable=SC2086
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends $debian_missing >>tmp/apt.log 2>&1 ||
    { tail -n 20 tmp/apt.log >&2; fail "The Debian packages could not be installed; the lines above say why."; }
}

# npm packages, only when the lock file changed since the last time.
need_node_packages() {
  command -v node >/dev/null || fail "Node.js 20 or newer is needed; install it first."
  [ "$(node -p 'process.versions.node.split(".")[0]')" -ge 20 ] || fail "Node.js 20 or newer is needed; this is $(node --version)."
  local stamp
  stamp="$(sha256sum package-lock.json .npmrc | sha256sum | cut -c1-16)"
  [ "$(cat node_modules/.bright-reel-stamp 2>/dev/null)" = "$stamp" ] && return 0
  say "Installing npm packages"
  mkdir -p tmp
  npm ci >tmp/npm.log 2>&1 || { tail -n 20 tmp/npm.log >&2; fail "npm ci failed; the lines above say why."; }
  printf '%s' "$stamp" >node_modules/.bright-reel-stamp
}

free_port() {
  node -e 'const s=require("net").createServer();const want=Number(process.argv[1]||0);s.on("error",()=>{const t=require("net").createServer();t.listen(0,"127.0.0.1",()=>{console.log(t.address().port);t.close()})});s.listen(want,"127.0.0.1",()=>{console.log(s.address().port);s.close()})' "${1:-0}"
}

as_postgres() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

# start_postgres FOLDER DATABASE: a cluster of our own on loopback; sets DATABASE_URL. Uses DATABASE_URL if it is set.
start_postgres() {
  postgres_started=""
  if [ -n "${DATABASE_URL:-}" ]; then say "Using the database that DATABASE_URL names"; return 0; fi
  local folder="$1" port
  mkdir -p "$folder"
  if [ "$(id -u)" = 0 ]; then
    chown postgres "$folder"
    if ! as_postgres test -w "$folder" 2>/dev/null; then
      # The postgres user cannot reach this place (a private home, for instance).
      folder="/var/lib/postgresql/bright-reel-$(printf '%s' "$folder" | sha256sum | cut -c1-12)"
      install -d -o postgres -m 700 "$folder"
    fi
  fi
  postgres_folder="$folder/cluster"
  if ! as_postgres test -f "$postgres_folder/PG_VERSION"; then
    as_postgres "$postgres_bin/initdb" -D "$postgres_folder" -U postgres --auth=trust -E UTF8 --locale=C.UTF-8 >"${TMPDIR:-/tmp}/bright-reel-initdb.$$" 2>&1 ||
      { cat "${TMPDIR:-/tmp}/bright-reel-initdb.$$" >&2; fail "PostgreSQL could not make its data folder."; }
    rm -f "${TMPDIR:-/tmp}/bright-reel-initdb.$$"
  fi
  if as_postgres "$postgres_bin/pg_ctl" -D "$postgres_folder" status >/dev/null 2>&1; then
    port="$(as_postgres sed -n 4p "$postgres_folder/postmaster.pid")"
  else
    port="$(free_port)"
    as_postgres "$postgres_bin/pg_ctl" -D "$postgres_folder" -w -l "$postgres_folder/server.log" \
      -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c fsync=${POSTGRES_FSYNC:-on}" start >/dev/null ||
      { as_postgres tail -n 5 "$postgres_folder/server.log" >&2; fail "PostgreSQL did not start; the lines above say why."; }
    postgres_started=yes
  fi
  as_postgres "$postgres_bin/psql" -h 127.0.0.1 -p "$port" -U postgres -tAc "select 1 from pg_database where datname='$2'" postgres | grep -q 1 ||
    as_postgres "$postgres_bin/createdb" -h 127.0.0.1 -p "$port" -U postgres "$2"
  export DATABASE_URL="postgresql://postgres@127.0.0.1:$port/$2"
}

stop_postgres() {
  [ -n "${postgres_started:-}" ] && as_postgres "$postgres_bin/pg_ctl" -D "$postgres_folder" -m fast stop >/dev/null 2>&1
  postgres_started=""
}

# Builds the application when a source is newer than the build.
need_build() {
  if [ -f build/server/index.js ] && [ -z "$(find app core data jobs media package.json vite.config.ts react-router.config.ts -newer build/server/index.js -type f -print -quit)" ]; then return 0; fi
  say "Building"
  mkdir -p tmp
  npx --no-install react-router build >tmp/build.log 2>&1 || { tail -n 30 tmp/build.log >&2; fail "The build failed; the lines above say why."; }
}

# Ends the processes in "children": asks, waits three seconds (open connections hold a server back), then insists.
end_children() {
  local child try
  for child in "${children[@]}"; do kill "$child" 2>/dev/null; done
  for child in "${children[@]}"; do
    for ((try = 0; try < 30; try++)); do kill -0 "$child" 2>/dev/null || break; sleep 0.1; done
    kill -9 "$child" 2>/dev/null
    wait "$child" 2>/dev/null
  done
}
