import { describe, expect, it } from 'vitest';
import { captionLines, tappedTimes, type HeardWord } from '.';

const heard = (media: string, index: number, text: string, start: number, end: number): HeardWord => ({
  media,
  index,
  text,
  start,
  end,
  confidence: 1,
});
const line = (...words: HeardWord[]) => ({
  start: words[0]!.start,
  end: words.at(-1)!.end,
  words,
  firstRow: words.length,
  pace: 0,
});

describe('captions over cuts', () => {
  it('go over a cut with words that follow one another, and part where words were cut out or another recording begins', () => {
    const texts = (...words: HeardWord[]) =>
      captionLines(words).map((each) => each.words.map((word) => word.text).join(' '));
    const [one, two] = [heard('a', 5, 'Fold', 0, 0.4), heard('a', 6, 'it', 0.4, 0.7)];
    expect(texts(one, two, heard('a', 7, 'twice.', 0.8, 1.3))).toEqual(['Fold it twice.']);
    expect(texts(one, two, heard('a', 9, 'twice.', 0.8, 1.3))).toEqual(['Fold it', 'twice.']);
    expect(texts(one, two, heard('b', 7, 'twice.', 0.8, 1.3))).toEqual(['Fold it', 'twice.']);
  });
});

describe('tapped times', () => {
  // The reel shows seconds 100 to 102 of file a, then 40 to 43 of it: 2 s and 3 s long.
  const pieces = [
    { start: 0, end: 2 },
    { start: 2, end: 5 },
  ];
  const sourceAt = (seconds: number) => (seconds < 2 ? 100 + seconds : 38 + seconds);

  it('words share the time from tap to tap by their letters; the last caption keeps its length', () => {
    // Weights by letters and two: 4, 6; 4.
    const lines = [line(heard('a', 3, 'ab', 0, 0.5), heard('a', 4, 'cdef', 0.5, 1)), line(heard('a', 5, 'gh', 1, 1.4))];
    const [run, ...others] = tappedTimes(lines, [0.2, 1.2], pieces, sourceAt);
    expect(others).toEqual([]);
    expect([run!.media, run!.from, run!.starts.map((each) => Number(each.toFixed(3)))]).toEqual([
      'a',
      3,
      [100.2, 100.6, 101.2],
    ]);
    expect(run!.end).toBeCloseTo(101.6, 3);
  });
  it('taps fewer than captions leave the others alone; none change nothing', () => {
    const lines = [line(heard('a', 0, 'one', 0, 0.5)), line(heard('a', 1, 'two', 0.6, 0.9))];
    expect(tappedTimes(lines, [], pieces, sourceAt)).toEqual([]);
    expect(tappedTimes(lines, [0.1], pieces, sourceAt)).toEqual([
      { media: 'a', from: 0, starts: [100.1], end: expect.closeTo(100.6, 3) as number },
    ]);
  });
  it('over a cut to an earlier stretch, and to another file, the words come apart', () => {
    const lines = [
      line(heard('a', 8, 'late', 1, 1.9)),
      line(heard('a', 2, 'early', 2.2, 3)),
      line(heard('b', 3, 'other', 3, 3.5)),
    ];
    const runs = tappedTimes(lines, [1, 2.5, 3.4], pieces, sourceAt);
    expect(runs.map(({ media, from, starts }) => [media, from, starts])).toEqual([
      ['a', 8, [101]],
      ['a', 2, [40.5]],
      ['b', 3, [41.4]],
    ]);
    for (const { starts, end } of runs) expect(end).toBeGreaterThan(starts[0]!);
  });
  it('a late tap moves no word out of its piece, nor behind a caption that was not tapped', () => {
    const lines = [
      line(heard('a', 8, 'late', 1, 1.9)),
      line(heard('a', 2, 'early', 2.2, 3)),
      line(heard('a', 3, 'then', 3.4, 4)),
    ];
    const [first, second] = tappedTimes(lines, [2.6, 4.4], pieces, sourceAt);
    expect([first!.from, first!.starts[0]!.toFixed(3), first!.end.toFixed(3)]).toEqual([8, '101.700', '102.000']);
    expect([second!.from, second!.starts[0]!.toFixed(3), second!.end.toFixed(3)]).toEqual([2, '41.100', '41.400']);
  });
  it('two taps close together still leave a caption its shortest time', () => {
    const lines = [line(heard('a', 0, 'one', 0, 0.5)), line(heard('a', 1, 'two', 0.6, 0.9))];
    const [run] = tappedTimes(lines, [0.5, 0.6], pieces, sourceAt);
    expect(run!.starts).toEqual([100.5, 100.6]);
  });
});
