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
    expect(first).toMatchObject({ ok: true, value: { reel: { head: 1, canUndo: true }, isMerged: false } });
    expect(await names(id)).toEqual(['from 0', 'from 20']);
  });
  it('that comes twice, because its answer was lost, is done once', async () => {
    const { id, pieces } = await make();
    const edit = { id: crypto.randomUUID(), head: 0, command: { type: 'remove', clip: pieces[0] } };
    const both = await Promise.all([editReel(project, id, edit), editReel(project, id, edit)]);
    expect(both.map((answer) => answer.ok)).toEqual([true, true]);
    expect(await editReel(project, id, edit)).toMatchObject({ ok: true, value: { reel: { head: 1 } } });
    expect(await names(id)).toEqual(['from 10', 'from 20']);
    expect(await listSteps(id, 1, 10)).toHaveLength(2);
  });
  it('of an older version is done to what stands now; where both changed the same it shows that, and changes nothing', async () => {
    const { id, pieces } = await make();
    const send = (edit: object) => editReel(project, id, { id: crypto.randomUUID(), head: 0, ...edit });
    await send({ command: { type: 'rename', name: 'Theirs' } });
    const late = await send({ command: { type: 'move', clip: pieces[0], to: 2 } });
    expect(late).toMatchObject({
      ok: true,
      value: { isMerged: true, reel: { head: 2, document: { name: 'Theirs' } } },
    });
    expect(await names(id)).toEqual(['from 10', 'from 20', 'from 0']);
    expect(await send({ command: { type: 'rename', name: 'Ours' } })).toMatchObject({
      ok: false,
      why: 'conflict',
      sentence: expect.stringMatching(/^Its name was changed in another window/) as string,
      now: { head: 2, document: { name: 'Theirs' } },
    });
    // What one did on that version since counts: where a piece goes is meant for that order.
    const [first, second] = [crypto.randomUUID(), crypto.randomUUID()];
    const other = await make();
    const edit = (given: object) => editReel(project, other.id, { head: 0, ...given });
    await edit({ id: crypto.randomUUID(), command: { type: 'remove', clip: other.pieces[0] } });
    await edit({ id: first, command: { type: 'move', clip: other.pieces[2], to: 1 } });
    await edit({ id: second, after: [first], command: { type: 'rename', name: 'Ours' } });
    expect(await names(other.id)).toEqual(['from 20', 'from 10']);
    // One step back is over what one did oneself.
    await edit({ id: crypto.randomUUID(), after: [first, second], step: 'undo', of: first });
    expect(await names(other.id)).toEqual(['from 10', 'from 20']);
    expect((await openReel(other.id))!.document.name).toBe('Ours');
    // A step of which nothing is known any more.
    expect(await edit({ step: 'undo' })).toMatchObject({ ok: false, why: 'conflict' });
    expect(await edit({ step: 'undo', of: crypto.randomUUID() })).toMatchObject({ ok: false, why: 'refused' });
  });
  it('of which several come at the same time: all are done, each once', async () => {
    const { id, pieces } = await make();
    const edits = pieces.map((clip, index) => ({
      id: crypto.randomUUID(),
      head: 0,
      command: { type: 'sound', clip, levelDb: -1 - index },
    }));
    const answers = await Promise.all([...edits, ...edits].map((edit) => editReel(project, id, edit)));
    expect(answers.map((answer) => answer.ok)).toEqual(answers.map(() => true));
    expect(mainTrack((await openReel(id))!.document).items).toMatchObject([
      { levelDb: -1 },
      { levelDb: -2 },
      { levelDb: -3 },
    ]);
    expect(await listSteps(id, 3, 10)).toHaveLength(4);
  });
  it('is taken back, done again, and gone back to; what is not there is refused in a sentence', async () => {
    const { id, pieces } = await make();
    await editReel(project, id, { head: 0, command: { type: 'remove', clip: pieces[0] } });
    expect(await editReel(project, id, { head: 1, step: 'redo' })).toMatchObject({
      why: 'refused',
      sentence: 'There is nothing to redo.',
    });
    expect(await editReel(project, id, { head: 1, step: 'undo' })).toMatchObject({
      ok: true,
      value: { reel: { head: 0 } },
    });
    expect(await names(id)).toHaveLength(3);
    expect(await editReel(project, id, { head: 0, step: 'redo' })).toMatchObject({
      ok: true,
      value: { reel: { head: 1 } },
    });
    expect(await editReel(project, id, { head: 1, command: { type: 'restore', version: 9 } })).toMatchObject({
      why: 'refused',
    });
    expect(await editReel(project, id, { head: 1, command: { type: 'restore', version: 0 } })).toMatchObject({
      ok: true,
      value: { reel: { head: 2 } },
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
