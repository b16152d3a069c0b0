import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { applyCommand, assembleReel, mainTrack, type Reel, type ReelCommand } from '#core/reel';
import { anyEdit, counting, testSources as sources } from '../../core/reel/testEdits';
import { seededRandom } from '#core/signal';
import { rates } from '#core/time';
import { decideEdit, type ReelPast, type Revision, type SentEdit } from '#usecases/decideEdit';
import type { LiveReel } from '#usecases/reels';
import { openPage, type Answer } from '../history/testServer';

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn(), warning: vi.fn() }) }));

const pieces = Array.from({ length: 5 }, (_, index) => ({
  media: 'a',
  start: index * 7,
  end: index * 7 + 4,
  name: `piece ${index}`,
}));
let ids = 0;
const first = assembleReel('Pond', pieces, sources, rates['25'], { width: 16, height: 16 }, () => `c${ids++ % 5}`);
const frames = ({ document }: Pick<LiveReel, 'document'>) => mainTrack(document).items.map((item) => item.frames);
const trim = (clip: number, by = -10): ReelCommand => ({ type: 'trim', clip: `c${clip}`, edge: 'out', frames: by });

/** The server's side of a reel: revisions, and a head that goes back and forth over them. */
class ReelServer {
  revisions: Revision[] = [{ number: 0, parent: null, document: first, command: null, edit: null }];
  head = 0;
  away = false;
  private known: string | null = null;
  private readonly past: ReelPast = {
    revision: (number) => Promise.resolve(this.revisions[number] ?? null),
    ofEdit: (edit) => Promise.resolve(this.revisions.findLast((each) => each.edit === edit) ?? null),
    next: (number) => Promise.resolve(this.next(number)),
  };
  private next = (number: number) => this.revisions.findLast(({ parent }) => parent === number) ?? null;
  reel = (): LiveReel => ({
    id: 'r',
    projectId: 'p',
    head: this.head,
    canUndo: this.revisions[this.head]!.parent !== null,
    canRedo: this.next(this.head) !== null,
    lastEdit: this.known,
    document: this.revisions[this.head]!.document,
  });
  answer: Answer = async (body) => {
    if (this.away) return undefined;
    const edit = { command: null, ...(body as Partial<SentEdit> & { id: string; head: number; after: string[] }) };
    const decision = await decideEdit(this.reel(), edit, this.past, sources);
    if ('why' in decision) return { body: { reel: this.reel(), problem: decision.why } };
    if (decision.what !== 'known') this.known = edit.id;
    if (decision.what === 'step')
      this.head = decision.step === 'undo' ? this.revisions[this.head]!.parent! : this.next(this.head)!.number;
    if (decision.what === 'save') this.save(decision.document, decision.command, edit.id);
    return { body: { reel: this.reel(), isMerged: 'isMerged' in decision && decision.isMerged, problem: null } };
  };
  /** What another window does. */
  apply(command: ReelCommand, edit: string | null = crypto.randomUUID()) {
    const result = applyCommand(this.revisions[this.head]!.document, command, sources);
    if (!result.ok) throw new Error(result.reason);
    this.known = edit;
    this.save(result.reel, command, edit);
  }
  private save(document: Reel, command: ReelCommand, edit: string | null) {
    const number = this.revisions.length;
    this.revisions.push({ number, parent: this.head, document, command, edit });
    this.head = number;
  }
}

