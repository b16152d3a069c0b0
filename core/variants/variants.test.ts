import { describe, expect, it } from 'vitest';
import { clipsOf, estimateOutput, mainTrack, musicDefaults, reelFrames, type Reel } from '#core/reel';
import { framesPerSecond, framesToSeconds, rates } from '#core/time';
import {
  broughtToFormat,
  emptyVariants,
  listVariants,
  mostListed,
  movePlace,
  namesTwice,
  orderedGroups,
  partFootage,
  placeAgain,
  removePlace,
  repeats,
  tick,
  tickAll,
  tickSome,
  variantNames,
  variantReel,
  variantsCost,
  workOutParts,
  type VariantItem,
  type VariantPart,
  type VariantSet,
} from '.';

let count = 0;
const makeId = () => `id${count++}`;
const item = (id: string, seconds: number, own: Partial<VariantItem> = {}): VariantItem => ({
  id,
  name: `${id}.mp4`,
  hash: id,
  binId: null,
  probe: { kind: 'video', durationSeconds: seconds, rate: rates['25'], width: 1920, height: 1080 },
  defaultIn: null,
  defaultOut: null,
  ...own,
});
const still = { kind: 'photo' as const, durationSeconds: 0, rate: null, width: 4000, height: 3000 };
const heard = { kind: 'sound' as const, durationSeconds: 60, rate: null, width: 0, height: 0 };
const items = [
  item('horn', 12),
  item('launch', 20, { binId: 'races', defaultIn: 2, defaultOut: 18 }),
  item('sinking', 30, { binId: 'races' }),
  item('crew', 0, { probe: still }),
  item('song', 60, { probe: heard }),
];
const reel = (name: string, seconds: number, own: Partial<Reel> = {}): Reel => {
  const rate = own.rate ?? rates['25'];
  const frames = Math.round(seconds * framesPerSecond(rate));
  const clip = { kind: 'clip' as const, id: makeId(), media: 'sinking', name, sourceIn: 0, frames };
  return {
    schema: 'BrightReel.Reel.1',
    name,
    rate,
    size: { width: 1080, height: 1920 },
    tracks: [{ kind: 'picture', name: 'Main', items: [clip] }],
    ...own,
  };
};
const reels = new Map([
  ['bow', reel('Bow wave', 4)],
  ['prize', reel('Prize', 6)],
  ['wide', reel('Wide shot', 5, { size: { width: 1920, height: 1080 }, rate: rates['29.97'] })],
]);
const footage = partFootage(items, [{ id: 'races', name: 'Races' }], reels, 3);
const ofReel = (id: string, own: string): VariantPart => ({ id, kind: 'reel', reel: own });
const ofFile = (id: string, media: string, start: number | null = null, end: number | null = null): VariantPart => ({
  id,
  kind: 'footage',
  media,
  name: media,
  start,
  end,
});
const setOf = (...groups: VariantPart[][]): VariantSet => ({
  ...emptyVariants,
  groups: groups.map((parts, index) => ({ id: `g${index}`, name: `Group ${index}`, parts })),
  order: groups.map((_, index) => `g${index}`),
});
const work = (set: VariantSet) => listVariants(set, workOutParts(set, footage, makeId));
const seconds = (own: Reel) => framesToSeconds(reelFrames(own), own.rate);

describe('what a part is', () => {
  const parts: VariantPart[] = [
    ofReel('a', 'bow'),
    { id: 'b', kind: 'bin', bin: 'races' },
    ofFile('c', 'horn'),
    ofFile('d', 'horn', 3, 5.4),
    ofFile('e', 'launch'),
    ofFile('f', 'crew'),
    ofFile('g', 'song'),
    ofFile('h', 'gone'),
    ofReel('i', 'gone'),
  ];
  const worked = work(setOf(parts));
  const lengthOf = (id: string) => seconds(worked.reels.get(id)!);

  it('a reel, a bin with its files in order, a file, a stretch of one, a photo for as long as photos stand', () => {
    expect(['a', 'b', 'c', 'd', 'e', 'f'].map(lengthOf)).toEqual([4, 16 + 30, 12, 2.4, 16, 3]);
    expect(clipsOf(worked.reels.get('b')!).map(({ media }) => media)).toEqual(['launch', 'sinking']);
    // What is never wanted of a file is left out unless a stretch says otherwise.
    expect(framesToSeconds(clipsOf(worked.reels.get('e')!)[0]!.sourceIn, rates['25'])).toBe(2);
  });
  it('sound, and what is not there any more, make no combination', () => {
    expect(['g', 'h', 'i'].map((id) => worked.reels.has(id))).toEqual([false, false, false]);
    expect(worked.count).toBe(6);
  });
});

