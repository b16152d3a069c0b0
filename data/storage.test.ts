import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { open, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FolderStorage } from './storage';

/**
 * A name in a folder lasts over a power cut once the folder was flushed, what it names once that was (fsync(2); POSIX.1-2017,
 * fsync): the content first, then the name, then the folders that are new.
 */
describe('what is taken into the store', () => {
  afterEach(() => vi.restoreAllMocks());

  it.each([{ copy: false }, { copy: true }])(
    'is flushed before it has its name, and its name after ($copy)',
    async (options) => {
      const root = mkdtempSync(join(tmpdir(), 'bright-reel-test-'));
      const file = join(root, 'film.bin');
      writeFileSync(file, 'boats');
      const target = join(root, 'files/ab/film.bin');
      const handle = await open(file);
      const prototype = Object.getPrototypeOf(handle) as FileHandle;
      await handle.close();
      const hadItsName: boolean[] = [];
      const sync = prototype.sync;
      vi.spyOn(prototype, 'sync').mockImplementation(function (this: FileHandle) {
        hadItsName.push(existsSync(target));
        return sync.call(this);
      });
      await new FolderStorage(root).adopt('files/ab/film.bin', file, options);
      expect(readFileSync(target, 'utf8')).toBe('boats');
      expect(existsSync(file)).toBe(options.copy);
      // Two new folders and the content before, the folder of the name after.
      expect(hadItsName).toEqual([false, false, false, true]);
      hadItsName.length = 0;
      writeFileSync(file, 'ducks');
      await new FolderStorage(root).adopt('files/ab/other.bin', file, options);
      expect(hadItsName).toHaveLength(2);
    },
  );
});
