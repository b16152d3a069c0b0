#!/usr/bin/env bash
# Speed: the core and the readings, then the Moments screen with two hours of footage in the browser.
set -u
. "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
need_debian ffmpeg postgresql-15 chromium
need_node_packages
[ "${1:-}" = page ] || node --import tsx scripts/bench.ts
need_build
work="$(mktemp -d)"
chmod 755 "$work"
unset DATABASE_URL
POSTGRES_FSYNC=off start_postgres "$work/postgres" bench
trap 'stop_postgres; rm -rf "$work"' EXIT
BRIGHT_REEL_DATA="$work/data" node --import tsx scripts/benchPage.ts
