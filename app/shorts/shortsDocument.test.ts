import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ShortSetData } from '#usecases/shorts';
import { openPage } from '../history/testServer';
import { withChanges } from './shortsDocument';

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn() }) }));

const set = {
  thumbs: { b: 'up' },
  order: null,
  shorts: ['a', 'b', 'c'].map((id) => ({ id })),
} as unknown as ShortSetData;
const ids = (shown: ShortSetData) => shown.shorts.map(({ id }) => id).join(' ');

describe('what is said of a set of shorts', () => {
  let away: boolean;
  let page: ReturnType<typeof openPage>;
  const open = async () => {
    const [{ shortsDocument }, { historyOf }] = await Promise.all([
      import('./shortsDocument'),
      import('../history/history'),
    ]);
    const document = shortsDocument('p', 's');
    document.subscribe(() => undefined);
    await (await import('../history/saveQueue')).saveQueue('shorts:s').ready;
    await page.settle();
    return { document, history: historyOf('p'), shown: () => withChanges(set, document.state().waiting) };
  };
  beforeEach(() => {
    vi.resetModules();
    away = false;
    page = openPage((body) =>
      away
        ? undefined
        : body.id === 'gone'
          ? { status: 422, body: { problem: 'This short is not there any more.' } }
          : { body: {} },
    );
  });
  // What is still on its way would be sent again in a later test.
  afterEach(async () => {
    await page.settle();
    vi.unstubAllGlobals();
  });

  it('five quick ones are shown at once, and all of them arrive in order', async () => {
    const { document, shown } = await open();
    away = true;
    document.change({ intent: 'thumb', id: 'a', thumb: 'down' }, { intent: 'thumb', id: 'a', thumb: null });
    document.change({ intent: 'order', order: ['c', 'b'] }, { intent: 'order', order: null });
    document.change({ intent: 'thumb', id: 'b', thumb: null }, { intent: 'thumb', id: 'b', thumb: 'up' });
    expect([ids(shown()), shown().thumbs]).toEqual(['c b', { a: 'down' }]);
    page.reload();
    away = false;
    const after = await open();
    expect(page.sent.slice(-3).map(({ intent }) => intent)).toEqual(['thumb', 'order', 'thumb']);
    expect([after.document.state().waiting, after.document.state().saved]).toEqual([[], 3]);
  });

  it('are taken back and done again, order and thumbs alike', async () => {
    const { document, history } = await open();
    document.change({ intent: 'order', order: ['b', 'a'] }, { intent: 'order', order: null });
    document.change({ intent: 'thumb', id: 'a', thumb: 'down' }, { intent: 'thumb', id: 'a', thumb: null });
    history.undo();
    history.undo();
    history.redo();
    await page.settle();
    expect(page.sent).toEqual([
      { intent: 'order', order: ['b', 'a'] },
      { intent: 'thumb', id: 'a', thumb: 'down' },
      { intent: 'thumb', id: 'a', thumb: null },
      { intent: 'order', order: [] },
      { intent: 'order', order: ['b', 'a'] },
    ]);
    expect([document.canUndo, document.canRedo]).toEqual([true, true]);
  });

  it('what the server refuses says why, and what waits behind it is sent', async () => {
    const { document } = await open();
    document.change({ intent: 'thumb', id: 'gone', thumb: 'up' }, { intent: 'thumb', id: 'gone', thumb: null });
    document.change({ intent: 'thumb', id: 'a', thumb: 'up' }, { intent: 'thumb', id: 'a', thumb: null });
    await page.settle();
    expect([document.state().problem, page.sent.length]).toEqual(['This short is not there any more.', 2]);
  });
});
