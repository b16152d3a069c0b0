import { describe, expect, it } from 'vitest';
import { applyChanges, changesBetween } from './changes';
import { defaultFilling, defaultPattern, type Montage } from './types';

/** A made-up song of five minutes with a hundred pieces, a cut every two beats. */
const beats = Array.from({ length: 600 }, (_, index) => 0.5 + index / 2);
const montage: Montage = {
  schema: 'BrightReel.Montage.1',
  grid: { beats, bar: 4, starts: [0, 4, 8] },
  marks: [],
  span: { start: 0, end: 300, fadeSeconds: 1 },
  pattern: defaultPattern,
  filling: defaultFilling,
  pieces: Array.from({ length: 100 }, (_, index) => ({
    id: `p${index}`,
    media: `m${index % 7}`,
    name: `Boat ${index}`,
    start: index,
    end: index + 4,
  })),
  slots: Array.from({ length: 300 }, (_, index) => ({
    id: `s${index}`,
    start: index,
    end: index + 1,
    piece: { piece: `p${index % 100}`, sourceStart: index % 100 },
  })),
};
const slots = montage.slots;

describe('what is sent of a montage that grew large', () => {
  it.each<[string, Montage, number]>([
    ['nothing', montage, 2],
    ['one slot locked', { ...montage, slots: slots.with(7, { ...slots[7]!, locked: true }) }, 200],
    [
      'one slot parted',
      { ...montage, slots: slots.toSpliced(3, 1, { ...slots[3]!, end: 3.5 }, { id: 'n', start: 3.5, end: 4 }) },
      3000,
    ],
    ['two slots swapped', { ...montage, slots: slots.with(0, slots[1]!).with(1, slots[0]!) }, 3000],
    ['a slot emptied', { ...montage, slots: slots.with(9, { id: 's9', start: 9, end: 10 }) }, 200],
    ['a piece away', { ...montage, pieces: montage.pieces.slice(1) }, 1200],
    ['all slots new', { ...montage, slots: [{ id: 'x', start: 0, end: 300 }] }, 200],
    [
      'another pattern and span',
      { ...montage, pattern: { ...defaultPattern, every: 'bar' }, span: { ...montage.span, end: 9 } },
      400,
    ],
    ['marks, and no beats', { ...montage, marks: [1, 2.5], grid: { ...montage.grid, beats: [] } }, 200],
  ])('%s: leads to the same montage, in few letters', (_, after, most) => {
    const changes = JSON.parse(JSON.stringify(changesBetween(montage, after))) as ReturnType<typeof changesBetween>;
    expect(applyChanges(montage, changes)).toEqual(after);
    expect(JSON.stringify(changes).length).toBeLessThanOrEqual(most);
    expect(JSON.stringify(after).length).toBeGreaterThan(_ === 'all slots new' ? 5000 : 20_000);
  });
});
