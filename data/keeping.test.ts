import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readerVersion, type RawReading } from '#core/readings';
import { shortsDefaults } from '#core/shorts';
import { emptyVariants } from '#core/variants';
import { migrateQueue } from '../usecases/queue';
import { bringIn } from './bringIn';
import { closeDatabase, migrateDatabase } from './db';
import { listDecisions, saveDecision } from './decisions';
import { listMarkers, saveBoard, saveMarker } from './log';
import {
  addMedia,
  adoptRange,
  dropRange,
  findMedia,
  isWantedElsewhere,
  keyOf,
  listMedia,
  listTakenOut,
  setReadingWay,
  bringBack,
  takeOut,
  whatHangsOn,
  type MediaRow,
} from './media';
import { createProject } from './projects';
import { saveReading } from './readings';
import { createReel } from './reels';
import { createShortSet, findShortSet, listShortSets } from './shorts';
import { queueTask, requestCancel } from './tasks';
import { listOtherTexts, loadTranscript, saveTranscript, showText } from './words';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-keeping-'));
const word = (text: string, start: number) => ({ text, start, end: start + 0.4, confidence: 1 });

/** A way of reading that is only a stretch of a file. */
const stretch = (start: number, end: number) => ({ range: { start, end }, sound: null, inputLook: null });

