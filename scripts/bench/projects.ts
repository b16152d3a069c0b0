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
import { madeReading } from './madeReading';

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
  const made = madeReading(1);
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

/** A film that is not there, with a reading that was made up. */
export async function addMadeFilm(projectId: string, name: string, seed: number, seconds = 180): Promise<string> {
  const hash = `bench${seconds}-${seed}-`.padEnd(64, '0');
  await addFile(hash, 1, `missing/${hash}`);
  const item = await addMedia(projectId, hash, name);
  const made = madeReading(seed, seconds);
  const key = { ...keyOf(item), version: readerVersion };
  await database()
    .insert(readings)
    .values({
      ...key,
      probe: {
        kind: 'video',
        durationSeconds: seconds,
        rate: { num: 25, den: 1 },
        width: 1280,
        height: 720,
        hasSound: true,
        videoCodec: 'h264',
        audioCodec: 'aac',
        format: 'mp4',
      },
      summary: summarize({ durationSeconds: seconds, hz: 10, traces: made.traces, runs: made.runs }),
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
  const rows = made.runs.map(({ kind, start, end }) => ({ ...key, kind, start, end }));
  for (let from = 0; from < rows.length; from += 2000)
    await database()
      .insert(runs)
      .values(rows.slice(from, from + 2000));
  return item.id;
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
  for (let file = 1; file < 40; file++)
    await addMadeFilm(project.id, `pond-${String(file).padStart(2, '0')}.mp4`, file);
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
