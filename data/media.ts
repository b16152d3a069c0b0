import { and, asc, desc, eq, inArray, isNotNull, isNull, ne, or, sql, type SQL } from 'drizzle-orm';
import { alias, type PgColumn } from 'drizzle-orm/pg-core';
import { readerVersion } from '#core/readings';
import { database } from './db';
import { isId } from './projects';
import { readingParameters, type ReadingKey, type ReadingWay } from './readings';
import { bins, files, media, readings, type MediaKind, type StoredProbe } from './schema';

export type MediaRow = typeof media.$inferSelect;

/** What the reading of an item is found by. */
export const keyOf = (row: Pick<MediaRow, 'fileHash' | 'parameters'>): ReadingKey => ({
  hash: row.fileHash,
  parameters: row.parameters,
});

const rough = alias(readings, 'rough');

/** A project's item with what was read of it, if it was; the rough first pass stands in until the whole is there. */
export async function listMedia(projectId: string) {
  const of = (table: typeof readings | typeof rough, ending: string) =>
    and(
      eq(table.hash, media.fileHash),
      eq(table.version, readerVersion),
      eq(table.parameters, sql`${media.parameters} || ${ending}`),
    );
  const rows = await database()
    .select({
      id: media.id,
      name: media.name,
      hash: media.fileHash,
      binId: media.binId,
      position: media.position,
      problem: media.problem,
      createdAt: media.createdAt,
      readFrom: media.readFrom,
      readTo: media.readTo,
      parameters: media.parameters,
      nextFrom: media.nextFrom,
      nextTo: media.nextTo,
      nextParameters: media.nextParameters,
      defaultIn: media.defaultIn,
      defaultOut: media.defaultOut,
      syncOffset: media.syncOffset,
      size: files.size,
      storageKey: files.storageKey,
      arrived: files.probe,
      whole: {
        probe: readings.probe,
        summary: readings.summary,
        sheets: readings.sheets,
        warnings: readings.warnings,
        loudness: readings.loudness,
        proxyKey: readings.proxyKey,
        tookSeconds: readings.tookSeconds,
        readAt: readings.createdAt,
      },
      rough: {
        probe: rough.probe,
        summary: rough.summary,
        sheets: rough.sheets,
        warnings: rough.warnings,
        loudness: rough.loudness,
        proxyKey: rough.proxyKey,
        tookSeconds: rough.tookSeconds,
        readAt: rough.createdAt,
      },
    })
    .from(media)
    .innerJoin(files, eq(files.hash, media.fileHash))
    .leftJoin(readings, of(readings, ''))
    .leftJoin(rough, of(rough, '~coarse'))
    .where(and(eq(media.projectId, projectId), isNull(media.removedAt)))
    .orderBy(asc(media.position), asc(media.createdAt));
  return rows.map(({ whole, rough: first, ...row }) => {
    const { proxyKey, ...reading } = (whole?.probe ? whole : first) ?? {
      probe: null,
      summary: null,
      sheets: null,
      warnings: null,
      loudness: null,
      proxyKey: null,
      tookSeconds: null,
      readAt: null,
    };
    return { ...row, ...reading, hasProxy: Boolean(proxyKey), isRough: !whole?.probe && Boolean(first?.probe) };
  });
}

/** The items of a project as they are stored, in the order of the footage; without what was taken out. */
export const listRows = (projectId: string): Promise<MediaRow[]> =>
  database()
    .select()
    .from(media)
    .where(and(eq(media.projectId, projectId), isNull(media.removedAt)))
    .orderBy(asc(media.position), asc(media.createdAt));

/** The items, of whatever project, that show a reading. */
export const itemsOfReading = ({ hash, parameters }: ReadingKey): Promise<MediaRow[]> =>
  database()
    .select()
    .from(media)
    .where(and(eq(media.fileHash, hash), eq(media.parameters, parameters), isNull(media.removedAt)));

export async function findMedia(id: string): Promise<MediaRow | null> {
  if (!isId(id)) return null;
  return (
    (
      await database()
        .select()
        .from(media)
        .where(and(eq(media.id, id), isNull(media.removedAt)))
    )[0] ?? null
  );
}

/** Items of whatever project, in the order of their ids; null for what is not there. */
export async function findItems(ids: readonly string[]): Promise<(MediaRow | null)[]> {
  const known = ids.filter(isId);
  const rows =
    known.length > 0
      ? await database()
          .select()
          .from(media)
          .where(and(inArray(media.id, known), isNull(media.removedAt)))
      : [];
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.map((id) => byId.get(id) ?? null);
}

export const findFile = async (hash: string) =>
  (await database().select().from(files).where(eq(files.hash, hash)))[0] ?? null;

