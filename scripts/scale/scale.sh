#!/usr/bin/env bash
# Several machines in one: scale.sh proof | bench | limits. Database and store here, web server and workers on hosts of their own, each a
# network namespace where one may be made. See proof.ts, bench.ts and limits.ts beside it.
set -u
script="$(readlink -f "${BASH_SOURCE[0]}")"
# Everything in a network of its own: what listens there nobody else can reach.
if [ -z "${SCALE_INSIDE:-}" ] && [ "$(id -u)" = 0 ] && command -v ip >/dev/null && unshare --net true 2>/dev/null; then
  SCALE_INSIDE=yes exec unshare --net bash "$script" "$@"
fi
[ -z "${SCALE_INSIDE:-}" ] || ip link set lo up
. "$(dirname "$script")/../setup.sh"
work="$(mktemp -d "${TMPDIR:-/tmp}/bright-reel-scale.XXXXXX")"
chmod 755 "$work"
unset DATABASE_URL
trap 'stop_postgres; rm -rf "$work"' EXIT
trap 'exit 130' INT TERM
POSTGRES_FSYNC=off start_postgres "$work/postgres" scale || exit 1
export SCALE_WORK="$work" BRIGHT_REEL_DEMO=no LOG_LEVEL="${LOG_LEVEL:-info}"
node --import tsx "scripts/scale/$1.ts" || { code=$?; tail -n 8 "$work"/*.log >&2; exit "$code"; }
