import { describe, expect, it } from 'vitest';
import {
  coveredSeconds,
  formatClock,
  framesToSamples,
  framesToSeconds,
  mergeRanges,
  nearestStandardRate,
  overlap,
  parseRate,
  rates,
  secondsToFrames,
  StringOut,
  subtractRanges,
} from '.';

describe('rates', () => {
  it('reads fractions and snaps what cameras write', () => {
    expect(parseRate('30000/1001')).toEqual({ num: 30000, den: 1001 });
    expect(parseRate('25')).toEqual({ num: 25, den: 1 });
    expect(nearestStandardRate({ num: 2997, den: 100 })).toEqual(rates['29.97']);
    expect(nearestStandardRate({ num: 18, den: 1 })).toEqual({ num: 18, den: 1 });
  });
  it.each(['0/0', 'abc', '-25', '25/0'])('refuses %s', (text) =>
    expect(() => parseRate(text)).toThrow(/not a frame rate/),
  );
  it('maps frames and seconds both ways, for an hour at 29.97', () => {
    for (let frame = 0; frame < 107892; frame += 997)
      expect(secondsToFrames(framesToSeconds(frame, rates['29.97']), rates['29.97'])).toBe(frame);
  });
  it('gives samples that add up: 30 000 frames at 29.97 are exactly 1001 s', () => {
    expect(framesToSamples(30000, rates['29.97'], 48000)).toBe(1001 * 48000);
    let sum = 0;
    for (let frame = 0; frame < 300; frame++)
      sum += framesToSamples(frame + 1, rates['23.976'], 48000) - framesToSamples(frame, rates['23.976'], 48000);
    expect(sum).toBe(framesToSamples(300, rates['23.976'], 48000));
  });
});

describe('ranges', () => {
  it('merges what touches or lies closer than the gap', () => {
    expect(
      mergeRanges(
        [
          { start: 5, end: 6 },
          { start: 0, end: 2 },
          { start: 2, end: 3 },
          { start: 3.4, end: 4 },
        ],
        0.5,
      ),
    ).toEqual([
      { start: 0, end: 4 },
      { start: 5, end: 6 },
    ]);
  });
  it('subtracts', () => {
    expect(
      subtractRanges({ start: 0, end: 10 }, [
        { start: 8, end: 12 },
        { start: -1, end: 1 },
        { start: 3, end: 4 },
      ]),
    ).toEqual([
      { start: 1, end: 3 },
      { start: 4, end: 8 },
    ]);
    expect(subtractRanges({ start: 2, end: 3 }, [{ start: 0, end: 9 }])).toEqual([]);
  });
  it('measures what is shared', () => {
    expect(overlap({ start: 0, end: 2 }, { start: 1, end: 5 })).toBe(1);
    expect(overlap({ start: 0, end: 2 }, { start: 2, end: 5 })).toBe(0);
    expect(
      coveredSeconds({ start: 0, end: 10 }, [
        { start: 1, end: 2 },
        { start: 9, end: 12 },
      ]),
    ).toBe(2);
  });
});

it('writes clock times', () => {
  expect([formatClock(247), formatClock(3753.4, true), formatClock(59.96, true), formatClock(-3)]).toEqual([
    '4:07',
    '1:02:33.4',
    '1:00.0',
    '0:00',
  ]);
});

describe('string-out', () => {
  const string = new StringOut([
    { id: 'a', seconds: 30 },
    { id: 'b', seconds: 15 },
    { id: 'c', seconds: 40 },
  ]);

  it('finds the file and its time, and holds the ends', () => {
    expect(string.total).toBe(85);
    expect(string.locate(29.9)).toEqual({ index: 0, id: 'a', seconds: 29.9 });
    expect(string.locate(30)).toEqual({ index: 1, id: 'b', seconds: 0 });
    expect(string.locate(999)).toEqual({ index: 2, id: 'c', seconds: 40 });
    expect(string.locate(-5)).toEqual({ index: 0, id: 'a', seconds: 0 });
    expect(new StringOut([]).locate(3)).toBeNull();
  });
  it('is its own inverse', () => {
    for (let time = 0; time < 85; time += 0.7) {
      const place = string.locate(time)!;
      expect(string.timeOf(place.id, place.seconds)).toBeCloseTo(time, 9);
    }
    expect(string.timeOf('x', 1)).toBeNull();
  });
  it('wraps into lines that leave nothing out and nothing twice', () => {
    expect(string.lineCount(20)).toBe(5);
    expect(string.line(1, 20)).toEqual([
      { index: 0, first: false, start: 20, end: 30, from: 0, to: 0.5 },
      { index: 1, first: true, start: 0, end: 10, from: 0.5, to: 1 },
    ]);
    for (const perLine of [7, 20, 85, 600]) {
      const parts = Array.from({ length: string.lineCount(perLine) }, (_, line) => string.line(line, perLine)).flat();
      expect(parts.reduce((sum, part) => sum + part.end - part.start, 0)).toBeCloseTo(85, 9);
    }
  });

  it('holds stretches of files, when only some of the footage is shown', () => {
    const some = new StringOut([
      { id: 'a', start: 10, seconds: 5 },
      { id: 'b', seconds: 15 },
      { id: 'a', start: 20, seconds: 10 },
    ]);
    expect(some.total).toBe(30);
    expect(some.locate(2)).toEqual({ index: 0, id: 'a', seconds: 12 });
    expect(some.locate(22)).toEqual({ index: 2, id: 'a', seconds: 22 });
    expect([some.timeOf('a', 12), some.timeOf('a', 29), some.timeOf('a', 16), some.timeOf('a', 19.5)]).toEqual([
      2, 29, 5, 20,
    ]);
    expect(some.rangesOf('a', { start: 13, end: 22 })).toEqual([
      { start: 3, end: 5 },
      { start: 20, end: 22 },
    ]);
    expect(some.pieces({ start: 4, end: 21 })).toEqual([
      { id: 'a', start: 14, end: 15 },
      { id: 'b', start: 0, end: 15 },
      { id: 'a', start: 20, end: 21 },
    ]);
    expect(some.line(1, 15)).toEqual([
      { index: 1, first: false, start: 10, end: 15, from: 0, to: 1 / 3 },
      { index: 2, first: true, start: 20, end: 30, from: 1 / 3, to: 1 },
    ]);
  });
});
