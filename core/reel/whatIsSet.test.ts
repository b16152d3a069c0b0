import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { captionDefaults } from '#core/captions';
import { applyCommand, musicDefaults, themeTitles, whatIsSet, type Clip, type Reel } from '.';

const clip = (id: string, own: Partial<Clip> = {}): Clip => ({
  kind: 'clip',
  id,
  media: 'm',
  name: id,
  sourceIn: 0,
  frames: 200,
  ...own,
});
const reel = (own: Partial<Reel> = {}, ...items: Clip[]): Reel => ({
  schema: 'BrightReel.Reel.1',
  name: 'Race',
  rate: rates['25'],
  size: { width: 1280, height: 720 },
  tracks: [{ kind: 'picture', name: 'Main', items }],
  ...own,
});

describe('what is set on a reel', () => {
  it('is nothing for plain cuts', () => expect(whatIsSet(reel({}, clip('a'), clip('b')))).toEqual([]));
  it('is said in a few words each, one and many', () => {
    const steady = { position: 0.5, rotation: 0.5, scale: 0.5, edges: 'crop' as const };
    const dressed = reel(
      {
        titles: [{ id: 't', kind: 'opening', frame: 0, frames: 50, text: 'Race' }],
        captions: captionDefaults,
        music: { ...musicDefaults, media: 's', name: 'Paper sails' },
        loudnessLufs: -14,
      },
      clip('a', { steady }),
      clip('b', { steady, speed: 50, into: { kind: 'dissolve', frames: 10 } }),
      clip('c', { speed: 0 }),
    );
    expect(whatIsSet(dressed)).toEqual([
      '1 transition',
      '2 steadied pieces',
      '2 pieces at another speed',
      '1 title',
      'captions',
      'the music “Paper sails”',
      '-14 LUFS',
    ]);
  });
});

describe('titles of a theme', () => {
  let count = 0;
  const words = { project: 'Pond Regatta', day: '14 June 2026' };
  const added = (own: Reel) => themeTitles(own, words, () => `00000000-0000-4000-8000-00000000000${count++}`);
  it('are an opening and an end, inside the reel, with the project’s name and day', () => {
    const own = reel({}, clip('a'), clip('b'));
    const commands = added(own);
    const made = applyCommand(own, { type: 'several', name: 'x', commands }, new Map());
    if (!made.ok) throw new Error(made.reason);
    expect(made.reel.titles).toMatchObject([
      { kind: 'opening', frame: 0, frames: 75, text: 'Pond Regatta', sub: '14 June 2026' },
      { kind: 'end', frame: 325, frames: 75, text: 'The end', sub: 'Pond Regatta, 14 June 2026' },
    ]);
  });
  it('none where there is one of that kind, or the reel is over at once', () => {
    const titled = reel(
      { titles: [{ id: 't', kind: 'end', frame: 0, frames: 50, text: 'Bye' }] },
      clip('a'),
      clip('b'),
    );
    expect(added(titled).map((each) => each.type === 'title' && each.title.kind)).toEqual(['opening']);
    expect(added(reel({}, clip('a')))).toEqual([]);
  });
});
