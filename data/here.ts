import { and, eq, getTableColumns, isNull, like, lte, ne } from 'drizzle-orm';
import { stat } from 'node:fs/promises';
import { contentHash } from './contentHash';
import { database } from './db';
import { addFile, addMedia, findFile, setStorageKey, type MediaRow } from './media';
import { files, media, projects, watchedFolders } from './schema';
import { hereKey, herePath, storage } from './storage';

/** Footage that is used where it lies on this machine, see `hereKey`; paths are relative to the folder that is allowed. */

/** Takes a file into a project where it lies. What the store holds already is used from there. */
export async function bringInHere(
  projectId: string,
  path: string,
  name: string,
  binId: string | null,
): Promise<MediaRow> {
  const { hash, size } = await settledContent(await storage().localPath(hereKey(path)));
  const known = await findFile(hash);
  if (!known) await addFile(hash, size, hereKey(path));
  else if ((await storage().size(known.storageKey)) !== known.size) await moveFile(hash, path);
  await followGrowth(projectId, path, hash, size);
  return addMedia(projectId, hash, name, binId);
}

/** What is still being written after so many looks is taken as it is; `followGrowth` does the rest. */
const mostLooks = 4;

/** The content of a file and its length, when neither changed while it was looked at: it may still be copied there. */
async function settledContent(place: string): Promise<{ hash: string; size: number }> {
  for (let look = 1; ; look++) {
    const before = await stat(place);
    const hash = await contentHash(place);
    const { size, mtimeMs } = await stat(place);
    if ((size === before.size && mtimeMs === before.mtimeMs) || look === mostLooks) return { hash, size };
  }
}

/** What was brought in from this path when it was shorter, or when its beginning was not written yet, was not whole then: its item has the whole from now on. */
async function followGrowth(projectId: string, path: string, hash: string, size: number): Promise<void> {
  const shorter = await database()
    .select({ hash: files.hash })
    .from(files)
    .where(and(eq(files.storageKey, hereKey(path)), ne(files.hash, hash), lte(files.size, size)));
  const own = (of: string) => and(eq(media.projectId, projectId), eq(media.fileHash, of));
  for (const file of shorter) {
    if ((await database().select().from(media).where(own(hash))).length > 0) return;
    await database().update(media).set({ fileHash: hash, problem: null }).where(own(file.hash));
  }
}

/** Notes where a file lies now. */
export const moveFile = (hash: string, path: string) => setStorageKey(hash, hereKey(path));

/** Paths of all files that a project has from this machine, with their sizes; also of those that were taken out of it. */
export async function pathsHere(projectId: string): Promise<Map<string, number>> {
  const rows = await database()
    .select({ key: files.storageKey, size: files.size })
    .from(media)
    .innerJoin(files, eq(files.hash, media.fileHash))
    .where(and(eq(media.projectId, projectId), like(files.storageKey, 'here:%')));
  return new Map(rows.map(({ key, size }) => [herePath(key)!, size]));
}

export const listWatched = (projectId?: string) =>
  database()
    .select(getTableColumns(watchedFolders))
    .from(watchedFolders)
    .innerJoin(projects, and(eq(projects.id, watchedFolders.projectId), isNull(projects.removedAt)))
    .where(projectId === undefined ? undefined : eq(watchedFolders.projectId, projectId));

export const setWatched = async (projectId: string, path: string, on: boolean): Promise<void> => {
  if (on) await database().insert(watchedFolders).values({ projectId, path }).onConflictDoNothing();
  else
    await database()
      .delete(watchedFolders)
      .where(and(eq(watchedFolders.projectId, projectId), eq(watchedFolders.path, path)));
};
