import { keyOfSubject, subjectOf } from '#data/tasks';
import { execFileSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readerVersion, runsOf } from '#core/readings';
import { unpackReading } from '#media/read/readingPack';
import { bringIn } from '../../data/bringIn';
import { closeDatabase, migrateDatabase } from '../../data/db';
import { keyOf, listMedia, type MediaRow } from '../../data/media';
import { createBin, createProject } from '../../data/projects';
import {
  coarse,
  findEarlierReading,
  findReading,
  forgetReading,
  loadDerived,
  loadRaw,
  readingFolder,
  saveReading,
} from '../../data/readings';
import { storage } from '../../data/storage';
import { findTask } from '../../data/tasks';
import { loadTranscript } from '../../data/words';
import { activeHearing, enqueueWords, hearingLanguages, migrateQueue } from '../queue';
import { findPlayable, findSheet } from '../readings';
import { lendEarlierReading } from './earlierReadings';
import { hearWords } from './hearWords';
import { readFile, storedParts } from './readFile';
import type { Work } from './runTask';
import { syncBin } from './syncBin';

const folder = mkdtempSync(join(tmpdir(), 'bright-reel-jobs-'));
const film = 'demo/media/captain-close.mp4';
const shipped = () => unpackReading(readFileSync('demo/readings/captain-close.mp4/reading.json.gz'))!;
const before = { ...process.env };

async function work(subject: string, projectId: string): Promise<Work> {
  const task = { id: crypto.randomUUID(), projectId, subject, title: 'captain-close.mp4' } as Work['task'];
  return {
    task,
    run: crypto.randomUUID(),
    signal: new AbortController().signal,
    progress: () => undefined,
    say: async () => undefined,
  };
}

