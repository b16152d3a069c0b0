import { stat } from 'node:fs/promises';
import { addFile, addMedia, findFile, setStorageKey, type MediaRow } from './media';
import { contentHash, fileKey } from './contentHash';
import { herePath, storage } from './storage';

/** Takes a local file into the store and a project. The same content is stored once, whatever its name. */
export async function bringIn(
  projectId: string,
  localFile: string,
  name: string,
  options: { copy?: boolean; binId?: string | null } = {},
): Promise<MediaRow> {
  const hash = await contentHash(localFile);
  const known = await findFile(hash);
  if (!known || (await storage().size(known.storageKey)) !== known.size) {
    const { size } = await stat(localFile);
    // What lay on this machine and is not there any more is taken into the store from now on.
    const key = known && herePath(known.storageKey) === null ? known.storageKey : fileKey(hash, name);
    await storage().adopt(key, localFile, options);
    await addFile(hash, size, key);
    if (known && key !== known.storageKey) await setStorageKey(hash, key);
  } else await storage().keepFresh(known.storageKey);
  return addMedia(projectId, hash, name, options.binId ?? null);
}
