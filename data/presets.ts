import { asc, eq, isNull } from 'drizzle-orm';
import type { Coding } from '#core/reel';
import { database } from './db';
import { outputPresets } from './schema';

export async function listPresets() {
  const rows = await database()
    .select({ id: outputPresets.id, name: outputPresets.name, coding: outputPresets.coding })
    .from(outputPresets)
    .where(isNull(outputPresets.removedAt))
    .orderBy(asc(outputPresets.createdAt));
  // Those that were kept before captions could be beside have them in the picture.
  return rows.map(({ coding, ...row }) => ({ ...row, coding: { ...coding, captions: coding.captions ?? 'burnt' } }));
}

/** @returns its id */
export async function addPreset(name: string, coding: Coding): Promise<string> {
  const [row] = await database().insert(outputPresets).values({ name, coding }).returning({ id: outputPresets.id });
  return row!.id;
}

/** Nothing is deleted: it can be brought back. */
export const setPresetRemoved = (id: string, removed: boolean) =>
  database()
    .update(outputPresets)
    .set({ removedAt: removed ? new Date() : null })
    .where(eq(outputPresets.id, id));
