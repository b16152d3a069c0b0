import { beforeEach, describe, expect, it, vi } from 'vitest';
import { SaveQueue } from './saveQueue';
import type { Kept, Shelf } from './shelf';

/** A shelf that outlives pages; the queue that adopts finds all that is there. */
class MemoryShelf implements Shelf {
  private readonly changes = new Map<number, Kept>();
  adopt = async (queue: string) => this.of(queue);
  put = (kept: Kept) => void this.changes.set(kept.order, structuredClone(kept));
  remove = (_: string, order: number) => void this.changes.delete(order);
  of = (queue: string) =>
    [...this.changes.values()].filter((each) => each.queue === queue).sort((a, b) => a.order - b.order);
}
const settledNow = () => new Promise((wake) => setTimeout(wake, 0));
const ok = () => new Response('{}');

describe('changes that wait to be saved', () => {
  let shelf: MemoryShelf;
  let saved: unknown[];
  /** What the server does with the next requests; saves when it has nothing else to do. */
  let answers: (() => Response | Promise<Response>)[];
  let resume: () => void;
  const kept = () => shelf.of('k').map(({ change }) => change);
  const open = () => {
    const queue = new SaveQueue<unknown>('k', shelf, () => new Promise<void>((wake) => (resume = wake)));
    queue.connect({
      send: async (change) => {
        const answer = await (answers.shift() ?? ok)();
        if (answer.ok) saved.push(change);
        return answer;
      },
      settle: async () => undefined,
    });
    return queue;
  };
  beforeEach(() => {
    [shelf, saved, answers, resume] = [new MemoryShelf(), [], [], () => undefined];
  });

  it('are sent in order, one at a time, and forgotten only when the server has answered', async () => {
    let answer: (value: Response) => void = () => undefined;
    answers.push(() => new Promise<Response>((done) => (answer = done)));
    const queue = open();
    for (const change of ['a', 'b', 'c']) queue.add(change);
    await settledNow();
    expect([saved, kept(), queue.state]).toEqual([[], ['a', 'b', 'c'], 'saving']);
    answer(ok());
    await settledNow();
    expect([saved, kept(), queue.state]).toEqual([['a', 'b', 'c'], [], 'saved']);
  });
  it('survive a reload in the middle: three quick edits of which none was answered', async () => {
    answers.push(() => new Promise<Response>(() => undefined));
    const before = open();
    for (const change of ['trim 1', 'trim 2', 'trim 3']) before.add(change);
    await settledNow();
    // The page is gone; the next one finds them all, the first too, since nobody knows whether it arrived.
    open();
    await settledNow();
    expect(saved).toEqual(['trim 1', 'trim 2', 'trim 3']);
  });
  it('an answer that breaks off settles nothing: all of them stay, and are sent again', async () => {
    const broken = () => {
      const body = new ReadableStream({ start: (stream) => stream.error(new TypeError('network error')) });
      return new Response(body, { status: 200 });
    };
    answers.push(broken);
    const queue = open();
    for (const change of ['a', 'b']) queue.add(change);
    await settledNow();
    expect([queue.state, queue.waiting, kept()]).toEqual(['away', ['a', 'b'], ['a', 'b']]);
    saved = [];
    resume();
    await settledNow();
    expect([saved, queue.state]).toEqual([['a', 'b'], 'saved']);
  });
  it('wait while the server is away or fails for a while, and are sent when it is back', async () => {
    answers.push(
      () => Promise.reject(new TypeError('Failed to fetch')),
      () => new Response('', { status: 503 }),
    );
    const queue = open();
    queue.add('a');
    await settledNow();
    expect([queue.state, saved]).toEqual(['away', []]);
    queue.add('b');
    resume();
    await settledNow();
    expect(queue.state).toBe('away');
    resume();
    await settledNow();
    expect([queue.state, saved, kept()]).toEqual(['saved', ['a', 'b'], []]);
  });
  it('what the server cannot take does not hold up what waits behind it', async () => {
    answers.push(() => new Response('', { status: 413 }));
    const queue = open();
    queue.add('too large');
    queue.add('b');
    await settledNow();
    expect([saved, queue.state]).toEqual([['b'], 'saved']);
    // One on which the server fails again and again is given up in the end.
    for (let times = 0; times < 8; times++) answers.push(() => new Response('', { status: 500 }));
    queue.add('poison');
    queue.add('c');
    for (let times = 0; times < 9; times++) {
      await settledNow();
      resume();
    }
    await settledNow();
    expect(saved).toEqual(['b', 'c']);
  });
  it('a newer change takes the place of one that waits, never of one that is on its way', async () => {
    let answer: (value: Response) => void = () => undefined;
    answers.push(() => new Promise<Response>((done) => (answer = done)));
    const queue = open();
    await settledNow();
    const same = (change: { key: string; value: number }) =>
      queue.add(change, (waiting) => (waiting as typeof change).key === change.key);
    for (const value of [1, 2, 3]) same({ key: 'mix', value });
    await settledNow();
    answer(ok());
    await settledNow();
    expect(saved).toEqual([
      { key: 'mix', value: 1 },
      { key: 'mix', value: 3 },
    ]);
  });
  it('what earlier pages left goes first, even when something is done before it is found', async () => {
    answers.push(() => new Promise<Response>(() => undefined));
    open().add('from before');
    await settledNow();
    const next = open();
    next.add('new');
    await settledNow();
    expect([saved, kept()]).toEqual([['from before', 'new'], []]);
  });
  it('a reload at every step of ten edits loses none, and changes nothing of their order', async () => {
    const edits = Array.from({ length: 10 }, (_, index) => `edit ${index}`);
    const arrived = () => saved.filter((each, index) => saved.indexOf(each) === index);
    for (let stop = 0; stop <= edits.length; stop++) {
      [shelf, saved] = [new MemoryShelf(), []];
      let count = 0;
      // The server has every edit, but the page goes before the answer to one of them is there.
      answers = edits.map(() => () => (count++ === stop ? new Promise<Response>(() => undefined) : ok()));
      const before = open();
      for (const edit of edits) before.add(edit);
      await settledNow();
      answers = [];
      open();
      await settledNow();
      expect([arrived(), kept()], `reload at ${stop}`).toEqual([edits, []]);
    }
  });
  it('what needs all of them waits until they are saved, and not a moment longer', async () => {
    const queue = open();
    let seen: unknown[] | null = null;
    await queue.whenSaved();
    answers.push(() => Promise.reject(new TypeError('Failed to fetch')));
    for (const change of ['a', 'b']) queue.add(change);
    void queue.whenSaved().then(() => (seen = [...saved]));
    await settledNow();
    expect([queue.state, seen]).toEqual(['away', null]);
    resume();
    await settledNow();
    expect(seen).toEqual(['a', 'b']);
  });
  it('dropped ones are forgotten on the shelf too, but not the one on its way', async () => {
    answers.push(() => new Promise<Response>(() => undefined));
    const queue = open();
    for (const change of ['a', 'b', 'c']) queue.add(change);
    await settledNow();
    queue.drop();
    expect([queue.waiting, kept()]).toEqual([['a'], ['a']]);
  });
});

describe('how a change is posted', () => {
  it('without keepalive when it is large: browsers refuse more than 64 KB of such bodies (WHATWG Fetch, 4.6)', async () => {
    const sent: RequestInit[] = [];
    vi.stubGlobal('fetch', async (_: string, init: RequestInit) => (sent.push(init), ok()));
    try {
      const { postJson } = await import('./saveQueue');
      await postJson('/x', { value: 'small' });
      await postJson('/x', { value: 'ä'.repeat(40_000) });
      expect(sent.map(({ keepalive }) => keepalive)).toEqual([true, false]);
      expect((sent[1]!.body as string).length).toBeGreaterThan(40_000);
    } finally {
      vi.unstubAllGlobals();
    }
  });
});
