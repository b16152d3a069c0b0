import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readerVersion } from '#core/readings';
import { bringIn } from '#data/bringIn';
import { closeDatabase, migrateDatabase } from '#data/db';
import { findMedia, keyOf, type MediaRow } from '#data/media';
import { createProject } from '#data/projects';
import { saveReading } from '#data/readings';
import { findSpeakers, saveSpeakers } from '#data/speakers';
import { findTask, listTasks } from '#data/tasks';
import { loadWatched } from '#data/watched';
import { unpackReading } from '#media/read/readingPack';
import { ffmpeg, testFolder } from '#media/testMedia';
import { storedParts } from './background/readFile';
import { tellVoices } from './background/tellVoices';
import { migrateQueue } from './queue';
import { changeSpeakers, namedSpeakers, showSpeakers } from './speakers';
import { addRead } from './testFootage';

const form = (values: Record<string, string | number>) => {
  const data = new FormData();
  for (const [name, value] of Object.entries(values)) data.set(name, String(value));
  return data;
};
const turn = (start: number, end: number, voice: number) => ({ start, end, voice });

describe.skipIf(!process.env.DATABASE_URL)('the speakers of an item', () => {
  const folder = testFolder();
  let project: string;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Who speaks')).id;
  });
  afterAll(closeDatabase);
  const shown = async (id: string) => {
    const speakers = await showSpeakers(id);
    if (!speakers.ok) throw new Error(speakers.sentence);
    return speakers.value;
  };
  const change = async (id: string, intent: string, values: Record<string, string | number>) =>
    changeSpeakers(id, form({ intent, version: (await shown(id)).version, ...values }));
  const told = async () => {
    const id = await addRead(project, 'talk.mp4');
    await saveSpeakers(
      id,
      { turns: [turn(0, 10, 0), turn(10, 14, 1), turn(14, 20, 0), turn(20, 22, 2)], names: {} },
      0,
    );
    return id;
  };

  it('are told apart by a task, from what is heard', async () => {
    // A content of its own: a reading belongs to the content, whoever has it read.
    const copy = join(folder, 'voice.m4a');
    ffmpeg('-i', 'demo/media/builder-voice.m4a', '-c', 'copy', '-metadata', `comment=${project}`, copy);
    const voice: MediaRow = await bringIn(project, copy, 'voice.m4a', { copy: true });
    expect(await changeSpeakers(voice.id, form({ intent: 'tell' }))).toMatchObject({ ok: false });
    await saveReading({
      ...keyOf(voice),
      version: readerVersion,
      ...storedParts(unpackReading(readFileSync('demo/readings/builder-voice.m4a/reading.json.gz'))!),
      proxyKey: null,
      tookSeconds: 0,
    });
    expect(await changeSpeakers(voice.id, form({ intent: 'tell', count: 2 }))).toMatchObject({ ok: true });
    const [line] = (await listTasks(project)).filter(({ kind }) => kind === 'voices');
    const task = (await findTask(line!.id))!;
    expect((await shown(voice.id)).looking).not.toBeNull();
    const said = await tellVoices({
      task,
      signal: new AbortController().signal,
      progress: () => undefined,
    } as never);
    expect(said).toBe('2 speakers told apart.');
    const { turns, voices } = await shown(voice.id);
    expect(voices).toHaveLength(2);
    expect(turns.length).toBeGreaterThan(1);
  });

  it('are named, joined and corrected; what somebody else changed meanwhile is not lost', async () => {
    const id = await told();
    expect((await shown(id)).voices.map(({ voice, seconds }) => [voice, seconds])).toEqual([
      [0, 16],
      [1, 4],
      [2, 2],
    ]);
    await change(id, 'name', { voice: 0, name: '  The host ' });
    await change(id, 'name', { voice: 2, name: 'The caller' });
    await change(id, 'join', { voice: 2, into: 1 });
    const now = await shown(id);
    // The name goes with the voice that has one.
    expect(now.voices.map(({ voice, name }) => [voice, name])).toEqual([
      [0, 'The host'],
      [1, 'The caller'],
    ]);
    await change(id, 'change', { start: 12, end: 13 });
    expect((await shown(id)).voices).toHaveLength(3);
    expect((await findSpeakers(id))!.turns).toContainEqual(turn(12, 13, 2));
    expect(await changeSpeakers(id, form({ intent: 'name', version: 1, voice: 0, name: 'Late' }))).toMatchObject({
      ok: false,
      why: 'conflict',
    });
    await change(id, 'name', { voice: 0, name: '' });
    expect((await shown(id)).voices[0]!.name).toBeNull();
  });

  it.each([
    ['a speaker that is not there', 'name', { voice: 9, name: 'Nobody' }],
    ['itself', 'join', { voice: 0, into: 0 }],
    ['somebody who is not there', 'join', { voice: 0, into: 7 }],
    ['a stretch in which nobody speaks', 'change', { start: 50, end: 51 }],
    ['a stretch that ends before it begins', 'change', { start: 3, end: 2 }],
    ['too many speakers', 'tell', { count: 99 }],
  ])('%s is refused', async (_, intent, values) => {
    const id = await told();
    expect(await change(id, intent, values)).toMatchObject({ ok: false });
  });

  it('named ones are named in subtitles, and the picture goes by their turns', async () => {
    const id = await told();
    await change(id, 'name', { voice: 1, name: 'The builder' });
    const item = (await findMedia(id))!;
    expect(await namedSpeakers(item)).toEqual([{ start: 10, end: 14, name: 'The builder' }]);
    expect((await loadWatched(item))!.turns).toHaveLength(4);
  });
});