describe('a reel under one’s hands', () => {
  let server: ReelServer;
  let page: ReturnType<typeof openPage>;
  const open = async () => {
    const [{ reelDocument }, { historyOf }] = await Promise.all([
      import('./reelDocument'),
      import('../history/history'),
    ]);
    const document = reelDocument(server.reel());
    document.subscribe(() => undefined);
    document.load(server.reel(), sources);
    await (await import('../history/saveQueue')).saveQueue('reel:r').ready;
    await page.settle();
    return { document, shown: () => document.state().reel, history: historyOf('p') };
  };
  beforeEach(() => {
    vi.resetModules();
    server = new ReelServer();
    page = openPage((...request) => server.answer(...request));
  });
  // What is still on its way would be sent again in a later test.
  afterEach(async () => {
    await page.settle();
    vi.unstubAllGlobals();
  });

  it('shows an edit and a step back at once, however fast they come; the server gets all of them, in order', async () => {
    const { document, shown, history } = await open();
    for (const clip of [0, 1, 2]) expect(document.edit(trim(clip))).toBe(true);
    expect(frames(shown())).toEqual([90, 90, 90, 100, 100]);
    for (let times = 0; times < 3; times++) history.undo(document);
    expect([frames(shown()), shown().canUndo, shown().canRedo]).toEqual([[100, 100, 100, 100, 100], false, true]);
    history.redo(document);
    history.redo(document);
    expect(frames(shown())).toEqual([90, 90, 100, 100, 100]);
    await page.settle();
    expect([server.head, frames(server.reel()), frames(shown())]).toEqual([
      2,
      frames(shown()),
      [90, 90, 100, 100, 100],
    ]);
    expect([shown().canUndo, shown().canRedo, document.state().saving]).toEqual([true, true, 'saved']);
  });

  it('takes back what was done on an earlier visit, as the server knows it', async () => {
    server.apply(trim(4));
    const { document, shown, history } = await open();
    expect(history.canUndo(document)).toBe(true);
    history.undo(document);
    await page.settle();
    expect([server.head, frames(shown())]).toEqual([0, [100, 100, 100, 100, 100]]);
    history.redo(document);
    await page.settle();
    expect(frames(shown())).toEqual([100, 100, 100, 100, 90]);
  });

  it('goes back to an earlier version, and that is taken back at once', async () => {
    const { document, shown, history } = await open();
    document.edit(trim(0));
    document.edit({ type: 'remove', clip: 'c1' });
    document.restore(0);
    await page.settle();
    expect(frames(shown())).toEqual([100, 100, 100, 100, 100]);
    expect(page.sent.at(-1)).toMatchObject({ command: { type: 'restore', version: 0 } });
    history.undo(document);
    expect(frames(shown())).toEqual([90, 100, 100, 100]);
    await page.settle();
    expect(frames(server.reel())).toEqual([90, 100, 100, 100]);
  });

  it('loses nothing by a reload while the server is away: all is there, and sent when it is back', async () => {
    const { document } = await open();
    server.away = true;
    for (const clip of [0, 1, 2, 3]) document.edit(trim(clip));
    await page.settle();
    page.reload();
    const after = await open();
    expect(frames(after.shown())).toEqual([90, 90, 90, 90, 100]);
    server.away = false;
    page.reload();
    await open();
    await page.settle();
    expect([server.head, frames(server.reel())]).toEqual([4, [90, 90, 90, 90, 100]]);
  });

  it('keeps what somebody else did meanwhile, in another window or while the server was away', async () => {
    const { document, shown, history } = await open();
    document.edit(trim(0));
    await page.settle();
    server.apply({ type: 'remove', clip: 'c4' });
    document.edit(trim(1));
    document.edit({ type: 'move', clip: 'c2', to: 0 });
    await page.settle();
    expect([frames(shown()), document.state().problem]).toEqual([[100, 90, 90, 100], null]);
    expect(mainTrack(shown().document).items.map(({ id }) => id)).toEqual(['c2', 'c0', 'c1', 'c3']);
    expect(shown()).toEqual({ ...server.reel(), canUndo: true, canRedo: false });
    // What was done here is taken back, theirs stays.
    for (const left of [
      [90, 90, 100, 100],
      [90, 100, 100, 100],
      [100, 100, 100, 100],
    ]) {
      history.undo(document);
      expect(frames(shown())).toEqual(left);
      await page.settle();
      expect([frames(shown()), frames(server.reel())]).toEqual([left, left]);
    }
    expect([history.undo(document), shown().canUndo]).toEqual([false, false]);
    for (let times = 0; times < 3; times++) history.redo(document);
    await page.settle();
    expect([frames(shown()), frames(server.reel())]).toEqual([
      [100, 90, 90, 100],
      [100, 90, 90, 100],
    ]);
  });

  it('what both changed is shown as it stands there; what was done before it can still be taken back', async () => {
    const { document, shown, history } = await open();
    document.edit(trim(0));
    document.edit(trim(3));
    await page.settle();
    server.apply(trim(1, -30));
    document.edit(trim(1));
    document.edit(trim(2));
    await page.settle();
    expect(frames(shown())).toEqual([90, 70, 100, 90, 100]);
    expect(document.state().problem).toMatch(/^“piece 1” was changed in another window meanwhile/);
    expect(page.sent).toHaveLength(3);
    expect(history.undo(document)).toBe(true);
    await page.settle();
    expect([frames(shown()), frames(server.reel())]).toEqual([
      [90, 70, 100, 100, 100],
      [90, 70, 100, 100, 100],
    ]);
    server.apply(trim(0, -50));
    expect(document.load(server.reel(), sources) && document.load(server.reel(), sources)).toBe(false);
    // What somebody else changed once more since is theirs.
    expect([history.undo(document), frames(shown())]).toEqual([false, [40, 70, 100, 100, 100]]);
    expect(document.state().problem).toMatch(/^“piece 0” was changed/);
  });

  it('what the server made of it itself is taken back like any step', async () => {
    const { document, shown, history } = await open();
    document.edit(trim(0));
    await page.settle();
    // A montage that is put in, say.
    server.apply(trim(4, -40), null);
    for (let times = 0; times < 2; times++) document.load(server.reel(), sources);
    expect([frames(shown()), shown().canUndo]).toEqual([[90, 100, 100, 100, 60], true]);
    history.undo(document);
    await page.settle();
    expect([frames(shown()), server.head]).toEqual([[90, 100, 100, 100, 100], 1]);
  });

  it('of what waited over a reload while somebody else was at work nothing is lost', async () => {
    const { document } = await open();
    document.edit(trim(0));
    await page.settle();
    server.away = true;
    for (const clip of [1, 2]) document.edit(trim(clip));
    document.edit({ type: 'move', clip: 'c3', to: 0 });
    await page.settle();
    page.reload();
    server.apply({ type: 'remove', clip: 'c4' });
    server.away = false;
    const after = await open();
    await page.settle();
    expect(mainTrack(server.reel().document).items.map(({ id, frames: long }) => `${id} ${long}`)).toEqual([
      'c3 100',
      'c0 90',
      'c1 90',
      'c2 90',
    ]);
    expect(frames(after.shown())).toEqual([100, 90, 90, 90]);
  });

  it('what does not fit is refused here, with an edit that would; nothing is sent', async () => {
    const { document, shown, history } = await open();
    expect(document.edit(trim(0, -500))).toBe(false);
    expect(document.edit({ type: 'fade', clip: 'c0', edge: 'in', frames: 900 })).toBe(false);
    expect(document.state()).toMatchObject({ problem: expect.stringMatching(/frames for a fade/) as string });
    expect(document.state().instead?.command).toMatchObject({ type: 'fade', frames: 100 });
    document.forgetProblem();
    expect([document.state().problem, history.canUndo(), frames(shown()), page.sent]).toEqual([
      null,
      false,
      [100, 100, 100, 100, 100],
      [],
    ]);
  });

  it('a version that is only looked at takes no edit', async () => {
    const { reelDocument } = await import('./reelDocument');
    const old = reelDocument({ ...server.reel(), readOnly: true });
    expect([old.edit(trim(0)), old.undo(), old.redo()]).toEqual([false, false, false]);
    expect(old.state().problem).toMatch(/earlier version/);
  });

  it('one that was deleted meanwhile says so, and has nothing left to take back', async () => {
    const { document, history } = await open();
    server.answer = () => Promise.resolve({ status: 404, body: {} });
    document.edit(trim(0));
    document.edit(trim(1));
    await page.settle();
    expect([document.state().problem, document.state().saving]).toEqual([
      'This reel was deleted; what was changed last could not be saved.',
      'saved',
    ]);
    expect([page.sent.length, history.undo()]).toEqual([1, false]);
  });

  it('what was loaded before the last save does not show', async () => {
    const { document, shown } = await open();
    const stale = server.reel();
    document.edit(trim(0));
    await page.settle();
    expect(document.load(stale, sources)).toBe(true);
    expect(frames(shown())).toEqual([90, 100, 100, 100, 100]);
    expect(document.load(server.reel(), sources)).toBe(false);
    // Another window was quick; what comes a second time is as it stands, and nobody asks a third time.
    server.apply({ type: 'remove', clip: 'c4' });
    expect([1, 2, 3].map(() => document.load(server.reel(), sources))).toEqual([true, false, false]);
    expect(frames(shown())).toEqual([90, 100, 100, 100]);
  });

  it.each([1, 2, 3, 4])(
    'any edits, with the server away and the page loaded anew: each step back shows what was (%i)',
    async (seed) => {
      const random = seededRandom(seed);
      const makeId = counting('n');
      let here = await open();
      const seen = [JSON.stringify(here.shown().document)];
      for (let round = 0; seen.length < 25; round++) {
        server.away = random() < 0.3;
        if (here.document.edit(anyEdit(here.shown().document, random, makeId)))
          seen.push(JSON.stringify(here.shown().document));
        if (round % 8 === 7) {
          await page.settle();
          page.reload();
          here = await open();
          expect(JSON.stringify(here.shown().document)).toBe(seen.at(-1));
        }
      }
      server.away = false;
      page.reload();
      here = await open();
      await page.settle();
      expect([server.head, JSON.stringify(server.reel().document)]).toEqual([seen.length - 1, seen.at(-1)]);
      for (const was of seen.slice(0, -1).reverse()) {
        here.history.undo(here.document);
        await page.settle();
        expect(JSON.stringify(here.shown().document)).toBe(was);
      }
      for (const was of seen.slice(1)) {
        here.history.redo(here.document);
        await page.settle();
        expect(JSON.stringify(here.shown().document)).toBe(was);
      }
      expect(JSON.stringify(server.reel().document)).toBe(seen.at(-1));
    },
  );
});
