import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assembleReel, mainTrack, type Source } from '#core/reel';
import { seededRandom } from '#core/signal';
import { rates } from '#core/time';
import { anyEdit, testSources } from '../core/reel/testEdits';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { createReel, listSteps, openReel } from '#data/reels';
import { editReel } from './editReel';
import { addRead } from './testFootage';

const known = new Map<string, Source>([['a', { id: 'a', name: 'a', durationSeconds: 60 }]]);

describe.skipIf(!process.env.DATABASE_URL)('an edit of a reel', () => {
  let [project, other] = ['', ''];
  beforeAll(async () => {
    await migrateDatabase();
    project = (await createProject('Edits')).id;
    other = (await createProject('Elsewhere')).id;
  });
  afterAll(closeDatabase);

  /** Three pieces of two seconds each. */
  const make = async () => {
    const pieces = [0, 10, 20].map((start) => ({ media: 'a', start, end: start + 2, name: `from ${start}` }));
    const size = { width: 1280, height: 720 };
    const reel = assembleReel('Pond', pieces, known, rates['25'], size, () => crypto.randomUUID());
    const id = await createReel(project, reel);
    return { id, pieces: mainTrack(reel).items.map((item) => item.id) };
  };
  /** The same of footage that was read, with a photo and a recording beside it. */
  const makeOfRead = async () => {
    const [a, b, p, r] = await Promise.all(
      [...testSources.values()].map(({ name, durationSeconds, photo, soundOnly }) =>
        addRead(project, name, {
          kind: photo ? 'photo' : soundOnly ? 'sound' : 'video',
          durationSeconds,
          hasSound: !photo,
          ...(photo || soundOnly ? { rate: null } : {}),
        }),
      ),
    );
    const known = new Map([[a!, { id: a!, name: 'a.mp4', durationSeconds: 40 }]]);
    const pieces = [2, 10, 20].map((start) => ({ media: a!, start, end: start + 2, name: `from ${start}` }));
    const size = { width: 1280, height: 720 };
    const reel = assembleReel('Pond', pieces, known, rates['25'], size, () => crypto.randomUUID());
    return { id: await createReel(project, reel), media: { a: a!, b: b!, p: p!, r: r! } };
  };
  const names = async (id: string) =>
    mainTrack((await openReel(id))!.document).items.map((item) => (item.kind === 'clip' ? item.name : 'gap'));

  it('is done on the version that the sender knows, and gives the reel as it stands then', async () => {
    const { id, pieces } = await make();
    const first = await editReel(project, id, { head: 0, command: { type: 'remove', clip: pieces[1] } });
    expect(first).toMatchObject({ ok: true, value: { head: 1, canUndo: true } });
    expect(await names(id)).toEqual(['from 0', 'from 20']);
  });
  it('that comes twice, because its answer was lost, is done once', async () => {
    const { id, pieces } = await make();
    const edit = { id: crypto.randomUUID(), head: 0, command: { type: 'remove', clip: pieces[0] } };
    const both = await Promise.all([editReel(project, id, edit), editReel(project, id, edit)]);
    expect(both.map((answer) => answer.ok)).toEqual([true, true]);
    expect(await editReel(project, id, edit)).toMatchObject({ ok: true, value: { head: 1 } });
    expect(await names(id)).toEqual(['from 10', 'from 20']);
    expect(await listSteps(id, 1, 10)).toHaveLength(2);
  });
  it('of an older version is a conflict that shows what stands there, and changes nothing', async () => {
    const { id, pieces } = await make();
    await editReel(project, id, { head: 0, command: { type: 'rename', name: 'Theirs' } });
    const late = await editReel(project, id, { head: 0, command: { type: 'remove', clip: pieces[0] } });
    expect(late).toMatchObject({
      ok: false,
      why: 'conflict',
      sentence: expect.stringMatching(/another window/) as string,
      now: { head: 1, document: { name: 'Theirs' } },
    });
    expect(await names(id)).toHaveLength(3);
  });
  it('of which two come at the same time: one is done, the other is in conflict', async () => {
    const { id, pieces } = await make();
    const answers = await Promise.all(
      pieces.map((clip) =>
        editReel(project, id, { id: crypto.randomUUID(), head: 0, command: { type: 'remove', clip } }),
      ),
    );
    expect(answers.filter((answer) => answer.ok)).toHaveLength(1);
    expect(answers.filter((answer) => !answer.ok && answer.why === 'conflict')).toHaveLength(2);
    expect(await names(id)).toHaveLength(2);
  });
  it('is taken back, done again, and gone back to; what is not there is refused in a sentence', async () => {
    const { id, pieces } = await make();
    await editReel(project, id, { head: 0, command: { type: 'remove', clip: pieces[0] } });
    expect(await editReel(project, id, { head: 1, step: 'redo' })).toMatchObject({
      why: 'refused',
      sentence: 'There is nothing to redo.',
    });
    expect(await editReel(project, id, { head: 1, step: 'undo' })).toMatchObject({ ok: true, value: { head: 0 } });
    expect(await names(id)).toHaveLength(3);
    expect(await editReel(project, id, { head: 0, step: 'redo' })).toMatchObject({ ok: true, value: { head: 1 } });
    expect(await editReel(project, id, { head: 1, command: { type: 'restore', version: 9 } })).toMatchObject({
      why: 'refused',
    });
    expect(await editReel(project, id, { head: 1, command: { type: 'restore', version: 0 } })).toMatchObject({
      ok: true,
      value: { head: 2 },
    });
    expect(await names(id)).toEqual(['from 0', 'from 10', 'from 20']);
  });
  it('that does not fit, or is none, is refused and changes nothing; a reel of another project is missing', async () => {
    const { id, pieces } = await make();
    const far = { type: 'trim', clip: pieces[0], edge: 'in', frames: 9999 };
    expect(await editReel(project, id, { head: 0, command: far })).toMatchObject({ ok: false, why: 'refused' });
    expect(await editReel(project, id, { head: 0 })).toMatchObject({ ok: false, why: 'refused' });
    expect(await editReel(project, id, null)).toMatchObject({ ok: false, why: 'refused' });
    expect(await editReel(other, id, { head: 0, step: 'undo' })).toMatchObject({ ok: false, why: 'missing' });
    expect((await openReel(id))!.head).toBe(0);
  });

  it('of any kind is taken back one by one to what was there, and done again to what it made', async () => {
    const random = seededRandom(11);
    const { id, media } = await makeOfRead();
    const now = async () => JSON.stringify((await openReel(id))!.document);
    const documents = [await now()];
    let refusals = 0;
    for (let round = 0; documents.length < 40; round++) {
      const { document, head } = (await openReel(id))!;
      const answer = await editReel(project, id, {
        head,
        command: anyEdit(document, random, () => crypto.randomUUID(), media),
      });
      if (answer.ok) documents.push(await now());
      else refusals++;
    }
    expect(refusals).toBeLessThan(documents.length);
    for (const was of documents.slice(0, -1).reverse()) {
      const { head } = (await openReel(id))!;
      expect((await editReel(project, id, { head, step: 'undo' })).ok).toBe(true);
      expect(await now()).toBe(was);
    }
    for (const was of documents.slice(1)) {
      const { head } = (await openReel(id))!;
      expect((await editReel(project, id, { head, step: 'redo' })).ok).toBe(true);
      expect(await now()).toBe(was);
    }
  });
});
