import { expect, it } from 'vitest';
import { cuesBetween, writeSrt } from '.';

const cues = [
  { start: 0, end: 2, text: 'before' },
  { start: 9, end: 11, text: 'over the start' },
  { start: 12, end: 13.5, text: 'inside' },
  { start: 19.5, end: 22, text: 'over the end' },
  { start: 20, end: 21, text: 'after' },
];

it('captions of a stretch stand at its own times, and end with it', () => {
  expect(cuesBetween(cues, 10, 20)).toEqual([
    { start: 0, end: 1, text: 'over the start' },
    { start: 2, end: 3.5, text: 'inside' },
    { start: 9.5, end: 10, text: 'over the end' },
  ]);
  // SubRip: a number, "hours:minutes:seconds,milliseconds --> …", the text, an empty line. From memory of the format.
  expect(
    writeSrt(cuesBetween(cues, 10, 13.5))
      .split('\n')
      .slice(4, 7),
  ).toEqual(['2', '00:00:02,000 --> 00:00:03,500', 'inside']);
});
