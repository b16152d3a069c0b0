import { mkdir, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { readerVersion } from '#core/readings';
import { findFile } from '#data/media';
import {
  coarse,
  findReading,
  isRoughlyRead,
  parseParameters,
  readingFolder,
  saveReading,
  type ReadingKey,
} from '#data/readings';
import type { StoredProbe } from '#data/schema';
import { scratchFolder, storage } from '#data/storage';
import { keyOfSubject } from '#data/tasks';
import { probe } from '#media/probe/probe';
import { MediaError } from '#media/process';
import { withInputLook } from '#media/probe/shown';
import { glance, type GlancedFile, type GlanceResult } from '#media/read/glance';
import { inputLookFile, inputLookOf } from '../inputLooks';
import { storedProbe } from '../storedProbe';
import type { Work } from './runTask';

/** Looks at points spread over a file before it is read; what it finds is shown after each step, until there is more. */
export async function glanceFile({ task, signal, progress, say }: Work): Promise<string | null> {
  const { hash, parameters } = keyOfSubject(task.subject);
  const key = { hash, parameters };
  const file = await findFile(hash);
  if (!file || (await isOvertaken(key))) return null;
  const local = await storage().localPath(file.storageKey);
  const folder = join(scratchFolder(), `glance-${task.id}-${task.attempts}`);
  await mkdir(folder, { recursive: true });
  const started = Date.now();
  try {
    const info = file.probe ?? storedProbe(await probe(local));
    if (info.kind === 'photo' || info.copied) return null;
    const { range, sound, inputLook } = parseParameters(parameters);
    const options = { folder, signal, ...(range ? { range } : {}), ...(sound ? { sound } : {}) };
    const seen = glancedFile(info);
    const coding = withInputLook(seen.coding, await inputLookFile(inputLook));
    await glance(local, { ...seen, coding }, options, async (result, share) => {
      if (await isOvertaken(key)) return false;
      await keep(result, key, info, folder, (Date.now() - started) / 1000);
      progress(share);
      await say(`Looked at a point every ${Math.round(result.partSeconds)} s.`);
      return true;
    });
  } catch (error) {
    // What is wrong with the file is said by its reading.
    if (!(error instanceof MediaError)) throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return null;
}

/** Whether more is known of a file than points can tell. */
const isOvertaken = async (key: ReadingKey): Promise<boolean> =>
  (await findReading(key)) !== null || isRoughlyRead(key);

const glancedFile = ({
  kind,
  durationSeconds,
  rate,
  width,
  height,
  coding = null,
  hasSound,
  soundTracks = [],
}: StoredProbe): GlancedFile => ({
  kind,
  durationSeconds,
  rate,
  width,
  height,
  coding,
  hasSound,
  soundTracks,
});

async function keep(
  { raw, sheets, heard, partSeconds, speechShare }: GlanceResult,
  key: ReadingKey,
  info: StoredProbe,
  folder: string,
  tookSeconds: number,
): Promise<void> {
  const rough = coarse(key);
  for (const name of await readdir(folder))
    if (name.startsWith('sheet-')) await storage().adopt(`${readingFolder(rough)}/${name}`, join(folder, name));
  await saveReading({
    ...rough,
    version: readerVersion,
    probe: { ...info, ...(info.hasSound ? { heard } : {}), glancedEvery: partSeconds },
    raw,
    sheets: sheets && { ...sheets, ...inputLookOf(key) },
    proxyKey: null,
    loudness: null,
    warnings: [],
    tookSeconds,
    summary: { speechShare },
  });
}