/** Notes what a file is, as its header says. */
export const setFileProbe = (hash: string, probe: StoredProbe) =>
  database().update(files).set({ probe }).where(eq(files.hash, hash));

/** Notes where the content lies now. */
export const setStorageKey = (hash: string, storageKey: string) =>
  database().update(files).set({ storageKey }).where(eq(files.hash, hash));

export async function addFile(hash: string, size: number, storageKey: string): Promise<void> {
  await database().insert(files).values({ hash, size, storageKey }).onConflictDoNothing();
}

/** Puts a file into a project; one that is there keeps its place, one that was taken out comes back with all that hung on it. */
export async function addMedia(
  projectId: string,
  fileHash: string,
  name: string,
  binId: string | null = null,
): Promise<MediaRow> {
  const existing = await database()
    .select()
    .from(media)
    .where(and(eq(media.projectId, projectId), eq(media.fileHash, fileHash)));
  if (existing[0]?.removedAt) await bringBack(projectId, [existing[0].id]);
  if (existing[0]) return { ...existing[0], removedAt: null };
  const [bin] = binId ? await database().select().from(bins).where(eq(bins.id, binId)) : [];
  const inputLook = kindByName(name) === 'video' ? (bin?.inputLook ?? null) : null;
  const [row] = await database()
    .insert(media)
    .values({
      projectId,
      fileHash,
      name,
      binId,
      parameters: readingParameters({ range: null, sound: null, inputLook }),
      position: sql`(select coalesce(max(${media.position}), 0) + 1 from ${media} where ${media.projectId} = ${projectId})`,
    })
    .returning();
  return row!;
}

/** What is wrong with a file, for every item that shows this reading of it. */
export const setProblem = ({ hash, parameters }: ReadingKey, problem: string | null) =>
  database()
    .update(media)
    .set({ problem })
    .where(and(eq(media.fileHash, hash), eq(media.parameters, parameters)));
/** Puts an item where another one stands in the order of the footage. */
export const placeLike = (id: string, other: string) =>
  database()
    .update(media)
    .set({ position: sql`(select position from media m where m.id = ${other})` })
    .where(eq(media.id, id));
export const moveToBin = (projectId: string, ids: string[], binId: string | null) =>
  database()
    .update(media)
    .set({ binId })
    .where(and(eq(media.projectId, projectId), inArray(media.id, ids)));
export const renameMedia = (id: string, name: string) => database().update(media).set({ name }).where(eq(media.id, id));

const ofProject = (projectId: string, ids: string[]) => and(eq(media.projectId, projectId), inArray(media.id, ids));
/** Takes items out of a project. Nothing is deleted: `bringBack` restores them with all that hung on them. */
export const takeOut = (projectId: string, ids: string[]) =>
  database()
    .update(media)
    .set({ removedAt: new Date() })
    .where(and(ofProject(projectId, ids), isNull(media.removedAt)));
export const bringBack = (projectId: string, ids: string[]) =>
  database().update(media).set({ removedAt: null }).where(ofProject(projectId, ids));

/** Items that were taken out, the latest first. */
export const listTakenOut = (projectId: string) =>
  database()
    .select({ id: media.id, name: media.name, removedAt: media.removedAt })
    .from(media)
    .where(and(eq(media.projectId, projectId), isNotNull(media.removedAt)))
    .orderBy(desc(media.removedAt), asc(media.name));

/** For conditions on rows that name an item: it is in its project still. */
export const present = (mediaId: PgColumn) => sql`${mediaId} in (select id from media where removed_at is null)`;

/** What hangs on an item and leaves the project with it, in numbers. */
export interface Hanging {
  decisions: number;
  markers: number;
  /** Words that somebody corrected or brought in. */
  words: number;
  shorts: number;
  montages: number;
  /** Pieces of it in the groups of variants. */
  variants: number;
  /** Names of reels that show or play it; shorts are counted above. */
  reels: string[];
}

