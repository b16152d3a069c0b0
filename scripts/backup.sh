#!/usr/bin/env bash
# ./bright-reel backup FOLDER and restore FOLDER; cli/main.ts says what they do.
set -u
command="${1:-}"
folder="${2:-}"
if [ -z "$folder" ] || [ $# -ne 2 ]; then
  echo "Give a folder: ./bright-reel $command FOLDER" >&2
  exit 2
fi
folder="$(realpath -m "$folder")"
. "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
need_postgres
export BRIGHT_REEL_DATA="${BRIGHT_REEL_DATA:-$root/data/local}"
store="${BRIGHT_REEL_STORAGE:-$BRIGHT_REEL_DATA/store}"
trap 'stop_postgres' EXIT

# A backup is whole once it says when it was made.
backup() {
  [ -n "${DATABASE_URL:-}" ] || [ -d "$BRIGHT_REEL_DATA/postgres" ] || fail "There is no installation in $BRIGHT_REEL_DATA. Name its folder in BRIGHT_REEL_DATA."
  start_postgres "$BRIGHT_REEL_DATA/postgres" bright_reel
  (umask 077 && mkdir -p "$folder") || fail "$folder cannot be written to."
  # The database first: what it names is in the store until long after.
  (umask 077 && "$postgres_bin/pg_dump" --format=custom --no-owner --no-acl --file="$folder/database.part" "$DATABASE_URL") || fail "The database could not be written to $folder; the lines above say why."
  rm -f "$folder/made"
  mv "$folder/database.part" "$folder/database.dump"
  $(node_of cli/main.ts) storage move "$store" "$folder/store" || fail "The database is in $folder, but not all files are. The same command goes on."
  date -u '+%Y-%m-%dT%H:%M:%SZ' >"$folder/made"
  say "The backup of $(cat "$folder/made") is in $folder."
}

restore() {
  [ -f "$folder/database.dump" ] && [ -f "$folder/made" ] || fail "There is no whole backup in $folder."
  mkdir -p "$BRIGHT_REEL_DATA"
  start_postgres "$BRIGHT_REEL_DATA/postgres" bright_reel
  [ "$("$postgres_bin/psql" -qtA "$DATABASE_URL" -c "select count(*) from pg_tables where schemaname = 'public'")" = 0 ] ||
    fail "The installation in $BRIGHT_REEL_DATA is not empty, and nothing in it is overwritten. Restore into another folder: BRIGHT_REEL_DATA=/new ./bright-reel restore $folder"
  "$postgres_bin/pg_restore" --no-owner --no-acl --exit-on-error --single-transaction --dbname="$DATABASE_URL" "$folder/database.dump" ||
    fail "The database could not be restored; the lines above say why. Nothing was changed."
  [ ! -d "$folder/store" ] || $(node_of cli/main.ts) storage move "$folder/store" "$store" || fail "The database is restored, but not all files are: ./bright-reel storage move $folder/store $store"
  own_user
  own_data "$BRIGHT_REEL_DATA"
  say "The backup of $(cat "$folder/made") is restored into $BRIGHT_REEL_DATA. ./start brings it up to this version."
}

case "$command" in
  backup) backup ;;
  restore) restore ;;
  *) fail "./bright-reel backup FOLDER, or ./bright-reel restore FOLDER" ;;
esac
