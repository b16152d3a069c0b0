/** Projects for measuring: two hours of generated footage with one real file, a film of flashes, a reel of 5,000 pieces. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { assembleReel } from '#core/reel';
import { displayTraceNames, lookHz, readerVersion, summarize } from '#core/readings';
import { rates } from '#core/time';
import { bringIn } from '#data/bringIn';
import { database } from '#data/db';
import { addFile, addMedia, keyOf } from '#data/media';
import { createProject } from '#data/projects';
import { saveReading } from '#data/readings';
import { createReel } from '#data/reels';
import { readings, runs, traces } from '#data/schema';
import { storedParts } from '#usecases/background/readFile';
import { unpackReading } from '#media/read/readingPack';
import { makeLargeReel } from './largeReel';
import { threeMinutes } from './threeMinutes';

const bytes = (values: Float32Array) => Buffer.from(values.buffer, values.byteOffset, values.byteLength);

/** A film that turns white for three frames and beeps at the same moment, once a second, and a reel of ten pieces of it. */
export async function makeFlashes(projectId: string): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-bench-'));
  const file = join(folder, 'flashes.mp4');
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    "color=black:s=1280x720:r=30:d=40,drawbox=c=white:t=fill:enable='lt(mod(t+0.6\\,1)\\,0.099)'",
    '-f',
    'lavfi',
    '-i',
    "aevalsrc='0.8*sin(2*PI*1000*t)*lt(mod(t+0.6\\,1)\\,0.1)':s=48000:d=40",
    '-pix_fmt',
    'yuv420p',
    '-g',
    '60',
    '-c:a',
    'aac',
    '-b:a',
    '192k',
    '-movflags',
    '+faststart',
    file,
  ]);
  const item = await bringIn(projectId, file, 'flashes.mp4', { copy: true, binId: null });
  rmSync(folder, { recursive: true });
  const made = threeMinutes(1);
  await database()
    .insert(readings)
    .values({
      ...keyOf(item),
      version: readerVersion,
      probe: {
        kind: 'video',
        durationSeconds: 40,
        rate: { num: 30, den: 1 },
        width: 1280,
        height: 720,
        hasSound: true,
        videoCodec: 'h264',
        audioCodec: 'aac',
        format: 'mp4',
      },
      summary: summarize({ durationSeconds: 40, hz: 10, traces: made.traces, runs: [] }),
      faces: [],
      objects: [],
      warnings: [],
      tookSeconds: 0,
    });
  const pieces = Array.from({ length: 10 }, (_, index) => ({
    media: item.id,
    start: ((index * 7) % 10) * 3.6 + 0.1,
    end: ((index * 7) % 10) * 3.6 + 3.1,
    name: 'flashes',
  }));
  return createReel(
    projectId,
    assembleReel(
      'Flashes',
      pieces,
      new Map([[item.id, { id: item.id, name: 'flashes', durationSeconds: 40 }]]),
      rates['30'],
      { width: 1280, height: 720 },
      () => crypto.randomUUID(),
    ),
  );
}

export async function makeTwoHours(): Promise<{ projectId: string; reelId: string; large: string }> {
  const project = await createProject('Two hours');
  const real = await bringIn(project.id, 'demo/media/race-day.mp4', 'race-day.mp4', { copy: true, binId: null });
  const reading = unpackReading(readFileSync('demo/readings/race-day.mp4/reading.json.gz'));
  if (reading)
    await saveReading({
      ...keyOf(real),
      version: readerVersion,
      ...storedParts(reading),
      proxyKey: null,
      tookSeconds: 0,
    });
  for (let file = 1; file < 40; file++) {
    const hash = `bench${String(file).padStart(2, '0')}`.padEnd(64, '0');
    await addFile(hash, 1, `missing/${file}`);
    const item = await addMedia(project.id, hash, `pond-${String(file).padStart(2, '0')}.mp4`);
    const made = threeMinutes(file);
    const key = { ...keyOf(item), version: readerVersion };
    await database()
      .insert(readings)
      .values({
        ...key,
        probe: {
          kind: 'video',
          durationSeconds: 180,
          rate: { num: 25, den: 1 },
          width: 1280,
          height: 720,
          hasSound: true,
          videoCodec: 'h264',
          audioCodec: 'aac',
          format: 'mp4',
        },
        summary: summarize({ durationSeconds: 180, hz: 10, traces: made.traces, runs: made.runs }),
        faces: [],
        objects: [],
        warnings: [],
        tookSeconds: 0,
      });
    await database()
      .insert(traces)
      .values([
        ...displayTraceNames.map((name) => ({
          ...key,
          family: 'decided' as const,
          name,
          hz: 10,
          start: 0,
          values: bytes(made.traces[name]),
        })),
        { ...key, family: 'look' as const, name: 'look', hz: lookHz, start: 0, values: bytes(made.look) },
      ]);
    await database()
      .insert(runs)
      .values(made.runs.map(({ kind, start, end }) => ({ ...key, kind, start, end })));
  }
  // A reel of pieces that are there: the other files are traces only.
  const pieces = Array.from({ length: 10 }, (_, index) => ({
    media: real.id,
    start: 8 + index * 23,
    end: 14 + index * 23,
    name: 'race-day',
  }));
  const reel = assembleReel(
    'Bench',
    pieces,
    new Map([[real.id, { id: real.id, name: 'race-day', durationSeconds: 250 }]]),
    rates['30'],
    { width: 1280, height: 720 },
    () => crypto.randomUUID(),
  );
  return {
    projectId: project.id,
    reelId: await createReel(project.id, reel),
    large: await makeLargeReel(project.id, real.id),
  };
}
