#!/usr/bin/env bash
# Opens the database of an earlier release in this version: data/fixtures holds one, and what was in it. Part of ./test.
set -u
. "$(dirname "${BASH_SOURCE[0]}")/../setup.sh"
work="$(mktemp -d "${TMPDIR:-/tmp}/bright-reel-upgrade.XXXXXX")"
chmod 755 "$work"
trap 'stop_postgres; rm -rf "$work"' EXIT
trap 'exit 130' INT TERM
unset DATABASE_URL BRIGHT_REEL_STORAGE
export BRIGHT_REEL_DATA="$work/data" BRIGHT_REEL_DEMO=no POSTGRES_FSYNC=off LOG_LEVEL=error
mkdir -p "$BRIGHT_REEL_DATA"
told() { say "$*" >&2; exit 1; }
in_sql() { "$postgres_bin/psql" -X -v ON_ERROR_STOP=1 -qtA "$DATABASE_URL" "$@"; }

for release in data/fixtures/release-*.sql.gz; do
  version="$(basename "$release" .sql.gz)"
  start_postgres "$work/$version" bright_reel
  zcat "$release" | in_sql -f - >/dev/null || told "The database of $version could not be laid out."
  before="$(in_sql -c 'select count(*) from drizzle.__drizzle_migrations')"
  node --import tsx scripts/prepare.ts || told "The database of $version could not be brought up to date."
  say "$version: $(($(in_sql -c 'select count(*) from drizzle.__drizzle_migrations') - before)) migrations"
  node --import tsx scripts/upgrade/check.ts "${release%.sql.gz}.json" || told "$version does not open as it should."
  # One that a later version has had is left alone.
  in_sql -c "insert into drizzle.__drizzle_migrations (hash, created_at) values ('later', 9999999999999)"
  (node --import tsx scripts/prepare.ts 2>&1 || :) | grep -q 'by a later version' || told "A database of a later version was not refused."
  stop_postgres
  unset DATABASE_URL
done
