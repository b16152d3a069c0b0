import { and, asc, eq, inArray } from 'drizzle-orm';
import type { ColourTable } from '#core/look';
import { database } from './db';
import { colourTables } from './schema';

export const listTables = (projectId: string) =>
  database()
    .select({ id: colourTables.id, name: colourTables.name, size: colourTables.size })
    .from(colourTables)
    .where(eq(colourTables.projectId, projectId))
    .orderBy(asc(colourTables.createdAt));

export async function addTable(
  projectId: string,
  name: string,
  { size, from, to, values }: ColourTable,
): Promise<string> {
  const [row] = await database()
    .insert(colourTables)
    .values({
      projectId,
      name,
      size,
      from: [...from],
      to: [...to],
      values: Buffer.from(values.buffer, values.byteOffset, values.byteLength),
    })
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
  return new Map(
    rows.map((row) => [
      row.id,
      { size: row.size, from: row.from, to: row.to, values: new Float32Array(Uint8Array.from(row.values).buffer) },
    ]),
  );
}
