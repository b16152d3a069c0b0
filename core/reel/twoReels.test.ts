import { describe, expect, it } from 'vitest';
import { rates } from '#core/time';
import {
  applyCommand,
  assembleReel,
  clipsOf,
  inPlaceReel,
  mainTrack,
  planSegments,
  reelFrames,
  type Reel,
  type ReelCommand,
  type Source,
} from '.';

const sources = new Map<string, Source>(['a', 'b'].map((id) => [id, { id, name: `${id}.mp4`, durationSeconds: 60 }]));
const make = () => {
  let next = 0;
  return assembleReel(
    'Pile',
    [0, 10, 20, 30].map((start) => ({ media: 'a', start, end: start + 2, name: `from ${start}` })),
    sources,
    rates['25'],
    { width: 1280, height: 720 },
    () => `c${next++}`,
  );
};
const edit = (reel: Reel, ...commands: ReelCommand[]) =>
  commands.reduce((now, command) => {
    const result = applyCommand(now, command, sources);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
const ids = (reel: Reel) => mainTrack(reel).items.map((item) => item.id);

describe('moving pieces to another reel', () => {
  it('leaves the reel and is remembered at its place', () => {
    const reel = edit(make(), { type: 'handOver', clip: 'c1' });
    expect(ids(reel)).toEqual(['c0', 'c2', 'c3']);
    expect(reelFrames(reel)).toBe(150);
    expect(reel.moved!.map(({ clip, before }) => [clip.id, before])).toEqual([['c1', 'c2']]);
    expect(planSegments(reel).some((segment) => segment.id === 'c1')).toBe(false);
  });
  it('comes back to where it was, in whatever order pieces went and came', () => {
    const gone = edit(
      make(),
      { type: 'handOver', clip: 'c1' },
      { type: 'handOver', clip: 'c2' },
      { type: 'handOver', clip: 'c3' },
    );
    expect(ids(gone)).toEqual(['c0']);
    expect(gone.moved!.map((each) => each.before)).toEqual([null, null, null]);
    expect(
      ids(
        edit(
          make(),
          { type: 'handOver', clip: 'c2' },
          { type: 'handOver', clip: 'c1' },
          { type: 'takeBack', clip: 'c1' },
          { type: 'takeBack', clip: 'c2' },
        ),
      ),
    ).toEqual(['c0', 'c1', 'c2', 'c3']);
    const back = edit(gone, { type: 'takeBack', clip: 'c1' });
    expect(ids(back)).toEqual(['c0', 'c1']);
    expect(back.moved!.map((each) => each.clip.id)).toEqual(['c2', 'c3']);
  });
  it('refuses what is not there', () => {
    expect(applyCommand(make(), { type: 'takeBack', clip: 'c1' }, sources)).toMatchObject({ ok: false });
    expect(applyCommand(make(), { type: 'handOver', clip: 'zz' }, sources)).toMatchObject({ ok: false });
  });
});

describe('synced cameras stay in place', () => {
  const ranges = [
    { start: 2, end: 5 },
    { start: 8, end: 20 },
  ];
  const reel = (offset: number) => {
    let next = 0;
    return inPlaceReel(
      'Steady',
      [
        { media: 'a', name: 'A', offsetSeconds: 0, ranges },
        { media: 'b', name: 'B', offsetSeconds: offset, ranges },
      ],
      sources,
      rates['25'],
      { width: 1280, height: 720 },
      () => `i${next++}`,
    );
  };
  it('by hand: every frame stands at its time on the common clock', () => {
    for (const offset of [0, 3.4, -2]) {
      const own = reel(offset);
      const earliest = Math.min(0, offset);
      for (const [index, track] of own.tracks.entries()) {
        let at = 0;
        for (const item of track.items) {
          if (item.kind === 'clip') expect(at).toBe(item.sourceIn + Math.round(((index ? offset : 0) - earliest) * 25));
          at += item.frames;
        }
      }
      expect(clipsOf(own)).toHaveLength(4);
    }
  });
  it('gaps close nowhere: steady and shaky together are as long as what was filmed', () => {
    expect(reelFrames(reel(0))).toBe(500);
  });
});
