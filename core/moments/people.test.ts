import { describe, expect, it } from 'vitest';
import { coveredSeconds, type Range } from '#core/time';
import { chooseForTarget, defaultLimits, defaultMix, defaultPieceLength, layGround, prepare } from '.';
import type { SeenPerson } from './choose';
import { knowFiles, peopleToShow } from './people';
import { footage } from './testFootage';

const settings = { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength };

describe('people in a reel', () => {
  // Two are seen for a minute; the one with the smaller face for ten seconds of it.
  const day = footage(60, { faces: () => 1, faceArea: (t) => (t >= 45 && t < 55 ? 0.012 : 0.05) }, [
    { kind: 'scene', start: 0, end: 60 },
  ]);
  const often: Range = { start: 0, end: 45 };
  const seldom: Range = { start: 45, end: 55 };
  const secondsOf = (range: Range, people: readonly SeenPerson[]) =>
    coveredSeconds(range, chooseForTarget([layGround(prepare(day), settings, [], { people })], 8).moments);

  it('somebody who is seldom seen is in it, where without knowing people the better picture is taken', () => {
    expect(secondsOf(seldom, [])).toBe(0);
    expect(
      secondsOf(seldom, [
        { id: 'often', ranges: [often] },
        { id: 'seldom', ranges: [seldom] },
      ]),
    ).toBeGreaterThan(1);
  });
  it('one person alone tells no pieces apart', () => {
    expect(secondsOf(seldom, [{ id: 'seldom', ranges: [seldom] }])).toBe(0);
  });
  it('what is known and did not change is the same object again, so that nothing is worked out anew', () => {
    const person = (start: number) => ({ id: 'p', named: true, tracks: [{ media: 'a', start, end: start + 2 }] });
    const word = (text: string) => ({ text, start: 1, end: 2 });
    const first = knowFiles(['a', 'b'], [person(0)], { a: [word('paddle')] });
    const again = knowFiles(['a', 'b'], [person(0)], { a: [word('paddles')] }, {}, first);
    expect(again.get('a')!.people).toBe(first.get('a')!.people);
    expect(again.get('b')!.words).toBe(first.get('b')!.words);
    expect(again.get('a')!.words).toEqual([word('paddles')]);
    expect(knowFiles(['a'], [person(5)], {}, {}, first).get('a')!.people[0]!.ranges[0]!.start).toBe(5);
  });
  it('passers-by do not count; who has a name, is seen often or long, does', () => {
    const track = (media: string, start: number, end: number) => ({ media, start, end });
    const found = peopleToShow([
      { id: 'named', named: true, tracks: [track('a', 0, 1)] },
      { id: 'passer-by', named: false, tracks: [track('a', 3, 5)] },
      { id: 'often', named: false, tracks: [track('a', 0, 1), track('a', 5, 6), track('b', 2, 3)] },
      { id: 'long', named: false, tracks: [track('b', 0, 6)] },
    ]);
    expect(found.get('a')!.map(({ id, ranges }) => [id, ranges.length])).toEqual([
      ['named', 1],
      ['often', 2],
    ]);
    expect(found.get('b')!.map(({ id }) => id)).toEqual(['often', 'long']);
  });
});
