import { IDBFactory } from 'fake-indexeddb';
import 'fake-indexeddb/auto';
import { vi } from 'vitest';

/** A database that is opened, read and written needs a few turns each; these are plenty. */
const mostTurns = 100;

/** What a made-up server does with a request; undefined finds nobody there. */
export type Answer = (body: Record<string, unknown>, address: string) => Told | Promise<Told>;
type Told = { status?: number; body: unknown } | undefined;

/**
 * A page in a browser, for documents that save themselves: `fetch` reaches a made-up server, timers are quick. A reload
 * forgets everything but what the browser keeps.
 */
export function openPage(answer: Answer): { sent: Record<string, unknown>[]; reload(): void; settle(): Promise<void> } {
  const sent: Record<string, unknown>[] = [];
  // A page that was left does nothing any more: its timers do not ring, and no answer reaches it.
  let page = 0;
  const later = globalThis.setTimeout;
  const ofThisPage = (act: () => void) => {
    const own = page;
    return () => void (own === page && act());
  };
  vi.stubGlobal('setTimeout', (act: () => void, ms?: number) => later(ofThisPage(act), ms));
  vi.stubGlobal('window', {});
  vi.stubGlobal('indexedDB', new IDBFactory());
  vi.stubGlobal('navigator', {});
  vi.stubGlobal('fetch', async (address: string, init?: { body?: string }) => {
    const own = page;
    const body = init?.body ? (JSON.parse(init.body) as Record<string, unknown>) : {};
    if (init?.body) sent.push(body);
    const told = await answer(body, address);
    await Promise.resolve();
    if (own !== page) return new Promise<Response>(() => undefined);
    if (!told) throw new TypeError('Failed to fetch');
    return new Response(JSON.stringify(told.body), { status: told.status ?? 200 });
  });
  return {
    sent,
    reload: () => {
      page++;
      vi.resetModules();
    },
    /** Until what waits was sent, as far as the server takes it: so many turns of the event loop as that needs at most. */
    settle: async () => {
      let count = sent.length;
      for (let turn = 0; turn < mostTurns; turn++) {
        await new Promise((wake) => later(wake, 1));
        // After a request as many again: what waits behind it comes once it is answered.
        if (sent.length !== count) [turn, count] = [0, sent.length];
      }
    },
  };
}