describe('size and rate', () => {
  const set = setOf([ofReel('a', 'bow'), ofReel('b', 'prize')], [ofReel('c', 'wide'), ofFile('d', 'horn')]);
  it('are those that most seconds of the reels have, and everything is brought to them', () => {
    const { format, reels: made } = work(set);
    expect(format).toEqual({ size: { width: 1080, height: 1920 }, rate: rates['25'] });
    expect(broughtToFormat(set, footage, format)).toEqual({ sizes: 1, rates: 1 });
    for (const own of made.values()) expect({ size: own.size, rate: own.rate }).toEqual(format);
    // Five seconds at 29.97 stay five seconds, to the frame.
    expect(Math.abs(seconds(made.get('c')!) - 5)).toBeLessThanOrEqual(0.02);
    expect(made.get('d')!.fit).toBe('fill');
    expect(made.get('c')!.fit).toBe('fill');
  });
  it('or those that were chosen', () => {
    const { format } = work({ ...set, size: { width: 720, height: 720 }, rate: rates['50'] });
    expect(format).toEqual({ size: { width: 720, height: 720 }, rate: rates['50'] });
  });
  it('of footage alone they are those of the footage', () =>
    expect(work(setOf([ofFile('a', 'horn'), ofFile('b', 'crew')])).format).toEqual({
      size: { width: 1920, height: 1080 },
      rate: rates['25'],
    }));
});

describe('combinations', () => {
  const groups = [
    [ofReel('a', 'bow'), ofReel('b', 'prize')],
    [ofFile('c', 'horn'), ofFile('d', 'launch'), ofFile('e', 'crew')],
  ];
  it('are ticked one by one, all, none, or some that are spread evenly', () => {
    let set = setOf(...groups);
    const ticked = () => work(set).list.flatMap(({ key, ticked: is }) => (is ? [key] : []));
    expect(ticked()).toHaveLength(6);
    set = tick(set, ['a/c', 'b/e'], false);
    expect(ticked()).toEqual(['a/d', 'a/e', 'b/c', 'b/d']);
    set = tick(set, ['a/c'], true);
    expect(ticked()).toContain('a/c');
    set = tick(tickAll(set, false), ['b/d'], true);
    expect(ticked()).toEqual(['b/d']);
    set = tickSome(set, work(set), 3);
    expect(ticked()).toHaveLength(3);
    expect(new Set(ticked().map((key) => key.split('/')[1]))).toEqual(new Set(['c', 'd', 'e']));
    expect(tickSome(set, work(set), 99).ticks).toEqual({ all: true, but: [] });
  });
  it('a group that is used twice stands at two places; a piece that comes twice is told', () => {
    const set = placeAgain(setOf(...groups), 'g0');
    const { list, count: all } = work(set);
    expect([all, list.length, list.filter(repeats).length]).toEqual([12, 12, 6]);
    expect(list[0]!.key).toBe('a/c/a');
    // A change of the group shows at both places; taking one place away leaves the other.
    const once = removePlace(set, 0);
    expect(orderedGroups(once).map(({ id }) => id)).toEqual(['g1', 'g0']);
    expect(removePlace(once, 1).groups.map(({ id }) => id)).toEqual(['g1']);
  });
  it('places change their order, within what there is', () => {
    const set = setOf(...groups);
    expect(movePlace(set, 0, 1).order).toEqual(['g1', 'g0']);
    expect(movePlace(set, 0, -1)).toBe(set);
  });
  it('of very many, so many are listed as one can look at', () => {
    const many = Array.from({ length: 60 }, (_, index) => ofFile(`p${index}`, 'horn'));
    const { list, count: all } = work(setOf(many, many));
    expect([all, list.length]).toEqual([3600, mostListed]);
  });
  it('are named in the order of the list, those alone that are ticked', () => {
    const set = tick(setOf(...groups), ['a/c'], false);
    const names = variantNames(work(set), '{n} {2}', footage);
    expect([names.size, names.get('a/d'), names.get('b/e')]).toEqual([5, '01 launch', '05 crew']);
    expect(namesTwice(variantNames(work(set), '{2}', footage))).toEqual(['launch', 'crew']);
  });
});

