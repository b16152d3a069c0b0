import { describe, expect, it } from 'vitest';
import type { Run } from '#core/readings';
import { rates } from '#core/time';
import {
  amplitude,
  applyCommand,
  assembleReel,
  levelAt,
  musicCurve,
  musicDefaults,
  planSound,
  quietest,
  sampledCurve,
  speechInReel,
  type Reel,
  type ReelCommand,
  type Source,
} from '.';

const sources = new Map<string, Source>([
  ['a', { id: 'a', name: 'a.mp4', durationSeconds: 60 }],
  ['m', { id: 'm', name: 'song.m4a', durationSeconds: 30 }],
  ['p', { id: 'p', name: 'p.jpg', durationSeconds: 0, photo: true }],
]);
const runs: Run[] = [
  { kind: 'speech', start: 4, end: 6 },
  { kind: 'speech', start: 6.5, end: 8 },
  { kind: 'speech', start: 30, end: 40 },
];
const make = (...commands: ReelCommand[]): Reel => {
  let next = 0;
  const reel = assembleReel(
    'R',
    [
      { media: 'a', start: 2, end: 12, name: 'x' },
      { media: 'a', start: 32, end: 42, name: 'y' },
    ],
    sources,
    rates['25'],
    { width: 2, height: 2 },
    () => `c${next++}`,
  );
  return commands.reduce((now, command) => {
    const result = applyCommand(now, command, sources);
    if (!result.ok) throw new Error(result.reason);
    return result.reel;
  }, reel);
};
const music = { media: 'm', name: 'song', ...musicDefaults };
const speech = (reel: Reel) => speechInReel(reel, (media) => (media === 'a' ? runs : []));
const refusal = (command: ReelCommand) => {
  const result = applyCommand(make(), command, sources);
  return result.ok ? null : result.reason;
};

describe('speech in a reel', () => {
  it('by hand: moves with its pieces, is cut with them, and small pauses do not count', () => {
    expect(speech(make())).toEqual([
      { start: 2, end: 6 },
      { start: 10, end: 18 },
    ]);
  });
  it('a muted piece says nothing', () => {
    expect(speech(make({ type: 'sound', clip: 'c1', muted: true }))).toEqual([{ start: 2, end: 6 }]);
    expect(speech(make({ type: 'sound', clip: 'c0', levelDb: quietest }))).toEqual([{ start: 10, end: 18 }]);
  });
});

describe('music', () => {
  it('by hand: in, at its level, down before the first word, up after the last, out', () => {
    const reel = make({ type: 'music', music });
    const curve = musicCurve(reel, speech(reel));
    const at = (seconds: number) => levelAt(curve, seconds);
    expect([at(0), at(20)]).toEqual([quietest, quietest]);
    expect(at(1)).toBeCloseTo(-12, 9);
    expect(at(1.85)).toBeCloseTo(-18, 9);
    expect([at(2), at(4), at(6), at(10), at(17)]).toEqual([-24, -24, -24, -24, -24]);
    expect(at(6.35)).toBeCloseTo(-18, 9);
    expect(at(8)).toBeCloseTo(-12, 9);
  });
  it('never rises above its level or goes back in time, whatever speaks', () => {
    let state = 3;
    const random = () => (state = (Math.imul(state, 1103515245) + 12345) & 0x7fffffff) / 0x7fffffff;
    for (let round = 0; round < 50; round++) {
      const own = {
        ...music,
        levelDb: -30 * random(),
        duckDb: 20 * random(),
        fadeInSeconds: 5 * random(),
        fadeOutSeconds: 15 * random(),
      };
      const ranges = Array.from({ length: 8 }, () => random() * 19)
        .sort((a, b) => a - b)
        .map((start, index, all) => ({ start, end: Math.min(start + 0.2 + random(), (all[index + 1] ?? 20) - 0.01) }))
        .filter((range) => range.end > range.start);
      const curve = musicCurve(make({ type: 'music', music: own }), ranges);
      expect(
        curve.filter(
          (point, index) => point.db > own.levelDb + 1e-9 || (index > 0 && point.seconds <= curve[index - 1]!.seconds),
        ),
      ).toEqual([]);
      for (const range of ranges)
        expect(levelAt(curve, (range.start + range.end) / 2)).toBeLessThanOrEqual(own.levelDb - own.duckDb + 1e-6);
    }
  });
  it('as samples it is the same curve', () => {
    const reel = make({ type: 'music', music });
    const curve = musicCurve(reel, speech(reel));
    const samples = sampledCurve(curve, 20, 100);
    expect(samples).toHaveLength(2001);
    for (const index of [0, 100, 185, 400, 635, 1999])
      expect(samples[index]).toBeCloseTo(amplitude(levelAt(curve, index / 100)), 5);
  });
});

describe('commands', () => {
  it('levels reach the plan, and what is as usual is not written down', () => {
    const reel = make({ type: 'sound', clip: 'c0', levelDb: -6 }, { type: 'sound', clip: 'c1', muted: true });
    expect(planSound(reel).map((segment) => Number(segment.gain.toFixed(3)))).toEqual([0.501, 0]);
    expect(make({ type: 'sound', clip: 'c0', levelDb: -6 }, { type: 'sound', clip: 'c0', levelDb: 0 })).toEqual(make());
    expect(make({ type: 'music', music }, { type: 'music', music: null })).toEqual(make());
    expect(make({ type: 'loudness', lufs: -23 }).loudnessLufs).toBe(-23);
    expect(make({ type: 'loudness', lufs: -23 }, { type: 'loudness', lufs: null })).toEqual(make());
  });
  it('refuses with a sentence', () => {
    expect(refusal({ type: 'sound', clip: 'c0', levelDb: 40 })).toMatch(/between −60 and \+12/);
    expect(refusal({ type: 'music', music: { ...music, media: 'zz' } })).toMatch(/missing/);
    expect(refusal({ type: 'music', music: { ...music, media: 'p' } })).toMatch(/no sound/);
    expect(refusal({ type: 'music', music: { ...music, startSeconds: 31 } })).toMatch(/ends at 0:30/);
    expect(refusal({ type: 'loudness', lufs: -5 })).toMatch(/-23, -16, -14/);
  });
});
