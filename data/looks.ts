import { createHash } from 'node:crypto';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import type { ColourTable } from '#core/look';
import { database } from './db';
import { colourTables } from './schema';

type Row = typeof colourTables.$inferSelect;

export async function listTables(projectId: string) {
  await hashOlder(projectId);
  const rows = await database()
    .select({ id: colourTables.id, name: colourTables.name, size: colourTables.size, hash: colourTables.hash })
    .from(colourTables)
    .where(eq(colourTables.projectId, projectId))
    .orderBy(asc(colourTables.createdAt));
  return rows.map((row) => ({ ...row, hash: row.hash! }));
}

/** Of what a table makes of colours, whatever it is called and whichever project it is in. */
const hashOf = ({ size, from, to, values }: Pick<Row, 'size' | 'from' | 'to' | 'values'>): string =>
  createHash('sha256')
    .update(JSON.stringify([size, from, to]))
    .update(values)
    .digest('hex')
    .slice(0, 32);

/** Tables that an earlier version or an archive brought in have none yet; those of one project, or all. */
async function hashOlder(projectId: string | null): Promise<void> {
  const older = and(projectId === null ? undefined : eq(colourTables.projectId, projectId), isNull(colourTables.hash));
  for (const row of await database().select().from(colourTables).where(older))
    await database()
      .update(colourTables)
      .set({ hash: hashOf(row) })
      .where(eq(colourTables.id, row.id));
}

/** A table by what it makes of colours; null when no project has it. */
export async function findTable(hash: string): Promise<{ name: string; table: ColourTable } | null> {
  const find = () => database().select().from(colourTables).where(eq(colourTables.hash, hash)).limit(1);
  let [row] = await find();
  if (!row) {
    await hashOlder(null);
    [row] = await find();
  }
  return row ? { name: row.name, table: tableOf(row) } : null;
}

const tableOf = (row: Row): ColourTable => ({
  size: row.size,
  from: row.from,
  to: row.to,
  values: new Float32Array(Uint8Array.from(row.values).buffer),
});

export async function addTable(
  projectId: string,
  name: string,
  { size, from, to, values }: ColourTable,
): Promise<string> {
  const kept: Pick<Row, 'size' | 'from' | 'to' | 'values'> = {
    size,
    from: [...from],
    to: [...to],
    values: Buffer.from(values.buffer, values.byteOffset, values.byteLength),
  };
  const [row] = await database()
    .insert(colourTables)
    .values({ projectId, name, ...kept, hash: hashOf(kept) })
    .returning({ id: colourTables.id });
  return row!.id;
}

export const removeTable = (projectId: string, id: string) =>
  database()
    .delete(colourTables)
    .where(and(eq(colourTables.projectId, projectId), eq(colourTables.id, id)));

/** Tables by id; those that are not there any more are left out. */
export async function loadTables(projectId: string, ids: readonly string[]): Promise<Map<string, ColourTable>> {
  if (ids.length === 0) return new Map();
  const rows = await database()
    .select()
    .from(colourTables)
    .where(and(eq(colourTables.projectId, projectId), inArray(colourTables.id, [...ids])));
  return new Map(rows.map((row) => [row.id, tableOf(row)]));
}
