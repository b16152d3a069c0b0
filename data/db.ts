import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import { settings } from '#settings';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema> & { $client: pg.Pool };

/** What happens in it happens whole, or not at all. */
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

let shared: Database | null = null;

function databaseUrl(): string {
  const url = settings().DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set; ./start sets it.');
  return url;
}

/** A busy machine takes seconds to give a connection; one that takes longer is away. */
const connectionMilliseconds = 15_000;

/** One pool per process. A lost connection is replaced at the next query. */
export function database(): Database {
  if (!shared) {
    const pool = new pg.Pool({
      connectionString: databaseUrl(),
      max: 16,
      connectionTimeoutMillis: connectionMilliseconds,
    });
    const lost = (error: Error) => console.error(`database connection lost: ${error.message}`);
    pool.on('error', lost);
    pool.on('connect', (client) => client.on('error', lost));
    shared = drizzle(pool, { schema });
  }
  return shared;
}

/** A connection of its own, for whoever stays on one; not connected yet. @param name by which the database knows it */
export const ownConnection = (name: string): pg.Client =>
  new pg.Client({
    connectionString: databaseUrl(),
    connectionTimeoutMillis: connectionMilliseconds,
    keepAlive: true,
    application_name: name,
  });

/** Any number; the same for everybody who migrates. */
const migrationLock = 4310;

/** Brings the tables up to date; who comes at the same time waits. */
export async function migrateDatabase(): Promise<void> {
  const client = await database().$client.connect();
  try {
    await client.query('select pg_advisory_lock($1)', [migrationLock]);
    await migrate(database(), { migrationsFolder: new URL('./migrations', import.meta.url).pathname });
  } finally {
    await client.query('select pg_advisory_unlock($1)', [migrationLock]).catch(() => undefined);
    client.release();
  }
}

export async function closeDatabase(): Promise<void> {
  await shared?.$client.end();
  shared = null;
}

/** Whether a question gets an answer now. */
export const databaseAnswers = (): Promise<boolean> =>
  database()
    .$client.query('select 1')
    .then(
      () => true,
      () => false,
    );
