import 'fake-indexeddb/auto';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { BrowserShelf } from './shelf';

/** Locks as browsers have them (Web Locks API): one holder at a time, released when the page that holds it goes. */
class Locks {
  private readonly held = new Set<string>();
  private waiting: { name: string; run: () => void }[] = [];
  async request(name: string, ...rest: unknown[]): Promise<unknown> {
    const callback = rest.at(-1) as (lock: object | null) => Promise<unknown>;
    const { signal, ifAvailable } = (rest.length === 2 ? rest[0] : {}) as LockOptions;
    if (this.held.has(name) && ifAvailable) return callback(null);
    if (this.held.has(name)) await this.turn(name, signal);
    this.held.add(name);
    return callback({ name }).finally(() => this.release(name));
  }
  /** The page of this name goes. */
  release(name: string) {
    this.held.delete(name);
    const next = this.waiting.find((each) => each.name === name);
    this.waiting = this.waiting.filter((each) => each !== next);
    next?.run();
  }
  get names() {
    return [...this.held];
  }
  private turn(name: string, signal?: AbortSignal): Promise<void> {
    return new Promise((run, reject) => {
      const own = { name, run };
      this.waiting.push(own);
      signal?.addEventListener('abort', () => {
        this.waiting = this.waiting.filter((each) => each !== own);
        reject(new DOMException('aborted', 'AbortError'));
      });
    });
  }
}

const none = () => undefined;
const written = () => new Promise((wake) => setTimeout(wake, 20));
let count = 0;
const name = () => `shelf ${++count}`;
const page = (database: string, onFull = () => undefined as void) => new BrowserShelf(onFull, database);

describe('changes on the shelf of a browser', () => {
  afterEach(() => vi.unstubAllGlobals());

  it('are found by the next page, in their order, each queue its own; what was confirmed is gone', async () => {
    vi.stubGlobal('navigator', {});
    const database = name();
    const before = page(database);
    for (const [order, change] of [
      [2, 'b'],
      [1, 'a'],
      [3, 'c'],
    ] as const)
      before.put({ queue: 'reel', order, change });
    before.put({ queue: 'words', order: 1, change: { text: 'x'.repeat(5_000_000) } });
    before.remove('reel', 3);
    await written();
    const after = page(database);
    expect((await after.adopt('reel', none)).map(({ change }) => change)).toEqual(['a', 'b']);
    const [long] = await after.adopt('words', none);
    expect((long!.change as { text: string }).text).toHaveLength(5_000_000);
  });

  it('of a page that still lives are left to it; of one that goes in this moment they are taken over, once', async () => {
    const locks = new Locks();
    vi.stubGlobal('navigator', { locks });
    const database = name();
    const living = page(database);
    const [livingName] = locks.names;
    living.put({ queue: 'reel', order: 1, change: 'mine' });
    await written();
    const late: unknown[] = [];
    const keep = (kept: { change: unknown }[]) => late.push(...kept.map(({ change }) => change));
    // Nobody waits for it.
    const others = [page(database), page(database)];
    for (const other of others) expect(await other.adopt('reel', keep)).toEqual([]);
    locks.release(livingName!);
    await written();
    expect(late).toEqual(['mine']);
    expect(await page(database).adopt('reel', keep)).toEqual([]);
  });

  it('a browser without a database for us says so, and all goes on without', async () => {
    vi.stubGlobal('navigator', {});
    vi.stubGlobal('indexedDB', {
      open: () => {
        throw new DOMException('no', 'SecurityError');
      },
    });
    const onFull = vi.fn();
    const shelf = page(name(), onFull);
    shelf.put({ queue: 'reel', order: 1, change: 'a' });
    expect(await shelf.adopt('reel', none)).toEqual([]);
    expect(onFull).toHaveBeenCalled();
  });
});