describe.skipIf(!process.env.DATABASE_URL)('what somebody made is kept', () => {
  let project = '';
  let item: MediaRow;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Keeping')).id;
  });
  afterAll(closeDatabase);
  const bring = async (name: string): Promise<MediaRow> => {
    writeFileSync(join(folder, name), `${name} ${Math.random()}`);
    return bringIn(project, join(folder, name), name, { copy: true });
  };
  const read = (row: Pick<MediaRow, 'fileHash'>, parameters: string) => {
    const raw: RawReading = {
      durationSeconds: 252,
      hasPicture: false,
      hasSound: false,
      faces: [],
      objects: [],
      fine: new Float32Array(),
      look: new Float32Array(),
      traces: new Map(),
    };
    const probe = {
      kind: 'sound' as const,
      durationSeconds: 252,
      rate: null,
      width: 0,
      height: 0,
      hasSound: true,
      videoCodec: null,
      audioCodec: 'aac',
      format: 'mov',
    };
    return saveReading({
      hash: row.fileHash,
      parameters,
      version: readerVersion,
      raw,
      probe,
      sheets: null,
      proxyKey: null,
      loudness: null,
      warnings: [],
      tookSeconds: 1,
    });
  };
  const shown = async (row: MediaRow) => (await listMedia(project)).find((each) => each.id === row.id)!;

  describe('a reading, while another stretch of the file is read', () => {
    it('stays until the new one is there, and then gives way', async () => {
      item = await bring('talk.mp4');
      await read(item, '');
      await setReadingWay(project, item.id, stretch(60, 120), true);
      expect(await shown(item)).toMatchObject({
        readFrom: null,
        parameters: '',
        nextParameters: '60.00-120.00',
        probe: { durationSeconds: 252 },
      });
      await read(item, '60.00-120.00');
      await adoptRange({ hash: item.fileHash, parameters: '60.00-120.00' });
      expect(await shown(item)).toMatchObject({
        readFrom: 60,
        readTo: 120,
        parameters: '60.00-120.00',
        nextParameters: null,
      });
    });
    it('stays when the new one is cancelled while it waits', async () => {
      await setReadingWay(project, item.id, stretch(200, Infinity), true);
      const task = await queueTask({
        projectId: project,
        kind: 'read',
        subject: `${item.fileHash} 200.00-end`,
        title: item.name,
      });
      await requestCancel(project, task.id);
      expect(await shown(item)).toMatchObject({
        parameters: '60.00-120.00',
        nextParameters: null,
        probe: { durationSeconds: 252 },
      });
    });
    it('a file without any reading takes the range at once, and the whole file again when that is not read after all', async () => {
      const fresh = await bring('fresh.mp4');
      await setReadingWay(project, fresh.id, stretch(10, 20), false);
      expect(await findMedia(fresh.id)).toMatchObject({ parameters: '10.00-20.00', nextParameters: null });
      await dropRange({ hash: fresh.fileHash, parameters: '10.00-20.00' });
      expect(await findMedia(fresh.id)).toMatchObject({ parameters: '', readFrom: null, readTo: null });
      // What was read once is not forgotten by a later cancel.
      await dropRange({ hash: item.fileHash, parameters: '60.00-120.00' });
      expect(await shown(item)).toMatchObject({ parameters: '60.00-120.00' });
    });
    it('is not ended for others who wait for it', async () => {
      const other = (await createProject('Another')).id;
      expect(await isWantedElsewhere(keyOf(item), item.id)).toBe(false);
      const copy = await addMedia(other, item.fileHash, 'copy.mp4');
      expect(await isWantedElsewhere({ hash: item.fileHash, parameters: '' }, item.id)).toBe(true);
      await takeOut(other, [copy.id]);
      expect(await isWantedElsewhere({ hash: item.fileHash, parameters: '' }, item.id)).toBe(false);
    });
  });

  describe('words, when another text is brought in', () => {
    const english = Array.from({ length: 383 }, (_, index) => word(`word${index}`, index));
    const german = [word('Guten', 1), word('Tag', 2)];
    it('383 corrected words stand beside two lines of German, and are shown again', async () => {
      await saveTranscript(item.id, english, 'corrected', 0);
      const done = await showText(item.id, { words: german, language: 'de' }, 1);
      expect(done).toEqual({ before: expect.any(String) as string });
      expect(await loadTranscript(item)).toMatchObject({
        words: german,
        source: 'imported',
        language: 'de',
        version: 2,
      });
      const [kept] = await listOtherTexts(item.id);
      expect(kept).toMatchObject({ count: 383, source: 'corrected' });
      expect(await showText(item.id, { again: kept!.id }, 2)).toEqual({ before: expect.any(String) as string });
      expect(await loadTranscript(item)).toMatchObject({ words: english, source: 'corrected', version: 3 });
      // The German ones wait in their place; nothing stands twice.
      expect(await listOtherTexts(item.id)).toMatchObject([{ count: 2, language: 'de', source: 'imported' }]);
    });
    it('back to what was heard keeps them too; two windows do not overwrite one another', async () => {
      expect(await showText(item.id, 'heard', 2)).toBe('conflict');
      await showText(item.id, 'heard', 3);
      expect(await loadTranscript(item)).toMatchObject({ words: [], source: null });
      expect((await listOtherTexts(item.id)).map(({ count }) => count).sort()).toEqual([2, 383]);
      expect(await showText(item.id, { again: crypto.randomUUID() }, 0)).toBe('missing');
      const both = await Promise.all([
        showText(item.id, { words: german, language: 'de' }, 0),
        showText(item.id, { words: german, language: 'de' }, 0),
      ]);
      expect(both.filter((each) => each === 'conflict')).toHaveLength(1);
    });
  });

  describe('what hangs on a file that is taken out', () => {
    let set = '';
    it('is named: decisions, markers, words, shorts, reels', async () => {
      await saveDecision(project, { id: crypto.randomUUID(), media: item.id, start: 1, end: 2, verdict: 'keep' });
      await saveMarker(project, { id: crypto.randomUUID(), media: item.id, seconds: 3, note: 'here', kind: 'note' });
      const short = {
        id: 's',
        media: item.id,
        pieces: [{ start: 0, end: 20 }],
        title: 'x',
        reason: '',
        score: 50,
        parts: { hook: 1, speech: 1, faces: 1, action: 1, reactions: 1, whole: 1, picture: 1 },
        endings: [],
        reelId: null,
      };
      set = (
        await createShortSet(project, item.id, {
          wish: { ...shortsDefaults, shape: '9:16', request: '', houseStyle: null },
          material: 'talk',
          because: '',
          shorts: [short, { ...short, id: 't' }],
          thumbs: {},
          order: null,
        })
      ).id;
      await createReel(project, {
        schema: 'BrightReel.Reel.1',
        name: 'Cut',
        rate: { num: 25, den: 1 },
        size: { width: 2, height: 2 },
        tracks: [
          {
            kind: 'picture',
            name: 'Main',
            items: [{ kind: 'clip', id: 'c', media: item.id, name: 'x', sourceIn: 0, frames: 9 }],
          },
        ],
      });
      const part = {
        id: crypto.randomUUID(),
        kind: 'footage' as const,
        media: item.id,
        name: 'x',
        start: null,
        end: null,
      };
      const group = { id: crypto.randomUUID(), name: 'Openings', parts: [part, { ...part, id: crypto.randomUUID() }] };
      await saveBoard(project, 'variants', { ...emptyVariants, groups: [group], order: [group.id] }, 0);
      expect(await whatHangsOn(project, [item.id])).toEqual({
        decisions: 1,
        markers: 1,
        words: 2,
        shorts: 2,
        montages: 0,
        variants: 2,
        reels: ['Cut'],
      });
    });
    it('goes with it and comes back with it, all of it', async () => {
      await takeOut(project, [item.id]);
      expect([
        await findMedia(item.id),
        await listDecisions(project),
        await listMarkers(project),
        await listShortSets(project),
        await findShortSet(project, set),
      ]).toEqual([null, [], [], [], null]);
      expect((await listMedia(project)).map(({ id }) => id)).not.toContain(item.id);
      expect(await listTakenOut(project)).toMatchObject([{ id: item.id, name: 'talk.mp4' }]);
      await bringBack(project, [item.id]);
      expect([
        (await listDecisions(project)).length,
        (await listMarkers(project)).length,
        (await findShortSet(project, set))!.id,
      ]).toEqual([1, 1, set]);
      expect((await loadTranscript((await findMedia(item.id))!)).words).toHaveLength(2);
    });
    it('comes back too when the same file is brought in again', async () => {
      await takeOut(project, [item.id]);
      expect(await addMedia(project, item.fileHash, 'talk again.mp4')).toMatchObject({ id: item.id, removedAt: null });
      expect((await listDecisions(project)).length).toBe(1);
    });
  });
});
