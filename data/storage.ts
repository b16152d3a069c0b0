import { settings } from '#settings';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, open, readdir, realpath, rename, rm, stat, utimes } from 'node:fs/promises';
import { dirname, join, relative, resolve } from 'node:path';
import { Readable as ReadableOf, type Readable } from 'node:stream';
import { LocalCache } from './localCache';
import { bucketOf, s3Client, S3Storage } from './s3Storage';
import type { Address, ByteRange, Storage, StoredFile } from './store';

/** Every file below a folder; none when it is not there. */
export async function filesBelow(folder: string): Promise<StoredFile[]> {
  const found: StoredFile[] = [];
  const look = async (at: string): Promise<void> => {
    for (const entry of await readdir(at, { withFileTypes: true }).catch(() => [])) {
      const path = join(at, entry.name);
      if (entry.isDirectory()) await look(path);
      else {
        const stats = await stat(path).catch(() => null);
        if (stats) found.push({ key: relative(folder, path), bytes: stats.size, changedAt: stats.mtimeMs });
      }
    }
  };
  await look(folder);
  return found;
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

  isNear(): Promise<boolean> {
    return Promise.resolve(true);
  }

  async size(key: string): Promise<number | null> {
    return stat(this.path(key)).then(
      (stats) => (stats.isFile() ? stats.size : null),
      () => null,
    );
  }

  read(key: string, range?: ByteRange): Readable {
    return createReadStream(this.path(key), range);
  }

  async remove(key: string): Promise<void> {
    await rm(this.path(key), { recursive: true, force: true });
  }

  async list(prefix: string): Promise<StoredFile[]> {
    // A prefix may end in the middle of a name.
    const folder = prefix.slice(0, prefix.lastIndexOf('/') + 1);
    const found = await filesBelow(folder ? this.path(folder) : this.root);
    return found.map((each) => ({ ...each, key: folder + each.key })).filter(({ key }) => key.startsWith(prefix));
  }

  address(): Promise<null> {
    return Promise.resolve(null);
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
/** Whether files lie in a bucket, which several machines share, and not in a folder. */
export const isInBucket = (): boolean => settings().BRIGHT_REEL_STORAGE?.startsWith('s3://') ?? false;
/** Copies of what lies in a bucket. */
const cacheFolder = (): string => settings().BRIGHT_REEL_CACHE ?? join(dataFolder(), 'cache');
export const uploadFolder = (): string => join(dataFolder(), 'uploads');
/** For files in the making; on the same disk as the store, so that adopting one is a rename. */
export const scratchFolder = (): string => join(dataFolder(), 'scratch');
/** Where a render is made; what is whole of it lies in a folder beside it until it is finished or forgotten. */
export const renderPlace = ({ id, format }: { id: string; format: string }): string =>
  join(scratchFolder(), `render-${id}.${format}`);
/** Where the stretches of a film that several make lie in the store until it is joined. */
export const stretchPlace = (renderId: string, name = ''): string => `stretches/${renderId}/${name}`;
/** Where a run makes stretches of a render that another joins. */
export const helpFolder = (render: { id: string; format: string }, run: string): string =>
  `${renderPlace(render)}.help-${run}`;
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

/** A store that is on its way from another: what is not here yet is still there. */
export class MovingStorage implements Storage {
  constructor(
    private readonly store: Storage,
    private readonly before: Storage,
  ) {}

  private async where(key: string): Promise<Storage> {
    return (await this.store.size(key)) === null && (await this.before.size(key)) !== null ? this.before : this.store;
  }

  adopt(key: string, localFile: string, options?: { copy?: boolean }): Promise<void> {
    return this.store.adopt(key, localFile, options);
  }
  async localPath(key: string): Promise<string> {
    return (await this.where(key)).localPath(key);
  }
  async isNear(key: string): Promise<boolean> {
    return (await this.store.isNear(key)) || (await this.before.isNear(key));
  }
  async size(key: string): Promise<number | null> {
    return (await this.store.size(key)) ?? this.before.size(key);
  }
  read(key: string, range?: ByteRange): Readable {
    const bytes = async function* (where: Promise<Storage>) {
      yield* (await where).read(key, range) as AsyncIterable<Buffer>;
    };
    return ReadableOf.from(bytes(this.where(key)));
  }
  async remove(key: string): Promise<void> {
    await Promise.all([this.store.remove(key), this.before.remove(key)]);
  }
  async list(prefix: string): Promise<StoredFile[]> {
    const now = await this.store.list(prefix);
    const there = new Set(now.map(({ key }) => key));
    return [...now, ...(await this.before.list(prefix)).filter(({ key }) => !there.has(key))];
  }
  async address(key: string, how: Address): Promise<string | null> {
    return (await this.where(key)).address(key, how);
  }
  async keepFresh(key: string): Promise<void> {
    await (await this.where(key)).keepFresh(key);
  }
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

  isNear(key: string): Promise<boolean> {
    return herePath(key) === null ? this.store.isNear(key) : Promise.resolve(true);
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

  read(key: string, range?: ByteRange): Readable {
    const path = herePath(key);
    if (path === null) return this.store.read(key, range);
    const file = this.localPath(key);
    const bytes = async function* () {
      yield* createReadStream(await file, range) as AsyncIterable<Buffer>;
    };
    return ReadableOf.from(bytes());
  }

  list(prefix: string): Promise<StoredFile[]> {
    return herePath(prefix) === null ? this.store.list(prefix) : Promise.resolve([]);
  }

  address(key: string, how: Address): Promise<string | null> {
    return herePath(key) === null ? this.store.address(key, how) : Promise.resolve(null);
  }

  async keepFresh(key: string): Promise<void> {
    if (herePath(key) === null) await this.store.keepFresh(key);
  }

  async remove(key: string): Promise<void> {
    if (herePath(key) === null) await this.store.remove(key);
  }
}

/** The store that an address names: a bucket, or a folder of this machine. */
export function storeAt(address: string): Storage {
  const bucket = bucketOf(address);
  if (!bucket) return new FolderStorage(address);
  const { BRIGHT_REEL_S3_ENDPOINT, BRIGHT_REEL_S3_BROWSERS, BRIGHT_REEL_CACHE_BYTES } = settings();
  return new S3Storage(
    s3Client(BRIGHT_REEL_S3_ENDPOINT),
    bucket,
    new LocalCache(cacheFolder(), BRIGHT_REEL_CACHE_BYTES),
    BRIGHT_REEL_S3_BROWSERS ? s3Client(BRIGHT_REEL_S3_BROWSERS) : null,
  );
}

const stores = new Map<string, Storage>();
const known = (address: string): Storage => {
  const store = stores.get(address) ?? storeAt(address);
  stores.set(address, store);
  return store;
};

/** The store of this installation, and what is used where it lies. */
export function storage(): Storage {
  const { BRIGHT_REEL_STORAGE: now, BRIGHT_REEL_STORAGE_BEFORE: before } = settings();
  const store = known(now ?? storeFolder());
  return new StorageAndHere(before ? new MovingStorage(store, known(before)) : store);
}
