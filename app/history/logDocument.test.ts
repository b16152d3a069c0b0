import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { openPage, type Answer } from './testServer';
import type { InitialLog } from './logDocument';

const warning = vi.fn();
const error = vi.fn();
vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error, warning }) }));

interface Doc {
  list: number[];
  name: string;
}
/** The server's side: notes as they come, one document with a version. */
class LogServer {
  notes = new Map<string, unknown>();
  version = 1;
  doc: Doc = { list: [1, 2, 3], name: 'mix' };
  away = false;
  answer: Answer = ({ kind, id, value, version, changes }) => {
    if (this.away) return undefined;
    if (kind !== 'pick') {
      if (value === 'bad') return { status: 422, body: { problems: { value: 'This is no marker.' } } };
      this.notes.set(`${kind as string}:${id as string}`, value);
      return { body: { saved: true } };
    }
    if (version !== this.version) return { status: 409, body: { version: this.version, value: this.doc } };
    this.doc = changes ? { ...this.doc, ...(changes as Partial<Doc>) } : (value as Doc);
    return { body: { version: ++this.version } };
  };
  loaded = (): InitialLog => ({
    entries: [...this.notes, ['pick', this.doc]],
    versions: { pick: this.version },
  });
}
/** What changed of a document, field by field. */
const changesBetween = (before: unknown, after: unknown) =>
  Object.fromEntries(
    Object.entries(after as Doc).filter(([key, value]) => value !== (before as Doc)[key as keyof Doc]),
  );

describe('what an editor decides and notes', () => {
  let server: LogServer;
  let page: ReturnType<typeof openPage>;
  const open = async () => {
    const [{ logDocument }, { historyOf }] = await Promise.all([import('./logDocument'), import('./history')]);
    const about = { projectId: 'p', address: '/log', title: 'the moments', changesBetween };
    const document = logDocument(about, server.loaded());
    document.subscribe(() => undefined);
    await (await import('./saveQueue')).saveQueue('log:/log').ready;
    await page.settle();
    const doc = () => document.state().entries.get('pick') as Doc;
    return { document, doc, history: historyOf('p') };
  };
  beforeEach(() => {
    vi.resetModules();
    vi.clearAllMocks();
    server = new LogServer();
    page = openPage((...request) => server.answer(...request));
  });
  // What is still on its way would be sent again in a later test.
  afterEach(async () => {
    await page.settle();
    vi.unstubAllGlobals();
  });

  it('is shown at once, saved in order and taken back without limit', async () => {
    const { document, doc, history } = await open();
    document.commit([['marker:a', 'start']]);
    document.commit([
      ['marker:a', null],
      ['marker:b', 'goal'],
    ]);
    document.commit([['pick', { ...doc(), name: 'loud' }]]);
    expect([...document.state().entries.keys()].sort()).toEqual(['marker:b', 'pick']);
    for (let times = 0; times < 3; times++) expect(history.undo()).toBe(true);
    expect([history.undo(), doc().name, document.state().entries.has('marker:b')]).toEqual([false, 'mix', false]);
    await page.settle();
    expect([server.notes.get('marker:a'), server.notes.get('marker:b'), server.doc.name]).toEqual([null, null, 'mix']);
    history.redo();
    expect(document.state().entries.get('marker:a')).toBe('start');
  });

  it('moves of one slider are one step; nothing new is none', async () => {
    const { document, doc, history } = await open();
    for (const name of ['a', 'b', 'c']) document.commit([['pick', { ...doc(), name }]], 'water');
    expect(document.commit([['pick', doc()]])).toBe(false);
    history.undo();
    expect([doc().name, history.canUndo()]).toEqual(['mix', false]);
  });

  it('a document that grew large is sent by what changed in it, whole when that is not known', async () => {
    const { document, doc } = await open();
    document.commit([['pick', { ...doc(), name: 'loud' }]]);
    await page.settle();
    expect(page.sent).toEqual([{ kind: 'pick', id: 'pick', version: 1, changes: { name: 'loud' } }]);
    expect(server.doc).toEqual({ list: [1, 2, 3], name: 'loud' });
    server.away = true;
    document.commit([['pick', { ...doc(), list: [9] }]]);
    await page.settle();
    // Another window was quicker meanwhile: after a reload nobody here knows what changed since that version.
    server.away = false;
    server.version = 5;
    page.reload();
    await open();
    expect(page.sent.at(-1)).toMatchObject({ version: 2, value: { list: [9], name: 'loud' } });
  });

  it('loses nothing by a reload while the server is away', async () => {
    const { document, doc } = await open();
    server.away = true;
    document.commit([['marker:a', 'start']]);
    document.commit([['pick', { ...doc(), name: 'loud' }]]);
    await page.settle();
    server.away = false;
    page.reload();
    const after = await open();
    expect([after.document.state().entries.get('marker:a'), after.doc().name]).toEqual(['start', 'loud']);
    expect([server.notes.get('marker:a'), server.doc.name]).toEqual(['start', 'loud']);
  });

  it('when another window was quicker, theirs is shown and one step back brings ours', async () => {
    const { document, doc, history } = await open();
    server.doc = { list: [7], name: 'theirs' };
    server.version = 2;
    document.commit([['pick', { ...doc(), name: 'ours' }]]);
    await page.settle();
    expect([doc().name, warning.mock.calls[0]?.[0]]).toEqual(['theirs', expect.stringMatching(/Ctrl Z brings yours/)]);
    history.undo();
    await page.settle();
    expect([doc().name, server.doc.name]).toEqual(['ours', 'ours']);
  });

  it('when another window changed something else of it, both changes are in it; a step back leaves theirs', async () => {
    const { document, doc, history } = await open();
    const before = doc().list;
    server.doc = { ...server.doc, name: 'theirs' };
    server.version = 2;
    document.commit([['pick', { ...doc(), list: [...before, 5] }]]);
    document.commit([['pick', { ...doc(), list: [...before, 5, 6] }]]);
    await page.settle();
    const both = { list: [...before, 5, 6], name: 'theirs' };
    expect([doc(), server.doc, document.state().saving]).toEqual([both, both, 'saved']);
    expect(warning).not.toHaveBeenCalled();
    // Loaded with yet another change of theirs.
    server.doc = { ...server.doc, name: 'theirs again' };
    server.version++;
    document.load(server.loaded());
    for (const list of [[...before, 5], before]) {
      history.undo();
      await page.settle();
      expect([doc(), server.doc]).toEqual([
        { list, name: 'theirs again' },
        { list, name: 'theirs again' },
      ]);
    }
  });

  it('what is loaded anew does not take back what waits, nor what was saved after it', async () => {
    const { document, doc } = await open();
    const stale = server.loaded();
    document.commit([['pick', { ...doc(), name: 'loud' }]]);
    await page.settle();
    expect(document.load(stale)).toBe(true);
    expect(doc().name).toBe('loud');
    server.notes.set('marker:c', 'from another window');
    document.load(server.loaded());
    expect(document.state().entries.get('marker:c')).toBe('from another window');
  });

  it('says why something was not saved', async () => {
    const { document } = await open();
    document.commit([['marker:a', 'bad']]);
    await page.settle();
    expect(error).toHaveBeenCalledWith('Not saved: This is no marker.');
  });
});
