import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, isNotNull, lt, notExists, sql, type SQL } from 'drizzle-orm';
import { database } from './db';
import { bins, files, media, projects, readings, recognitions, renders, renderStretches, runs, traces } from './schema';
import { filesBelow, scratchFolder, storage, uploadFolder } from './storage';
import { forgetUpload, uploadsBefore } from './uploads';
import type { StoredFile } from './store';

/** So long what was deleted or taken out can be brought back, and a broken upload goes on. */
export const graceDays = { deleted: 30, uploads: 7 } as const;
/** What came so lately may be about to be referred to. */
const freshMilliseconds = 3_600_000;
const dayMilliseconds = 86_400_000;

/** What takes room, by what it is for. */
export type RoomKind = 'footage' | 'readings' | 'finished' | 'uploads' | 'making';

const before = (milliseconds: number): Date => new Date(Date.now() - milliseconds);

/** Projects that were deleted so long ago, with all that is in them. @returns how many */
export async function forgetProjects(olderThanDays: number): Promise<number> {
  const gone = await database()
    .delete(projects)
    .where(and(isNotNull(projects.removedAt), lt(projects.removedAt, before(olderThanDays * dayMilliseconds))))
    .returning({ id: projects.id });
  return gone.length;
}

/** Bins that were deleted so long ago. */
export const forgetBins = (olderThanDays: number) =>
  database()
    .delete(bins)
    .where(and(isNotNull(bins.removedAt), lt(bins.removedAt, before(olderThanDays * dayMilliseconds))));

/** Items that were taken out so long ago and that no state of a reel, no montage, short or variant needs. @returns how many */
export async function forgetTakenOut(olderThanDays: number): Promise<number> {
  const isIn = (document: SQL) => sql`position(${media.id}::text in ${document}) > 0`;
  const wanted = [
    sql`(select 1 from reels r join reel_revisions v on v.reel_id = r.id where r.project_id = ${media.projectId} and ${isIn(sql`v.document::text`)})`,
    // A montage is of its song, and would go with it.
    sql`(select 1 from montages m where m.project_id = ${media.projectId} and (m.media_id = ${media.id} or ${isIn(sql`m.document::text`)}))`,
    sql`(select 1 from short_sets s where s.project_id = ${media.projectId} and (s.media_id = ${media.id} or ${isIn(sql`s.document::text`)}))`,
    sql`(select 1 from boards b where b.project_id = ${media.projectId} and b.kind = 'variants' and ${isIn(sql`b.document::text`)})`,
  ];
  const gone = await database()
    .delete(media)
    .where(
      and(
        isNotNull(media.removedAt),
        lt(media.removedAt, before(olderThanDays * dayMilliseconds)),
        ...wanted.map((one) => notExists(one)),
      ),
    )
    .returning({ id: media.id });
  return gone.length;
}

/** What is in the store and nothing refers to. */
async function unreferred(all: readonly StoredFile[]): Promise<StoredFile[]> {
  const hashes = new Set(
    (await database().selectDistinct({ hash: media.fileHash }).from(media)).map(({ hash }) => hash),
  );
  const keys = new Set(
    (await database().select({ key: renders.storageKey }).from(renders)).flatMap(({ key }) => (key ? [key] : [])),
  );
  const inTheMaking = new Set(
    (await database().selectDistinct({ id: renderStretches.renderId }).from(renderStretches)).map(({ id }) => id),
  );
  const isWanted = (key: string): boolean => {
    const [kind, second = '', third = ''] = key.split('/');
    if (kind === 'files') return hashes.has(third.slice(0, 64));
    if (kind === 'readings') return hashes.has(second);
    if (kind === 'stretches') return inTheMaking.has(second);
    return kind === 'renders' ? keys.has(key) : true;
  };
  const lately = Date.now() - freshMilliseconds;
  return all.filter(({ key, changedAt }) => changedAt < lately && !isWanted(key));
}

/**
 * Deletes what nothing refers to: rows first, so that a file that is brought in meanwhile is either there as a whole, or
 * stored anew. @returns bytes that were freed
 */
