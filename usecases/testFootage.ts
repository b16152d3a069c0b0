import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { FaceSample } from '#core/picture';
import { readerVersion } from '#core/readings';
import { bringIn } from '#data/bringIn';
import { database } from '#data/db';
import { addFile, addMedia, type MediaRow } from '#data/media';
import { saveReading } from '#data/readings';
import { readings, type StoredProbe } from '#data/schema';
import { unpackReading } from '#media/read/readingPack';
import { storedParts } from './background/readFile';

/** For tests: an item of a project that was read, without a file. @returns its id */
export async function addRead(
  project: string,
  name: string,
  probe: Partial<StoredProbe> = {},
  faces: FaceSample[] = [],
): Promise<string> {
  const hash = crypto.randomUUID().replaceAll('-', '').padEnd(64, '7');
  await addFile(hash, 1, 'nowhere');
  await database()
    .insert(readings)
    .values({
      hash,
      version: readerVersion,
      probe: {
        kind: 'video',
        durationSeconds: 60,
        rate: { num: 25, den: 1 },
        width: 1280,
        height: 720,
        hasSound: true,
        videoCodec: null,
        audioCodec: null,
        format: 'x',
        ...probe,
      },
      summary: { faces: 0, speechShare: 0, shakySeconds: 0, movingSeconds: 0, flawedSeconds: 0, scenes: 1 },
      faces,
      warnings: [],
      tookSeconds: 1,
    });
  return (await addMedia(project, hash, name)).id;
}

/** For tests: a file of the demo in a project, with the reading that ships with it. */
export async function bringShipped(project: string, name: string): Promise<MediaRow> {
  const item = await bringIn(project, join('demo/media', name), name, { copy: true });
  await saveReading({
    hash: item.fileHash,
    parameters: '',
    version: readerVersion,
    ...storedParts(unpackReading(readFileSync(join('demo/readings', name, 'reading.json.gz')))!),
    proxyKey: null,
    tookSeconds: 0,
  });
  return item;
}
