import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import { applyCommand, coverJumps, reelFrames, strikeOut, type Reel, type ReelItem } from '.';
import { clipOf as clip, counting, problemOfReel, testSources } from './testEdits';

/** A talk of forty seconds in one piece, 25 frames a second. */
const reel: Reel = {
  schema: 'BrightReel.Reel.1',
  name: 'Talk',
  rate: rates['25'],
  size: { width: 1280, height: 720 },
  tracks: [{ kind: 'picture', name: 'Main', items: [clip('one', 'a', 0, 1000)] }],
};
const pond = { media: 'b', name: 'pond', start: 1, end: 4 };
const duck = { media: 'b', name: 'duck', start: 4, end: 8 };
const photo = { media: 'p', name: 'photo', start: 0, end: 4 };

function covered(of: Reel, spans: { from: number; to: number }[], pictures: (typeof pond)[]) {
  const newId = counting('n');
  const struck = strikeOut(of, spans, 'tidied', testSources, newId);
  if (!struck.ok) throw new Error(struck.reason);
  const edit = coverJumps(of, struck.command, pictures, testSources, newId);
  if (!edit.ok) throw new Error(edit.reason);
  const result = applyCommand(of, edit.command, testSources);
  if (!result.ok) throw new Error(result.reason);
  expect(problemOfReel(result.reel, testSources)).toBeNull();
  return { ...edit, reel: result.reel };
}
/** What lies above, as name, first frame and frames. */
const above = (of: Reel) =>
  of.tracks.slice(1).flatMap(({ items }) => {
    let at = 0;
    return items.flatMap((item: ReelItem) => {
      const start = at;
      at += item.frames;
      return item.kind === 'clip' ? [[item.name, start, item.frames]] : [];
    });
  });

describe('jump cuts', () => {
  it('are covered from before the cut to after it; the speech stays as it is, and it is one edit', () => {
    const made = covered(reel, [{ from: 500, to: 520 }], [pond]);
    expect(above(made.reel)).toEqual([['pond', 485, 50]]);
    expect(made).toMatchObject({ jumps: 1, covered: 1, command: { type: 'several', name: 'tidied' } });
    expect(reelFrames(made.reel)).toBe(980);
    expect(made.reel.tracks[0]!.items).toHaveLength(2);
  });
  it('near each other share one picture, which is long enough for both', () => {
    const made = covered(
      reel,
      [500, 530].map((from) => ({ from, to: from + 10 })),
      [pond, duck],
    );
    // At 500 and, moved up by 10, at 520.
    expect(above(made.reel)).toEqual([['pond', 485, 70]]);
    expect(made).toMatchObject({ jumps: 2, covered: 2 });
  });
  it('far from each other have a picture each, the best first, none of them twice', () => {
    const spans = [200, 500, 800].map((from) => ({ from, to: from + 10 }));
    const made = covered(reel, spans, [pond, duck]);
    expect(above(made.reel).map(([name]) => name)).toEqual(['pond', 'duck']);
    expect(made).toMatchObject({ jumps: 3, covered: 2 });
    expect(covered(reel, spans, [pond, photo, duck]).covered).toBe(3);
  });
  it('stay where no picture is long enough, and where something lies above already', () => {
    const short = covered(reel, [{ from: 500, to: 520 }], [{ ...pond, end: 2 }]);
    expect([above(short.reel), short.jumps, short.covered]).toEqual([[], 1, 0]);
    const title = clip('x', 'b', 0, 30);
    const dressed: Reel = {
      ...reel,
      tracks: [
        ...reel.tracks,
        { kind: 'picture', name: 'Above 1', items: [{ kind: 'gap', id: 'g', frames: 490 }, title] },
      ],
    };
    const made = covered(dressed, [{ from: 520, to: 540 }], [pond]);
    expect(above(made.reel).map(([name]) => name)).toEqual(['b.mp4']);
  });
  it('that were there before are nobody’s business here', () => {
    const cut: Reel = {
      ...reel,
      tracks: [{ ...reel.tracks[0]!, items: [clip('one', 'a', 0, 300), clip('two', 'a', 400, 300)] }],
    };
    const made = covered(cut, [{ from: 450, to: 460 }], [pond, duck]);
    expect([made.jumps, above(made.reel)]).toEqual([1, [['pond', 435, 50]]]);
  });
  it('are none where a whole piece goes, and none at the ends', () => {
    const two: Reel = {
      ...reel,
      tracks: [{ ...reel.tracks[0]!, items: [clip('one', 'a', 0, 300), clip('two', 'b', 0, 100)] }],
    };
    expect(covered(two, [{ from: 300, to: 400 }], [pond]).jumps).toBe(0);
    expect(covered(reel, [{ from: 0, to: 40 }], [pond]).jumps).toBe(0);
  });
  it('between short pieces are covered only where a cover is long enough to be seen', () => {
    // Three pieces of 0.4 s are left between the cuts, and five seconds on both sides.
    const spans = [125, 145, 165].map((from) => ({ from, to: from + 10 }));
    const made = covered(reel, spans, [pond, duck]);
    expect(above(made.reel).every(([, , frames]) => Number(frames) >= 1.2 * 25 && Number(frames) <= 6 * 25)).toBe(true);
    expect(made.covered).toBe(made.jumps);
  });
});
