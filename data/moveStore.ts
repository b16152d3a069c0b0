import { holdingFiles } from './localCache';
import type { Storage } from './store';

export interface Moved {
  /** Files that are at their new place, and how many there are. */
  done: number;
  all: number;
  bytes: number;
}

/** Files in the making appear under their own name once they are whole. */
const isWhole = (key: string): boolean => !key.endsWith('.part');

/**
 * Copies what a store holds into another, while both are in use; what is there already is left. It looks again for what
 * came meanwhile until nothing did. Broken off, it goes on where it was. Nothing is taken away.
 * @param tell after each file
 * @returns how far it came: to its end unless `signal` was aborted
 */
export async function moveStore(
  from: Storage,
  to: Storage,
  options: { signal?: AbortSignal; tell?(moved: Moved): void } = {},
): Promise<Moved> {
  let moved: Moved = { done: 0, all: 0, bytes: 0 };
  for (let isFirst = true, copied = 0; isFirst || copied > 0; isFirst = false) {
    copied = 0;
    const [wanted, there] = [await from.list(''), new Map((await to.list('')).map((each) => [each.key, each]))];
    const files = wanted.filter(({ key }) => isWhole(key));
    moved = { ...moved, done: 0, all: files.length };
    for (const { key, bytes, changedAt } of files) {
      if (options.signal?.aborted) return moved;
      const known = there.get(key);
      // What is there and newer was made anew since: it stays.
      if (!known || (known.bytes !== bytes && known.changedAt < changedAt)) {
        // What was deleted since it was listed is not wanted any more.
        const isThere = await holdingFiles(() => copy(from, to, key));
        if (isThere) moved.bytes += bytes;
        if (isThere) copied++;
      }
      moved.done++;
      options.tell?.({ ...moved });
    }
  }
  return moved;
}

async function copy(from: Storage, to: Storage, key: string): Promise<boolean> {
  try {
    await to.adopt(key, await from.localPath(key), { copy: true });
    return true;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    if ((await from.size(key)) !== null) throw error;
    return false;
  }
}
