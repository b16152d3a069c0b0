import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { captionDefaults } from '#core/captions';
import { clipsOf } from '#core/reel';
import { lengthOfShort, shortsDefaults } from '#core/shorts';
import { overlap } from '#core/time';
import { importWords } from '#core/words';
import { bringIn } from '#data/bringIn';
import { closeDatabase, database, migrateDatabase } from '#data/db';
import type { MediaRow } from '#data/media';
import { createProject } from '#data/projects';
import { listReels, openReel, saveRevision } from '#data/reels';
import { reels, type ShortsDocument } from '#data/schema';
import { changeShortSet, findShortSet, saveHouseStyle, type ShortSet } from '#data/shorts';
import { loadTranscript, saveTranscript, showText } from '#data/words';
import { migrateQueue } from './queue';
import { followingWords, followWords } from './followWords';
import { showReel } from './reels';
import { changeShorts, ensureReels, inOrder, makeShorts, shownShorts, withThumb } from './shorts';
import { bringShipped } from './testFootage';

const short = (id: string, score: number) => ({
  id,
  media: 'm',
  pieces: [{ start: 0, end: 20 }],
  title: id,
  reason: '',
  score,
  parts: {
    hook: score / 7,
    speech: score / 7,
    faces: score / 7,
    action: score / 7,
    reactions: score / 7,
    whole: score / 7,
    picture: score / 7,
  },
  endings: [],
  reelId: null,
});
const document = (over: Partial<ShortsDocument> = {}): ShortsDocument => ({
  wish: { ...shortsDefaults, count: 2, shape: '9:16', request: '', houseStyle: null },
  material: 'talk',
  because: '',
  shorts: [short('a', 90), short('b', 80), short('c', 70)],
  thumbs: {},
  order: null,
  ...over,
});
const names = (shorts: readonly { id: string }[]) => shorts.map(({ id }) => id).join('');

describe('which shorts are shown', () => {
  it('as many as were wished, best first; what is put away makes room', () => {
    expect(names(shownShorts(document()))).toBe('ab');
    expect(names(shownShorts(document({ thumbs: { a: 'down' } })))).toBe('bc');
    expect(names(inOrder(document({ thumbs: { c: 'up' } })))[0]).toBe('c');
  });
  it('an order made by hand stands, and what it does not name follows', () => {
    expect(names(inOrder(document({ order: ['c', 'a'] })))).toBe('cab');
    expect(names(shownShorts(document({ order: ['c', 'b', 'a'], thumbs: { b: 'down' } })))).toBe('ca');
  });
  it('a thumb is set, changed and taken back without touching the others', () => {
    const one = withThumb(document({ thumbs: { b: 'up' } }), { id: 'a', thumb: 'down' });
    expect(one.thumbs).toEqual({ a: 'down', b: 'up' });
    expect(withThumb(one, { id: 'a', thumb: null }).thumbs).toEqual({ b: 'up' });
  });
});

