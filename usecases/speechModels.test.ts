import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readerVersion } from '#core/readings';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { keyOf } from '#data/media';
import { createProject } from '#data/projects';
import { saveReading } from '#data/readings';
import { dataFolder, storage } from '#data/storage';
import { findTask, queueTask, subjectOf } from '#data/tasks';
import { unpackReading } from '#media/read/readingPack';
import { writeWhisperModel } from '#media/testMaterial/whisperModel';
import { ffmpeg, testFolder } from '#media/testMedia';
import { hearWords } from './background/hearWords';
import { storedParts } from './background/readFile';
import { migrateQueue } from './queue';
import { changeSpeechModels, recogniserInUse, showSpeechModels, takeSpeechModel } from './speechModels';
import { changeWords, showWords } from './words';

const form = (values: Record<string, string>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(values)) data.set(name, value);
  return data;
};

describe.skipIf(!process.env.DATABASE_URL)('speech models', () => {
  // A model in use counts for everybody: these tests have a table of their own, before the one that all share.
  const shared = process.env.DATABASE_URL!;
  const own = `models_${crypto.randomUUID().replaceAll('-', '')}`;
  const folder = testFolder();
  const query = async (text: string) => {
    const client = new pg.Client({ connectionString: shared });
    await client.connect();
    await client.query(text);
    await client.end();
  };
  beforeAll(async () => {
    await migrateDatabase();
    await migrateQueue();
    await closeDatabase();
    await query(`create schema ${own}; create table ${own}.speech_models (like speech_models including all)`);
    const address = new URL(shared);
    address.searchParams.set('options', `-c search_path=${own},public`);
    process.env.DATABASE_URL = address.href;
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
  });
  afterAll(async () => {
    await closeDatabase();
    await query(`drop schema ${own} cascade`);
  });
  const made = (name: string, parts: (string | number)[] = [0, ' Das', ' Boot', 1]) => {
    const file = join(folder, name);
    writeWhisperModel(file, { language: 2, parts });
    return file;
  };
  const shown = async () => {
    const { value } = await showSpeechModels();
    return value;
  };

  it('are used from when they come, until another one or none is chosen', async () => {
    expect((await recogniserInUse()).name).toBe('pocketsphinx');
    expect(await takeSpeechModel(made('ggml-one.bin'), '../ggml-one.bin')).toMatchObject({ ok: true });
    expect(await takeSpeechModel(made('ggml-two.bin'), 'ggml-two.bin')).toMatchObject({ ok: true });
    expect((await recogniserInUse()).name).toBe('ggml-two.bin');
    await changeSpeechModels(form({ intent: 'use', name: 'ggml-one.bin' }));
    expect((await shown()).inUse).toBe('ggml-one.bin');
    await changeSpeechModels(form({ intent: 'use', name: '' }));
    expect((await recogniserInUse()).name).toBe('pocketsphinx');
    expect(await changeSpeechModels(form({ intent: 'use', name: 'ggml-three.bin' }))).toMatchObject({ ok: false });
  });

  it('what is no model is refused, and nothing of it is kept', async () => {
    const film = join(folder, 'film.bin');
    writeFileSync(film, 'no model');
    expect(await takeSpeechModel(film, 'film.bin')).toMatchObject({
      ok: false,
      sentence: expect.stringMatching(/no speech model/) as string,
    });
    expect(await storage().size('models/film.bin')).toBeNull();
  });

  it('what is laid into the folder of models is found, stays there, and goes when it is removed', async () => {
    const laid = join(dataFolder(), 'models');
    mkdirSync(laid, { recursive: true });
    writeFileSync(join(laid, 'ggml-laid.bin'), readFileSync(made('ggml-laid.bin')));
    writeFileSync(join(laid, 'half.bin'), readFileSync(made('half.bin')).subarray(0, 100_000));
    const { models, problems } = await shown();
    expect(models.map(({ name }) => name)).toContain('ggml-laid.bin');
    expect(problems).toEqual([expect.stringMatching(/^half\.bin: .*not whole/)]);
    expect((await recogniserInUse()).name).toBe('ggml-laid.bin');
    expect(existsSync(join(laid, 'ggml-laid.bin'))).toBe(true);
    await changeSpeechModels(form({ intent: 'remove', name: 'ggml-laid.bin' }));
    expect((await shown()).models.map(({ name }) => name)).not.toContain('ggml-laid.bin');
    expect(await storage().size('models/ggml-laid.bin')).toBeNull();
  });

  it('are tried on this machine; what cannot be used says why', async () => {
    await takeSpeechModel(made('ggml-tried.bin'), 'ggml-tried.bin');
    // Right in its layout, but the numbers of its filters are of another model.
    const wrong = readFileSync(made('ggml-wrong.bin'));
    wrong.writeInt32LE(3, 4 + 4 * 4);
    writeFileSync(join(folder, 'ggml-wrong.bin'), wrong);
    expect(await takeSpeechModel(join(folder, 'ggml-wrong.bin'), 'ggml-wrong.bin')).toMatchObject({ ok: false });
    for (;;) {
      const tried = (await shown()).models.find(({ name }) => name === 'ggml-tried.bin')!;
      expect(tried.problem).toBeNull();
      if (tried.pace !== null) return expect(tried.pace).toBeGreaterThan(0);
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
  });

  it('hear a file in the language that is spoken; each way it was heard stands beside the others', async () => {
    const project = (await createProject('Words of two recognisers')).id;
    // A content of its own: what is heard belongs to the content, whoever brings it in.
    const copy = join(folder, 'voice.m4a');
    ffmpeg('-i', 'demo/media/builder-voice.m4a', '-c', 'copy', '-metadata', `comment=${own}`, copy);
    const voice = await bringIn(project, copy, 'voice.m4a', { copy: true });
    const key = keyOf(voice);
    await saveReading({
      ...key,
      version: readerVersion,
      ...storedParts(unpackReading(readFileSync('demo/readings/builder-voice.m4a/reading.json.gz'))!),
      proxyKey: null,
      tookSeconds: 0,
    });
    const hear = async (language: string) => {
      const { id } = await queueTask({
        projectId: project,
        kind: 'words',
        subject: subjectOf(key, language),
        title: 'voice',
      });
      const task = (await findTask(id))!;
      return hearWords({ task, signal: new AbortController().signal, progress: () => undefined } as never);
    };
    const words = async () => {
      const now = await showWords(voice.id);
      if (!now.ok) throw new Error(now.sentence);
      return now.value;
    };
    await changeSpeechModels(form({ intent: 'use', name: 'ggml-one.bin' }));
    await hear('und');
    const heard = await words();
    expect(heard).toMatchObject({ source: 'ggml-one.bin', language: 'de', hearsBetter: false, others: [] });
    expect(heard.words[0]!.text).toBe('Das');
    await changeSpeechModels(form({ intent: 'use', name: 'ggml-two.bin' }));
    expect((await words()).hearsBetter).toBe(true);
    await hear('fr');
    const again = await words();
    expect(again).toMatchObject({ source: 'ggml-two.bin (fr)', language: 'fr' });
    expect(again.others).toMatchObject([{ id: 'heard:ggml-one.bin', language: 'de', source: 'ggml-one.bin' }]);
    await changeWords(voice.id, 'again', form({ other: again.others[0]!.id, version: '0' }));
    expect(await words()).toMatchObject({ source: 'ggml-one.bin', language: 'de' });
    expect(await changeWords(voice.id, 'again', form({ other: 'heard:nobody', version: '0' }))).toMatchObject({
      ok: false,
    });
  });
});
