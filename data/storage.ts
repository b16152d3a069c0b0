import { settings } from '#settings';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, rename, rm, stat } from 'node:fs/promises';
import { dirname, join, resolve } from 'node:path';
import type { Readable } from 'node:stream';

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
}

/** Files in a folder of this machine. */
export class FolderStorage implements Storage {
  constructor(private readonly root: string) {}

  async adopt(key: string, localFile: string, options: { copy?: boolean } = {}): Promise<void> {
    const target = this.path(key);
    await mkdir(dirname(target), { recursive: true });
    if (!options.copy) {
      try {
        return await rename(localFile, target);
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EXDEV') throw error;
      }
    }
    const part = `${target}.${process.pid}.part`;
    try {
      await copyFile(localFile, part);
      await rename(part, target);
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

  private path(key: string): string {
    const path = resolve(this.root, key);
    if (!path.startsWith(`${resolve(this.root)}/`)) throw new Error(`"${key}" leaves the store`);
    return path;
  }
}

const dataFolder = (): string => resolve(settings().BRIGHT_REEL_DATA);
export const uploadFolder = (): string => join(dataFolder(), 'uploads');
/** For files in the making; on the same disk as the store, so that adopting one is a rename. */
export const scratchFolder = (): string => join(dataFolder(), 'scratch');
/** Where a render is made; what is whole of it lies in a folder beside it until it is finished or forgotten. */
export const renderPlace = ({ id, format }: { id: string; format: string }): string =>
  join(scratchFolder(), `render-${id}.${format}`);
export const partsOf = (place: string): string => `${place}.parts`;
export const storage = (): Storage => new FolderStorage(join(dataFolder(), 'store'));
