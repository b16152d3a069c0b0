import { describe, expect, it } from 'vitest';
import { framesToSamples, rates } from '#core/time';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  describeCommand,
  mainTrack,
  planSegments,
  reelFormat,
  reelFrames,
  segmentAt,
  soundRate,
  type Reel,
  type ReelCommand,
  type Source,
} from '.';

const sources = new Map<string, Source>([
  ['a', { id: 'a', name: 'a.mp4', durationSeconds: 20 }],
  ['b', { id: 'b', name: 'b.mp4', durationSeconds: 5 }],
  ['p', { id: 'p', name: 'p.jpg', durationSeconds: 0, photo: true }],
]);
let next = 0;
const make = (
  pieces = [
    { media: 'a', start: 2, end: 6, name: 'one' },
    { media: 'b', start: 1, end: 5.2, name: 'two' },
    { media: 'p', start: 0, end: 3, name: 'photo' },
  ],
) => assembleReel('Test', pieces, sources, rates['25'], { width: 1280, height: 720 }, () => `c${next++}`);
const ids = (reel: Reel) => mainTrack(reel).items.map((clip) => clip.id);
function edit(reel: Reel, command: ReelCommand): Reel {
  const result = applyCommand(reel, command, sources);
  if (!result.ok) throw new Error(result.reason);
  return result.reel;
}
function refusal(reel: Reel, command: ReelCommand): string {
  const result = applyCommand(reel, command, sources);
  return result.ok ? 'accepted' : result.reason;
}

describe('assembly', () => {
  it('rounds to frames and stays inside each source', () => {
    const [one, two, photo] = mainTrack(make()).items;
    expect(one).toMatchObject({ sourceIn: 50, frames: 100 });
    expect(two).toMatchObject({ sourceIn: 25, frames: 100 });
    expect(photo).toMatchObject({ sourceIn: 0, frames: 75 });
  });
  it('leaves out what has no footage or no frame', () => {
    expect(
      mainTrack(
        make([
          { media: 'gone', start: 0, end: 2, name: 'x' },
          { media: 'a', start: 3, end: 3.01, name: 'y' },
        ]),
      ).items,
    ).toEqual([]);
  });
  it('takes the rate and shape that most seconds have, at most 1080 lines', () => {
    expect(
      reelFormat([
        { rate: rates['30'], width: 1280, height: 720, seconds: 20 },
        { rate: rates['25'], width: 3840, height: 2160, seconds: 40 },
      ]),
    ).toEqual({ rate: rates['25'], size: { width: 1920, height: 1080 } });
    expect(reelFormat([{ rate: rates['30'], width: 333, height: 187, seconds: 1 }]).size).toEqual({
      width: 334,
      height: 188,
    });
    expect(reelFormat([]).size).toEqual({ width: 1920, height: 1080 });
  });
});

describe('plan', () => {
  it('lays segments end to end; sample counts add up exactly', () => {
    const reel = { ...make(), rate: rates['29.97'] };
    const segments = planSegments(reel);
    expect(segments.map((segment) => segment.startFrame)).toEqual([0, 100, 200]);
    expect(segments.reduce((sum, segment) => sum + segment.samples, 0)).toBe(
      framesToSamples(reelFrames(reel), rates['29.97'], soundRate),
    );
    for (let index = 1; index < segments.length; index++)
      expect(segments[index]!.startSeconds).toBe(segments[index - 1]!.endSeconds);
  });
  it('finds the segment at a time', () => {
    const segments = planSegments(make());
    expect([0, 3.99, 4, 8, 10.9, 99].map((time) => segmentAt(segments, time))).toEqual([0, 0, 1, 2, 2, 2]);
    expect(segmentAt([], 1)).toBe(-1);
  });
});

