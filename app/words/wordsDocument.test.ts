import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { applyWordsCommand, type Word, type WordsCommand } from '#core/words';
import { openPage, type Answer } from '../history/testServer';

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn(), warning: vi.fn() }) }));

const heard: Word[] = ['the', 'boats', 'are', 'in'].map((text, index) => ({
  text,
  start: index,
  end: index + 0.9,
  confidence: 0.4,
}));
const texts = (words: readonly Word[] | undefined) => words?.map(({ text }) => text).join(' ');
const correct = (from: number, text: string): WordsCommand => ({ type: 'correct', from, to: from + 1, text });

class WordsServer {
  words = heard;
  version = 0;
  /** Takes an edit, but its answer is lost. */
  losesAnswer = false;
  away = false;
  answer: Answer = (body) => {
    if (this.away) return undefined;
    if (!body.command) return { body: { words: this.words, version: this.version, source: 'pocketsphinx' } };
    if (body.version !== this.version) return { status: 409, body: { problem: 'Changed in another window.' } };
    const result = applyWordsCommand(this.words, body.command as WordsCommand);
    if (!result.ok) return { status: 422, body: { problem: result.reason } };
    this.words = result.words;
    this.version++;
    if (!this.losesAnswer) return { body: { version: this.version, problem: null } };
    this.losesAnswer = false;
    this.away = true;
    return undefined;
  };
}

describe('the words of a file under one’s hands', () => {
  let server: WordsServer;
  let page: ReturnType<typeof openPage>;
  const open = async () => {
    const [{ wordsDocument }, { historyOf }] = await Promise.all([
      import('./wordsDocument'),
      import('../history/history'),
    ]);
    const document = wordsDocument('p', 'm');
    document.subscribe(() => undefined);
    await document.need();
    await (await import('../history/saveQueue')).saveQueue('words:m').ready;
    await page.settle();
    return { document, shown: () => texts(document.state().transcript?.words), history: historyOf('p') };
  };
  beforeEach(() => {
    vi.resetModules();
    server = new WordsServer();
    page = openPage((...request) => server.answer(...request));
  });
  // What is still on its way would be sent again in a later test.
  afterEach(async () => {
    await page.settle();
    vi.unstubAllGlobals();
  });

  it('shows corrections and steps back at once; the server gets all of them, each on the version before', async () => {
    const { document, shown, history } = await open();
    document.edit(correct(0, 'all'));
    document.edit(correct(3, 'away'));
    document.edit({ type: 'flag', index: 1, emphasis: true });
    expect([shown(), document.state().transcript?.source]).toEqual(['all boats are away', 'corrected']);
    // Whoever looks things up on this page finds them, steps back too.
    const { correctedWords } = await import('./wordsDocument');
    expect(texts(correctedWords('p').state().get('m'))).toBe('all boats are away');
    history.undo();
    history.undo();
    expect(shown()).toBe('all boats are in');
    expect(texts(correctedWords('p').state().get('m'))).toBe('all boats are in');
    history.redo();
    expect(shown()).toBe('all boats are away');
    await page.settle();
    expect([texts(server.words), server.words[1]!.emphasis, shown()]).toEqual([
      'all boats are away',
      undefined,
      'all boats are away',
    ]);
    // Of two steps in a row only the last was sent.
    expect(
      page.sent.map(({ command }) => (command as WordsCommand).type).filter((type) => type === 'put'),
    ).toHaveLength(1);
  });

  it('loses nothing by a reload while the server is away', async () => {
    const { document } = await open();
    server.away = true;
    document.edit(correct(0, 'all'));
    document.edit(correct(1, 'rafts'));
    await page.settle();
    server.away = false;
    page.reload();
    const after = await open();
    expect([after.shown(), texts(server.words)]).toEqual(['all rafts are in', 'all rafts are in']);
  });

  it('an edit whose answer was lost is no conflict when it comes again', async () => {
    const { document } = await open();
    server.losesAnswer = true;
    document.edit(correct(0, 'all'));
    await page.settle();
    server.away = false;
    page.reload();
    const after = await open();
    expect([after.shown(), after.document.state().problem, texts(server.words)]).toEqual([
      'all boats are in',
      null,
      'all boats are in',
    ]);
  });

  it('is shown as somebody else left it when they were quicker with the same, and says so; its own steps are void then', async () => {
    const { document, shown, history } = await open();
    document.edit(correct(0, 'all'));
    await page.settle();
    server.words = heard.with(3, { ...heard[3]!, text: 'gone' });
    server.version++;
    document.edit(correct(3, 'out'));
    await page.settle();
    expect([shown(), document.state().problem]).toEqual(['the boats are gone', 'Changed in another window.']);
    expect(history.undo()).toBe(false);
  });

  it('keeps what somebody else corrected elsewhere in them, and a step back leaves that', async () => {
    const { document, shown, history } = await open();
    document.edit(correct(0, 'all'));
    await page.settle();
    // In the last word; ours are the first two.
    server.words = server.words.with(3, { ...server.words[3]!, text: 'out' });
    server.version++;
    document.edit(correct(1, 'rafts'));
    document.edit({ type: 'flag', index: 1, emphasis: true });
    await page.settle();
    expect([shown(), document.state().problem]).toEqual(['all rafts are out', null]);
    expect([texts(server.words), server.words[1]!.emphasis]).toEqual(['all rafts are out', true]);
    // Another change of theirs is heard of.
    server.words = server.words.with(2, { ...server.words[2]!, text: 'were' });
    server.version++;
    (await import('../ui/changesElsewhere')).tellChangedElsewhere();
    await page.settle();
    expect(shown()).toBe('all rafts were out');
    for (let times = 0; times < 2; times++) history.undo();
    await page.settle();
    expect([shown(), texts(server.words)]).toEqual(['all boats were out', 'all boats were out']);
    expect(history.undo()).toBe(true);
    expect(shown()).toBe('the boats were out');
  });

  it('what does not fit is refused here, and nothing is sent', async () => {
    const { document, history } = await open();
    expect(document.edit({ type: 'flag', index: 99, emphasis: true })).toBe(false);
    expect([document.state().problem, history.canUndo(), page.sent]).toEqual([
      'This word is not there any more.',
      false,
      [],
    ]);
    document.forgetProblem();
    expect(document.state().problem).toBeNull();
  });

  it('another text that was brought in takes their place', async () => {
    const { document, shown } = await open();
    document.edit(correct(0, 'all'));
    await page.settle();
    [server.words, server.version] = [heard.slice(0, 1), 7];
    await document.reload();
    expect([shown(), document.canUndo]).toEqual(['the', false]);
  });
});
