#!/usr/bin/env bash
# Speed: the core and the readings (core), how soon the screens answer with two hours of footage (page), and large
# documents (large), how well the times left are told (times), how much more several workers do (scale). Without a word all
# of it but the last.
set -u
. "$(dirname "${BASH_SOURCE[0]}")/../setup.sh"
need_debian ffmpeg chromium
need_postgres
need_node_packages
what="${1:-}"
[ "$what" != scale ] || { need_debian iproute2; exec bash scripts/scale/scale.sh bench; }
case "$what" in "" | core) node --import tsx scripts/bench/core.ts ;; esac
[ "$what" = core ] && exit
[ "$what" = times ] || need_build
work="$(mktemp -d)"
chmod 755 "$work"
unset DATABASE_URL
POSTGRES_FSYNC=off start_postgres "$work/postgres" bench
trap 'stop_postgres; rm -rf "$work"' EXIT
export BRIGHT_REEL_DATA="$work/data"
if [ "$what" = times ] || [ "$what" = "" ]; then node --import tsx scripts/bench/timesLeft.ts; fi
[ "$what" = times ] || node --import tsx scripts/bench/page.ts "$what"
