import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { captionDefaults } from '#core/captions';
import { captionTracks } from '#core/formats';
import type { Reel } from '#core/reel';
import { rates } from '#core/time';
import type { Word } from '#core/words';
import { closeDatabase, migrateDatabase } from '#data/db';
import { createProject } from '#data/projects';
import { createReel } from '#data/reels';
import { saveSpeakers } from '#data/speakers';
import { showText } from '#data/words';
import { testFolder } from '#media/testMedia';
import { exportReel } from './exportReel';
import { migrateQueue } from './queue';
import { loadReelTexts, showCaptionTexts } from './reelTexts';
import { addRead } from './testFootage';

const textOf = (words: readonly { text: string }[]) => words.map(({ text }) => text).join(' ');
const said = (text: string): Word[] =>
  text.split(' ').map((word, at) => ({ text: word, start: 1 + at, end: 1.8 + at, confidence: 1 }));

describe.skipIf(!process.env.DATABASE_URL)('what captions of a reel are made of', () => {
  const folder = testFolder();
  const english = said('The boats are out on the pond');
  const german = said('Die Boote sind auf dem Teich draußen');
  let project: string, talk: string, mute: string;
  let reel: Reel;
  beforeAll(async () => {
    process.env.BRIGHT_REEL_DATA = join(folder, 'data');
    await migrateDatabase();
    await migrateQueue();
    project = (await createProject('Two languages')).id;
    [talk, mute] = [await addRead(project, 'talk.mp4'), await addRead(project, 'mute.mp4')];
    // German is brought in first, then English takes its place: it stands beside it.
    await showText(talk, { words: german, language: 'de-AT' }, 0);
    await showText(talk, { words: english, language: 'en' }, 1);
    await showText(mute, { words: english, language: 'en' }, 0);
    await saveSpeakers(
      talk,
      {
        turns: [
          { start: 0, end: 3.9, voice: 0 },
          { start: 3.9, end: 12, voice: 1 },
        ],
        names: { 1: 'The host' },
      },
      0,
    );
    reel = {
      schema: 'BrightReel.Reel.1',
      name: 'Pond',
      rate: rates['25'],
      size: { width: 720, height: 1280 },
      captions: { ...captionDefaults, second: 'de', speakers: ['#ffd166'] },
      tracks: [
        {
          kind: 'picture',
          name: 'Main',
          items: [{ kind: 'clip', id: 'a', media: talk, name: 'talk', sourceIn: 0, frames: 250 }],
        },
      ],
    };
  });
  afterAll(closeDatabase);

  it('both languages, each by its own text, and who says what', async () => {
    const [first, second] = captionTracks(reel, await loadReelTexts(project, reel));
    expect(textOf(first!.lines.flatMap(({ words }) => words))).toBe(textOf(english));
    expect(textOf(second!.lines.flatMap(({ words }) => words))).toBe(textOf(german));
    expect(first!.lines.flatMap(({ words }) => words.map(({ voice }) => voice))).toEqual([0, 0, 0, 1, 1, 1, 1]);
    expect(first!.lines[0]!.words[0]!.speaker).toBeUndefined();
  });
  it('one language where the other is not wanted, or is the one that is shown', async () => {
    const { second: _, ...alone } = reel.captions!;
    const one = { ...reel, captions: alone };
    expect(captionTracks(one, await loadReelTexts(project, one))).toHaveLength(1);
    const same = { ...reel, captions: { ...reel.captions!, second: 'en' } };
    expect(captionTracks(same, await loadReelTexts(project, same))).toHaveLength(1);
  });
  it('subtitles name who speaks, and come in the second language, each when that is asked for', async () => {
    const id = await createReel(project, reel);
    const file = async (wishes: object) => {
      const exported = await exportReel(project, id, 'srt', wishes);
      if (!exported.ok) throw new Error(exported.sentence);
      return exported.value;
    };
    expect((await file({})).text).not.toContain('The host');
    expect((await file({ speakers: true })).text).toContain('The host: out on');
    const second = await file({ second: true });
    expect(second.name).toBe('Pond.de.srt');
    expect(second.text).toContain('Die Boote');
    expect(second.text).not.toContain('boats');
  });
  it('are shown with the languages of the project, each file counted once, and words only of its own files', async () => {
    const foreign = await addRead((await createProject('Another one')).id, 'other.mp4');
    await showText(foreign, { words: german, language: 'de' }, 0);
    await showText(foreign, { words: english, language: 'en' }, 1);
    const shown = await showCaptionTexts(project, { second: 'de', of: [talk, mute, foreign].join() });
    if (!shown.ok) throw new Error(shown.sentence);
    expect(shown.value.languages).toEqual([
      { tag: 'en', count: 2 },
      { tag: 'de-AT', count: 1 },
    ]);
    expect(textOf(shown.value.second[talk]!)).toBe(textOf(german));
    expect(shown.value.second[mute]).toEqual([]);
    expect(shown.value.second).not.toHaveProperty(foreign);
    expect(shown.value.speakers).toEqual([null, 'The host']);
    expect(shown.value.turns[talk]!.map(({ voice }) => voice)).toEqual([0, 1]);
    expect(shown.value.turns[mute]).toEqual([]);
  });
  it.each([[{ second: '../de' }], [{ of: 'x,y' }]])('%j is refused', async (given) => {
    expect(await showCaptionTexts(project, given)).toMatchObject({ ok: false });
  });
});
