/**
 * What a hundredth of 10,000 hours of footage and 1,000 people takes: 100 hours in 50 projects, each with words, reels and their
 * steps, and ten people who work at once. Prints room in the database by table, what places take,
 * what a step of somebody else costs, requests to the store. Everything in one run of one machine.
 */
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { readerVersion } from '#core/readings';
import { assembleReel } from '#core/reel';
import { rates } from '#core/time';
import { importWords, type Word } from '#core/words';
import { unpackReading } from '#media/read/readingPack';
import { addFile, addMedia, keyOf } from '../../data/media';
import { closeDatabase, database, migrateDatabase } from '../../data/db';
import { createProject } from '../../data/projects';
import { findReading, saveReading } from '../../data/readings';
import { createReel } from '../../data/reels';
import { queueTask, whatWaits } from '../../data/tasks';
import { saveRecognition, saveTranscript } from '../../data/words';
import { bucketSettings, Line } from '../../data/testStore';
import { holdingFiles } from '../../data/localCache';
import { storedParts } from '../../usecases/background/readFile';
import { renderFile } from '../../usecases/background/renderFile';
import { editReel } from '../../usecases/editReel';
import { EventHub } from '../../usecases/events';
import { showFindable } from '../../usecases/findable';
import { showMoments } from '../../usecases/moments';
import { showHome, showProject } from '../../usecases/projects';
import { migrateQueue } from '../../usecases/queue';
import { FarInstallation } from './farInstallation';

const hours = Number(process.env.SCALE_HOURS ?? 100);
const people = Number(process.env.SCALE_PEOPLE ?? 10);
const projects = Math.max(1, Math.round(hours / 2));
const fileSeconds = 250;
const filesEach = Math.round((hours * 3600) / fileSeconds / projects);
const reelsEach = 3;
const stepsEach = 20;
const whole = 100;

const work = process.env.SCALE_WORK!;
const { $client } = database();
const rows = async <T extends object>(query: string, values: unknown[] = []) =>
  (await $client.query<T>(query, values)).rows;