describe.skipIf(!process.env.DATABASE_URL)('jobs against a database', () => {
  let project: string;
  let item: MediaRow;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = folder;
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Pond')).id;
    item = await bringIn(project, film, 'captain-close.mp4', { copy: true });
  });
  afterAll(async () => {
    Object.assign(process.env, { BRIGHT_REEL_DATA: before.BRIGHT_REEL_DATA });
    await closeDatabase();
    rmSync(folder, { recursive: true, force: true });
  });

  it('a reading by an earlier reader of which no part has changed is decided anew without decoding', async () => {
    const key = keyOf(item);
    const earlier = readerVersion - 1;
    const result = shipped();
    // Recognisable numbers: a decode would not give them.
    result.raw.traces.get('frame.mean')!.values.fill(0.3125);
    const sheet = readFileSync('demo/readings/captain-close.mp4/sheet-0001.jpg');
    const local = join(folder, 'sheet.jpg');
    writeFileSync(local, sheet);
    await saveReading({
      ...key,
      version: earlier,
      ...storedParts(result),
      proxyKey: 'readings/elsewhere/proxy.mp4',
      tookSeconds: 3,
    });
    // Pictures that have vanished are no reason not to go on.
    expect(await lendEarlierReading(key)).toBe(true);
    expect((await findReading(coarse(key)))!.sheets).toBeNull();
    await forgetReading(coarse(key));
    await storage().adopt(`${readingFolder(key, earlier)}/sheet-0001.jpg`, local);
    // Meanwhile it stands in: moments, pictures and what a player plays.
    expect(await loadDerived(key)).toBeNull();
    expect(await lendEarlierReading(key)).toBe(true);
    expect(await lendEarlierReading(key)).toBe(false);
    expect((await loadDerived(key))!.traces.contrast.length).toBe(90);
    expect(await findSheet(item.id, 1)).toMatchObject({ ok: true });
    expect(existsSync(await storage().localPath(`${readingFolder(coarse(key))}/sheet-0001.jpg`))).toBe(true);
    expect(await findPlayable(item.id)).toMatchObject({
      value: { key: 'readings/elsewhere/proxy.mp4', isLast: false },
    });
    await readFile(await work(subjectOf(key), project));
    const now = (await findReading(key))!;
    expect(await findReading(coarse(key))).toBeNull();
    expect(now.proxyKey).toBe('readings/elsewhere/proxy.mp4');
    expect((await loadRaw(key))!.traces.get('frame.mean')!.values[5]).toBe(0.3125);
    expect(runsOf((await loadDerived(key))!.runs, 'object').length).toBeGreaterThan(0);
    expect(existsSync(await storage().localPath(`${readingFolder(key)}/sheet-0001.jpg`))).toBe(true);
    expect(await findEarlierReading(key)).toBeNull();
  });

  it('hears in the language that was asked for, where the recogniser has it', async () => {
    const program = join(folder, 'hear');
    const model = join(folder, 'model.bin');
    writeFileSync(model, 'weights');
    writeFileSync(
      program,
      `#!/bin/sh
while [ $# -gt 0 ]; do case "$1" in -of) out="$2"; shift;; -l) lang="$2"; shift;; esac; shift; done
echo "{\\"transcription\\":[{\\"text\\":\\" $lang\\",\\"offsets\\":{\\"from\\":100,\\"to\\":300}}]}" > "$out.json"
`,
    );
    chmodSync(program, 0o755);
    Object.assign(process.env, {
      BRIGHT_REEL_WHISPER: program,
      BRIGHT_REEL_WHISPER_MODEL: model,
      BRIGHT_REEL_WHISPER_LANGUAGES: 'de,fr',
    });
    try {
      expect((await hearingLanguages()).languages).toEqual(['de', 'fr']);
      const voice = await bringIn(project, 'demo/media/builder-voice.m4a', 'builder-voice.m4a', { copy: true });
      const key = keyOf(voice);
      await saveReading({
        ...key,
        version: readerVersion,
        ...storedParts(unpackReading(readFileSync('demo/readings/builder-voice.m4a/reading.json.gz'))!),
        proxyKey: null,
        tookSeconds: 0,
      });
      const asked = await enqueueWords(project, key, 'builder-voice.m4a', 'fr');
      expect((await activeHearing(key))!.id).toBe(asked.id);
      expect((await enqueueWords(project, key, 'builder-voice.m4a', 'de')).id).toBe(asked.id);
      expect((await findTask(asked.id))!.subject).toBe(`${key.hash}  fr`);
      expect(await hearWords(await work(asked.subject, project))).toMatch(/\(fr\)/);
      expect((await loadTranscript(voice)).words[0]!.text).toBe('fr');
      await hearWords(await work(subjectOf(key, 'de'), project));
      expect((await loadTranscript(voice)).words[0]!.text).toBe('de');
      // Heard before: what was heard then comes forward, nothing is called.
      rmSync(program);
      await hearWords(await work(asked.subject, project));
      expect((await loadTranscript(voice)).words[0]!.text).toBe('fr');
    } finally {
      for (const name of ['BRIGHT_REEL_WHISPER', 'BRIGHT_REEL_WHISPER_MODEL', 'BRIGHT_REEL_WHISPER_LANGUAGES'])
        delete process.env[name];
    }
  });

  it('the recordings of a bin are brought into step by their sound; what does not match is named', async () => {
    const bin = await createBin(project, 'Two cameras');
    const made = (name: string, ...args: string[]) => {
      const file = join(folder, name);
      execFileSync('ffmpeg', ['-v', 'error', ...args, file]);
      return file;
    };
    // Half a minute of the interview, the same from seven and a quarter seconds on, and something else.
    const whole = made(
      'whole.wav',
      '-ss',
      '65',
      '-t',
      '30',
      '-i',
      'demo/media/race-day.mp4',
      '-ac',
      '1',
      '-ar',
      '16000',
    );
    const later = made(
      'later.wav',
      '-ss',
      '72.25',
      '-t',
      '20',
      '-i',
      'demo/media/race-day.mp4',
      '-ac',
      '1',
      '-ar',
      '16000',
    );
    const other = made('other.wav', '-f', 'lavfi', '-i', 'anoisesrc=d=15:c=pink:r=16000:seed=3');
    for (const [file, seconds] of [
      [whole, 30],
      [later, 20],
      [other, 15],
    ] as const) {
      const row = await bringIn(project, file, file.split('/').at(-1)!, { copy: true, binId: bin.id });
      const { raw, ...rest } = storedParts(shipped());
      await saveReading({
        ...keyOf(row),
        version: readerVersion,
        ...rest,
        raw,
        probe: { ...rest.probe, kind: 'sound', durationSeconds: seconds },
        proxyKey: null,
        tookSeconds: 0,
      });
    }
    const sentence = await syncBin(await work(bin.id, project));
    expect(sentence).toMatch(/^other\.wav: the sound does not match that of whole\.wav/);
    const offsets = new Map(
      (await listMedia(project)).filter((each) => each.binId === bin.id).map((each) => [each.name, each.syncOffset]),
    );
    expect(offsets.get('whole.wav')).toBe(0);
    expect(offsets.get('later.wav')).toBeCloseTo(7.25, 2);
    expect(offsets.get('other.wav')).toBeNull();
    const alone = await createBin(project, 'Alone');
    await expect(syncBin(await work(alone.id, project))).rejects.toThrow('Two recordings with sound are needed');
  });
});

it('a task names what it reads', () => {
  const key = { hash: 'abc', parameters: '2.00-end' };
  expect(keyOfSubject(subjectOf(key))).toEqual({ ...key, language: null });
  expect(keyOfSubject(subjectOf({ ...key, parameters: '' }, 'de'))).toEqual({
    hash: 'abc',
    parameters: '',
    language: 'de',
  });
  expect(subjectOf({ hash: 'abc', parameters: '' })).toBe('abc');
});