const film = 'demo/media/race-day.mp4';
describe.skipIf(!process.env.DATABASE_URL || !existsSync(film))(
  'shorts of a recording, as the server makes them',
  () => {
    const folder = mkdtempSync(join(tmpdir(), 'bright-reel-shorts-'));
    const before = { ...process.env };
    const wish = {
      ...shortsDefaults,
      count: 3,
      shape: '9:16' as const,
      request: '',
      houseStyle: null as string | null,
    };
    let project = '';
    let item: MediaRow;
    let unread: MediaRow;
    beforeAll(async () => {
      process.env.BRIGHT_REEL_DATA = folder;
      await migrateDatabase();
      await migrateQueue();
      project = (await createProject('Shorts of the server')).id;
      item = await bringShipped(project, 'race-day.mp4');
      unread = await bringIn(project, 'demo/media/child-laughs.mp4', 'child-laughs.mp4', { copy: true });
      await saveTranscript(item.id, importWords(readFileSync('demo/media/race-day.srt', 'utf8')), 'imported', 0);
    });
    afterAll(async () => {
      Object.assign(process.env, before);
      await closeDatabase();
      rmSync(folder, { recursive: true, force: true });
    });
    const made = async (over: Partial<typeof wish> = {}): Promise<ShortSet> => {
      const answer = await makeShorts(item, { ...wish, ...over });
      if (!answer.ok) throw new Error(answer.sentence);
      return answer.value;
    };
    /** Also those that live in a set. */
    const reelsOf = async () =>
      (await database().select({ id: reels.id }).from(reels).where(eq(reels.projectId, project))).map(({ id }) => id);

    it('what cannot be done is said: nothing read, nothing that answers, no such length', async () => {
      expect(await makeShorts(unread, wish)).toMatchObject({
        why: 'refused',
        sentence: expect.stringContaining('is still being read') as string,
      });
      expect(await makeShorts(item, { ...wish, request: 'a green elephant' })).toMatchObject({
        sentence: expect.stringContaining('answers “a green elephant”') as string,
      });
      expect(await makeShorts(item, { ...wish, minSeconds: 590, maxSeconds: 600 })).toMatchObject({
        sentence: expect.stringMatching(/No short of 590 to 600 s/) as string,
      });
    });
    it('each wished one has a reel of its shape with captions; lengths and overlaps are kept', async () => {
      const { document: found } = await made();
      const shown = shownShorts(found);
      expect(shown).toHaveLength(3);
      for (const each of shown) {
        expect(lengthOfShort(each)).toBeGreaterThan(14.9);
        expect(lengthOfShort(each)).toBeLessThan(45.1);
        const reel = (await openReel(each.reelId!))!.document;
        expect([reel.size.width * 16, reel.captions]).toEqual([reel.size.height * 9, captionDefaults]);
        expect(clipsOf(reel)).toHaveLength(each.pieces.length);
        for (const other of shown)
          if (other !== each) {
            const shared = each.pieces
              .flatMap((a) => other.pieces.map((b) => overlap(a, b)))
              .reduce((sum, seconds) => sum + seconds, 0);
            expect(shared / Math.min(lengthOfShort(each), lengthOfShort(other))).toBeLessThanOrEqual(0.2);
          }
      }
      expect(found.shorts.length > 3 ? found.shorts.filter((each) => each.reelId).length : 3).toBe(3);
    });
    it('two windows that bring up the next one make one reel of it', async () => {
      const set = await made();
      const first = shownShorts(set.document)[0]!;
      const changed = (await changeShortSet(set.id, (now) => withThumb(now, { id: first.id, thumb: 'down' })))!;
      const known = await reelsOf();
      await Promise.all([ensureReels(changed), ensureReels(changed), ensureReels(changed)]);
      const stored = (await findShortSet(project, set.id))!;
      const added = (await reelsOf()).filter((id) => !known.includes(id));
      expect(added).toHaveLength(1);
      expect(shownShorts(stored.document).map((each) => each.reelId)).toContain(added[0]);
      expect(await ensureReels(stored)).toBe(stored);
    });
    it('live in their set until one is opened as a reel; those that were not go with it', async () => {
      const set = await made();
      const [first, second] = shownShorts(set.document);
      const listed = async () => (await listReels(project)).map(({ id }) => id);
      expect(await listed()).not.toContain(first!.reelId);
      expect(await showReel(project, first!.reelId!, null)).toMatchObject({ ok: true });
      expect(await listed()).toContain(first!.reelId);
      expect(await listed()).not.toContain(second!.reelId);
      const { head, document: own } = (await openReel(first!.reelId!))!;
      const command = { type: 'rename' as const, name: 'Mine' };
      await saveRevision(first!.reelId!, head, { ...own, name: 'Mine' }, command);
      expect(await changeShorts(project, set.id, { intent: 'delete' })).toMatchObject({ value: { gone: true } });
      expect((await openReel(first!.reelId!))?.document.name).toBe('Mine');
      expect(await openReel(second!.reelId!)).toBeNull();
    });
    it('follow words that were corrected, but for a title that was typed', async () => {
      const set = await made();
      const resting = shownShorts(set.document).filter(({ title }) => title.split(' ').length > 2);
      const [one, other] = resting;
      await saveRevision(
        other!.reelId!,
        0,
        { ...(await openReel(other!.reelId!))!.document, name: 'Typed' },
        { type: 'rename', name: 'Typed' },
      );
      const before = (await loadTranscript(item)).words;
      // Every word of both titles reads otherwise now.
      const [last, lastOther] = [one!, other!].map(({ title }) =>
        title
          .split(' ')
          .at(-1)!
          .toLowerCase()
          .replace(/[^a-z]/g, ''),
      );
      const after = before.map((each) =>
        [last, lastOther].includes(each.text.toLowerCase().replace(/[^a-z]/g, ''))
          ? { ...each, text: `${each.text.replace(/[^A-Za-z]/g, '')}wards` }
          : each,
      );
      await followWords(item, before, after);
      const now = (await findShortSet(project, set.id))!.document.shorts.find(({ id }) => id === one!.id)!;
      expect(now.title).toMatch(/wards/);
      expect((await openReel(one!.reelId!))!.document.name).toBe(now.title);
      expect((await openReel(other!.reelId!))!.document.name).toBe('Typed');
    });
    it('follow another text that takes the place of the words, and the one before when it comes back', async () => {
      const set = await made();
      const [one] = shownShorts(set.document).filter(({ title }) => title.split(' ').length > 2);
      const titleNow = async () =>
        (await findShortSet(project, set.id))!.document.shorts.find(({ id }) => id === one!.id)!.title;
      const { words, version } = await loadTranscript(item);
      const other = words.map((each) => ({ ...each, text: each.text.replace(/[a-z]+/i, (own) => `${own}ski`) }));
      await followingWords([item], () => showText(item.id, { words: other, language: 'pl' }, version));
      expect(await titleNow()).toMatch(/ski\b/);
      expect((await openReel(one!.reelId!))!.document.name).toBe(await titleNow());
      await followingWords([item], () => showText(item.id, { words, language: 'en' }, version + 1));
      expect(await titleNow()).not.toMatch(/ski\b/);
    });
    it('a house style dresses them, without a logo that is not here', async () => {
      const style = await saveHouseStyle(project, 'Pond', false, {
        captions: { ...captionDefaults, lit: '#ff0000' },
        theme: null,
        logo: { media: crypto.randomUUID(), corner: 'top left', size: 0.2, opacity: 1 },
        opening: { text: 'Pond Regatta', seconds: 2 },
        lower: null,
        end: null,
      });
      const { document: found } = await made({ houseStyle: style, count: 1 });
      const reel = (await openReel(shownShorts(found)[0]!.reelId!))!.document;
      expect([reel.captions?.lit, reel.logo ?? null, reel.titles?.[0]?.text]).toEqual([
        '#ff0000',
        null,
        'Pond Regatta',
      ]);
    });
  },
);