const megabytes = (bytes: number) => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`.padStart(10);
const scaled = (bytes: number) => `${((bytes * whole) / 1e9).toFixed(1)} GB`.padStart(10);

process.env.BRIGHT_REEL_DATA = join(work, 'here');
await migrateDatabase();
await migrateQueue();

// The reading of the race, as it is stored, once for every file; with what was heard and read along.
const reading = storedParts(unpackReading(readFileSync('demo/readings/race-day.mp4/reading.json.gz'))!);
const heard = JSON.parse(readFileSync('demo/readings/race-day.mp4/words.json', 'utf8')) as Word[];
const text = importWords(readFileSync('demo/media/race-day.srt', 'utf8'), heard);
const reels: { project: string; reel: string; clips: string[] }[] = [];
const made: string[] = [];
let began = performance.now();
for (let number = 0; number < projects; number++) {
  const { id: project } = await createProject(`Race ${number}`);
  made.push(project);
  const media: string[] = [];
  for (let index = 0; index < filesEach; index++) {
    const hash = `scale${number}x${index}x`.padEnd(64, '0');
    await addFile(hash, 1, `missing/${hash}`);
    const item = await addMedia(project, hash, `race-${index}.mp4`);
    const key = keyOf(item);
    await saveReading({ ...key, version: readerVersion, ...reading, proxyKey: null, tookSeconds: 0 });
    await saveRecognition(key, 'pocketsphinx', heard);
    await saveTranscript(item.id, text, 'imported', 0);
    media.push(item.id);
  }
  for (let index = 0; index < reelsEach; index++) {
    const reel = assembleReel(
      `Race ${index}`,
      Array.from({ length: 40 }, (_, at) => {
        const start = (at * 6) % 240;
        return { media: media[at % media.length]!, start, end: start + 4, name: `piece ${at}` };
      }),
      new Map(media.map((id) => [id, { id, name: 'race', durationSeconds: fileSeconds }])),
      rates['30'],
      { width: 1280, height: 720 },
      () => crypto.randomUUID(),
    );
    const clips = reel.tracks[0]!.items.flatMap((item) => ('id' in item ? [item.id] : []));
    const id = await createReel(project, reel);
    reels.push({ project, reel: id, clips });
    for (let step = 0; step < stepsEach; step++) {
      const answer = await editReel(project, id, { head: step, command: { type: 'rename', name: `Race ${step}` } });
      if (!answer.ok) throw new Error(answer.sentence);
    }
  }
}
const filled = (performance.now() - began) / 1000;
await $client.query('analyze');
console.log(
  `${((projects * filesEach * fileSeconds) / 3600).toFixed(0)} hours in ${projects} projects: ${projects * filesEach} files of ${fileSeconds} s, ${reels.length} reels of 40 pieces with ${stepsEach} steps each; laid out in ${filled.toFixed(0)} s`,
);

const tables = await rows<{ name: string; heap: string; index: string; rows: string }>(
  `select relname as name, pg_table_size(oid) as heap, pg_indexes_size(oid) as index, reltuples::bigint as rows from pg_class
   where relkind = 'r' and relnamespace = 'public'::regnamespace order by pg_total_relation_size(oid) desc limit 8`,
);
console.log('\ntable                    rows   contents    indexes    a hundredfold');
for (const { name, heap, index, rows: count } of tables)
  console.log(
    `${name.padEnd(20)} ${count.padStart(8)} ${megabytes(Number(heap))} ${megabytes(Number(index))} ${scaled(Number(heap) + Number(index))}`,
  );
const [all] = await rows<{ bytes: string }>('select pg_database_size(current_database()) as bytes');
console.log(
  `${'all of it'.padEnd(29)} ${megabytes(Number(all!.bytes))} ${' '.repeat(10)} ${scaled(Number(all!.bytes))}`,
);

async function time(what: string, ask: () => Promise<unknown>): Promise<void> {
  await ask();
  const took: number[] = [];
  for (let index = 0; index < 9; index++) {
    const from = performance.now();
    await ask();
    took.push(performance.now() - from);
  }
  took.sort((a, b) => a - b);
  console.log(`${what.padEnd(52)} ${took[4]!.toFixed(1).padStart(8)} ms, at most ${took[8]!.toFixed(1)} ms`);
}
console.log('\nwhat a place asks for');
await time(`Home, with ${projects} projects`, () => showHome());
await time('what all places of a project share', () => showProject(made[0]!));
await time('Moments of a project of two hours', () => showMoments(made[0]!, null));
await time('what Ctrl K finds in a project', () => showFindable(made[0]!));
await time('one reading', () => findReading({ hash: 'scale0x0x'.padEnd(64, '0'), parameters: '' }));

// Ten people, three windows each, in projects of their own but for two who share one; everybody makes a step a second.
const hub = new EventHub();
let told = 0;
const windows: (() => void)[] = [];
for (let person = 0; person < people; person++)
  for (let window = 0; window < 3; window++) windows.push(hub.hear(made[person % made.length]!, () => told++)!);
const heads = new Map(reels.map(({ reel }) => [reel, stepsEach]));
const cpu = process.cpuUsage();
began = performance.now();
const took: number[] = [];
for (let second = 0; second < 10; second++)
  await Promise.all([
    new Promise((wake) => setTimeout(wake, 1000)),
    ...Array.from({ length: people }, async (_, person) => {
      const { project, reel } = reels.find((each) => each.project === made[person % made.length])!;
      const head = heads.get(reel)!;
      const from = performance.now();
      const answer = await editReel(project, reel, {
        head,
        command: { type: 'rename', name: `By ${person} ${second}` },
      });
      took.push(performance.now() - from);
      if (answer.ok) heads.set(reel, head + 1);
    }),
  ]);
const used = process.cpuUsage(cpu);
const seconds = (performance.now() - began) / 1000;
took.sort((a, b) => a - b);
console.log(
  `\n${people} people, a step a second each: ${took[Math.floor(took.length / 2)]!.toFixed(1)} ms a step, at most ${took.at(-1)!.toFixed(0)} ms; the server is busy ${(((used.user + used.system) / 1e6 / seconds) * 100).toFixed(0)} % of a core; ${told} events to ${windows.length} windows`,
);
for (const end of windows) end();
await hub.close();

began = performance.now();
for (const project of made)
  for (let index = 0; index < 20; index++)
    await queueTask({ projectId: project, kind: 'read', subject: crypto.randomUUID(), title: `race-${index}.mp4` });
const queued = made.length * 20;
console.log(`\n${queued} tasks queued: ${((performance.now() - began) / queued).toFixed(1)} ms each`);
await time(`what waits for what, with ${queued} waiting`, () => whatWaits());
await $client.query("update tasks set state = 'cancelled'");

// What one render asks of a store that counts.
const line = new Line();
Object.assign(process.env, bucketSettings(await line.open(join(work, 'bucket')), join(work, 'far')));
if (existsSync('demo/media/race-day.mp4')) {
  const far = new FarInstallation(work);
  const { project, media } = await far.project();
  const brought = line.asked.length;
  const size = { width: 320, height: 180 };
  const ranges = [
    [5, 95],
    [100, 160],
  ] as const;
  const reel = await far.reel(project, media, ranges, size);
  const render = await far.render(project, reel, size, 150);
  await holdingFiles(() =>
    renderFile({
      task: { id: crypto.randomUUID(), projectId: project, subject: render } as never,
      run: crypto.randomUUID(),
      signal: new AbortController().signal,
      progress: () => undefined,
      say: async () => undefined,
    }),
  );
  console.log(
    `\nrequests to the store: ${brought} to bring in a film of ${fileSeconds} s, ${line.asked.length - brought} to render 2.5 minutes of it with an empty cache`,
  );
}
await line.close();
await closeDatabase();
process.exit();
