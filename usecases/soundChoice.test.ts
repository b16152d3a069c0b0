import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { findMedia, keyOf, type MediaRow } from '#data/media';
import { createProject } from '#data/projects';
import { findReading, loadRaw } from '#data/readings';
import { subjectOf } from '#data/tasks';
import { probe } from '#media/probe/probe';
import { storage } from '#data/storage';
import { decodeMono, ffmpeg } from '../media/testMedia';
import { readFile } from './background/readFile';
import type { Work } from './background/runTask';
import { migrateQueue } from './queue';
import { changeSound, findPlayable, hearExcerpt } from './readings';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-sound-'));

describe.skipIf(!process.env.DATABASE_URL)('what is heard of a file', () => {
  let item: MediaRow;
  const before = process.env.BRIGHT_REEL_DATA;
  const again = async () => (item = (await findMedia(item.id))!);
  const read = async (parameters: string) => {
    const task = { id: crypto.randomUUID(), projectId: item.projectId, title: 'two.mp4', attempts: 1 };
    await readFile({
      task: { ...task, subject: subjectOf({ hash: item.fileHash, parameters }) },
      run: crypto.randomUUID(),
      signal: new AbortController().signal,
      progress: () => undefined,
      say: async () => undefined,
    } as unknown as Work);
  };
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    ffmpeg(
      ...['-f', 'lavfi', '-i', `testsrc2=s=160x90:r=25:d=4`, '-f', 'lavfi', '-i', 'sine=300:d=4'],
      ...['-f', 'lavfi', '-i', `sine=${500 + Math.round(Math.random() * 1000)}:d=4,volume=-20dB`],
      ...['-map', '0', '-map', '1', '-map', '2', '-pix_fmt', 'yuv420p', join(folder, 'two.mp4')],
    );
    item = await bringIn((await createProject('Tracks')).id, join(folder, 'two.mp4'), 'two.mp4', { copy: true });
    await read('');
    await again();
  });
  afterAll(async () => {
    process.env.BRIGHT_REEL_DATA = before;
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  it('is noted with what there was to hear', async () => {
    const { probe: known } = (await findReading(keyOf(item)))!;
    expect([known.heard, known.listened!.length, known.soundTracks!.length]).toEqual([
      [{ track: 0, channel: null }],
      2,
      2,
    ]);
  });
  it('is listened to before it is chosen', async () => {
    const answer = await hearExcerpt(item.id, { sound: '1', from: '1' });
    const heard = join(folder, 'heard.webm');
    writeFileSync(heard, answer.ok ? answer.value : '');
    const samples = decodeMono(heard, 8000);
    // Three seconds are left of four, of the track that is ten times quieter.
    expect(samples.length / 8000).toBeCloseTo(3, 1);
    expect(Math.max(...samples.subarray(4000, 20_000))).toBeLessThan(0.05);
    for (const given of [
      { sound: '2', from: 0 },
      { sound: '1', from: 9 },
      { sound: '1', from: 'x' },
      { sound: '-', from: 0 },
    ])
      expect(await hearExcerpt(item.id, given)).toMatchObject({ ok: false });
  });
  it('tracks that the file has not are refused', async () => {
    expect(await changeSound(item.projectId, item.id, { sound: '2' })).toMatchObject({ ok: false });
    expect(await changeSound(item.projectId, item.id, { sound: '1;rm' })).toMatchObject({ ok: false });
  });
  it('another track is read without the pictures, takes the place of the former, and players get it', async () => {
    const [, first] = [null, (await loadRaw(keyOf(item)))!];
    expect(await changeSound(item.projectId, item.id, { sound: '1' })).toMatchObject({ ok: true });
    await again();
    expect([item.parameters, item.nextParameters]).toEqual(['', ',1']);
    await read(',1');
    await again();
    expect([item.parameters, item.nextParameters]).toEqual([',1', null]);
    const second = (await loadRaw(keyOf(item)))!;
    const level = (raw: typeof first) => raw.traces.get('sound.level')!.values[100]!;
    expect(level(first) - level(second)).toBeCloseTo(20, 0);
    // Taken over as they were; a decode would give new lists with the same values, so that a mark tells.
    expect(second.traces.get('frame.mean')!.values).toEqual(first.traces.get('frame.mean')!.values);
    const played = await findPlayable(item.id);
    const file = await storage().localPath(played.ok ? played.value.key : '');
    expect(file).toMatch(/,1\/proxy\.mp4$/);
    expect((await probe(file)).soundTracks).toHaveLength(1);
  });
  it('a choice that was read before is there at once; what is best too', async () => {
    expect(await changeSound(item.projectId, item.id, { sound: '' })).toMatchObject({ ok: true });
    await again();
    expect([item.parameters, item.nextParameters]).toEqual(['', null]);
    const played = await findPlayable(item.id);
    expect(played.ok && played.value.key).toMatch(/^files\//);
  });
});
