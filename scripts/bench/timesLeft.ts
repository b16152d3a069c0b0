/**
 * How well the times left are told: files are read by a worker, alone and beside other work, and what was said is
 * compared with what came. Needs DATABASE_URL (an empty database).
 */
import { spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { keyOf } from '#data/media';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { enqueueReading, migrateQueue } from '#usecases/queue';
import { listTaskLines } from '#usecases/tasks';
import { median } from './table';

interface Said {
  at: number;
  progress: number;
  secondsLeft: number;
}
/** Times that are shorter than this are within a fifth whatever is said, in seconds. */
const shortest = 5;

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-times-'));
const film = (name: string, minutes: number, brightness: number) => {
  const file = join(folder, name);
  // Another content each, so that nothing is known yet; their light differs a little.
  const filter = `scale=1280:720,eq=brightness=${brightness},noise=alls=10:allf=t`;
  const encode = ['-c:v', 'libx264', '-preset', 'veryfast', '-b:v', '6M', '-g', '60', '-c:a', 'aac'];
  spawnSync('ffmpeg', [
    ...['-v', 'error', '-y', '-stream_loop', '-1', '-i', 'demo/media/walk-to-the-pier.mp4', '-t', '60'],
    ...['-vf', filter, ...encode, join(folder, `one-${name}`)],
  ]);
  spawnSync('ffmpeg', [
    ...['-v', 'error', '-y', '-stream_loop', String(minutes - 1), '-i', join(folder, `one-${name}`)],
    ...['-c', 'copy', file],
  ]);
  return file;
};

async function watch(project: { id: string; name: string }) {
  const said = new Map<string, Said[]>();
  const ended = new Map<string, number>();
  for (;;) {
    const lines = (await listTaskLines(project)).filter(({ kind }) => kind === 'read');
    const at = Date.now() / 1000;
    for (const { id, state, progress, secondsLeft } of lines) {
      if (state === 'running' && secondsLeft !== null)
        said.set(id, [...(said.get(id) ?? []), { at, progress, secondsLeft }]);
      if (state === 'done' && !ended.has(id)) ended.set(id, at);
      if (state === 'failed') throw new Error('A file could not be read.');
    }
    if (lines.length > 0 && lines.every(({ state }) => state === 'done')) break;
    await new Promise((wake) => setTimeout(wake, 1000));
  }
  return [...said].map(([id, all]) => ({ all, end: ended.get(id)! }));
}

function tell(what: string, readings: Awaited<ReturnType<typeof watch>>) {
  const off = readings.flatMap(({ all, end }) =>
    all
      .filter(({ progress }) => progress >= 0.25)
      .map(({ at, secondsLeft }) => Math.abs(secondsLeft - (end - at)) / Math.max(shortest, end - at)),
  );
  const within = off.filter((share) => share <= 0.2).length / Math.max(1, off.length);
  console.log(
    `${`times left ${what}, off by`.padEnd(58)} ${(100 * median(off)).toFixed(0)} % in the median, within a fifth ${(100 * within).toFixed(0)} % of ${off.length} times`,
  );
}

await migrateDatabase();
await migrateQueue();
const worker = spawn('node', ['--import', 'tsx', 'jobs/worker.ts'], { env: process.env, stdio: 'ignore' });
let beside: ChildProcess | null = null;
try {
  for (const [round, what] of ['of the first files', 'of later ones', 'beside other work'].entries()) {
    const names = [0, 1].map((number) => `${round}-${number}.mp4`);
    const files = names.map((name, number) => film(name, 3, 0.01 * (round * 2 + number)));
    const project = await createProject(`Times ${round}`);
    if (what === 'beside other work')
      beside = spawn('ffmpeg', [
        ...['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=1280x720', '-t', '3600', '-c:v', 'libx264'],
        ...['-threads', '1', '-f', 'null', '-'],
      ]);
    for (const [index, name] of names.entries()) {
      const row = await bringIn(project.id, files[index]!, name, { copy: true, binId: null });
      await enqueueReading(project.id, keyOf(row), name);
    }
    tell(what, await watch(project));
  }
} finally {
  beside?.kill();
  worker.kill();
  rmSync(folder, { recursive: true, force: true });
  await closeDatabase();
}
process.exit();
