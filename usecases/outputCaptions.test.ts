import { appendFileSync, copyFileSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assembleReel, type CaptionWay } from '#core/reel';
import { rates } from '#core/time';
import { importWords } from '#core/words';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { createReel, openReel } from '#data/reels';
import { queueRenders, setRender } from '#data/tasks';
import { saveTranscript } from '#data/words';
import { showOutputCaptions } from './outputCaptions';
import { migrateQueue } from './queue';
import { collectOutputs, newRender } from './renders';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-captions-'));

describe.skipIf(!process.env.DATABASE_URL)('captions beside a file', () => {
  const before = process.env.BRIGHT_REEL_DATA;
  let project: string;
  let reelId: string;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Captions')).id;
    const film = join(folder, 'race-day.mp4');
    copyFileSync('demo/media/race-day.mp4', film);
    appendFileSync(film, folder);
    const { id } = await bringIn(project, film, 'race-day.mp4', { copy: true });
    await saveTranscript(id, importWords(readFileSync('demo/media/race-day.srt', 'utf8')), 'imported', 0);
    const reel = assembleReel(
      'Race day',
      [{ media: id, start: 0, end: 60, name: 'the first minute' }],
      new Map([[id, { id, name: 'race-day', durationSeconds: 252 }]]),
      rates['30'],
      { width: 1280, height: 720 },
      () => crypto.randomUUID(),
    );
    reelId = await createReel(project, reel);
  });
  afterAll(async () => {
    process.env.BRIGHT_REEL_DATA = before;
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  const rendered = async (captions: CaptionWay, range: { start: number; end: number } | null = null, isDone = true) => {
    const reel = (await openReel(reelId))!;
    const file = {
      name: 'Race day',
      range,
      width: 640,
      height: 360,
      format: 'mp4',
      quality: 'good',
      captions,
    } as const;
    const [id] = await queueRenders([newRender(reel, file)]);
    if (isDone) await setRender(id!, { storageKey: `renders/${id!}.mp4`, size: 1 });
    return id!;
  };
  const starts = (text: string) =>
    [...text.matchAll(/^00:(\d\d):(\d\d),(\d{3}) -->/gm)].map(
      ([, m, s, ms]) => Number(m) * 60 + Number(s) + Number(ms) / 1000,
    );

  it('stand at the times of the film, with its words', async () => {
    const whole = await showOutputCaptions(await rendered('beside'));
    if (!whole.ok) throw new Error(whole.sentence);
    expect(whole.value.name).toBe('Race day.srt');
    const first = /\d\n(.*?) -->.*\n(\w+)/.exec(readFileSync('demo/media/race-day.srt', 'utf8'))!;
    expect(whole.value.text).toContain(first[2]);
    expect(starts(whole.value.text).at(-1)).toBeLessThan(60);
    // Of the second half: the same ones half a minute earlier.
    const half = await showOutputCaptions(await rendered('beside', { start: 900, end: 1800 }));
    if (!half.ok) throw new Error(half.sentence);
    const late = starts(whole.value.text).filter((start) => start > 30);
    expect(late.length).toBeGreaterThan(2);
    expect(starts(half.value.text).slice(-late.length)).toEqual(
      late.map((start) => Math.round((start - 30) * 1000) / 1000),
    );
  });
  it('are missing, with a sentence, where they are in the picture, left away, or the film is not there yet', async () => {
    for (const id of [
      await rendered('burnt'),
      await rendered('none'),
      await rendered('beside', null, false),
      'nonsense',
    ])
      expect(await showOutputCaptions(id)).toMatchObject({
        ok: false,
        sentence: expect.stringContaining('no captions beside') as string,
      });
  });
  it('go along in the archive of all files, by the name of their film', async () => {
    const collected = await collectOutputs(project, null);
    if (!collected.ok) throw new Error(collected.sentence);
    const names = collected.value.files.map(({ name }) => name);
    expect(
      collected.value.texts.map(({ name }) => name.replace('.srt', '.mp4')).every((name) => names.includes(name)),
    ).toBe(true);
    expect(collected.value.texts).toHaveLength(2);
  });
});