export async function whatHangsOn(projectId: string, ids: string[]): Promise<Hanging> {
  const count = async (query: SQL) => Number((await database().execute<{ count: string }>(query)).rows[0]?.count ?? 0);
  const list = sql`(${sql.join(
    ids.map((id) => sql`${id}::uuid`),
    sql`, `,
  )})`;
  const [decisions, markers, words, shorts, montages, variants] = await Promise.all([
    count(
      sql`select count(*) from decisions where project_id = ${projectId} and removed_at is null and media_id in ${list}`,
    ),
    count(
      sql`select count(*) from markers where project_id = ${projectId} and removed_at is null and media_id in ${list}`,
    ),
    count(sql`select coalesce(sum(jsonb_array_length(words)), 0) as count from transcripts where media_id in ${list}`),
    count(
      sql`select coalesce(sum(jsonb_array_length(document->'shorts')), 0) as count from short_sets where project_id = ${projectId} and media_id in ${list}`,
    ),
    count(sql`select count(*) from montages where project_id = ${projectId} and media_id in ${list}`),
    count(
      sql`select count(*) from boards b, jsonb_path_query(b.document, '$.groups[*].parts[*].media') part where b.project_id = ${projectId} and b.kind = 'variants' and (part #>> '{}')::uuid in ${list}`,
    ),
  ]);
  // The document is searched as text: an id stands nowhere else.
  const found = await database().execute<{ name: string }>(sql`
    select r.name from reels r join reel_revisions v on v.reel_id = r.id and v.number = r.head
    where r.project_id = ${projectId} and r.role is distinct from 'short' and v.document::text ~ ${ids.join('|')} order by r.name`);
  return { decisions, markers, words, shorts, montages, variants, reels: found.rows.map(({ name }) => name) };
}

/** Kinds by file ending, for the time before a file was read. */
export function kindByName(name: string): MediaKind {
  if (/\.(jpe?g|png|webp|bmp|tiff?|hei[cf]|avif)$/i.test(name)) return 'photo';
  return /\.(mp3|wav|m4a|aac|flac|ogg|opus|aiff?)$/i.test(name) ? 'sound' : 'video';
}

/**
 * How an item is to be read. What was read before stays until `adoptRange` puts the new reading in its place; without any
 * reading there is nothing to keep, and the way holds at once. Decisions and reels made before stay as they are.
 * @param read whether the item has a reading, whole or rough
 */
export async function setReadingWay(
  projectId: string,
  id: string,
  way: ReadingWay,
  read: boolean,
): Promise<MediaRow | null> {
  const from = way.range?.start ?? null;
  const to = way.range && Number.isFinite(way.range.end) ? way.range.end : null;
  const next = { nextFrom: from, nextTo: to, nextParameters: readingParameters(way) };
  const now = { readFrom: from, readTo: to, parameters: next.nextParameters, ...noNext };
  const [row] = await database()
    .update(media)
    .set(read ? next : now)
    .where(and(eq(media.projectId, projectId), eq(media.id, id)))
    .returning();
  return row ?? null;
}

const noNext = { nextFrom: null, nextTo: null, nextParameters: null };
const waitsFor = ({ hash, parameters }: ReadingKey) =>
  and(eq(media.fileHash, hash), eq(media.nextParameters, parameters));

/** Whether another item waits for this reading or shows it. */
export async function isWantedElsewhere({ hash, parameters }: ReadingKey, id: string): Promise<boolean> {
  const same = or(eq(media.parameters, parameters), eq(media.nextParameters, parameters));
  const rows = await database()
    .select({ id: media.id })
    .from(media)
    .where(and(eq(media.fileHash, hash), ne(media.id, id), isNull(media.removedAt), same))
    .limit(1);
  return rows.length > 0;
}

/** A stretch was read: it takes the place of what its items showed. */
export const adoptRange = (key: ReadingKey) =>
  database()
    .update(media)
    .set({
      readFrom: sql`${media.nextFrom}`,
      readTo: sql`${media.nextTo}`,
      parameters: sql`${media.nextParameters}`,
      problem: null,
      ...noNext,
    })
    .where(waitsFor(key));

/**
 * A stretch will not be read after all: what was shown stays; an item without any reading goes back to the whole file and
 * the usual sound. It keeps its input look.
 */
export async function dropRange(key: ReadingKey): Promise<void> {
  await database().update(media).set(noNext).where(waitsFor(key));
  if (key.parameters === '') return;
  const unread = sql`not exists (select 1 from readings r where r.hash = ${media.fileHash} and r.parameters in (${media.parameters}, ${media.parameters} || '~coarse'))`;
  await database()
    .update(media)
    .set({ readFrom: null, readTo: null, parameters: withLookOnly })
    .where(and(eq(media.fileHash, key.hash), eq(media.parameters, key.parameters), unread));
}

/** The last of the three parts that `readingParameters` writes. */
const withLookOnly = sql`case when split_part(${media.parameters}, ',', 3) = '' then '' else ',,' || split_part(${media.parameters}, ',', 3) end`;

/** Where items begin on the common clock of their synced bin. */
export async function setSyncOffsets(projectId: string, offsets: ReadonlyMap<string, number>): Promise<void> {
  await database().transaction(async (tx) => {
    for (const [id, syncOffset] of offsets)
      await tx
        .update(media)
        .set({ syncOffset })
        .where(and(eq(media.projectId, projectId), eq(media.id, id)));
  });
}
