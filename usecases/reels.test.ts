import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { applyCommand, clipsOf, mainTrack } from '#core/reel';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { listReels, openReel, saveRevision } from '#data/reels';
import { changeWholeReel, createReels, showFirstStretch, showReel, showSteps } from './reels';
import { sourcesOf } from './sources';
import { addRead } from './testFootage';

describe.skipIf(!process.env.DATABASE_URL)('reels', () => {
  beforeAll(() => migrateDatabase());
  afterAll(closeDatabase);
  /** A read item of a project. */
  const item = (of: string, kind: 'video' | 'sound', rate: number, width: number, height: number) =>
    addRead(of, kind === 'video' ? 'pond.mp4' : 'voice.wav', {
      kind,
      rate: kind === 'video' ? { num: rate, den: 1 } : null,
      width,
      height,
    });
  const project = async () => (await createProject('Reels')).id;
  const piece = (media: string, start: number, end: number) => ({ media, start, end, name: 'piece' });
  const made = async (of: string, given: unknown) => {
    const answer = await createReels(of, given);
    if (!answer.ok) throw new Error(answer.sentence);
    return answer.value;
  };

  it('take the rate and shape that most of their pieces have', async () => {
    const of = await project();
    const [wide, tall] = [await item(of, 'video', 25, 1920, 1080), await item(of, 'video', 30, 1080, 1920)];
    const pieces = [piece(wide, 0, 2), piece(tall, 0, 9)];
    const { reels, open } = await made(of, { reels: [{ name: 'Race', pieces }] });
    const { document } = (await openReel(reels[0]!.id))!;
    expect([open, document.rate, document.size]).toEqual([true, { num: 30, den: 1 }, { width: 1080, height: 1920 }]);
    expect(mainTrack(document).items.map((each) => each.frames)).toEqual([60, 270]);
  });
  it('are not made of nothing, nor of footage of another project', async () => {
    const of = await project();
    const elsewhere = await item(await project(), 'video', 25, 640, 360);
    expect(await createReels(of, { reels: [{ name: 'x', pieces: [] }] })).toMatchObject({
      why: 'refused',
      problems: { pieces: expect.stringMatching(/Nothing is kept/) as string },
    });
    expect(await createReels(of, { reels: [{ name: 'x', pieces: [piece(elsewhere, 0, 2)] }] })).toMatchObject({
      why: 'refused',
      problems: { pieces: expect.stringMatching(/None of this footage/) as string },
    });
    expect(await createReels(crypto.randomUUID(), { reels: [] })).toMatchObject({ why: 'missing' });
    expect(await listReels(of)).toEqual([]);
  });
  it('for good pieces there is one, however often it is asked for', async () => {
    const of = await project();
    await item(of, 'video', 25, 640, 360);
    const ask = () => made(of, { reels: [{ name: 'Selects', pieces: [], role: 'selects' }], open: false });
    const [first, second] = [await ask(), await ask()];
    expect([second.reels[0]!.id, first.open]).toEqual([first.reels[0]!.id, false]);
    expect(await listReels(of)).toHaveLength(1);
  });
  it('take other pieces in the place of theirs, as a step that can be taken back', async () => {
    const of = await project();
    const pond = await item(of, 'video', 25, 640, 360);
    const fast = await item(of, 'video', 50, 640, 360);
    const first = (await made(of, { reels: [{ name: 'steady 1', pieces: [piece(pond, 0, 4)] }], open: false }))
      .reels[0]!;
    const before = (await openReel(first.id))!.document;
    const marked = { ...before, markers: [{ id: crypto.randomUUID(), frame: 40, note: 'splash' }] };
    await saveRevision(first.id, 0, marked, { type: 'mark', marker: marked.markers[0]! });
    const again = { name: 'steady 1, later', pieces: [piece(fast, 2, 5)], replaces: first.id };
    expect((await made(of, { reels: [again], open: false })).reels).toEqual([
      { id: first.id, name: 'steady 1, later' },
    ]);
    const { document, canUndo } = (await openReel(first.id))!;
    // At the reel's own rate: three seconds are 75 frames.
    expect([document.name, document.rate, canUndo]).toEqual(['steady 1, later', { num: 25, den: 1 }, true]);
    expect(mainTrack(document).items).toMatchObject([{ media: fast, sourceIn: 50, frames: 75 }]);
    // What it had beside its pieces stays where it was, whatever rate the new ones have.
    expect(document.markers).toEqual(marked.markers);
    // A reel of another project is not touched; a new one is made.
    const elsewhere = await project();
    const own = await item(elsewhere, 'video', 25, 640, 360);
    const other = await made(elsewhere, { reels: [{ ...again, pieces: [piece(own, 0, 1)] }], open: false });
    expect(other.reels[0]!.id).not.toBe(first.id);
    expect((await openReel(first.id))!.document).toEqual(document);
  });
  it('know how long a piece was when it came into the reel', async () => {
    const of = await project();
    const pond = await item(of, 'video', 25, 640, 360);
    const { reels } = await made(of, { reels: [{ name: 'Race', pieces: [piece(pond, 4, 9)] }] });
    const { id, head, document } = (await openReel(reels[0]!.id))!;
    const clip = clipsOf(document)[0]!.id;
    const command = { type: 'trim' as const, clip, edge: 'in' as const, frames: 50 };
    const trimmed = applyCommand(document, command, await sourcesOf(of));
    if (!trimmed.ok) throw new Error(trimmed.reason);
    expect(await saveRevision(id, head, trimmed.reel, command)).toBe(true);
    expect(await showFirstStretch(of, id, clip)).toEqual({ ok: true, value: { start: 4, end: 9 } });
    expect(await showFirstStretch(of, id, 'nobody')).toMatchObject({ why: 'missing' });
  });
  it('are shown with an earlier version beside them, which is to be looked at only', async () => {
    const of = await project();
    const film = await item(of, 'video', 25, 640, 360);
    const { reels } = await made(of, { reels: [{ name: 'Race', pieces: [piece(film, 0, 2)] }] });
    const { id } = reels[0]!;
    expect(await showReel(of, id, `${id}@0`)).toMatchObject({
      ok: true,
      value: { reel: { id, head: 0 }, other: { id: `${id}@0`, readOnly: true, canUndo: false }, beats: null },
    });
    expect(await showReel(of, id, `${crypto.randomUUID()}`)).toMatchObject({ value: { other: null } });
    expect(await showSteps(of, id)).toMatchObject({ value: [{ number: 0, says: 'as it was made' }] });
    expect(await showReel(await project(), id, null)).toMatchObject({ why: 'missing' });
  });
  it('are copied, their versions named and forgotten, and deleted', async () => {
    const of = await project();
    const film = await item(of, 'video', 25, 640, 360);
    const { id } = (await made(of, { reels: [{ name: 'Race', pieces: [piece(film, 0, 2)] }] })).reels[0]!;
    const copied = await changeWholeReel(of, id, { intent: 'duplicate' });
    const copy = (await openReel((copied as { value: { made: string } }).value.made))!;
    expect([copy.document.name, clipsOf(copy.document).length]).toEqual(['Race, copy', 1]);
    expect(await changeWholeReel(of, id, { intent: 'nameVersion', name: 'First cut' })).toEqual({
      ok: true,
      value: {},
    });
    const [version] = ((await showReel(of, id, null)) as { value: { versions: { id: string; name: string }[] } }).value
      .versions;
    expect(version).toMatchObject({ name: 'First cut' });
    await changeWholeReel(of, id, { intent: 'forgetVersion', version: version!.id });
    expect(await showReel(of, id, null)).toMatchObject({ value: { versions: [] } });
    expect(await changeWholeReel(of, id, { intent: 'nameVersion', name: ' ' })).toMatchObject({ why: 'refused' });
    expect(await changeWholeReel(of, id, { intent: 'delete' })).toEqual({ ok: true, value: {} });
    expect(await openReel(id)).toBeNull();
  });
});
