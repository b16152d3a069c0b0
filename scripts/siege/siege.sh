#!/usr/bin/env bash
# Attacks an installation of its own on loopback and prints what came of it; see scripts/siege/index.ts.
set -u
. "$(dirname "${BASH_SOURCE[0]}")/../setup.sh"
# shellcheck disable=SC2086
need_debian $program_packages
need_postgres
need_node_packages
node --import tsx scripts/demoMedia.ts
need_build
work="$(mktemp -d "${TMPDIR:-/tmp}/bright-reel-siege.XXXXXX")"
chmod 755 "$work"
# A disk of its own, that can be filled; where none can be mounted that part is left out.
mkdir "$work/disk"
disk=""
mount -t tmpfs -o size=3g,mode=755 siege "$work/disk" 2>/dev/null && disk=yes
children=()
# Killing is what this is about.
most_ends=1000000
unset DATABASE_URL
start_postgres "$work/disk/postgres" siege || exit 1
stop() { trap - INT TERM EXIT; end_children; stop_postgres; [ -z "$disk" ] || umount -l "$work/disk"; rm -rf "$work"; exit "$1"; }
trap 'stop 130' INT TERM
trap 'stop 1' EXIT
export BRIGHT_REEL_DATA="$work/disk/data" HOST=127.0.0.1 BRIGHT_REEL_STALE_SECONDS=6 LOG_LEVEL=error NODE_ENV=production
own_user
own_data "$BRIGHT_REEL_DATA"
(umask 077 && "${service[@]}" node --import tsx scripts/prepare.ts >/dev/null) || stop 1
watch_postgres 2>/dev/null
export SIEGE_AS="${service[*]}" SIEGE_POSTGRES="$postgres_folder/postmaster.pid" SIEGE_WORK="$work" SIEGE_DISK="${disk:+$work/disk}"
node --import tsx scripts/siege/index.ts "$@"
stop $?
