import { keyOfSubject } from '#data/tasks';
import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { changedParts, readerVersion } from '#core/readings';
import type { Range } from '#core/time';
import { readMedia, type ReadOptions, type ReadResult } from '#media/read/read';
import { readCoarse } from '#media/read/readCoarse';
import { probe } from '#media/probe/probe';
import { MediaError } from '#media/process';
import { adoptRange, dropRange, findFile, setProblem } from '#data/media';
import {
  coarse,
  findEarlierReading,
  findReading,
  forgetReading,
  loadRaw,
  readingFolder,
  saveReading,
  type ReadingKey,
} from '#data/readings';
import { scratchFolder, storage } from '#data/storage';
import { enqueueWords } from '../queue';
import { storedProbe } from '../storedProbe';
import type { Work } from './runTask';

/** Shorter files are read whole at once. */
const roughFromSeconds = 45;

/** Reads a file that lies in the store and keeps what it found; a rough first pass goes ahead. A file that was read before costs nothing. */
export async function readFile({ task, signal, progress, say }: Work): Promise<string | null> {
  const { hash, parameters } = keyOfSubject(task.subject);
  const key = { hash, parameters };
  const known = await findReading(key);
  if (known) {
    await adoptRange(key);
    return null;
  }
  const file = await findFile(key.hash);
  if (!file) throw new MediaError('The file is not in the store any more. Bring it in again.');
  // Each run has a folder of its own: an earlier one of the same task may be alive still.
  await sweepFolders(`read-${task.id}-`);
  const folder = join(scratchFolder(), `read-${task.id}-${task.attempts}`);
  const local = await storage().localPath(file.storageKey);
  const range = parseRange(key.parameters);
  try {
    const earlier = await renewal(key);
    if (!earlier && !(await findReading(coarse(key))) && (await readRough(local, key, folder, range, signal)))
      await say('First moments are there; they are being refined.');
    await emptyFolder(folder);
    const started = Date.now();
    const result = await readMedia(local, {
      folder,
      proxy: true,
      ...(earlier ? { renew: earlier.renew } : {}),
      ...(range ? { range } : {}),
      signal,
      onProgress: progress,
    });
    await keep(result, key, folder, (Date.now() - started) / 1000, earlier);
    await forgetReading(coarse(key));
    if (earlier) await forgetReading(key, earlier.version);
    await adoptRange(key);
    await setProblem(key, null);
    if (task.projectId && result.raw.hasSound && result.probe.kind === 'video')
      await enqueueWords(task.projectId, key, task.title);
    return result.warnings[0] ?? null;
  } catch (error) {
    if (error instanceof MediaError) {
      await setProblem(key, error.message);
      await dropRange(key);
    }
    throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function readRough(
  local: string,
  key: ReadingKey,
  folder: string,
  range: Range | undefined,
  signal: AbortSignal,
): Promise<boolean> {
  const info = await probe(local);
  if (
    info.kind === 'photo' ||
    info.copied ||
    (range ? range.end - range.start : info.durationSeconds) < roughFromSeconds
  )
    return false;
  await emptyFolder(folder);
  const started = Date.now();
  const result = await readCoarse(local, { folder, ...(range ? { range } : {}), signal });
  if (result) await keep(result, coarse(key), folder, (Date.now() - started) / 1000);
  return result !== null;
}

async function emptyFolder(folder: string): Promise<void> {
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
}

interface Renewal {
  version: number;
  proxyKey: string | null;
  renew: NonNullable<ReadOptions['renew']>;
}

/** A reading by an earlier reader, of which only the changed parts need to be read again. */
async function renewal(key: ReadingKey): Promise<Renewal | null> {
  const row = await findEarlierReading(key);
  const raw = row && (await loadRaw(key, row.version));
  if (!row || !raw) return null;
  const { version, proxyKey, sheets, loudness, warnings } = row;
  return {
    version,
    proxyKey,
    renew: { parts: changedParts(version), earlier: { raw, sheets, loudness, warnings, proxy: proxyKey !== null } },
  };
}

async function keep(
  result: ReadResult,
  key: ReadingKey,
  folder: string,
  tookSeconds: number,
  earlier: Renewal | null = null,
): Promise<void> {
  const made = await readdir(folder);
  for (const name of made) await storage().adopt(`${readingFolder(key)}/${name}`, join(folder, name));
  if (earlier && !made.some((name) => name.startsWith('sheet-')))
    for (let sheet = 1; sheet <= (result.sheets?.count ?? 0); sheet++) {
      const name = `sheet-${String(sheet).padStart(4, '0')}.jpg`;
      await storage().adopt(
        `${readingFolder(key)}/${name}`,
        await storage().localPath(`${readingFolder(key, earlier.version)}/${name}`),
        { copy: true },
      );
    }
  const shown = result.copy ?? (result.proxy ? 'proxy.mp4' : null);
  const proxyKey = (result.copy === null ? earlier?.proxyKey : null) ?? (shown && `${readingFolder(key)}/${shown}`);
  await saveReading({ ...key, version: readerVersion, ...storedParts(result), proxyKey, tookSeconds });
}

/** What the database keeps of a reading. */
export function storedParts({ raw, sheets, loudness, warnings, probe: info }: ReadResult) {
  return { raw, sheets, loudness, warnings, probe: storedProbe(info) };
}

/** Removes what earlier runs left in the scratch folder. */
async function sweepFolders(beginning: string): Promise<void> {
  for (const name of await readdir(scratchFolder()).catch(() => []))
    if (name.startsWith(beginning)) await rm(join(scratchFolder(), name), { recursive: true, force: true });
}

/** The range that `rangeParameters` wrote. */
function parseRange(parameters: string): Range | undefined {
  const [from, to] = parameters.split('-');
  return parameters ? { start: Number(from), end: to === 'end' ? Infinity : Number(to) } : undefined;
}
