import { and, desc, eq, sql } from 'drizzle-orm';
import { database } from './db';
import { present } from './media';
import type { HouseStyle } from '#core/reel';
import { houseStyles, shortSets, type ShortsDocument } from './schema';

export type ShortSet = typeof shortSets.$inferSelect;

export async function createShortSet(projectId: string, mediaId: string, document: ShortsDocument): Promise<ShortSet> {
  return (await database().insert(shortSets).values({ projectId, mediaId, document }).returning())[0]!;
}

export async function findShortSet(projectId: string, id: string): Promise<ShortSet | null> {
  if (!/^[0-9a-f-]{36}$/.test(id)) return null;
  return (
    (
      await database()
        .select()
        .from(shortSets)
        .where(and(eq(shortSets.projectId, projectId), eq(shortSets.id, id), present(shortSets.mediaId)))
    )[0] ?? null
  );
}

export const listShortSets = (projectId: string) =>
  database()
    .select()
    .from(shortSets)
    .where(and(eq(shortSets.projectId, projectId), present(shortSets.mediaId)))
    .orderBy(desc(shortSets.createdAt));

/** Changes a set as it stands, one after the other, so that two windows lose nothing. Null when it is gone. */
export async function changeShortSet(
  id: string,
  change: (document: ShortsDocument) => ShortsDocument,
): Promise<ShortSet | null> {
  return database().transaction(async (tx) => {
    const [row] = await tx.select().from(shortSets).where(eq(shortSets.id, id)).for('update');
    if (!row) return null;
    const [saved] = await tx
      .update(shortSets)
      .set({ document: change(row.document), version: sql`${shortSets.version} + 1` })
      .where(eq(shortSets.id, id))
      .returning();
    return saved!;
  });
}

export const deleteShortSet = (projectId: string, id: string) =>
  database()
    .delete(shortSets)
    .where(and(eq(shortSets.projectId, projectId), eq(shortSets.id, id)));

/** House styles of a project, and those that other projects share. */
export const listHouseStyles = (projectId: string) =>
  database()
    .select()
    .from(houseStyles)
    .where(sql`${houseStyles.projectId} = ${projectId} or ${houseStyles.shared}`)
    .orderBy(houseStyles.name);
export const saveHouseStyle = async (
  projectId: string,
  name: string,
  shared: boolean,
  document: HouseStyle,
  id?: string,
): Promise<string> => {
  if (id) {
    const [row] = await database()
      .update(houseStyles)
      .set({ name, shared, document })
      .where(and(eq(houseStyles.id, id), eq(houseStyles.projectId, projectId)))
      .returning({ id: houseStyles.id });
    if (row) return row.id;
  }
  return (
    await database().insert(houseStyles).values({ projectId, name, shared, document }).returning({ id: houseStyles.id })
  )[0]!.id;
};
export const deleteHouseStyle = (projectId: string, id: string) =>
  database()
    .delete(houseStyles)
    .where(and(eq(houseStyles.projectId, projectId), eq(houseStyles.id, id)));
