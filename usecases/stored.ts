import { storage } from '#data/storage';

/** What lies in the store under a key: its size in bytes, and a way to read all or a part of it; null when it is not there. */
export async function openStored(key: string) {
  const size = await storage().size(key);
  if (size === null) return null;
  return {
    size,
    read: (range?: { start: number; end: number }) => storage().read(key, range),
    /** Where a browser gets it by itself; null where it comes from here. */
    address: (how: { name?: string; type?: string }) => storage().address(key, how),
  };
}
