import { asc, eq, isNull } from 'drizzle-orm';
import type { Coding } from '#core/reel';
import { database } from './db';
import { outputPresets } from './schema';

export const listPresets = () =>
  database()
    .select({ id: outputPresets.id, name: outputPresets.name, coding: outputPresets.coding })
    .from(outputPresets)
    .where(isNull(outputPresets.removedAt))
    .orderBy(asc(outputPresets.createdAt));

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
