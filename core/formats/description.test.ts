import { describe, expect, it } from 'vitest';
import { assembleReel, type Reel, type Source } from '#core/reel';
import { rates } from '#core/time';
import { writeDescription } from './description';

const sources = new Map<string, Source>([['a', { id: 'a', name: 'a.mp4', durationSeconds: 9000 }]]);
const reel = (pieces: [name: string, seconds: number][], marks: [seconds: number, note: string][] = []): Reel => {
  let count = 0;
  const wanted = pieces.map(([name, seconds]) => ({ media: 'a', start: 0, end: seconds, name }));
  const made = assembleReel('Regatta', wanted, sources, rates['25'], { width: 16, height: 16 }, () => `c${count++}`);
  const markers = marks.map(([seconds, note], index) => ({ id: `m${index}`, frame: Math.round(seconds * 25), note }));
  return markers.length ? { ...made, markers } : made;
};

describe('the text below a video', () => {
  it('has a chapter for every piece, from 0:00 on; short ones go with the one before', () => {
    expect(
      writeDescription(
        reel([
          ['Launch', 15],
          ['Splash', 4],
          ['Race', 30],
          ['Race', 20],
          ['Prizes', 41.5],
        ]),
      ),
    ).toBe('Regatta\n\n0:00 Launch\n0:19 Race\n1:09 Prizes\n');
  });
  it('a short beginning belongs to the first chapter that lasts', () =>
    expect(
      writeDescription(
        reel([
          ['Title', 4],
          ['Launch', 30],
          ['Race', 20],
        ]),
      ),
    ).toBe('Regatta\n\n0:00 Launch\n0:34 Race\n'));
  it('goes by the markers where there are any with a note; the first chapter begins at the beginning', () => {
    const marks: [number, string][] = [
      [3, 'The builders\nat work'],
      [40, ''],
      [61, 'The race'],
      [115, 'too late for a chapter'],
    ];
    expect(writeDescription(reel([['One', 120]], marks))).toBe('Regatta\n\n0:00 The builders at work\n1:01 The race\n');
  });
  it('counts hours where there is one', () => {
    expect(
      writeDescription(
        reel([
          ['Morning', 3599],
          ['Noon', 3661],
        ]),
      ),
    ).toBe('Regatta\n\n0:00:00 Morning\n0:59:59 Noon\n');
  });
  it('of a reel with nothing in it is its name', () => expect(writeDescription(reel([]))).toBe('Regatta\n\n'));
});
