import { mkdtempSync, writeFileSync, existsSync, mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { displayTraceNames, readerVersion, type RawReading } from '#core/readings';
import { assembleReel, mainTrack } from '#core/reel';
import { rates } from '#core/time';
import { bringIn } from './bringIn';
import { contentHash, fileKey } from './contentHash';
import { closeDatabase, migrateDatabase } from './db';
import { listDecisions, removeDecision, saveDecision } from './decisions';
import {
  listMarkers,
  listRecipes,
  loadBoard,
  loadPick,
  removeMarker,
  saveBoard,
  saveDefaults,
  saveMarker,
  savePick,
  saveRecipe,
} from './log';
import { addMedia, findMedia, keyOf, listMedia, setProblem, setReadingWay } from './media';
import { createBin, createProject, findProject, listBins } from './projects';
import {
  coarse,
  findEarlierReading,
  forgetReading,
  loadDerived,
  loadRaw,
  outdatedItems,
  saveReading,
} from './readings';
import { createReel, openReel, saveRevision, stepRevision } from './reels';
import { FolderStorage } from './storage';
import { loadTranscript, saveRecognition, saveTranscript, showText } from './words';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-data-'));
const file = (name: string, text: string) => {
  writeFileSync(join(folder, name), text);
  return join(folder, name);
};

/** A way of reading that is only a stretch of a file. */
const stretch = (start: number, end: number) => ({ range: { start, end }, sound: null, inputLook: null });

describe('storage in a folder', () => {
  const store = new FolderStorage(join(folder, 'own'));
  it('adopts, tells sizes, reads parts, removes', async () => {
    await store.adopt('a/b.txt', file('b.txt', 'hello world'), { copy: true });
    expect(await store.size('a/b.txt')).toBe(11);
    const chunks: Buffer[] = [];
    for await (const chunk of store.read('a/b.txt', { start: 6, end: 8 })) chunks.push(chunk as Buffer);
    expect(Buffer.concat(chunks).toString()).toBe('wor');
    await store.adopt('c.txt', file('c.txt', 'moved'));
    expect(existsSync(join(folder, 'c.txt'))).toBe(false);
    await store.remove('c.txt');
    expect(await store.size('c.txt')).toBeNull();
  });
  it('keeps keys inside its folder', async () => {
    await expect(store.localPath('../x')).rejects.toThrow(/leaves the store/);
    await expect(store.size('../../etc/passwd')).rejects.toThrow(/leaves the store/);
  });
  it('names files by content and a plain ending', () => {
    expect(fileKey('ab12', 'My film.MP4')).toBe('files/ab/ab12.mp4');
    expect(fileKey('ab12', 'odd.$(rm)')).toBe('files/ab/ab12');
  });
});

// FIPS 180-4: SHA-256 of "abc".
it('hashes content with SHA-256', async () =>
  expect(await contentHash(file('abc', 'abc'))).toBe(
    'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad',
  ));

describe.skipIf(!process.env.DATABASE_URL)('database', () => {
  let project = '';
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'kept');
    mkdirSync(process.env.BRIGHT_REEL_DATA);
    await migrateDatabase();
    project = (await createProject('Test')).id;
  });
  afterAll(closeDatabase);

  it('finds projects, and nothing for what is no id', async () => {
    expect((await findProject(project))!.name).toBe('Test');
    expect(await findProject("x' or 1=1")).toBeNull();
    await createBin(project, 'One');
    await createBin(project, 'Two');
    expect((await listBins(project)).map((bin) => bin.name)).toEqual(['One', 'Two']);
  });

  it('stores the same content once for two projects, under two names', async () => {
    const other = (await createProject('Other')).id;
    const first = await bringIn(project, file('x.mp4', 'same content'), 'x.mp4', { copy: true });
    const second = await bringIn(other, file('y.mp4', 'same content'), 'y.mp4', { copy: true });
    expect(second.fileHash).toBe(first.fileHash);
    expect((await addMedia(project, first.fileHash, 'again.mp4')).id).toBe(first.id);
    await setProblem(keyOf(first), 'Cannot be read.');
    for (const id of [project, other]) expect((await listMedia(id))[0]!.problem).toBe('Cannot be read.');
  });

  it('keeps a reading: traces to the bit, runs, and the same again in its place', async () => {
    const { fileHash: hash } = await bringIn(project, file('z.mp4', 'another'), 'z.mp4', { copy: true });
    const values = Float32Array.from({ length: 90 }, (_, i) => Math.sin(i));
    const raw: RawReading = {
      durationSeconds: 3,
      hasPicture: true,
      hasSound: false,
      faces: [],
      objects: [],
      fine: Float32Array.of(0.5),
      look: Float32Array.of(0.25, 0.5),
      traces: new Map([['camera.dx', { name: 'camera.dx', hz: 30, start: 0, values }]]),
    };
    const key = { hash, parameters: '' };
    const reading = {
      ...key,
      version: readerVersion,
      raw,
      sheets: null,
      proxyKey: null,
      loudness: null,
      warnings: [],
      tookSeconds: 1,
      probe: {
        kind: 'video' as const,
        durationSeconds: 3,
        rate: rates['30'],
        width: 320,
        height: 180,
        hasSound: false,
        videoCodec: 'h264',
        audioCodec: null,
        format: 'mov',
      },
    };
    await saveReading(reading);
    // Stored again, and by several at once, as by a worker that was taken for dead.
    await Promise.all(Array.from({ length: 6 }, () => saveReading(reading)));
    expect((await loadRaw(key))!.traces.get('camera.dx')!.values).toEqual(values);
    const derived = (await loadDerived(key))!;
    for (const name of displayTraceNames) expect(derived.traces[name].length).toBe(30);
    expect([...derived.look]).toEqual([0.25, 0.5]);
    expect(derived.runs.filter((run) => run.kind === 'scene')).toEqual([{ kind: 'scene', start: 0, end: 3 }]);
    expect(await loadDerived(key, null, readerVersion + 1)).toBeNull();
    expect((await findEarlierReading(key, readerVersion + 1))!.version).toBe(readerVersion);
    expect(await findEarlierReading(key)).toBeNull();
    expect((await outdatedItems(readerVersion + 1)).filter((item) => item.hash === hash)).toMatchObject([
      { name: 'z.mp4', parameters: '' },
    ]);
    expect((await outdatedItems()).filter((item) => item.hash === hash)).toEqual([]);
  });

  it('keeps another part of a file as a reading of its own, and a rough one until the whole is there', async () => {
    const row = await bringIn(project, file('range.mp4', 'ranged'), 'range.mp4', { copy: true });
    await setReadingWay(project, row.id, stretch(2, Infinity), false);
    const ranged = (await findMedia(row.id))!;
    expect(keyOf(ranged)).toEqual({ hash: row.fileHash, parameters: '2.00-end' });
    const raw: RawReading = {
      durationSeconds: 9,
      hasPicture: false,
      hasSound: false,
      faces: [],
      objects: [],
      fine: new Float32Array(),
      look: new Float32Array(),
      traces: new Map(),
      range: { start: 2, end: 9 },
    };
    const probe = {
      kind: 'sound' as const,
      durationSeconds: 9,
      rate: null,
      width: 0,
      height: 0,
      hasSound: true,
      videoCodec: null,
      audioCodec: 'aac',
      format: 'mov',
    };
    const reading = {
      version: readerVersion,
      raw,
      sheets: null,
      proxyKey: null,
      loudness: { integratedLufs: -20, rangeLu: 3, truePeakDb: -2 },
      warnings: [],
      tookSeconds: 1,
      probe,
    };
    const item = async () => (await listMedia(project)).find((each) => each.id === row.id)!;
    await saveReading({ ...reading, ...coarse(keyOf(ranged)) });
    expect(await item()).toMatchObject({ isRough: true, probe: { durationSeconds: 9 } });
    await saveReading({ ...reading, ...keyOf(ranged) });
    await forgetReading(coarse(keyOf(ranged)), readerVersion);
    expect(await item()).toMatchObject({ isRough: false, loudness: { rangeLu: 3 } });
    expect((await loadRaw(keyOf(ranged)))!.range).toEqual({ start: 2, end: 9 });
    expect((await loadDerived(keyOf(ranged)))!.runs).toEqual([{ kind: 'unread', start: 0, end: 2 }]);
  });

  it('words: heard once, corrected by hand, never overwritten silently, and back', async () => {
    const row = await bringIn(project, file('words.mp4', 'words'), 'words.mp4', { copy: true });
    const word = (text: string) => ({ text, start: 0, end: 1, confidence: 0.5 });
    expect(await loadTranscript(row)).toEqual({ words: [], source: null, language: null, version: 0 });
    await saveRecognition(keyOf(row), 'pocketsphinx', [word('for')]);
    expect(await loadTranscript(row)).toMatchObject({ source: 'pocketsphinx', version: 0 });
    expect(await saveTranscript(row.id, [word('four')], 'corrected', 0)).toBe(true);
    expect(await saveTranscript(row.id, [word('fore')], 'corrected', 0)).toBe(false);
    expect(await saveTranscript(row.id, [word('fore')], 'corrected', 1)).toBe(true);
    expect(await loadTranscript(row)).toMatchObject({ words: [{ text: 'fore' }], source: 'corrected', version: 2 });
    await showText(row.id, 'heard', (await loadTranscript(row)).version);
    expect((await loadTranscript(row)).words[0]!.text).toBe('for');
  });

  it('saves a decision twice without harm and takes it back', async () => {
    const { id: media } = await bringIn(project, file('d.mp4', 'decided'), 'd.mp4', { copy: true });
    const decision = { id: crypto.randomUUID(), media, start: 1, end: 2, verdict: 'keep' as const };
    await saveDecision(project, decision);
    await saveDecision(project, { ...decision, end: 2.5 });
    expect(await listDecisions(project)).toEqual([{ ...decision, end: 2.5 }]);
    const stranger = (await createProject('Stranger')).id;
    await removeDecision(stranger, decision.id);
    expect(await listDecisions(project)).toHaveLength(1);
    await removeDecision(project, decision.id);
    expect(await listDecisions(project)).toEqual([]);
    await saveDecision(project, decision);
    expect(await listDecisions(project)).toHaveLength(1);
  });

  it('remembers the mix of a project; who changed an older version changes nothing and is told', async () => {
    const { value, version } = await loadPick(project);
    const mix = { ...value.mix, talk: 7 };
    expect(await savePick(project, { ...value, targetSeconds: 90, mix }, version)).toBe(version + 1);
    expect(await savePick(project, { ...value, targetSeconds: 30 }, version)).toBeNull();
    expect(await loadPick(project)).toMatchObject({
      version: version + 1,
      value: { targetSeconds: 90, water: null, mix: { talk: 7 }, learning: { on: true, forgotten: [] } },
    });
    expect(await savePick(project, { ...value, targetSeconds: 30 }, version + 1)).toBe(version + 2);
  });

  it('arrangements of views have versions as well, each view its own', async () => {
    const scenes = await loadBoard(project, 'scenes');
    const document = { ...scenes.value, order: ['a@0.00'] };
    expect(await saveBoard(project, 'scenes', document, 0)).toBe(1);
    expect(await saveBoard(project, 'scenes', { ...document, order: [] }, 0)).toBeNull();
    expect(await loadBoard(project, 'scenes')).toEqual({ value: document, version: 1 });
    expect((await loadBoard(project, 'silence')).version).toBe(0);
  });

  it('markers and recipes may be saved twice, taken away and brought back', async () => {
    const item = (await listMedia(project))[0]!;
    const marker = {
      id: crypto.randomUUID(),
      media: item.id,
      seconds: 4.2,
      note: 'first good line',
      kind: 'good' as const,
    };
    await saveMarker(project, marker);
    await saveMarker(project, { ...marker, note: 'best line' });
    expect(await listMarkers(project)).toEqual([{ ...marker, note: 'best line' }]);
    await removeMarker(project, marker.id);
    expect(await listMarkers(project)).toEqual([]);
    await saveMarker(project, marker);
    expect(await listMarkers(project)).toEqual([marker]);
    const { mix, limits, piece } = (await loadPick(project)).value;
    await saveRecipe(project, { id: crypto.randomUUID(), name: 'Sails', mix, limits, piece });
    expect((await listRecipes(project)).map((recipe) => recipe.name)).toEqual(['Sails']);
  });

  it('default in and out points stay with the item', async () => {
    const item = (await listMedia(project))[0]!;
    await saveDefaults(project, item.id, 1, 8.5);
    expect((await listMedia(project))[0]).toMatchObject({ defaultIn: 1, defaultOut: 8.5 });
    await saveDefaults(project, item.id, null, null);
  });

  it('reels: revisions, undo without limit, redo, and no silent overwriting', async () => {
    const reel = assembleReel(
      'R',
      [{ media: 'a', start: 0, end: 2, name: 'x' }],
      new Map([['a', { id: 'a', name: 'a', durationSeconds: 9 }]]),
      rates['25'],
      { width: 2, height: 2 },
      () => 'c',
    );
    const id = await createReel(project, reel);
    for (let step = 0; step < 5; step++)
      expect(
        await saveRevision(id, step, { ...reel, name: `R${step + 1}` }, { type: 'rename', name: `R${step + 1}` }),
      ).toBe(true);
    expect(await saveRevision(id, 2, { ...reel, name: 'late' }, { type: 'rename', name: 'late' })).toBe(false);
    expect((await openReel(id))!.document.name).toBe('R5');
    for (let step = 5; step > 0; step--) expect(await stepRevision(id, step, 'undo')).toBe(true);
    expect(await stepRevision(id, 0, 'undo')).toBe(false);
    // Somebody else moved the head meanwhile.
    expect(await stepRevision(id, 3, 'redo')).toBe(false);
    const first = (await openReel(id))!;
    expect(first).toMatchObject({ head: 0, canUndo: false, canRedo: true });
    expect(first.document).toEqual(reel);
    expect(await stepRevision(id, 0, 'redo')).toBe(true);
    expect((await openReel(id))!.document.name).toBe('R1');
    expect(mainTrack((await openReel(id))!.document).items).toHaveLength(1);
  });
});
