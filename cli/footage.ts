import { createHash } from 'node:crypto';
import { createReadStream, existsSync } from 'node:fs';
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { footageOf, type Footage } from '#core/moments';
import { readerVersion, type RawReading } from '#core/readings';
import type { Source } from '#core/reel';
import { sourceStartOf } from '#core/time';
import { MediaError } from '#media/process';
import type { Probe } from '#media/probe/probe';
import { readMedia } from '#media/read/read';
import { packReading, unpackReading } from '#media/read/readingPack';

/** A file that was read, as everything that is made of it needs it. */
export interface ReadFile {
  /** Its path; what reels know it by. */
  path: string;
  name: string;
  hash: string;
  probe: Probe;
  raw: RawReading;
  footage: Footage;
  source: Source & { hash: string };
}

interface ReadOptions {
  /** Readings are kept here, by content; a second call finds them. */
  cache?: string;
  /** Share of all files that are read, 0 to 1. */
  onProgress?(share: number): void;
}

/** Reads files one after another, or takes what was read of them before. @throws MediaError naming the file */
export async function readFiles(paths: readonly string[], { cache, onProgress }: ReadOptions): Promise<ReadFile[]> {
  const read: ReadFile[] = [];
  for (const [index, path] of paths.entries())
    read.push(await readOne(resolve(path), cache, (share) => onProgress?.((index + share) / paths.length)));
  return read;
}

async function readOne(
  path: string,
  cache: string | undefined,
  onProgress: (share: number) => void,
): Promise<ReadFile> {
  const hash = await hashOf(path).catch((error: unknown) => {
    throw new MediaError(`${path} cannot be opened: it was moved, renamed or deleted.`, { cause: error });
  });
  const kept = cache && join(cache, `${hash}.v${readerVersion}.reading`);
  const known = kept && existsSync(kept) ? unpackReading(await readFile(kept)) : null;
  const result =
    known ??
    (await withFolder((folder) => readMedia(path, { folder, onProgress })).catch((error: unknown) => {
      if (error instanceof MediaError) throw new MediaError(`${path}: ${error.message}`, { cause: error });
      throw error;
    }));
  if (kept && !known) {
    await mkdir(cache, { recursive: true });
    await writeFile(kept, packReading(result));
  }
  const { probe, raw } = result;
  const name = basename(path);
  const photo = probe.kind === 'photo';
  return {
    path,
    name,
    hash,
    probe,
    raw,
    footage: footageOf(path, raw, photo),
    source: {
      id: path,
      name,
      hash,
      durationSeconds: probe.durationSeconds,
      photo,
      soundOnly: probe.kind === 'sound',
      start: sourceStartOf(probe),
      reelName: probe.reelName,
    },
  };
}

async function hashOf(path: string): Promise<string> {
  const hash = createHash('sha256');
  for await (const chunk of createReadStream(path, { highWaterMark: 1 << 20 })) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

/** Does something in a folder that is gone afterwards. */
export async function withFolder<T>(act: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-'));
  try {
    return await act(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
