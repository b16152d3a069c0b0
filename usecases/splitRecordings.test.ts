import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { and, eq } from 'drizzle-orm';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '#data/bringIn';
import { closeDatabase, database, migrateDatabase } from '#data/db';
import { findFile, findMedia, listMedia, listTakenOut } from '#data/media';
import { saveMarker } from '#data/log';
import { createProject } from '#data/projects';
import { tasks } from '#data/schema';
import { storage } from '#data/storage';
import { activeTask } from '#data/tasks';
import { probe } from '#media/probe/probe';
import { ffmpeg, numberFilm, numbersIn, realSpeech } from '../media/testMedia';
import { chainFiles } from './background/chainFiles';
import { joinRecording } from './background/joinRecording';
import type { Work } from './background/runTask';
import { changeFootage } from './footage';
import { migrateQueue, queueArrival } from './queue';
import { nameOfWhole, splitRecordings } from './splitRecordings';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-split-'));
const speech = realSpeech('librivox/sense_and_sensibility_01_austen_64kb-0870.wav');

/** What a camera would leave: 12 s of numbered frames and a voice, in three files. */
const camera = (name: string, from: number, frames: number) => {
  const start = from / 25;
  const clock = new Date(Date.UTC(2026, 5, 6, 10) + start * 1000).toISOString();
  ffmpeg(
    ...numberFilm(25, frames / 25, from),
    ...['-ss', start.toFixed(2), '-t', (frames / 25).toFixed(2), '-stream_loop', '3', '-i', speech],
    ...['-pix_fmt', 'yuv420p', '-c:v', 'libx264', '-g', '25', '-c:a', 'pcm_s16le', '-ar', '48000'],
    ...['-timecode', `10:00:${String(Math.floor(start)).padStart(2, '0')}:${String(from % 25).padStart(2, '0')}`],
    ...['-metadata', `creation_time=${clock}`, join(folder, `upright-${name}`)],
  );
  // It hung upside down.
  ffmpeg(
    ...['-i', join(folder, `upright-${name}`), '-c', 'copy', '-map', '0:v', '-map', '0:a', '-map_metadata', '0'],
    ...['-metadata:s:v:0', 'rotate=180', join(folder, name)],
  );
  return join(folder, name);
};

describe.skipIf(!process.env.DATABASE_URL || !existsSync(speech))('a recording that a camera split', () => {
  let project: string;
  const before = process.env.BRIGHT_REEL_DATA;
  const work = (task: object) =>
    ({
      task: { id: crypto.randomUUID(), projectId: project, attempts: 1, ...task },
      run: crypto.randomUUID(),
      signal: new AbortController().signal,
      progress: () => undefined,
      say: async () => undefined,
    }) as unknown as Work;
  const bring = async (name: string, from: number, frames: number) => {
    const row = await bringIn(project, camera(name, from, frames), name, {});
    await queueArrival(row);
    return row;
  };
  /** As the worker does, with the task that waits for it. */
  const compare = async (subject: string) => {
    const task = (await activeTask('chain', subject))!;
    await chainFiles(work({ subject }));
    await database().update(tasks).set({ state: 'done' }).where(eq(tasks.id, task.id));
  };
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Parts')).id;
  });
  afterAll(async () => {
    process.env.BRIGHT_REEL_DATA = before;
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  it('is recognised by names, times, picture and sound, and a take that was begun anew is not', async () => {
    // Out of order, as they are copied.
    const second = await bring('CH020012.mov', 100, 125);
    const first = await bring('CH010012.mov', 0, 100);
    const third = await bring('CH030012.mov', 225, 75);
    // The camera's count goes on, and nothing else.
    const other = await bring('CH010013.mov', 350, 50);
    const ids = [first, second, third].map(({ id }) => id);
    for (const [one, next] of [
      [first, second],
      [second, third],
    ] as const) {
      expect(await splitRecordings(project)).toEqual([]);
      await compare(`${one.fileHash} ${next.fileHash}`);
    }
    expect(await activeTask('chain', `${third.fileHash} ${other.fileHash}`)).toBeNull();
    expect(await splitRecordings(project)).toMatchObject([
      { ids, names: ['CH010012.mov', 'CH020012.mov', 'CH030012.mov'], durationSeconds: 12, isJoining: false },
    ]);
  });

  it('becomes one file without a frame lost or coded anew; what hangs on a part keeps it', async () => {
    const [recording] = await splitRecordings(project);
    const [first] = recording!.ids;
    await saveMarker(project, { id: crypto.randomUUID(), media: first!, seconds: 1, note: 'horn', kind: 'note' });
    expect(await changeFootage(project, 'join', { ids: recording!.ids })).toEqual({ ok: true, value: {} });
    expect((await splitRecordings(project))[0]!.isJoining).toBe(true);
    expect(await changeFootage(project, 'join', { ids: recording!.ids })).toMatchObject({ ok: false });
    const task = (await activeTask('join', recording!.ids.join(' ')))!;
    const said = await joinRecording(work({ subject: task.subject, title: task.title }));
    expect(said).toBe('Stay, because something hangs on them: CH010012.mov.');

    const whole = (await listMedia(project)).find(({ name }) => name === 'CH010012–CH030012.mov')!;
    const path = await storage().localPath((await findFile((await findMedia(whole.id))!.fileHash))!.storageKey);
    const info = await probe(path);
    expect(info).toMatchObject({
      startTimecode: '10:00:00:00',
      coding: { orientation: 3 },
      audioCodec: 'pcm_s16le',
    });
    expect(info.durationSeconds).toBeCloseTo(12, 1);
    expect(info.recordedAt!.slice(0, 19)).toBe('2026-06-06T10:00:00');
    // Upside down, as filmed, the bars stand the other way round.
    const upright = join(folder, 'upright.mkv');
    ffmpeg('-noautorotate', '-i', path, '-c:v', 'ffv1', '-an', upright);
    expect(numbersIn(upright)).toEqual(Array.from({ length: 300 }, (_, frame) => frame));
    expect((await listTakenOut(project)).map(({ name }) => name).sort()).toEqual(['CH020012.mov', 'CH030012.mov']);
    expect(await splitRecordings(project)).toEqual([]);
    // What left the project is not read before the whole.
    const waits = await database()
      .select()
      .from(tasks)
      .where(and(eq(tasks.projectId, project), eq(tasks.kind, 'read')));
    const queued = waits.filter(({ state }) => state === 'queued').map(({ title }) => title);
    expect(queued.sort()).toEqual(['CH010012.mov', 'CH010012–CH030012.mov', 'CH010013.mov']);
  });

  it('that is none is not offered again', async () => {
    project = (await createProject('Several')).id;
    for (const [name, from, frames] of [
      ['a_1.mov', 0, 100],
      ['a_2.mov', 100, 125],
    ] as const)
      await bring(name, from, frames);
    const [recording] = await splitRecordings(project);
    expect(await changeFootage(project, 'apart', { ids: recording!.ids })).toMatchObject({ ok: true });
    expect(await splitRecordings(project)).toEqual([]);
    expect(await changeFootage(project, 'join', { ids: recording!.ids })).toMatchObject({ ok: false });
  });
});

it('is called by its first and its last part, in a container that holds it', () => {
  expect(nameOfWhole(['CH01.MP4', 'CH02.MP4', 'CH03.MP4'])).toBe('CH01–CH03.mp4');
  expect(nameOfWhole(['1.mxf', '2.mxf'])).toBe('1–2.mkv');
});
