import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import {
  applyCommand,
  clashes,
  dressInStyle,
  fileNames,
  joinReels,
  logoBox,
  reelFrames,
  type HouseStyle,
  type Reel,
  type Source,
} from '.';
import { captionDefaults } from '#core/captions';

const reel = (name: string, frames: number): Reel => ({
  schema: 'BrightReel.Reel.1',
  name,
  rate: rates['25'],
  size: { width: 1080, height: 1920 },
  tracks: [
    {
      kind: 'picture',
      name: 'Main',
      items: [{ kind: 'clip', id: `${name}-1`, media: 'm', name, sourceIn: 0, frames }],
    },
  ],
  fit: 'fill',
});

describe('names by a pattern', () => {
  const parts = [
    { title: 'Boats', pieces: ['A', 'B'] },
    { title: 'Ducks', pieces: ['C', 'D'] },
  ];
  const day = new Date(2026, 10, 5);
  it('counter, padded counter, titles, pieces, date', () => {
    expect(fileNames(parts, '{n} {title}', day)).toEqual(['01 Boats', '02 Ducks']);
    expect(fileNames(parts, '{n:3}-{1}-{2}', day)).toEqual(['001-A-B', '002-C-D']);
    expect(fileNames(parts, '{date} {pieces}', day)).toEqual(['2026-11-05 A B', '2026-11-05 C D']);
    expect(
      fileNames(
        Array.from({ length: 120 }, () => ({ title: 'x' })),
        '{n}',
        day,
      )[7],
    ).toBe('008');
  });
  it('files of one reel: its name, the piece, and what each is for', () => {
    const files = ['Master', 'Proof'].map((purpose) => ({ title: 'Start / finish?', reel: 'Pond', purpose }));
    expect(fileNames(files, '{reel} {n} {title} ({for})')).toEqual([
      'Pond 01 Start - finish- (Master)',
      'Pond 02 Start - finish- (Proof)',
    ]);
    expect(fileNames([{ title: 'Pond' }], '{reel}{for}')).toEqual(['Pond']);
  });
  it('signs that files cannot have become dashes, nothing becomes the number', () =>
    expect(fileNames([{ title: 'a/b: "c"?' }, { title: '' }], '{title}', day)).toEqual(['a-b- -c-', '2']));
  it('names that stand twice are found, whatever their capitals', () => {
    expect(clashes(['Boats', 'boats', 'Ducks'])).toEqual(['Boats', 'boats']);
    expect(clashes(fileNames(parts, '{date}', day))).toHaveLength(1);
    expect(clashes(fileNames(parts, '{n}', day))).toEqual([]);
  });
});

describe('joined and dressed', () => {
  let count = 0;
  const newId = () => `00000000-0000-4000-8000-${String(++count).padStart(12, '0')}`;
  it('reels one after the other, with ids of their own and the first one’s captions', () => {
    const opening = { ...reel('opening', 50), captions: captionDefaults };
    const joined = joinReels('both', [opening, reel('ending', 30), opening], newId);
    expect(reelFrames(joined)).toBe(130);
    expect(new Set(joined.tracks[0]!.items.map((item) => item.id)).size).toBe(3);
    expect(joined).toMatchObject({ name: 'both', captions: captionDefaults });
    expect(opening.tracks[0]!.items[0]!.id).toBe('opening-1');
  });
  const sources = new Map<string, Source>([
    ['m', { id: 'm', name: 'm', durationSeconds: 60 }],
    ['logo', { id: 'logo', name: 'logo.png', durationSeconds: 0, photo: true }],
  ]);
  const house: HouseStyle = {
    captions: { ...captionDefaults, font: 'Fraunces' },
    theme: 'Brass band',
    logo: { media: 'logo', corner: 'top right', size: 0.2, opacity: 0.9 },
    opening: { text: '{title}', seconds: 2 },
    lower: { text: 'The builder', sub: 'boat three', seconds: 3 },
    end: { text: 'See you', sub: '', seconds: 2 },
  };
  it('a house style is one edit: captions, logo, titles at both ends; the title is the reel’s', () => {
    const before = {
      ...reel('What floats', 250),
      titles: [{ id: newId(), kind: 'end' as const, frame: 0, frames: 10, text: 'old' }],
    };
    const result = applyCommand(before, dressInStyle(before, house, 'Regatta', newId), sources);
    expect(result.ok).toBe(true);
    if (!result.ok) return;
    expect(result.reel).toMatchObject({ theme: 'Brass band', captions: { font: 'Fraunces' }, logo: { media: 'logo' } });
    expect(result.reel.titles!.map(({ kind, frame, frames, text: said }) => [kind, frame, frames, said])).toEqual([
      ['opening', 0, 50, 'What floats'],
      ['lower', 50, 75, 'The builder'],
      ['end', 200, 50, 'See you'],
    ]);
  });
  it('a logo stands inside the safe area, as large as it says', () => {
    const box = logoBox(house.logo!, { width: 400, height: 200 }, { width: 1080, height: 1920 });
    expect(box).toEqual({ width: 216, height: 108, x: 1080 - 54 - 216, y: 96 });
    expect(
      logoBox({ ...house.logo!, corner: 'bottom left' }, { width: 400, height: 200 }, { width: 1080, height: 1920 }),
    ).toMatchObject({ x: 54, y: 1920 - 96 - 108 });
  });
  it('what is no colour, no picture or no crop is refused with a sentence', () => {
    const own = reel('a', 100);
    const refused = (command: Parameters<typeof applyCommand>[1]) => {
      const result = applyCommand(own, command, sources);
      return result.ok ? '' : result.reason;
    };
    expect(refused({ type: 'captions', style: { ...captionDefaults, colour: 'red' } })).toMatch(/#ffc95c/);
    expect(refused({ type: 'logo', logo: { ...house.logo!, media: 'm' } })).toMatch(/picture of the project/);
    expect(
      refused({
        type: 'framing',
        framings: [{ clip: 'a-1', framing: { subject: 'auto', zoom: 9, keys: [], path: [[0, 0.5, 0.5]] } }],
      }),
    ).toMatch(/1 to 4/);
    expect(
      refused({
        type: 'framing',
        framings: [{ clip: 'a-1', framing: { subject: 'auto', zoom: 1, keys: [], path: [[0, 1.5, 0.5]] } }],
      }),
    ).toMatch(/outside the picture/);
  });
});
