import { and, desc, eq, sql } from 'drizzle-orm';
import type { Montage } from '#core/montage';
import { hearingVersion, type MusicHearing } from '#core/sound';
import { database } from './db';
import { present } from './media';
import { hearings, montages } from './schema';

/** What was heard in a piece of music, if it was, by this version. */
export async function findHearing(hash: string): Promise<MusicHearing | null> {
  const [row] = await database()
    .select()
    .from(hearings)
    .where(and(eq(hearings.hash, hash), eq(hearings.version, hearingVersion)));
  return row?.hearing ?? null;
}

export const saveHearing = (hash: string, hearing: MusicHearing) =>
  database()
    .insert(hearings)
    .values({ hash, version: hearingVersion, hearing })
    .onConflictDoUpdate({ target: [hearings.hash, hearings.version], set: { hearing } });

export interface StoredMontage {
  id: string;
  version: number;
  document: Montage;
  reelId: string | null;
}

export async function loadMontage(projectId: string, mediaId: string): Promise<StoredMontage | null> {
  const [row] = await database()
    .select()
    .from(montages)
    .where(and(eq(montages.projectId, projectId), eq(montages.mediaId, mediaId)));
  return row ? { id: row.id, version: row.version, document: row.document, reelId: row.reelId } : null;
}

/** The music that was cut to last. */
export async function lastMontage(projectId: string): Promise<string | null> {
  const [row] = await database()
    .select({ media: montages.mediaId })
    .from(montages)
    .where(and(eq(montages.projectId, projectId), present(montages.mediaId)))
    .orderBy(desc(montages.updatedAt))
    .limit(1);
  return row?.media ?? null;
}

/** The music whose slots a reel follows. */
export async function montageOfReel(reelId: string): Promise<string | null> {
  const [row] = await database()
    .select({ media: montages.mediaId })
    .from(montages)
    .where(and(eq(montages.reelId, reelId), present(montages.mediaId)))
    .limit(1);
  return row?.media ?? null;
}

/** Saves on top of a version (0 for none yet). Null when somebody else was quicker: nothing is overwritten. */
export async function saveMontage(
  projectId: string,
  mediaId: string,
  version: number,
  document: Montage,
): Promise<StoredMontage | null> {
  const [row] =
    version === 0
      ? await database().insert(montages).values({ projectId, mediaId, document }).onConflictDoNothing().returning()
      : await database()
          .update(montages)
          .set({ document, version: sql`${montages.version} + 1`, updatedAt: new Date() })
          .where(and(eq(montages.projectId, projectId), eq(montages.mediaId, mediaId), eq(montages.version, version)))
          .returning();
  return row ? { id: row.id, version: row.version, document: row.document, reelId: row.reelId } : null;
}

export const tieReel = (id: string, reelId: string) =>
  database().update(montages).set({ reelId }).where(eq(montages.id, id));
