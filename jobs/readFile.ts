import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { readerVersion } from '#core/readings';
import { readMedia } from '#media/read';
import { MediaError } from '#media/process';
import { findFile, setProblem } from '#data/media';
import { findReading, saveReading } from '#data/readings';
import { scratchFolder, storage } from '#data/storage';
import type { Work } from './runTask';

export const readingFolder = (hash: string): string => `readings/${hash}/${readerVersion}`;

/** Reads a file that lies in the store and keeps what it found. A file that was read before costs nothing. */
export async function readFile({ task, signal, progress }: Work): Promise<string | null> {
  const hash = task.subject;
  if (await findReading(hash, readerVersion)) return null;
  const file = await findFile(hash);
  if (!file) throw new MediaError('The file is not in the store any more. Bring it in again.');
  const folder = join(scratchFolder(), `read-${task.id}`);
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  const started = Date.now();
  try {
    const result = await readMedia(await storage().localPath(file.storageKey), { folder, proxy: true, signal, onProgress: progress });
    for (const name of await readdir(folder)) await storage().adopt(`${readingFolder(hash)}/${name}`, join(folder, name));
    const { kind, durationSeconds, rate, width, height, hasSound, videoCodec, audioCodec, format } = result.probe;
    await saveReading({
      hash, version: readerVersion, raw: result.raw, sheets: result.sheets, integratedLufs: result.integratedLufs, warnings: result.warnings,
      probe: { kind, durationSeconds, rate, width, height, hasSound, videoCodec, audioCodec, format },
      proxyKey: result.proxy ? `${readingFolder(hash)}/proxy.mp4` : null, tookSeconds: (Date.now() - started) / 1000,
    });
    await setProblem(hash, null);
    return result.warnings[0] ?? null;
  } catch (error) {
    if (error instanceof MediaError) await setProblem(hash, error.message);
    throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
