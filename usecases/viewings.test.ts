import { eq } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { assembleReel, type ReelCommand, type Source } from '#core/reel';
import { rates } from '#core/time';
import { closeDatabase, database, migrateDatabase } from '#data/db';
import { changeProject, createProject } from '#data/projects';
import { createReel, openReel, saveRevision } from '#data/reels';
import { renders, viewings } from '#data/schema';
import { deleteRender } from '#data/tasks';
import { migrateQueue } from './queue';
import { showOutputs } from './renders';
import type { ValueOf } from './result';
import { approve, comment, findShownFile, givePassword, showLink, takeBack } from './viewingLink';
import { isPassword, hashPassword } from './viewingKeys';
import { changeReelViewing, showViewing } from './viewings';

const sources = new Map<string, Source>([['a', { id: 'a', name: 'a', durationSeconds: 60 }]]);
const nobody = { pass: null, secret: null };
const ada = { pass: null, secret: 'what the browser of Ada holds' };
const ben = { pass: null, secret: 'what the browser of Ben holds' };

it('a password is known again, and nothing else is', async () => {
  const kept = await hashPassword('ducks');
  expect(kept).not.toContain('ducks');
  expect([await isPassword('ducks', kept), await isPassword('geese', kept), await isPassword('', 'x')]).toEqual([
    true,
    false,
    false,
  ]);
});

