import { describe, expect, it } from 'vitest';
import { costWords, rangeCost } from './rangeCost';
import { testItem } from './testItems';

const film = (id: string, durationSeconds: number) => testItem(id, { probe: { durationSeconds } });
const photo = testItem('p', { probe: { kind: 'photo', durationSeconds: 0 } });
const waiting = (known: boolean) => testItem('w', { probe: null, arrived: known ? film('x', 600).probe : null });

describe('what a reading range costs', () => {
  it('counts what lies in it, of files that were read and of those that wait', () => {
    const cost = rangeCost([film('a', 600), waiting(true), photo], '2:00', '', 1)!;
    expect(cost).toMatchObject({ seconds: 960, outside: 0, unknown: 0 });
    expect(rangeCost([film('a', 600), waiting(true)], '2:00', '', 3)!.takes).toBeCloseTo(cost.takes * 3, 9);
  });
  it('says which files it does not lie in, and which cannot be told', () => {
    const cost = rangeCost([film('a', 600), film('short', 90), waiting(false)], '2:00', '', 1)!;
    expect(cost).toMatchObject({ seconds: 480, outside: 1, unknown: 1 });
    expect(costWords(cost)).toBe(
      '8:00 to read, about 2 min; it does not lie in one file, which stays as it is; the length of one file is not known yet',
    );
    expect(rangeCost([film('a', 600), film('b', 300)], '', '8:00', 1)).toMatchObject({ seconds: 480, outside: 1 });
  });
  it.each([
    ['soon', ''],
    ['2:00', '1:00'],
    ['2:00', '2:00'],
  ])('“%s” to “%s” is no range', (from, to) => expect(rangeCost([film('a', 600)], from, to, 1)).toBeNull());
  it.each([
    [20, '20 s'],
    [70, '1 min'],
    [1500, '25 min'],
    [9000, '2.5 h'],
  ])('%i s are told as %s', (takes, words) =>
    expect(costWords({ seconds: 60, takes, outside: 0, unknown: 0 })).toBe(`1:00 to read, about ${words}`),
  );
});
