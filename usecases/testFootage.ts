import type { FaceSample } from '#core/picture';
import { readerVersion } from '#core/readings';
import { database } from '#data/db';
import { addFile, addMedia } from '#data/media';
import { readings, type StoredProbe } from '#data/schema';

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
