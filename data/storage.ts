import { settings } from '#settings';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, open, realpath, rename, rm, stat, utimes } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import { Readable as ReadableOf, type Readable } from 'node:stream';

/** Where files live. Keys are relative paths like "files/ab/abcdef.mp4". */
export interface Storage {
  /** Moves a finished local file into the store; it appears whole or not at all. */
  adopt(key: string, localFile: string, options?: { copy?: boolean }): Promise<void>;
  /** A local path with the content, for programs that want a file. */
  localPath(key: string): Promise<string>;
  /** Size in bytes, or null when there is no such file. */
  size(key: string): Promise<number | null>;
  read(key: string, range?: { start: number; end: number }): Readable;
  remove(key: string): Promise<void>;
  /** Marks what is there as wanted just now, so that it is not collected before something refers to it. */
  keepFresh(key: string): Promise<void>;
}

/** Waits until a file, or the names in a folder, are on the disk, so that a power cut takes nothing that was confirmed (fsync(2)). */
async function flush(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}

/** Makes a folder, and those above it that are missing; a new one is there after a power cut as well. */
async function makeFolder(folder: string): Promise<void> {
  const first = await mkdir(folder, { recursive: true });
  for (let made = folder; first && made.length >= first.length; made = dirname(made)) await flush(dirname(made));
}

/** Files in a folder of this machine. */
export class FolderStorage implements Storage {
  constructor(private readonly root: string) {}

  async adopt(key: string, localFile: string, options: { copy?: boolean } = {}): Promise<void> {
    const target = this.path(key);
    await makeFolder(dirname(target));
    if (!options.copy) {
      try {
        await flush(localFile);
        await rename(localFile, target);
        return await flush(dirname(target));
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
      }
    }
    const part = `${target}.${process.pid}.part`;
    try {
      await copyFile(localFile, part);
      await flush(part);
      await rename(part, target);
      await flush(dirname(target));
      if (!options.copy) await rm(localFile, { force: true });
    } finally {
      await rm(part, { force: true });
    }
  }

  async localPath(key: string): Promise<string> {
    return this.path(key);
  }

  async size(key: string): Promise<number | null> {
    return stat(this.path(key)).then(
      (stats) => stats.size,
      () => null,
    );
  }

  read(key: string, range?: { start: number; end: number }): Readable {
    return createReadStream(this.path(key), range);
  }

  async remove(key: string): Promise<void> {
    await rm(this.path(key), { recursive: true, force: true });
  }

  async keepFresh(key: string): Promise<void> {
    const now = new Date();
    await utimes(this.path(key), now, now).catch(() => undefined);
  }

  private path(key: string): string {
    const path = resolve(this.root, key);
    if (!path.startsWith(`${resolve(this.root)}/`)) throw new Error(`"${key}" leaves the store`);
    return path;
  }
}

export const dataFolder = (): string => resolve(settings().BRIGHT_REEL_DATA);
export const storeFolder = (): string => join(dataFolder(), 'store');
export const uploadFolder = (): string => join(dataFolder(), 'uploads');
/** For files in the making; on the same disk as the store, so that adopting one is a rename. */
export const scratchFolder = (): string => join(dataFolder(), 'scratch');
/** Where a render is made; what is whole of it lies in a folder beside it until it is finished or forgotten. */
export const renderPlace = ({ id, format }: { id: string; format: string }): string =>
  join(scratchFolder(), `render-${id}.${format}`);
export const partsOf = (place: string): string => `${place}.parts`;
const here = 'here:';
/** The key of a file that is used where it lies, below the folder that the operator allows. */
export const hereKey = (path: string): string => `${here}${path}`;
/** The path below that folder of what a key names; null for what lies in the store. */
export const herePath = (key: string): string | null => (key.startsWith(here) ? key.slice(here.length) : null);

/** The folder below which footage is used where it lies, without links; null where there is none. */
export async function hereRoot(): Promise<string | null> {
  const root = settings().BRIGHT_REEL_FOOTAGE;
  return root ? realpath(resolve(root)).catch(() => null) : null;
}

/** Where a path below that folder leads; null when it leads to nothing, or out of it. */
export async function placeHere(path: string): Promise<string | null> {
  const root = await hereRoot();
  const place = root && (await realpath(join(root, path)).catch(() => null));
  return root && place && (place === root || place.startsWith(`${root}/`)) ? place : null;
}

/** The store, and beside it what is used where it lies: that is only ever read. */
class StorageAndHere implements Storage {
  constructor(private readonly store: Storage) {}

  async adopt(key: string, localFile: string, options?: { copy?: boolean }): Promise<void> {
    if (herePath(key) !== null) throw new Error('Footage that is used where it lies is not written to.');
    await this.store.adopt(key, localFile, options);
  }

  async localPath(key: string): Promise<string> {
    const path = herePath(key);
    if (path === null) return this.store.localPath(key);
    const place = await placeHere(path);
    if (!place) throw Object.assign(new Error(`"${path}" is not there any more.`), { code: 'ENOENT' });
    return place;
  }

  async size(key: string): Promise<number | null> {
    const path = herePath(key);
    if (path === null) return this.store.size(key);
    const place = await placeHere(path);
    return place
      ? stat(place)
          .then((stats) => (stats.isFile() ? stats.size : null))
          .catch(() => null)
      : null;
  }

  read(key: string, range?: { start: number; end: number }): Readable {
    const path = herePath(key);
    if (path === null) return this.store.read(key, range);
    const file = this.localPath(key);
    const bytes = async function* () {
      yield* createReadStream(await file, range) as AsyncIterable<Buffer>;
    };
    return ReadableOf.from(bytes());
  }

  async keepFresh(key: string): Promise<void> {
    if (herePath(key) === null) await this.store.keepFresh(key);
  }

  async remove(key: string): Promise<void> {
    if (herePath(key) === null) await this.store.remove(key);
  }
}

export const storage = (): Storage => new StorageAndHere(new FolderStorage(storeFolder()));
