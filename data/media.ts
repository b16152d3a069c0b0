import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { database } from './db';
import { isId } from './projects';
import { rangeParameters, type ReadingKey } from './readings';
import { files, media, readings, type MediaKind } from './schema';

export type MediaRow = typeof media.$inferSelect;

/** What the reading of an item is found by. */
export const keyOf = (row: Pick<MediaRow, 'fileHash' | 'parameters'>): ReadingKey => ({ hash: row.fileHash, parameters: row.parameters });

const rough = alias(readings, 'rough');

/** A project's item with what was read of it, if it was; the rough first pass stands in until the whole is there. */
export async function listMedia(projectId: string, readerVersion: number) {
  const of = (table: typeof readings | typeof rough, ending: string) => and(eq(table.hash, media.fileHash), eq(table.version, readerVersion), eq(table.parameters, sql`${media.parameters} || ${ending}`));
  const rows = await database()
    .select({
      id: media.id, name: media.name, hash: media.fileHash, binId: media.binId, position: media.position, problem: media.problem, createdAt: media.createdAt, readFrom: media.readFrom, readTo: media.readTo, parameters: media.parameters, defaultIn: media.defaultIn, defaultOut: media.defaultOut, syncOffset: media.syncOffset,
      size: files.size,
      whole: { probe: readings.probe, summary: readings.summary, sheets: readings.sheets, warnings: readings.warnings, loudness: readings.loudness, proxyKey: readings.proxyKey, tookSeconds: readings.tookSeconds, readAt: readings.createdAt },
      rough: { probe: rough.probe, summary: rough.summary, sheets: rough.sheets, warnings: rough.warnings, loudness: rough.loudness, proxyKey: rough.proxyKey, tookSeconds: rough.tookSeconds, readAt: rough.createdAt },
    })
    .from(media).innerJoin(files, eq(files.hash, media.fileHash))
    .leftJoin(readings, of(readings, '')).leftJoin(rough, of(rough, '~coarse'))
    .where(eq(media.projectId, projectId)).orderBy(asc(media.position), asc(media.createdAt));
  return rows.map(({ whole, rough: first, ...row }) => {
    const { proxyKey, ...reading } = (whole?.probe ? whole : first) ?? { probe: null, summary: null, sheets: null, warnings: null, loudness: null, proxyKey: null, tookSeconds: null, readAt: null };
    return { ...row, ...reading, hasProxy: Boolean(proxyKey), isRough: !whole?.probe && Boolean(first?.probe) };
  });
}
export type MediaItem = Awaited<ReturnType<typeof listMedia>>[number];

export async function findMedia(id: string): Promise<MediaRow | null> {
  if (!isId(id)) return null;
  return (await database().select().from(media).where(eq(media.id, id)))[0] ?? null;
}

export const findFile = async (hash: string) => (await database().select().from(files).where(eq(files.hash, hash)))[0] ?? null;

export async function addFile(hash: string, size: number, storageKey: string): Promise<void> {
  await database().insert(files).values({ hash, size, storageKey }).onConflictDoNothing();
}

/** Puts a file into a project; a file that is already there keeps its place. */
export async function addMedia(projectId: string, fileHash: string, name: string, binId: string | null = null): Promise<MediaRow> {
  const existing = await database().select().from(media).where(and(eq(media.projectId, projectId), eq(media.fileHash, fileHash)));
  if (existing[0]) return existing[0];
  const [row] = await database().insert(media)
    .values({ projectId, fileHash, name, binId, position: sql`(select coalesce(max(${media.position}), 0) + 1 from ${media} where ${media.projectId} = ${projectId})` }).returning();
  return row!;
}

export const setProblem = (fileHash: string, problem: string | null) => database().update(media).set({ problem }).where(eq(media.fileHash, fileHash));
export const moveToBin = (projectId: string, ids: string[], binId: string | null) =>
  database().update(media).set({ binId }).where(and(eq(media.projectId, projectId), inArray(media.id, ids)));
export const removeMedia = (projectId: string, ids: string[]) => database().delete(media).where(and(eq(media.projectId, projectId), inArray(media.id, ids)));

/** Kinds by file ending, for the time before a file was read. */
export function kindByName(name: string): MediaKind {
  if (/\.(jpe?g|png|webp|bmp|tiff?|heic)$/i.test(name)) return 'photo';
  return /\.(mp3|wav|m4a|aac|flac|ogg|opus|aiff?)$/i.test(name) ? 'sound' : 'video';
}

/** Which stretch of an item is to be read; null for the whole. Decisions and reels made before stay as they are. */
export const setReadingRange = (projectId: string, id: string, from: number | null, to: number | null) =>
  database().update(media).set({ readFrom: from, readTo: to, parameters: rangeParameters(from, to) }).where(and(eq(media.projectId, projectId), eq(media.id, id)));

/** Where items begin on the common clock of their synced bin. */
export async function setSyncOffsets(projectId: string, offsets: ReadonlyMap<string, number>): Promise<void> {
  await database().transaction(async (tx) => {
    for (const [id, syncOffset] of offsets) await tx.update(media).set({ syncOffset }).where(and(eq(media.projectId, projectId), eq(media.id, id)));
  });
}
