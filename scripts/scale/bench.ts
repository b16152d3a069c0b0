/**
 * How much more several workers do: 40 files read and 20 shorts rendered by 1, 2 and 4 workers of one thread each, on hosts of
 * their own. Ratios of one run: the rate of several, as a share of so many times the rate of one.
 */
import { execFileSync } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { bringIn } from '../../data/bringIn';
import { closeDatabase } from '../../data/db';
import type { MediaRow } from '../../data/media';
import { createProject } from '../../data/projects';
import { queueArrival } from '../../usecases/queue';
import { FarInstallation } from './farInstallation';
import { networkKind } from './hosts';

const files = Number(process.env.SCALE_FILES ?? 40);
const shorts = Number(process.env.SCALE_SHORTS ?? 20);
const fileSeconds = 12;
const shortSeconds = 20;
const upright = { width: 540, height: 960 };
const cores = availableParallelism();
const counts = [1, 2, 4];

const work = process.env.SCALE_WORK!;
const far = new FarInstallation(work);
await far.open();
const { media, project } = await far.project();
const reels: string[] = [];
for (let index = 0; index < shorts; index++) {
  const start = 5 + ((index * 11) % 200);
  reels.push(await far.reel(project, media, [[start, start + shortSeconds]], upright));
}
let made = 0;
/** A piece of the race that nobody has read yet: a tone of its own makes another content of it. */
function freshFile(): string {
  const file = join(work, 'fresh.mp4');
  const start = String((made * 7) % 230);
  const tone = String(300 + made++);
  const from = ['-ss', start, '-t', String(fileSeconds), '-i', 'demo/media/race-day.mp4', '-f', 'lavfi'];
  const picture = ['-vf', 'scale=640:-2', '-c:v', 'libx264', '-preset', 'ultrafast'];
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-y',
    ...from,
    '-i',
    `sine=${tone}:d=${fileSeconds}`,
    '-map',
    '0:v',
    '-map',
    '1:a',
    ...picture,
    file,
  ]);
  return file;
}
const idle = async () => {
  while ((await far.rows("select 1 from tasks where state in ('queued', 'running') limit 1")).length > 0)
    await sleep(100);
};
const failed = async () =>
  (await far.rows<{ sentence: string }>("select sentence from tasks where state = 'failed'")).map(
    ({ sentence }) => sentence,
  );

async function measure(workers: number): Promise<{ reading: number; rendering: number }> {
  const hosts = [];
  for (let index = 0; index < workers; index++) {
    const host = await far.host(`worker${workers}-${index}`);
    // One thread each: bound to one core; programs that ask how many there are find one.
    const env = await far.environmentOf(host, { UV_THREADPOOL_SIZE: '2' });
    far.keepWorker(host, env, ['taskset', '-c', String(index % cores)]);
    hosts.push(host);
  }
  const there = async () =>
    (await far.rows("select 1 from workers where heartbeat_at > now() - interval '5 seconds'")).length;
  while ((await there()) < workers) await sleep(100);
  const id = (await createProject(`By ${workers}`)).id;
  const items: MediaRow[] = [];
  for (let index = 0; index < files; index++) items.push(await bringIn(id, freshFile(), `piece-${index}.mp4`));
  const time = async (queue: () => Promise<unknown>) => {
    const began = Date.now();
    await queue();
    await idle();
    return (Date.now() - began) / 1000;
  };
  const reading = await time(async () => {
    for (const item of items) await queueArrival(item);
  });
  const rendering = await time(async () => {
    for (const reel of reels) await far.render(project, reel, upright, shortSeconds);
  });
  await Promise.all(hosts.map((host) => host.close()));
  await far.rows('delete from workers');
  return { reading, rendering };
}

console.log(
  `${cores} cores; hosts are ${networkKind === 'namespaces' ? 'network namespaces' : 'addresses of loopback'}`,
);
console.log(
  `${files} files of ${fileSeconds} s are read, ${shorts} shorts of ${shortSeconds} s rendered in ${upright.width} × ${upright.height}`,
);
console.log('workers   reading   of linear   rendering   of linear');
let one: Awaited<ReturnType<typeof measure>> | null = null;
for (const count of counts) {
  const took = await measure(count);
  one ??= took;
  const share = (alone: number, several: number) =>
    `${((alone / several / Math.min(count, cores)) * 100).toFixed(0)} %`.padStart(9);
  console.log(
    `${String(count).padStart(7)} ${`${took.reading.toFixed(1)} s`.padStart(9)} ${share(one.reading, took.reading)}   ${`${took.rendering.toFixed(1)} s`.padStart(9)} ${share(one.rendering, took.rendering)}`,
  );
}
console.log(
  `Linear counts as many workers as there are cores: with ${cores} cores more than ${cores} workers have none to themselves.`,
);
for (const sentence of await failed()) console.log(`failed: ${sentence}`);
await far.close();
await closeDatabase();
process.exit();
