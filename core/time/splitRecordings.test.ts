import { describe, expect, it } from 'vitest';
import { chainsOf, followsInTime, isNextName, splitPairs, type RecordedFile } from './splitRecordings';

const file = (name: string, more: Partial<RecordedFile> = {}): RecordedFile => ({
  id: name,
  name,
  durationSeconds: 1062.5,
  bytes: 4e9,
  recordedAt: null,
  startSeconds: null,
  frameSeconds: 0.04,
  coding: 'h264 1920x1080 25',
  ...more,
});

describe('names that a camera counts', () => {
  it.each([
    ['CH010012.MP4', 'CH020012.MP4'],
    ['CH090012.MP4', 'CH100012.mp4'],
    ['00009.MTS', '00010.MTS'],
    ['part 9.mov', 'part 10.mov'],
    ['0099_pond.mov', '0100_pond.mov'],
    ['race_0012_D_01.mov', 'race_0012_D_02.mov'],
    ['pond.mov', 'pond_1.mov'],
    ['pond.mov', 'pond-002.mov'],
    ['pond.mov', 'pond (1).mov'],
    ['1999.mp4', '2000.mp4'],
    ['CH010012–CH020012.mp4', 'CH030012.MP4'],
  ])('%s goes on in %s', (before, after) => {
    expect(isNextName(before, after)).toBe(true);
    expect(isNextName(after, before)).toBe(false);
  });
  it.each([
    ['0001.mp4', '0003.mp4'],
    ['0001.mp4', '0002.mov'],
    ['0001.mp4', '0001.mp4'],
    ['boat 1 take 1.mp4', 'boat 2 take 2.mp4'],
    ['pond.mov', 'bank.mov'],
    ['pond.mov', 'pond_3.mov'],
    ['a1b.mov', 'a2c.mov'],
  ])('%s does not go on in %s', (before, after) => expect(isNextName(before, after)).toBe(false));
});

describe('times', () => {
  const at = (recordedAt: string, more: Partial<RecordedFile> = {}) => file('x', { recordedAt, ...more });
  it('of opening or of closing the files are a length apart', () => {
    expect(followsInTime(at('2026-06-06T10:00:00Z'), at('2026-06-06T10:17:43Z'))).toBe(true);
    // Closed: the second of a minute was closed a minute later.
    expect(followsInTime(at('2026-06-06T10:17:42Z'), at('2026-06-06T10:18:43Z', { durationSeconds: 60 }))).toBe(true);
    expect(followsInTime(at('2026-06-06T10:00:00Z'), at('2026-06-06T10:25:00Z'))).toBe(false);
    expect(followsInTime(at('2026-06-06T10:00:00Z'), at('2026-06-06T10:00:00Z'))).toBeNull();
  });
  it('by timecode go before clocks, to two frames, and over midnight', () => {
    const start = (startSeconds: number) => at('2026-06-06T10:00:00Z', { startSeconds });
    expect(followsInTime(start(36_000), start(37_062.48))).toBe(true);
    expect(followsInTime(start(36_000), start(37_062.7))).toBe(false);
    expect(followsInTime(start(86_000), start(662.5))).toBe(true);
  });
});

describe('parts of one recording', () => {
  const day = (minutes: number) => new Date(Date.UTC(2026, 5, 6, 10) + minutes * 60_000).toISOString();
  it('are found among takes that were begun anew', () => {
    const files = [
      file('0003.mp4', { recordedAt: day(60), durationSeconds: 20 }),
      file('0001.mp4', { recordedAt: day(0) }),
      file('0002.mp4', { recordedAt: day(17.7) }),
      file('0004.mp4', { recordedAt: day(80) }),
    ];
    expect(splitPairs(files).map(({ before, after }) => [before.id, after.id])).toEqual([['0001.mp4', '0002.mp4']]);
    expect(['0002.mp4', '0003.mp4'].map((of) => splitPairs(files, of).length)).toEqual([1, 0]);
  });
  it('without any clock need a full file before, and the same coding', () => {
    const two = (bytes: number, coding = 'h264 1920x1080 25') =>
      splitPairs([file('0001.mp4', { bytes }), file('0002.mp4', { coding })]).length;
    expect([two(4e9), two(1e9), two(4e9, 'h264 1280x720 50')]).toEqual([1, 0, 0]);
  });
  it('stand in one line, and end where it is not clear how they go on', () => {
    const pair = (before: string, after: string) => ({ before, after });
    expect(chainsOf([pair('b', 'c'), pair('a', 'b'), pair('x', 'y')])).toEqual([
      ['a', 'b', 'c'],
      ['x', 'y'],
    ]);
    expect(chainsOf([pair('a', 'b'), pair('b', 'c'), pair('b', 'd')])).toEqual([['a', 'b']]);
  });
});