describe('commands, worked by hand', () => {
  it('remove ripples', () => {
    const reel = make();
    const after = edit(reel, { type: 'remove', clip: ids(reel)[0]! });
    expect(reelFrames(after)).toBe(175);
    expect(planSegments(after)[0]!.name).toBe('two');
    expect(reelFrames(reel)).toBe(275);
  });
  it('move puts a piece at a place', () => {
    const reel = make();
    const [a, b, c] = ids(reel);
    expect(ids(edit(reel, { type: 'move', clip: c!, to: 0 }))).toEqual([c, a, b]);
    expect(ids(edit(reel, { type: 'move', clip: a!, to: 99 }))).toEqual([b, c, a]);
  });
  it('trim moves an end of the source', () => {
    const reel = make();
    const clip = ids(reel)[0]!;
    expect(mainTrack(edit(reel, { type: 'trim', clip, edge: 'in', frames: 10 })).items[0]).toMatchObject({
      sourceIn: 60,
      frames: 90,
    });
    expect(mainTrack(edit(reel, { type: 'trim', clip, edge: 'in', frames: -10 })).items[0]).toMatchObject({
      sourceIn: 40,
      frames: 110,
    });
    expect(mainTrack(edit(reel, { type: 'trim', clip, edge: 'out', frames: 5 })).items[0]).toMatchObject({
      sourceIn: 50,
      frames: 105,
    });
  });
  it('refuses what the source does not hold, with a sentence that says how much is left', () => {
    const reel = make();
    const [a, b, photo] = ids(reel);
    expect(refusal(reel, { type: 'trim', clip: a!, edge: 'in', frames: -51 })).toMatch(
      /nothing before its first frame/,
    );
    expect(refusal(reel, { type: 'trim', clip: b!, edge: 'out', frames: 1 })).toMatch(/0 more frames/);
    expect(refusal(reel, { type: 'trim', clip: a!, edge: 'out', frames: -100 })).toMatch(/at least one frame/);
    expect(refusal(reel, { type: 'remove', clip: 'zzz' })).toMatch(/not in the reel/);
    expect(refusal(reel, { type: 'rename', name: '  ' })).toMatch(/needs a name/);
    expect(refusal(reel, { type: 'trim', clip: photo!, edge: 'out', frames: 500 })).toBe('accepted');
  });
  it('split gives two pieces that play as one', () => {
    const reel = make();
    const after = edit(reel, { type: 'split', clip: ids(reel)[0]!, at: 40, newId: 'new' });
    const [left, right] = mainTrack(after).items;
    expect(left).toMatchObject({ sourceIn: 50, frames: 40 });
    expect(right).toMatchObject({ id: 'new', sourceIn: 90, frames: 60 });
    expect(refusal(reel, { type: 'split', clip: ids(reel)[0]!, at: 100, newId: 'n' })).toMatch(/nothing to split/);
  });
  it('any sequence of edits keeps ids apart, lengths positive and pieces inside their sources', () => {
    let state = 5;
    const random = (count: number) => (state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff) % count;
    let reel = make();
    for (let round = 0; round < 400; round++) {
      const all = ids(reel);
      if (all.length === 0) reel = make();
      const clip = ids(reel)[random(ids(reel).length)]!;
      const command: ReelCommand = [
        { type: 'remove', clip } as const,
        { type: 'move', clip, to: random(9) } as const,
        { type: 'trim', clip, edge: random(2) ? 'in' : 'out', frames: random(60) - 30 } as const,
        { type: 'split', clip, at: random(80), newId: `s${round}` } as const,
      ][random(4)]!;
      const result = applyCommand(reel, command, sources);
      if (!result.ok) continue;
      reel = result.reel;
      const items = clipsOf(reel);
      expect(new Set(items.map((item) => item.id)).size).toBe(items.length);
      for (const item of items) {
        expect(item.frames).toBeGreaterThan(0);
        expect(item.sourceIn).toBeGreaterThanOrEqual(0);
        if (item.media !== 'p')
          expect(item.sourceIn + item.frames).toBeLessThanOrEqual(sources.get(item.media)!.durationSeconds * 25);
      }
    }
  });
  it('tells what an edit did', () => {
    const reel = make();
    expect(describeCommand({ type: 'trim', clip: ids(reel)[1]!, edge: 'out', frames: -25 }, reel)).toBe(
      'trimmed the end of “two” by 1.00 s',
    );
  });
});