describe.skipIf(!process.env.DATABASE_URL)('a reel that is shown to others', () => {
  let project = '';
  let reelId = '';
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Shown')).id;
  });
  afterAll(() => closeDatabase());

  const pieces = [
    { media: 'a', start: 0, end: 2, name: 'Launch' },
    { media: 'a', start: 10, end: 13, name: 'Paddle' },
  ];
  const documentOf = (count = 2) =>
    assembleReel('Pond', pieces.slice(0, count), sources, rates['25'], { width: 1920, height: 1080 }, () =>
      crypto.randomUUID(),
    );
  const change = (given: object) => changeReelViewing(project, reelId, given);
  /** @returns the address's part that nobody can guess */
  const shown = async (settings: object = {}) => {
    reelId = await createReel(project, documentOf());
    expect(await change({ intent: 'open', ...settings })).toMatchObject({ ok: true });
    return (await line()).path.split('/').at(-1)!;
  };
  const line = async () =>
    ((await showViewing(project, reelId)) as { value: ValueOf<typeof showViewing> }).value.viewing!;
  const seen = async (token: string, visitor = nobody as Parameters<typeof showLink>[1]) => {
    const link = await showLink(token, visitor);
    if (!link.ok || link.value.isLocked) throw new Error('not shown');
    return link.value;
  };
  const said = async (token: string, more: object = {}, visitor = ada) =>
    comment(token, visitor, {
      version: (await seen(token)).versions[0]!.id,
      seconds: 3,
      name: 'Ada',
      text: 'The boat is cut off.',
      ...more,
    });

  it('is seen under its address alone, in a film of at most 720 lines', async () => {
    const token = await shown({ text: 'first cut' });
    expect(token).toMatch(/^[\w-]{32}$/);
    expect(await seen(token)).toMatchObject({
      name: 'Pond',
      versions: [{ number: 1, note: 'first cut', state: 'making' }],
    });
    expect((await seen(token)).versions[0]!.size).toEqual({ width: 1280, height: 720 });
    for (const other of [token.slice(1), '', reelId])
      expect(await showLink(other, nobody)).toMatchObject({ ok: false, why: 'missing' });
    await change({ intent: 'renew' });
    expect(await showLink(token, nobody)).toMatchObject({ ok: false, why: 'missing' });
  });

  it('is behind a password where one is set; guessing is slowed down', async () => {
    const token = await shown({ password: 'ducks' });
    expect(await showLink(token, nobody)).toMatchObject({ value: { isLocked: true } });
    const { id } = (await line()).versions[0]!;
    expect(await findShownFile(token, nobody, id)).toMatchObject({ ok: false, why: 'refused' });
    expect(await comment(token, ada, { version: id, seconds: 0, name: 'Ada', text: 'Hi' })).toMatchObject({
      ok: false,
    });
    const given = await givePassword(token, 'ducks');
    if (!given.ok) throw new Error(given.sentence);
    expect(await seen(token, { pass: given.value, secret: null })).toMatchObject({ name: 'Pond' });
    // Another password: who gave the old one gives the new one too.
    await change({ intent: 'settings', password: 'geese' });
    expect(await showLink(token, { pass: given.value, secret: null })).toMatchObject({ value: { isLocked: true } });
    // Nothing said of a password: it stays, also when the link is closed and opened again.
    await change({ intent: 'settings', mayDownload: 'yes' });
    await change({ intent: 'close' });
    await change({ intent: 'open' });
    expect((await line()).hasPassword).toBe(true);
    const reopened = (await line()).path.split('/').at(-1)!;
    expect(await showLink(reopened, nobody)).toMatchObject({ value: { isLocked: true } });
    expect(await givePassword(reopened, 'geese')).toMatchObject({ ok: true });
    await database().update(viewings).set({ token }).where(eq(viewings.reelId, reelId));
    for (let guess = 0; guess < 10; guess++)
      expect(await givePassword(token, 'swans')).toMatchObject({ sentence: 'This is not the password.' });
    expect(await givePassword(token, 'geese')).toMatchObject({
      ok: false,
      sentence: expect.stringContaining('10 min') as string,
    });
    await database()
      .update(viewings)
      .set({ guessedAt: new Date(Date.now() - 11 * 60_000) })
      .where(eq(viewings.reelId, reelId));
    expect(await givePassword(token, 'geese')).toMatchObject({ ok: true });
  });

  it('ends on its day, when it is closed, and with its project; comments come back with it', async () => {
    const token = await shown();
    await said(token);
    expect(await change({ intent: 'settings', endsAt: '2020-01-01T00:00:00Z' })).toMatchObject({
      problems: { endsAt: expect.any(String) as string },
    });
    await database()
      .update(viewings)
      .set({ endsAt: new Date(Date.now() - 1000) })
      .where(eq(viewings.reelId, reelId));
    expect(await showLink(token, nobody)).toMatchObject({ ok: false, why: 'missing' });
    await change({ intent: 'settings' });
    expect(await seen(token)).toMatchObject({ endsAt: null });
    await changeProject(project, { removedAt: new Date() });
    expect(await showLink(token, nobody)).toMatchObject({ ok: false });
    await changeProject(project, { removedAt: null });
    await change({ intent: 'close' });
    expect(await showLink(token, nobody)).toMatchObject({ ok: false, why: 'missing' });
    await change({ intent: 'open' });
    const again = (await line()).path.split('/').at(-1)!;
    expect(again).not.toBe(token);
    // The state that was shown last is not shown twice.
    expect(await seen(again)).toMatchObject({
      versions: [{ number: 1 }],
      comments: [{ text: 'The boat is cut off.' }],
    });
  });

  it('hears comments and answers, each once, and lets only their writers take them back', async () => {
    const token = await shown();
    const id = crypto.randomUUID();
    await said(token, { id });
    await said(token, { id });
    await said(token, { answers: id, name: 'Ben', text: 'Yes.' }, ben);
    const [first] = (await seen(token, ben)).comments;
    expect(first).toMatchObject({ id, isOwn: false, seconds: 3, replies: [{ author: 'Ben', isOwn: true }] });
    expect(await takeBack(token, ben, id, false)).toMatchObject({ ok: false });
    expect(await takeBack(token, nobody, id, false)).toMatchObject({ ok: false });
    expect(await takeBack(token, ada, id, false)).toMatchObject({ ok: true });
    expect((await seen(token)).comments).toEqual([]);
    await takeBack(token, ada, id, true);
    await change({ intent: 'tick', id });
    expect((await seen(token)).comments).toMatchObject([{ isDone: true }]);
    for (const bad of [
      { text: '' },
      { text: 'x'.repeat(2001) },
      { name: ' ' },
      { seconds: 'soon' },
      { seconds: -1 },
      { version: reelId },
      { answers: reelId },
    ])
      expect(await said(token, bad)).toMatchObject({ ok: false });
    for (let count = 0; count < 30; count++) await said(token);
    expect(await said(token)).toMatchObject({ sentence: expect.stringContaining('in one minute') as string });
  });

  it('tells the editor where what was said of an earlier version is now', async () => {
    const token = await shown();
    await said(token);
    const reel = (await openReel(reelId))!;
    const [launch, paddle] = reel.document.tracks[0]!.items;
    const edit = { type: 'remove', clip: launch!.id } as unknown as ReelCommand;
    const without = { ...reel.document, tracks: [{ ...reel.document.tracks[0]!, items: [paddle!] }] };
    expect(await saveRevision(reelId, reel.head, without, edit)).toBe(true);
    // 3 s of the version is 1 s of its second piece.
    expect((await line()).comments).toMatchObject([{ version: 1, now: { frame: 25, how: 'there' } }]);
    expect((await line()).versions).toMatchObject([{ isAsNow: false }]);
    await change({ intent: 'show', text: 'shorter' });
    expect(await seen(token)).toMatchObject({ versions: [{ length: 5 }, { number: 2, length: 3, note: 'shorter' }] });
  });

  it('is approved by name, by several, and not any more', async () => {
    const token = await shown();
    const { id } = (await seen(token)).versions[0]!;
    await Promise.all([
      approve(token, ada, { version: id, name: 'Ada' }, true),
      approve(token, ben, { version: id, name: 'Ben' }, true),
    ]);
    await approve(token, ada, { version: id, name: 'Ada again' }, true);
    expect((await line()).versions[0]!.approvals.map(({ name }) => name).sort()).toEqual(['Ada again', 'Ben']);
    await approve(token, ada, { version: id, name: 'Ada' }, false);
    expect((await line()).versions[0]!.approvals).toMatchObject([{ name: 'Ben' }]);
    expect(await approve(token, ben, { version: id, name: '' }, true)).toMatchObject({ ok: false });
  });

  it('keeps comments when a film is deleted, and makes the film of the same state again', async () => {
    const token = await shown();
    await said(token);
    const { file, id } = (await seen(token)).versions[0]!;
    expect(await showOutputs(project)).toMatchObject({
      value: { renders: expect.arrayContaining([expect.objectContaining({ id: file, isUnderLink: true })]) as unknown },
    });
    await deleteRender(project, file!);
    expect(await seen(token)).toMatchObject({ versions: [{ state: 'gone' }], comments: [{ seconds: 3 }] });
    expect(await findShownFile(token, nobody, id)).toMatchObject({ ok: false, why: 'missing' });
    await change({ intent: 'again', id });
    expect(await seen(token)).toMatchObject({ versions: [{ id, state: 'making' }] });
    const rows = await database().select().from(renders).where(eq(renders.reelId, reelId));
    expect(rows).toMatchObject([{ revision: 0, name: 'Pond, version 1' }]);
  });

  it('is not made of an empty reel, nor changed by another project', async () => {
    reelId = await createReel(project, documentOf(0));
    expect(await change({ intent: 'open' })).toMatchObject({
      ok: false,
      sentence: expect.stringContaining('empty') as string,
    });
    await shown();
    const other = (await createProject('Other')).id;
    expect(await changeReelViewing(other, reelId, { intent: 'close' })).toMatchObject({ ok: false, why: 'missing' });
    expect(await change({ intent: 'sell' })).toMatchObject({ ok: false, why: 'refused' });
  });
});
