import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { changedParts, readerVersion } from '#core/readings';
import type { HeardChannel, SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import { readMedia, type ReadOptions, type ReadResult } from '#media/read/read';
import { readCoarse } from '#media/read/readCoarse';
import { probe } from '#media/probe/probe';
import { MediaError } from '#media/process';
import { adoptRange, dropRange, findFile, setProblem } from '#data/media';
import {
  coarse,
  parseParameters,
  readingsOf,
  findEarlierReading,
  heardKey,
  findReading,
  isRoughlyRead,
  forgetReading,
  loadRaw,
  readingFolder,
  saveReading,
  type ReadingKey,
} from '#data/readings';
import { scratchFolder, storage } from '#data/storage';
import { isGlancing, keyOfSubject } from '#data/tasks';
import { enqueueSpoken } from '../queue';
import { inputLookFile, inputLookOf } from '../inputLooks';
import { storedProbe } from '../storedProbe';
import { forgetParts, isReadInParts, readInParts } from './readInParts';
import { later, type TaskOutcome, type Work } from './runTask';

/** Shorter files are read whole at once. */
const roughFromSeconds = 45;

/** Reads a file that lies in the store and keeps what it found; a rough first pass goes ahead. A file that was read before costs nothing. */
export async function readFile(work: Work): Promise<TaskOutcome> {
  const { task, signal, progress, say } = work;
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
  const { range, sound, inputLook } = parseParameters(key.parameters);
  try {
    const table = await inputLookFile(inputLook);
    const wanted = {
      ...(range ? { range } : {}),
      ...(sound ? { sound } : {}),
      ...(table ? { inputLook: table } : {}),
    };
    const earlier = await renewal(key);
    let done = 0;
    const inParts = earlier || table ? null : await isReadInParts(local, range);
    if (!earlier) await afterFirstLooks(signal, say);
    if (!earlier && !inParts && !(await isRoughlyRead(key))) {
      const onProgress = (share: number) => progress(share * roughShare);
      if (await readRough(local, key, folder, { ...wanted, signal, onProgress })) {
        done = roughShare;
        await say('First moments are there; they are being refined.');
      }
    }
    await emptyFolder(folder);
    const started = Date.now();
    const onProgress = (share: number) => progress(done + (1 - done) * share);
    const result = inParts
      ? await readInParts(work, { key, local, info: inParts, folder, range, sound, onProgress })
      : await readMedia(local, {
          folder,
          proxy: true,
          ...(earlier ? { renew: earlier.renew } : {}),
          ...wanted,
          signal,
          onProgress,
        });
    if (!result) return later;
    await keep(result, key, folder, result.tookSeconds ?? (Date.now() - started) / 1000, earlier);
    await forgetReading(coarse(key));
    await forgetParts(key);
    if (earlier?.isOlder) await forgetReading(key, earlier.version);
    await adoptRange(key);
    await setProblem(key, null);
    await enqueueSpoken(task, key, { ...result.probe, hasSound: result.raw.hasSound });
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

/** Part of the time that the rough pass takes of it all, about. */
const roughShare = 0.06;
/** So long a reading waits for the first looks at other files; they take seconds. */
const mostPatience = 30_000;

/** Every file is looked at before one is read whole. */
async function afterFirstLooks(signal: AbortSignal, say: Work['say']): Promise<void> {
  const from = Date.now();
  let said = false;
  while (!signal.aborted && Date.now() - from < mostPatience && (await isGlancing())) {
    if (!said && Date.now() - from > 1000) await say('Begins after a first look at what has arrived.');
    said ||= Date.now() - from > 1000;
    await setTimeout(300);
  }
  if (said) await say(null);
}

async function readRough(
  local: string,
  key: ReadingKey,
  folder: string,
  options: {
    range?: Range;
    sound?: SoundChoice;
    inputLook?: string;
    signal: AbortSignal;
    onProgress(share: number): void;
  },
): Promise<boolean> {
  const info = await probe(local);
  const { range } = options;
  if (
    info.kind === 'photo' ||
    info.copied ||
    (range ? range.end - range.start : info.durationSeconds) < roughFromSeconds
  )
    return false;
  await emptyFolder(folder);
  const started = Date.now();
  const result = await readCoarse(local, { folder, ...options });
  if (result) await keep(result, coarse(key), folder, (Date.now() - started) / 1000);
  return result !== null;
}

async function emptyFolder(folder: string): Promise<void> {
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
}

interface Renewal {
  /** What it is renewed from. */
  key: ReadingKey;
  version: number;
  /** By an earlier reader; it is forgotten then. */
  isOlder: boolean;
  listened: HeardChannel[] | null;
  proxyKey: string | null;
  renew: NonNullable<ReadOptions['renew']>;
}

/** A reading by an earlier reader, of which only the changed parts need to be read again. */
async function renewal(key: ReadingKey): Promise<Renewal | null> {
  const row = await findEarlierReading(key);
  const raw = row && (await loadRaw(key, row.version));
  if (!row || !raw) return sameStretch(key);
  const { version, proxyKey, sheets, loudness, warnings } = row;
  return {
    key,
    version,
    isOlder: true,
    listened: row.probe.listened ?? null,
    proxyKey,
    renew: { parts: changedParts(version), earlier: { raw, sheets, loudness, warnings, proxy: proxyKey !== null } },
  };
}

/**
 * A reading of the same stretch in which other sound was heard, or that had another input look: its pictures, or its sound,
 * need not be read again.
 */
async function sameStretch(key: ReadingKey): Promise<Renewal | null> {
  const wanted = parseParameters(key.parameters);
  const others = (await readingsOf(key.hash)).filter(({ parameters }) => {
    const { range } = parseParameters(parameters);
    return !parameters.includes('~') && range?.start === wanted.range?.start && range?.end === wanted.range?.end;
  });
  const alike = others.find(({ parameters }) => parseParameters(parameters).inputLook === wanted.inputLook);
  const row =
    alike ?? others.find(({ parameters }) => heardKey({ ...key, parameters }).parameters === heardKey(key).parameters);
  const raw = row && (await loadRaw(row));
  if (!row || !raw || row.probe.copied) return null;
  const { version, proxyKey, sheets, loudness, warnings, parameters } = row;
  return {
    key: { hash: key.hash, parameters },
    version,
    isOlder: false,
    listened: row.probe.listened ?? null,
    proxyKey: null,
    renew: {
      parts: alike ? ['sound'] : ['picture', 'faces'],
      earlier: { raw, sheets, loudness, warnings, proxy: false },
      ...(alike ? { otherSound: { proxy: proxyKey && (await storage().localPath(proxyKey)) } } : {}),
    },
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
        await storage().localPath(`${readingFolder(earlier.key, earlier.version)}/${name}`),
        { copy: true },
      );
    }
  const shown = result.copy ?? (result.proxy ? 'proxy.mp4' : null);
  const proxyKey = (result.copy === null ? earlier?.proxyKey : null) ?? (shown && `${readingFolder(key)}/${shown}`);
  const known = { ...result, listened: result.listened ?? earlier?.listened ?? null };
  const parts = storedParts(known);
  const sheets = parts.sheets && { ...parts.sheets, ...inputLookOf(key) };
  await saveReading({ ...key, version: readerVersion, ...parts, sheets, proxyKey, tookSeconds });
}

/** What the database keeps of a reading. */
export function storedParts({ raw, sheets, loudness, warnings, heard, listened, probe: info }: ReadResult) {
  return {
    raw,
    sheets,
    loudness,
    warnings,
    probe: { ...storedProbe(info), ...(info.hasSound ? { heard } : {}), ...(listened ? { listened } : {}) },
  };
}

/** Removes what earlier runs left in the scratch folder. */
async function sweepFolders(beginning: string): Promise<void> {
  for (const name of await readdir(scratchFolder()).catch(() => []))
    if (name.startsWith(beginning)) await rm(join(scratchFolder(), name), { recursive: true, force: true });
}
