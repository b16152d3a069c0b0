import { storage } from '#data/storage';

/** What lies in the store under a key: its size in bytes, and a way to read all or a part of it; null when it is not there. */
export async function openStored(key: string) {
  const size = await storage().size(key);
  return size === null ? null : { size, read: (range?: { start: number; end: number }) => storage().read(key, range) };
}

/** The path of a stored file on this machine; null when it is not there. */
export const storedPath = async (key: string): Promise<string | null> =>
  (await storage().size(key)) === null ? null : storage().localPath(key);
