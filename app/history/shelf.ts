import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import { newId } from '../newId';

/** A change that waits to be saved, as it is kept. */
export interface Kept<T = unknown> {
  queue: string;
  /** Later changes have higher numbers. */
  order: number;
  change: T;
}

/** Where changes are kept until the server has confirmed them. */
export interface Shelf {
  /**
   * Changes of a queue that earlier pages left, oldest first; they belong to this page from now on. What a page that
   * still lives has there is its own.
   * @param late takes those of a page that was just going
   */
  adopt(queue: string, late: (kept: Kept[]) => void): Promise<Kept[]>;
  put(kept: Kept): void;
  remove(queue: string, order: number): void;
}

interface Records extends DBSchema {
  changes: { key: [string, number]; value: Kept & { page: string } };
}
type Database = IDBPDatabase<Records>;

/** Milliseconds after which a page that is about to go is taken for one that lives; a busy machine takes seconds to end one. */
const leavingMilliseconds = 15_000;

/**
 * The browser's own database: takes changes of any size, and has them as soon as they are made, so that neither a
 * reload nor a closed page loses one.
 */
export class BrowserShelf implements Shelf {
  /** The name of this page; it holds a lock of this name for as long as it lives. */
  private readonly page = newId();
  private database: Database | null = null;
  private readonly opening: Promise<Database>;

  /** @param onFull hears that the browser does not keep what waits */
  constructor(
    private readonly onFull: () => void,
    name = 'bright-reel',
  ) {
    this.opening = open(name);
    this.opening.then((database) => (this.database = database), onFull);
    void locks()?.request(this.page, () => new Promise(() => undefined));
  }

  async adopt(queue: string, late: (kept: Kept[]) => void): Promise<Kept[]> {
    const database = await this.opening.catch(() => null);
    if (!database) return [];
    const range = IDBKeyRange.bound([queue, -Infinity], [queue, Infinity]);
    const found = (await database.getAll('changes', range)).filter(({ page }) => page !== this.page);
    const pages = [...new Set(found.map(({ page }) => page))];
    const gone: Kept[] = [];
    for (const page of pages) {
      const take = () => this.takeOver(database, range, page);
      gone.push(...((await whenGone(page, { ifAvailable: true }, take)) ?? this.laterFrom(page, take, late)));
    }
    return gone.sort((a, b) => a.order - b.order);
  }

  put(kept: Kept): void {
    this.write((store) => void store.put({ ...kept, page: this.page }));
  }

  remove(queue: string, order: number): void {
    this.write((store) => void store.delete([queue, order]));
  }

  /** At once when the database is open: what is asked of it then is done even if the page goes in the same moment. */
  private write(
    change: (store: { put(value: Kept & { page: string }): unknown; delete(key: [string, number]): unknown }) => void,
  ) {
    if (!this.database)
      return void this.opening.then(
        () => this.write(change),
        () => undefined,
      );
    const transaction = this.database.transaction('changes', 'readwrite');
    transaction.done.catch(this.onFull);
    const { store } = transaction;
    const quietly = (request: Promise<unknown>) => void request.catch(() => undefined);
    change({ put: (value) => quietly(store.put(value)), delete: (key) => quietly(store.delete(key)) });
    transaction.commit();
  }

  private async takeOver(database: Database, range: IDBKeyRange, page: string): Promise<Kept[]> {
    const transaction = database.transaction('changes', 'readwrite');
    const left = (await transaction.store.getAll(range)).filter((each) => each.page === page);
    for (const each of left) void transaction.store.put({ ...each, page: this.page });
    await transaction.done;
    return left.map(({ queue, order, change }) => ({ queue, order, change }));
  }

  /** A page that holds its lock lives, or is about to go; it is waited for a little, but nothing else waits for it. */
  private laterFrom(page: string, take: () => Promise<Kept[]>, late: (kept: Kept[]) => void): [] {
    const signal = AbortSignal.timeout(leavingMilliseconds);
    whenGone(page, { signal }, take).then(
      (kept) => kept?.length && late(kept),
      () => undefined,
    );
    return [];
  }
}

/** Does something once a page is gone, which shows by its lock. @returns null while it lives */
async function whenGone<T>(page: string, options: LockOptions, then: () => Promise<T>): Promise<T | null> {
  const manager = locks();
  if (!manager) return then();
  return manager.request(page, options, (lock) => (lock ? then() : null));
}

/** @throws where a browser gives no database to anybody, such as in some private windows */
const open = async (name: string): Promise<Database> =>
  openDB<Records>(name, 1, {
    upgrade: (database) => void database.createObjectStore('changes', { keyPath: ['queue', 'order'] }),
    blocking: (_current, _wanted, event) => (event.target as IDBDatabase).close(),
  });

/** Browsers have locks on secure addresses only; elsewhere two pages may send the same change, which does no harm. */
const locks = (): LockManager | null => (typeof navigator === 'undefined' ? null : (navigator.locks ?? null));
