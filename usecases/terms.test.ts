import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { isDoubtful, mostTerms, type Word } from '#core/words';
import { closeDatabase, migrateDatabase } from '#data/db';
import { keyOf, type MediaRow } from '#data/media';
import { createProject, findProject } from '#data/projects';
import { subjectOf } from '#data/tasks';
import { findRecognition, loadTranscript, saveRecognition, saveTranscript } from '#data/words';
import { archiveRowChecks } from './archives';
import { hearWords } from './background/hearWords';
import type { Work } from './background/runTask';
import { activeHearing, migrateQueue } from './queue';
import { changeTerms, showTerms } from './terms';
import { bringShipped } from './testFootage';
import { showWords } from './words';

const shipped = () => JSON.parse(readFileSync('demo/readings/builder-voice.m4a/words.json', 'utf8')) as Word[];

describe.skipIf(!process.env.DATABASE_URL)('names and terms of a project', () => {
  const folder = mkdtempSync(join(tmpdir(), 'bright-reel-terms-'));
  const before = process.env.BRIGHT_REEL_DATA;
  let item: MediaRow;
  let project: string;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Pond')).id;
    item = await bringShipped(project, 'builder-voice.m4a');
  });
  afterAll(async () => {
    Object.assign(process.env, { BRIGHT_REEL_DATA: before });
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });
  const shown = async () => {
    const terms = await showTerms(project);
    if (!terms.ok) throw new Error(terms.sentence);
    return terms.value;
  };
  const hear = () =>
    hearWords({
      task: { id: crypto.randomUUID(), projectId: project, subject: subjectOf(keyOf(item), 'en-US') } as Work['task'],
      run: crypto.randomUUID(),
      signal: new AbortController().signal,
      progress: () => undefined,
      say: async () => undefined,
    });

  it('are kept as they are written, and offered from what people wrote', async () => {
    expect(await shown()).toMatchObject({ terms: [], offered: [], doubtful: { files: 0, words: 0 } });
    const text = 'They met Ida Reed at the pond. Then Ida Reed glued the skuttlers.';
    const words = text.split(' ').map((each, at) => ({ text: each, start: at, end: at + 0.5, confidence: 1 }));
    expect(await saveTranscript(item.id, words, 'corrected', 0)).toBe(true);
    expect((await shown()).offered).toEqual(['Ida Reed', 'skuttlers']);
    expect(await changeTerms(project, { terms: 'Ida Reed, Duckweed Dash\nida reed' })).toEqual({
      ok: true,
      value: { again: 0 },
    });
    expect((await findProject(project))!.terms).toEqual(['Ida Reed', 'Duckweed Dash']);
    expect((await shown()).offered).toEqual(['skuttlers']);
  });
  it('are not more than can be told apart', async () => {
    const many = Array.from({ length: mostTerms + 1 }, (_, at) => `name ${at}`).join('\n');
    expect(await changeTerms(project, { terms: many })).toMatchObject({ ok: false, why: 'refused' });
    expect(await changeTerms(crypto.randomUUID(), { terms: 'x' })).toMatchObject({ ok: false, why: 'missing' });
    expect((await findProject(project))!.terms).toHaveLength(2);
  });
  it('have only doubtful stretches heard again; what was typed stays, and what is known costs nothing', async () => {
    const heard = shipped();
    await saveRecognition(keyOf(item), 'pocketsphinx', heard, { revision: 2 });
    const typed = heard.map((word, at) => (at === 0 ? { ...word, text: 'Typed', confidence: 1 } : word));
    const { version } = await loadTranscript(item);
    expect(await saveTranscript(item.id, typed, 'corrected', version)).toBe(true);
    const doubtful = heard.filter(isDoubtful).length;
    expect((await shown()).doubtful.files).toBe(1);
    expect(await changeTerms(project, { terms: 'Ida Reed\ncardboard\nvarnish', again: 'true' })).toMatchObject({
      value: { again: 1 },
    });
    expect(await activeHearing(keyOf(item))).not.toBeNull();
    expect(await hear()).toMatch(new RegExp(`^${doubtful} doubtful words heard again; \\d+ words? (is|are) new\\.$`));
    const recognition = (await findRecognition(keyOf(item)))!;
    expect([recognition.revision, recognition.terms]).toEqual([2, ['Ida Reed', 'cardboard', 'varnish']]);
    const after = (await loadTranscript(item)).words;
    expect(after[0]).toMatchObject({ text: 'Typed', confidence: 1 });
    // Words that were sure stand where they stood.
    const places = new Set(after.map((word) => `${word.text} ${word.start}`));
    expect(typed.filter((word) => !isDoubtful(word) && !places.has(`${word.text} ${word.start}`)).length).toBeLessThan(
      typed.length / 10,
    );
    expect(await hear()).toBeNull();
  });
  it('let the words of an earlier recogniser be heard again, all of them', async () => {
    const words = [{ text: 'long', start: 0, end: 1, confidence: 0.9 }];
    await saveRecognition(keyOf(item), 'pocketsphinx', words);
    expect(await showWords(item.id)).toMatchObject({ value: { hearsBetter: true } });
    expect(await hear()).toMatch(/^\d+ words by pocketsphinx\.$/);
    expect(await showWords(item.id)).toMatchObject({ value: { hearsBetter: false } });
    expect((await findRecognition(keyOf(item)))!.words.length).toBeGreaterThan(10);
  });
  it('and texts that wait for their times go along in an archive; what does not fit is refused', () => {
    const check = archiveRowChecks();
    const own = check('projects', { name: 'Pond', terms: ['Ida Reed', 7, 'Ida Reed', 'Otto'] });
    expect(own).toMatchObject({ row: { terms: ['Ida Reed', 'Otto'] } });
    expect(check('projects', { name: 'Pond' })).toMatchObject({ row: { terms: [] } });
    const script = { name: 'talk.txt', text: 'The boats are in.', language: 'en' };
    expect(check('scripts', script)).toEqual({ row: script });
    expect(check('scripts', { ...script, language: '../etc' })).toMatchObject({
      problem: expect.stringMatching(/^scripts/) as string,
    });
    const heard = check('recognitions', { words: shipped(), revision: 'many' });
    expect(heard).toMatchObject({ row: { revision: 1, terms: [] } });
    // Rivals travel with their words.
    expect(JSON.stringify(heard)).toContain('"rivals"');
  });
});
