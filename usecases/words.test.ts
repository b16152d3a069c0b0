import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { closeDatabase, migrateDatabase } from '#data/db';
import { addFile, addMedia } from '#data/media';
import { createProject } from '#data/projects';
import { saveRecognition } from '#data/words';
import type { WordsCommand } from '#core/words';
import { changeWords, editWords, noWords, showWords } from './words';
import { migrateQueue } from './queue';

const word = (text: string, start: number) => ({ text, start, end: start + 0.4, confidence: 0.9 });
const english = ['the', 'boats', 'are', 'in', 'the', 'water', 'and', 'nobody', 'is', 'wet'].map((text, index) =>
  word(text, index / 2),
);
/** SubRip, two lines. */
const german = `1
00:00:00,500 --> 00:00:02,000
Die Boote liegen im Wasser und niemand ist nass geworden.

2
00:00:02,500 --> 00:00:04,000
Das gelbe Segel ist noch immer vor allen anderen.
`;
const form = (values: Record<string, string | number>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(values)) data.set(name, String(value));
  return data;
};

describe.skipIf(!process.env.DATABASE_URL)('the words of an item', () => {
  let count = 0;
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
  });
  afterAll(closeDatabase);
  /** A recording in which ten English words were heard. */
  const heard = async () => {
    const project = (await createProject('Words')).id;
    const hash = `${crypto.randomUUID()}${count++}`.replaceAll('-', '').padEnd(64, '7');
    await addFile(hash, 1, 'nowhere');
    const { id } = await addMedia(project, hash, 'pond.mp4');
    await saveRecognition({ hash, parameters: '' }, 'pocketsphinx', english);
    return id;
  };
  const shown = async (id: string) => {
    const words = await showWords(id);
    if (!words.ok) throw new Error(words.sentence);
    return words.value;
  };
  const texts = async (id: string) => (await shown(id)).words.map((each) => each.text).join(' ');
  const change = async (id: string, intent: string, values: Record<string, string | number>) =>
    changeWords(id, intent, form({ version: (await shown(id)).version, ...values }));

  const edit = async (id: string, command: WordsCommand) =>
    editWords(id, { version: (await shown(id)).version, command });

  it('are corrected in place, and count as corrected from then on', async () => {
    const id = await heard();
    expect(await shown(id)).toMatchObject({ source: 'pocketsphinx', version: 0, hearing: false, others: [] });
    expect(await edit(id, { type: 'correct', from: 1, to: 2, text: 'paper boats' })).toEqual({
      ok: true,
      value: { version: 1 },
    });
    expect(await texts(id)).toMatch(/^the paper boats are in/);
    expect(await shown(id)).toMatchObject({ source: 'corrected', version: 1 });
    expect(await edit(id, { type: 'flag', index: 1, emphasis: true })).toMatchObject({ ok: true });
    expect((await shown(id)).words[1]).toMatchObject({ text: 'paper', emphasis: true });
  });
  it('changed on an older version are a conflict, whatever the change, and stay as they are', async () => {
    const id = await heard();
    await edit(id, { type: 'correct', from: 0, to: 1, text: 'all' });
    const late: WordsCommand[] = [
      { type: 'correct', from: 0, to: 1, text: 'no' },
      { type: 'flag', index: 0, emphasis: true },
      { type: 'retime', from: 0, starts: [0.1], end: 0.3 },
      { type: 'type', start: 8, end: 9, text: 'late' },
      { type: 'put', words: [] },
    ];
    for (const command of late)
      expect(await editWords(id, { version: 0, command }), command.type).toMatchObject({ ok: false, why: 'conflict' });
    expect(await texts(id)).toMatch(/^all boats/);
  });
  it('of another language do not take their place unasked, and both stay', async () => {
    const id = await heard();
    const text = { text: german, name: 'pond.de.srt' };
    expect(await change(id, 'import', text)).toMatchObject({
      ok: true,
      value: { ask: { language: 'de', shown: { count: 10, source: 'pocketsphinx' } } },
    });
    expect(await texts(id)).toMatch(/^the boats/);
    expect(await change(id, 'import', { ...text, anyway: 'true' })).toMatchObject({ ok: true });
    expect(await texts(id)).toMatch(/^Die Boote/);
    expect(await change(id, 'reset', {})).toMatchObject({ ok: true });
    expect(await texts(id)).toMatch(/^the boats/);
    const [other] = (await shown(id)).others;
    expect(await change(id, 'again', { other: other!.id })).toMatchObject({ ok: true });
    expect(await texts(id)).toMatch(/^Die Boote/);
  });
  it('of a text without times are asked for at once, whether the file was read or not, and can be done without', async () => {
    const id = await heard();
    const give = (text: string, more: Record<string, string> = {}) =>
      change(id, 'import', { text, name: 'script.txt', ...more });
    expect(await give('Die Boote sind auf dem Wasser, und der Wind kommt von Westen.')).toMatchObject({
      ok: true,
      value: { ask: { language: 'de', count: 12 } },
    });
    expect(await give('*** ---')).toMatchObject({ why: 'refused', sentence: 'The text holds no words.' });
    expect(await give('The boats are on the water and the wind is from the west.', { anyway: 'true' })).toMatchObject({
      ok: true,
      value: { aligning: true },
    });
    expect((await shown(id)).script).toEqual({ name: 'script.txt', language: 'en', aligning: true });
    expect((await texts(id)).length).toBeGreaterThan(0);
    expect(await change(id, 'leave', {})).toMatchObject({ ok: true });
    expect((await shown(id)).script).toBeNull();
  });
  it('that do not fit are refused in a sentence', async () => {
    const id = await heard();
    expect(await change(id, 'import', { text: 'no times in here', name: 'x.srt' })).toMatchObject({
      why: 'refused',
      sentence: expect.stringMatching(/No lines with times/) as string,
    });
    const bad: unknown[] = [
      { type: 'retime', from: 0, starts: [2, 1], end: 3 },
      { type: 'flag', index: 99, emphasis: true },
      { type: 'type', start: 5, end: 4, text: 'x' },
      { type: 'put', words: [{ text: 'x', start: 'now', end: 2, confidence: 1 }] },
      { type: 'explode' },
      null,
    ];
    for (const command of bad)
      expect(await editWords(id, { version: 0, command }), JSON.stringify(command)).toMatchObject({ why: 'refused' });
    expect(await change(id, 'explode', {})).toMatchObject({ why: 'refused' });
    expect(await change(id, 'again', { other: crypto.randomUUID() })).toMatchObject({ why: 'refused' });
    expect(await texts(id)).toMatch(/^the boats/);
  });
  it('go back to what stood there by one edit, with every field of every word', async () => {
    const id = await heard();
    const { words } = await shown(id);
    const full = words.map((word, index) => ({
      ...word,
      emphasis: true,
      breakAfter: index % 2 === 0,
      differs: 'added' as const,
      unsaid: 'not said',
    }));
    await edit(id, { type: 'put', words: full });
    expect((await shown(id)).words).toEqual(full);
  });
  it('of an item that is gone are missing; a screen that still shows it gets none', async () => {
    const gone = crypto.randomUUID();
    expect(await showWords(gone)).toMatchObject({ ok: false, why: 'missing' });
    expect(await changeWords(gone, 'reset', form({ version: 0 }))).toMatchObject({ why: 'missing' });
    // What the screen asks of a text, it can ask of none.
    expect(Object.keys(await noWords()).sort()).toEqual(Object.keys(await shown(await heard())).sort());
  });
});
