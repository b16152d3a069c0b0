import { readFileSync } from 'node:fs';
import { afterAll, describe, expect, it } from 'vitest';
import { closeDatabase, database, migrateDatabase } from './db';

const migration = (name: string) =>
  readFileSync(new URL(`./migrations/${name}.sql`, import.meta.url), 'utf8').split('--> statement-breakpoint');

describe.skipIf(!process.env.DATABASE_URL)('migrations', () => {
  afterAll(closeDatabase);

  it('are made one after another, and again without harm', async () => {
    await migrateDatabase();
    await migrateDatabase();
    const { rows } = await database().$client.query('select count(*)::int as made from drizzle.__drizzle_migrations');
    const { entries } = JSON.parse(
      readFileSync(new URL('./migrations/meta/_journal.json', import.meta.url), 'utf8'),
    ) as { entries: unknown[] };
    expect(rows).toEqual([{ made: entries.length }]);
  });

  it('0007 takes the family of a trace out of its name', async () => {
    const client = await database().$client.connect();
    try {
      await client.query(`create temp table traces (hash text, version int, parameters text, name text,
        constraint traces_hash_version_parameters_name_pk primary key (hash, version, parameters, name))`);
      const names = ['camera.dx', 'display.faces', 'faces', 'look', 'fine', 'mouth:3.0:12.40'];
      for (const name of names) await client.query(`insert into traces values ('h', 1, '', $1)`, [name]);
      for (const statement of migration('0007_trace_family')) await client.query(statement);
      const { rows } = await client.query<{ family: string; name: string }>('select family, name from traces');
      expect(rows.map(({ family, name }) => `${family} ${name}`).sort()).toEqual([
        'decided faces',
        'fine fine',
        'look look',
        'measured camera.dx',
        'measured faces',
        'mouth 3.0:12.40',
      ]);
    } finally {
      // The temporary table goes with its connection.
      client.release(true);
    }
  });
});