export async function sweepStore(): Promise<number> {
  const lost = await unreferred(await storage().list(''));
  let bytes = 0;
  for (const { key, bytes: own } of lost) {
    const [kind, second = '', third = ''] = key.split('/');
    const hash = kind === 'files' ? third.slice(0, 64) : second;
    if (kind === 'files' || kind === 'readings') {
      const free = notExists(sql`(select 1 from media where file_hash = ${hash})`);
      for (const table of [traces, runs, recognitions, readings])
        await database()
          .delete(table)
          .where(and(eq(table.hash, hash), free));
      const gone = await database()
        .delete(files)
        .where(and(eq(files.hash, hash), free))
        .returning({ hash: files.hash });
      const stays = await database().select({ hash: files.hash }).from(files).where(eq(files.hash, hash));
      if (gone.length === 0 && stays.length > 0) continue;
    }
    await storage().remove(key);
    bytes += own;
  }
  return bytes;
}

/** Uploads that were broken off so long ago. @returns bytes that were freed */
export async function sweepUploads(olderThanDays: number): Promise<number> {
  const age = Math.max(freshMilliseconds, olderThanDays * dayMilliseconds);
  let bytes = 0;
  for (const { id, received } of await uploadsBefore(before(age))) {
    await forgetUpload(id);
    bytes += received;
  }
  for (const { key, bytes: own, changedAt } of await filesBelow(uploadFolder())) {
    if (changedAt > Date.now() - age) continue;
    await rm(join(uploadFolder(), key), { force: true });
    bytes += own;
  }
  return bytes;
}

export interface Freeable {
  /** Deleted projects that can be brought back, and what only they refer to. */
  projects: { count: number; bytes: number };
  /** Items that were taken out of projects, and what only they refer to. */
  takenOut: { count: number; bytes: number };
  uploads: { count: number; bytes: number };
  unreferred: { count: number; bytes: number };
}

const sum = (list: readonly { bytes: number }[]) => ({
  count: list.length,
  bytes: list.reduce((all, { bytes }) => all + bytes, 0),
});

/** Bytes of everything that hangs on some contents, and how many of what names them there are. */
async function only(
  all: readonly StoredFile[],
  names: 'projects' | 'items',
): Promise<{ count: number; bytes: number }> {
  const removed =
    names === 'projects' ? sql`p.removed_at is not null` : sql`m.removed_at is not null and p.removed_at is null`;
  const { rows } = await database().execute<{ hash: string; count: string }>(
    sql`select m.file_hash as hash, count(*) as count from media m join projects p on p.id = m.project_id group by m.file_hash having bool_and(${removed})`,
  );
  const hashes = new Set(rows.map(({ hash }) => hash));
  const own = all.filter(({ key }) => {
    const [kind, second = '', third = ''] = key.split('/');
    return hashes.has(kind === 'files' ? third.slice(0, 64) : kind === 'readings' ? second : '');
  });
  const counted = await database().execute<{ count: string }>(
    names === 'projects'
      ? sql`select count(*) as count from projects where removed_at is not null`
      : sql`select count(*) as count from media m join projects p on p.id = m.project_id where m.removed_at is not null and p.removed_at is null`,
  );
  return { count: Number(counted.rows[0]?.count ?? 0), bytes: sum(own).bytes };
}

/** What takes how much on the disk, and what of it could be freed. */
export async function measureStore(): Promise<{ used: Record<RoomKind, number>; freeable: Freeable }> {
  const [stored, uploads, making] = await Promise.all([
    storage().list(''),
    filesBelow(uploadFolder()),
    filesBelow(scratchFolder()),
  ]);
  const below = (kind: string) => sum(stored.filter(({ key }) => key.startsWith(`${kind}/`))).bytes;
  const lately = Date.now() - freshMilliseconds;
  return {
    used: {
      footage: below('files'),
      readings: below('readings'),
      finished: below('renders'),
      uploads: sum(uploads).bytes + below('uploads'),
      making: sum(making).bytes + below('stretches'),
    },
    freeable: {
      projects: await only(stored, 'projects'),
      takenOut: await only(stored, 'items'),
      uploads: sum(uploads.filter(({ key, changedAt }) => !key.endsWith('.json') && changedAt < lately)),
      unreferred: sum(await unreferred(stored)),
    },
  };
}

/** Room that the files of each project take; one that is in several counts for each. */
export async function roomOfProjects(): Promise<{ id: string; name: string; bytes: number; removed: boolean }[]> {
  const { rows } = await database().execute<{ id: string; name: string; bytes: string; removed: boolean }>(sql`
    select p.id, p.name, p.removed_at is not null as removed,
      coalesce((select sum(f.size) from files f where f.hash in (select m.file_hash from media m where m.project_id = p.id)), 0)
      + coalesce((select sum(r.size) from renders r where r.project_id = p.id), 0) as bytes
    from projects p order by bytes desc, p.name limit 200`);
  return rows.map((row) => ({ ...row, bytes: Number(row.bytes) }));
}
