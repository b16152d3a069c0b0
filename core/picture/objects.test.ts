import { describe, expect, it } from 'vitest';
import { decodeObjects, objectLabels, objectRuns, objectSide } from '.';
import { objectGrid } from './objects';

const plane = objectGrid * objectGrid;
/** A heatmap with peaks: label, cell, score; sizes in pixels to the four edges. */
function heat(
  peaks: [
    label: (typeof objectLabels)[number],
    x: number,
    y: number,
    score: number,
    reach: [number, number, number, number],
  ][],
) {
  const map = new Float32Array(80 * plane);
  const size = new Float32Array(4 * plane);
  for (const [label, x, y, score, reach] of peaks) {
    const cell = y * objectGrid + x;
    map[objectLabels.indexOf(label) * plane + cell] = score;
    // Neighbours are lower, as in a real heatmap.
    map[objectLabels.indexOf(label) * plane + cell + 1] = score * 0.8;
    for (let edge = 0; edge < 4; edge++) size[edge * plane + cell] = reach[edge]!;
  }
  return decodeObjects(map, size);
}

// Source: the eighty labels of COCO in their order (Lin and others 2014): the ninth is the boat, the last the toothbrush.
it('names things as COCO does', () =>
  expect([objectLabels.length, objectLabels[0], objectLabels[8], objectLabels[79]]).toEqual([
    80,
    'person',
    'boat',
    'toothbrush',
  ]));

it('a peak becomes one box: its place in fractions, by hand', () => {
  const [boat, ...rest] = heat([['boat', 64, 32, 0.9, [64, 32, 128, 96]]]);
  expect(rest).toEqual([]);
  expect(boat).toMatchObject({
    label: 'boat',
    x: (256 - 64) / objectSide,
    y: (128 - 32) / objectSide,
    width: 192 / objectSide,
    height: 128 / objectSide,
  });
  expect(boat!.score).toBeCloseTo(0.9, 5);
});

it('weak peaks are nothing, boxes stay inside, two on the same spot are one', () => {
  expect(heat([['dog', 10, 10, 0.3, [20, 20, 20, 20]]])).toEqual([]);
  const [edge] = heat([['person', 1, 1, 0.8, [40, 40, 40, 40]]]);
  expect([edge!.x, edge!.y]).toEqual([0, 0]);
  const both = heat([
    ['cat', 50, 50, 0.9, [80, 80, 80, 80]],
    ['dog', 52, 50, 0.6, [80, 80, 80, 80]],
  ]);
  expect(both.map((box) => box.label)).toEqual(['cat']);
});

describe('when things are in the picture', () => {
  const box = (label: 'boat' | 'dog', score = 0.9) => ({ label, score, x: 0, y: 0, width: 0.2, height: 0.2 });
  const every2 = (...pictures: ReturnType<typeof box>[][]) =>
    pictures.map((boxes, index) => ({ time: index * 2, boxes }));
  it('from half way to the sample before to half way to the sample after; most at once', () => {
    const runs = objectRuns(every2([], [box('boat')], [box('boat'), box('boat', 0.5)], [], []), [], 10);
    expect(runs).toEqual([{ label: 'boat', start: 1, end: 5, most: 2, size: 0.2 * 0.2, confidence: 0.9 }]);
  });
  it('a missed sample is bridged, two are not; a cut ends a run on its frame', () => {
    expect(
      objectRuns(every2([box('dog')], [], [box('dog')], [], [], [box('dog')]), [], 12).map(({ start, end }) => [
        start,
        end,
      ]),
    ).toEqual([
      [0, 5],
      [9, 12],
    ]);
    expect(
      objectRuns(every2([box('dog')], [box('dog')], [box('dog')]), [2.6], 6).map(({ start, end }) => [start, end]),
    ).toEqual([
      [0, 2.6],
      [2.6, 6],
    ]);
  });
  it('what is seen only once must be sure', () => {
    expect(
      objectRuns(every2([box('dog', 0.5)], [], [], [box('dog', 0.7)], []), [], 10).map((run) => run.start),
    ).toEqual([5]);
  });
});