describe('a variant as a reel', () => {
  const own = (media: string) => ({ ...musicDefaults, media, name: media });
  const withMusic = new Map(reels)
    .set('bow', { ...reels.get('bow')!, music: own('song') })
    .set('prize', { ...reels.get('prize')!, music: { ...own('song'), startSeconds: 20 } });
  const musical = partFootage(items, [], withMusic, 3);
  const set = setOf([ofReel('a', 'bow')], [ofFile('b', 'horn')], [ofReel('c', 'prize')]);
  const worked = listVariants(set, workOutParts(set, musical, makeId));
  const made = (music: VariantSet['music']) =>
    variantReel('all three', worked.list[0]!, worked, music, musical, makeId);
  const sounds = (joined: Reel): unknown[] =>
    joined.tracks
      .filter(({ kind }) => kind === 'sound')
      .flatMap(({ items: list }) => list.map((each) => (each.kind === 'clip' ? each.frames : '-')));

  it('is as long as its pieces, one after the other', () => {
    const joined = made({ of: 'none' });
    expect(seconds(joined)).toBe(4 + 12 + 6);
    expect(mainTrack(joined).items.map((each) => each.kind === 'clip' && each.media)).toEqual([
      'sinking',
      'horn',
      'sinking',
    ]);
    expect([joined.music, joined.tracks.length]).toEqual([undefined, 1]);
  });
  it('has the music of each piece under that piece, of the first under all, one for all, or none', () => {
    expect(sounds(made({ of: 'each' }))).toEqual([100, '-', 150]);
    expect(made({ of: 'first' })).toMatchObject({ music: { media: 'song', startSeconds: 0 } });
    expect(sounds(made({ of: 'first' }))).toEqual([]);
    expect(made({ of: 'one', media: 'song', name: 'Song' }).music).toEqual({ ...own('song'), name: 'Song' });
    expect(made({ of: 'one', media: 'gone', name: 'Gone' }).music).toBeUndefined();
  });
});

describe('what it comes to', () => {
  it('is what each file would come to by itself, together', () => {
    const set = setOf([ofReel('a', 'bow'), ofReel('b', 'prize')], [ofFile('c', 'horn'), ofFile('d', 'launch')]);
    const worked = work(set);
    const how = { quality: 'good' as const, pace: 1.5 };
    const cost = variantsCost(worked.list, worked, how);
    const files = worked.list.map((variant) => {
      const joined = variantReel('x', variant, worked, { of: 'none' }, footage, makeId);
      return {
        ...estimateOutput(joined, { format: 'mp4', quality: 'good', size: joined.size }, how.pace),
        length: seconds(joined),
      };
    });
    const sum = (of: (file: (typeof files)[number]) => number) => files.reduce((total, file) => total + of(file), 0);
    expect(cost.count).toBe(4);
    expect(cost.seconds).toBeCloseTo(
      sum(({ length }) => length),
      6,
    );
    expect(Math.abs(cost.bytes / sum(({ bytes }) => bytes) - 1)).toBeLessThan(0.001);
    expect(cost.renderSeconds).toBeCloseTo(
      sum(({ seconds: took }) => took),
      3,
    );
  });
});
