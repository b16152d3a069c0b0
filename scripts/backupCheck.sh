#!/usr/bin/env bash
# Backs an installation up while something is in use, restores it into an empty one, and compares the two. Part of ./test.
set -u
. "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
work="$(mktemp -d "${TMPDIR:-/tmp}/bright-reel-backup.XXXXXX")"
chmod 755 "$work"
trap 'stop_postgres; rm -rf "$work"' EXIT
unset DATABASE_URL BRIGHT_REEL_STORAGE
export BRIGHT_REEL_DATA="$work/one" POSTGRES_FSYNC=off LOG_LEVEL=error
mkdir -p "$BRIGHT_REEL_DATA"

# What a database holds, without when and by whom it was written out.
content() { "$postgres_bin/pg_dump" --data-only --no-owner --inserts "$1" | grep -v '^--\|^\\' | sort | sha256sum; }
files() { (cd "$1/store" && find . -type f -exec sha256sum {} + | sort); }
told() { say "$*" >&2; exit 1; }

start_postgres "$work/one/postgres" bright_reel
node --import tsx scripts/prepare.ts >/dev/null || told "The first installation could not be made."
before="$(content "$DATABASE_URL")"
[ "$(files "$work/one" | wc -l)" -gt 20 ] || told "The demo is not in the store."

# It runs meanwhile: the database is up, and is left so.
(unset DATABASE_URL; ./bright-reel backup "$work/backup") || told "The backup failed."
postgres_runs || told "The backup stopped a database that it did not start."
(unset DATABASE_URL; ./bright-reel backup "$work/backup") | grep -q 'The backup of' || told "A second backup into the same folder failed."
(unset DATABASE_URL; ./bright-reel restore "$work/backup") 2>&1 | grep -q 'is not empty' || told "An installation in use was not left alone."
(unset DATABASE_URL; ./bright-reel restore "$work") 2>&1 | grep -q 'no whole backup' || told "A folder without a backup was taken for one."
[ "$(content "$DATABASE_URL")" = "$before" ] || told "Backing up changed something."
stop_postgres

export BRIGHT_REEL_DATA="$work/two"
(unset DATABASE_URL; ./bright-reel restore "$work/backup") || told "Restoring failed."
unset DATABASE_URL
start_postgres "$work/two/postgres" bright_reel
[ "$(content "$DATABASE_URL")" = "$before" ] || told "The restored database is another one."
[ "$(files "$work/one")" = "$(files "$work/two")" ] || told "The restored files are others."
node --import tsx scripts/prepare.ts >/dev/null || told "What was restored cannot be started."
[ "$(content "$DATABASE_URL")" = "$before" ] || told "Starting what was restored changed it."
