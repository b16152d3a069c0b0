import { stat } from 'node:fs/promises';
import { addFile, addMedia, findFile, type MediaRow } from './media';
import { contentHash, fileKey } from './contentHash';
import { storage } from './storage';

/** Takes a local file into the store and a project. The same content is stored once, whatever its name. */
export async function bringIn(
  projectId: string,
  localFile: string,
  name: string,
  options: { copy?: boolean; binId?: string | null } = {},
): Promise<MediaRow> {
  const hash = await contentHash(localFile);
  const known = await findFile(hash);
  if (!known || (await storage().size(known.storageKey)) === null) {
    const { size } = await stat(localFile);
    const key = known?.storageKey ?? fileKey(hash, name);
    await storage().adopt(key, localFile, options);
    await addFile(hash, size, key);
  }
  return addMedia(projectId, hash, name, options.binId ?? null);
}
