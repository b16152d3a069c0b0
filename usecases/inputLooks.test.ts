import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readCube, writeCube } from '#core/formats';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { addTable, listTables } from '#data/looks';
import { findMedia, keyOf, listMedia, type MediaRow } from '#data/media';
import { createBin, createProject, listBins } from '#data/projects';
import { findReading, loadRaw } from '#data/readings';
import { storage } from '#data/storage';
import { subjectOf } from '#data/tasks';
import { findRecognition, saveRecognition } from '#data/words';
import { decodeGray, ffmpeg } from '../media/testMedia';
import { readFile } from './background/readFile';
import type { Work } from './background/runTask';
import { changeFootage } from './footage';
import { changeTables } from './looks';
import { showProject } from './projects';
import { migrateQueue } from './queue';
import { findPlayable } from './readings';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-look-'));
/** Halves every colour. */
const half = {
  size: 2,
  from: [0, 0, 0] as const,
  to: [1, 1, 1] as const,
  values: Float32Array.from({ length: 24 }, (_, at) => ((Math.floor(at / 3) >> (at % 3)) & 1) / 2),
};

describe.skipIf(!process.env.DATABASE_URL)('an input look', () => {
  let item: MediaRow;
  let table: string;
  const before = process.env.BRIGHT_REEL_DATA;
  const again = async () => (item = (await findMedia(item.id))!);
  const read = async (parameters: string) => {
    const task = { id: crypto.randomUUID(), projectId: item.projectId, title: 'log.mp4', attempts: 1 };
    await readFile({
      task: { ...task, subject: subjectOf({ hash: item.fileHash, parameters }) },
      run: crypto.randomUUID(),
      signal: new AbortController().signal,
      progress: () => undefined,
      say: async () => undefined,
    } as unknown as Work);
    await again();
  };
  const set = (given: object) => changeFootage(item.projectId, 'input-look', given);
  const light = async () => (await loadRaw(keyOf(item)))!.traces.get('frame.mean')!.values[10]!;
  const brightest = (file: string) => Math.max(...decodeGray(file, 16, 9));
  const shown = async () => {
    const project = await showProject(item.projectId);
    return project.ok ? project.value.items.find(({ id }) => id === item.id) : null;
  };

  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    const source = `color=white:s=160x90:r=25:d=4,drawbox=x=${Math.round(Math.random() * 100)}:w=9:color=gray`;
    ffmpeg(
      ...['-f', 'lavfi', '-i', source, '-f', 'lavfi', '-i', 'sine=300:d=4'],
      ...['-vf', 'format=yuv420p', join(folder, 'log.mp4')],
    );
    item = await bringIn((await createProject('Pond')).id, join(folder, 'log.mp4'), 'log.mp4', { copy: true });
    table = await addTable(item.projectId, 'Half light', half);
    await read('');
  });
  afterAll(async () => {
    process.env.BRIGHT_REEL_DATA = before;
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  it('is refused where there is no such table, bin or item', async () => {
    expect(await set({ table: crypto.randomUUID(), ids: [item.id] })).toMatchObject({ ok: false });
    expect(await set({ table, bin: crypto.randomUUID() })).toMatchObject({ ok: false });
    expect(await set({ table })).toMatchObject({ ok: false });
  });

  it('waits until what was read through it is there', async () => {
    expect(await set({ table, ids: [item.id] })).toEqual({ ok: true, value: { left: [] } });
    await again();
    expect([item.parameters, item.nextParameters]).toMatchObject([
      '',
      /^,,[0-9a-f]{32}$/.exec(item.nextParameters!)![0],
    ]);
    expect(await shown()).toMatchObject({
      inputLook: null,
      wantedLook: item.nextParameters!.slice(2),
      probe: { kind: 'video' },
    });
  });

  it('changes what is read of the picture and what is played, and nothing of the sound', async () => {
    const asFilmed = [await light(), (await loadRaw(keyOf(item)))!] as const;
    await saveRecognition(keyOf(item), 'test', [{ text: 'fold', start: 1, end: 2, confidence: 1 }]);
    await read(item.nextParameters!);
    expect(await shown()).toMatchObject({ inputLook: 'Half light', wantedLook: item.parameters.slice(2) });
    // White is 255 of 255 as filmed, and a half of it through the table.
    expect([asFilmed[0] / (await light())]).toEqual([expect.closeTo(2, 1)]);
    const now = (await loadRaw(keyOf(item)))!;
    expect(now.traces.get('sound.level')!.values).toEqual(asFilmed[1].traces.get('sound.level')!.values);
    expect((await findRecognition(keyOf(item)))!.words).toHaveLength(1);
    const reading = (await findReading(keyOf(item)))!;
    expect([reading.sheets!.inputLook, JSON.stringify(reading.probe).includes('cube')]).toEqual([
      item.parameters.slice(2),
      false,
    ]);
    const played = await findPlayable(item.id);
    expect(brightest(await storage().localPath(played.ok ? played.value.key : ''))).toBeLessThan(140);
  });

  it('keeps its table in the project as long as something is seen through it', async () => {
    const tried = await changeTables(item.projectId, { remove: table, file: null });
    expect(tried).toMatchObject({
      ok: false,
      sentence: '“Half light” is the input look of “log.mp4”. Set another there first, or none.',
    });
    expect(await listTables(item.projectId)).toHaveLength(1);
  });

  it('taken away, shows what was read as filmed at once', async () => {
    await set({ table: '', ids: [item.id] });
    await again();
    expect([item.parameters, item.nextParameters, await shown()]).toMatchObject(['', null, { inputLook: null }]);
    expect(await changeTables(item.projectId, { remove: table, file: null })).toMatchObject({ ok: true });
  });

  it('of a bin is that of its films, and of those that come into it later', async () => {
    const bin = await createBin(item.projectId, 'Camera A');
    const own = await addTable(item.projectId, 'Half light', readCube(writeCube(half, 'half')));
    expect(await set({ table: own, bin: bin.id })).toMatchObject({ ok: true });
    const [{ inputLook } = { inputLook: null }] = await listBins(item.projectId);
    const later = async (name: string, source: string) => {
      ffmpeg('-f', 'lavfi', '-i', source, ...['-frames:v', name.endsWith('.mp4') ? '25' : '1'], join(folder, name));
      const row = await bringIn(item.projectId, join(folder, name), name, { binId: bin.id });
      return (await listMedia(item.projectId)).find(({ id }) => id === row.id)!.parameters;
    };
    // The same colours: the same look, whatever the table is called and whichever project it is in.
    expect(inputLook).toBe((await listTables(item.projectId))[0]!.hash);
    const seed = Math.round(Math.random() * 1000);
    expect([
      await later('later.mp4', `mandelbrot=s=64x64:start_x=0.${seed}`),
      await later('photo.png', `mandelbrot=s=64x64:start_x=0.1${seed}`),
    ]).toEqual([`,,${inputLook}`, '']);
  });
});
