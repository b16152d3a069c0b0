import { and, eq, like } from 'drizzle-orm';
import { stat } from 'node:fs/promises';
import { contentHash } from './contentHash';
import { database } from './db';
import { addFile, addMedia, findFile, setStorageKey, type MediaRow } from './media';
import { files, media, watchedFolders } from './schema';
import { hereKey, herePath, storage } from './storage';

/** Footage that is used where it lies on this machine, see `hereKey`; paths are relative to the folder that is allowed. */

/** Takes a file into a project where it lies. What the store holds already is used from there. */
export async function bringInHere(
  projectId: string,
  path: string,
  name: string,
  binId: string | null,
): Promise<MediaRow> {
  const place = await storage().localPath(hereKey(path));
  const hash = await contentHash(place);
  const known = await findFile(hash);
  if (!known) await addFile(hash, (await stat(place)).size, hereKey(path));
  else if ((await storage().size(known.storageKey)) !== known.size) await moveFile(hash, path);
  return addMedia(projectId, hash, name, binId);
}

/** Notes where a file lies now. */
export const moveFile = (hash: string, path: string) => setStorageKey(hash, hereKey(path));

/** Paths of all files that a project has from this machine; also of those that were taken out of it. */
export async function pathsHere(projectId: string): Promise<Set<string>> {
  const rows = await database()
    .select({ key: files.storageKey })
    .from(media)
    .innerJoin(files, eq(files.hash, media.fileHash))
    .where(and(eq(media.projectId, projectId), like(files.storageKey, 'here:%')));
  return new Set(rows.map(({ key }) => herePath(key)!));
}

export const listWatched = (projectId?: string) =>
  database()
    .select()
    .from(watchedFolders)
    .where(projectId === undefined ? undefined : eq(watchedFolders.projectId, projectId));

export const setWatched = async (projectId: string, path: string, on: boolean): Promise<void> => {
  if (on) await database().insert(watchedFolders).values({ projectId, path }).onConflictDoNothing();
  else
    await database()
      .delete(watchedFolders)
      .where(and(eq(watchedFolders.projectId, projectId), eq(watchedFolders.path, path)));
};
