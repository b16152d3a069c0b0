import { readFileSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { database } from './db';
import { roomLeft } from './room';

const oldestServer = 14;

/** What a database is, before this program changes anything in it. */
export interface DatabaseState {
  /** Major version of PostgreSQL. */
  server: number;
  encoding: string;
  /** When the latest of its migrations was written, in milliseconds; null in an empty database. */
  latest: number | null;
  /** Workers that were heard of just now. */
  workers: number;
  /** Bytes that the disk of the data has to spare. */
  room: number;
}

/**
 * Why the tables of a database may not be brought up to date now; null when they may, or are already.
 * @param known when the migrations of this program were written, in milliseconds
 */
export function whyNotUpgrade(state: DatabaseState, known: readonly number[]): string | null {
  const { server, encoding, latest, workers, room } = state;
  if (server < oldestServer)
    return `The database is PostgreSQL ${server}; Bright Reel needs ${oldestServer} or newer. Make a backup, and restore it into a newer one.`;
  if (encoding !== 'UTF8')
    return `The database keeps its text as ${encoding}; Bright Reel needs UTF8. Make one with: create database … encoding 'UTF8' template template0`;
  const last = Math.max(...known);
  if (latest !== null && latest > last)
    return 'This database was brought up to date by a later version of Bright Reel, and this one would not understand what is in it. Start that version, or restore the backup that was made before it.';
  if (latest === null || latest === last) return null;
  if (workers > 0)
    return `${workers === 1 ? 'A worker' : `${workers} workers`} of the version before ${workers === 1 ? 'is' : 'are'} still at work with these tables. Drain or stop ${workers === 1 ? 'it' : 'them'} first, then start this version again.`;
  if (room === 0)
    return 'The disk is too full to change tables. Free some room, then start this version again. Nothing was changed.';
  return null;
}

/** When the migrations of this program were written. */
function knownMigrations(): number[] {
  const journal = readFileSync(new URL('./migrations/meta/_journal.json', import.meta.url), 'utf8');
  return (JSON.parse(journal) as { entries: { when: number }[] }).entries.map(({ when }) => when);
}

async function stateOf(): Promise<DatabaseState> {
  const ask = async <T extends object>(query: string) => (await database().$client.query<T>(query)).rows;
  const isThere = async (table: string) =>
    (await ask<{ found: string | null }>(`select to_regclass('${table}') as found`))[0]!.found !== null;
  const [about] = await ask<{ server: string; encoding: string }>(
    "select current_setting('server_version_num') as server, current_setting('server_encoding') as encoding",
  );
  const migrated = (await isThere('drizzle.__drizzle_migrations'))
    ? await ask<{ latest: string | null }>('select max(created_at) as latest from drizzle.__drizzle_migrations')
    : [];
  const there = (await isThere('public.workers'))
    ? await ask<{ count: string }>(
        "select count(*) as count from workers where heartbeat_at > now() - interval '15 seconds'",
      )
    : [];
  return {
    server: Math.floor(Number(about!.server) / 10_000),
    encoding: about!.encoding,
    latest: migrated[0]?.latest == null ? null : Number(migrated[0].latest),
    workers: Number(there[0]?.count ?? 0),
    room: await roomLeft(),
  };
}

/** A worker that was killed counts as there for some seconds more. */
const patienceMilliseconds = 20_000;

/** @throws Error with a sentence when the tables may not be brought up to date; nothing was changed then */
export async function checkUpgrade(): Promise<void> {
  const known = knownMigrations();
  for (const until = Date.now() + patienceMilliseconds; ; await sleep(500)) {
    const state = await stateOf();
    const why = whyNotUpgrade(state, known);
    if (why === null) return;
    if (state.workers === 0 || Date.now() > until) throw new Error(why);
  }
}
