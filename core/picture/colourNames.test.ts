import names from 'color-name';
import { describe, expect, it } from 'vitest';
import {
  colouredRuns,
  colourNames,
  coloursOf,
  tintCells,
  tintOf,
  wornColours,
  type ColourPicture,
  type FaceSample,
  type ObjectSample,
} from '.';
import { colourName } from './colourNames';

type Rgb = readonly [number, number, number];
const [red, blue, green, yellow, skin, white]: Rgb[] = [
  [200, 30, 30],
  [40, 90, 160],
  [70, 140, 50],
  [240, 210, 30],
  [225, 180, 150],
  [250, 250, 250],
];

/** A picture of 80 × 60 with boxes painted over a ground. */
function painted(ground: Rgb, ...boxes: [x: number, y: number, width: number, height: number, colour: Rgb][]) {
  const picture: ColourPicture = { width: 80, height: 60, data: new Uint8Array(80 * 60 * 3) };
  for (let y = 0; y < 60; y++)
    for (let x = 0; x < 80; x++) {
      const box = boxes.findLast(
        ([left, top, width, height]) => x >= left && x < left + width && y >= top && y < top + height,
      );
      picture.data.set(box ? box[4] : ground, (y * 80 + x) * 3);
    }
  return picture;
}
const part = (x: number, y: number, width: number, height: number) => ({
  x: x / 80,
  y: y / 60,
  width: width / 80,
  height: height / 60,
});

describe('names of colours', () => {
  // Source: CSS Color Module Level 4, section 6.1, named colours; those that end in a basic term are of it.
  it('are those that CSS gives, but for a few near a border', () => {
    const basic = Object.entries(names).flatMap(([name, rgb]) => {
      const said = colourNames.find((each) => name.replace('gray', 'grey').endsWith(each));
      return said ? [{ name, said, ours: colourName(...rgb) }] : [];
    });
    const right = basic.filter(({ said, ours }) => said === ours);
    expect(basic.length).toBeGreaterThan(70);
    expect(right.length / basic.length).toBeGreaterThan(0.87);
    // “brown” in CSS is a dark red.
    for (const { name, said, ours } of basic)
      if (name === said && name !== 'brown') expect(`${name} ${ours}`).toBe(`${name} ${said}`);
  });
});

describe('the colour of a thing', () => {
  it('is what it has more of than what lies around it', () => {
    const boat = painted(blue!, [30, 20, 20, 12, red!]);
    expect(coloursOf(boat, part(30, 20, 20, 12))).toEqual(['red']);
    // A box that is drawn too large holds water as well, but the water is no colour of the boat.
    expect(coloursOf(boat, part(24, 14, 32, 24))).toEqual(['red']);
    expect(coloursOf(boat, part(2, 40, 10, 10))).toEqual([]);
  });
  it('may be two', () =>
    expect(coloursOf(painted(blue!, [30, 20, 20, 8, white!], [30, 28, 20, 4, red!]), part(30, 20, 20, 12))).toEqual([
      'white',
      'red',
    ]));
});

describe('what somebody wears', () => {
  const face = part(36, 16, 8, 10);
  it('is seen under the face and above it', () => {
    const person = painted(green!, [36, 16, 8, 10, skin!], [35, 10, 10, 6, yellow!], [28, 28, 24, 30, red!]);
    expect(wornColours(person, face)).toEqual({ body: ['red'], head: ['yellow'] });
  });
  it('is not said where the picture ends', () => {
    const low = part(36, 49, 8, 10);
    expect(wornColours(painted(green!, [36, 49, 8, 10, skin!]), low)).toEqual({ head: ['green'] });
    expect(wornColours(painted(green!), part(36, 0, 8, 10)).head).toBeUndefined();
  });
});

it('the tint of a picture tells equally bright places apart, and grey ones not at all', () => {
  expect(tintOf(painted([128, 128, 128]))).toEqual(new Array(tintCells).fill(0));
  const [left, right] = [tintOf(painted(red!)), tintOf(painted(red!, [40, 0, 40, 60, green!]))];
  expect(left).toHaveLength(tintCells);
  // Two cells on the left as they were, two on the right elsewhere.
  expect(right.slice(0, 4)).toEqual(left.slice(0, 4));
  expect(left[4]! - right[4]!).toBeGreaterThan(100);
});

describe('when a colour is seen', () => {
  const box = { x: 0.1, y: 0.1, width: 0.1, height: 0.1, score: 0.9 };
  const boat = { ...box, label: 'boat' as const };
  const things = (count: number, colour: (time: number) => 'red' | 'blue' | null): ObjectSample[] =>
    Array.from({ length: count }, (_, index) => {
      const own = colour(index * 2);
      return { time: index * 2, boxes: [own ? { ...boat, colours: [own] } : boat] };
    });
  const found = [{ label: 'boat' as const, start: 0, end: 20, most: 1, size: 0.1, confidence: 0.9 }];

  it('it is from half way before to half way after, over one picture in which it was not seen, and up to a cut', () => {
    const seen = things(10, (time) => (time === 6 ? null : time >= 4 ? 'red' : null));
    expect(colouredRuns([], seen, found, [], 20)).toEqual([{ label: 'red boat', start: 3, end: 20 }]);
    expect(colouredRuns([], seen, found, [13], 20)).toEqual([
      { label: 'red boat', start: 3, end: 13 },
      { label: 'red boat', start: 13, end: 20 },
    ]);
  });
  it('not where the thing itself was a mistake', () =>
    expect(
      colouredRuns(
        [],
        things(3, () => 'blue'),
        [],
        [],
        6,
      ),
    ).toEqual([]));
  it('clothes that flash up once are none', () => {
    const faces = (wears: (index: number) => boolean): FaceSample[] =>
      Array.from({ length: 20 }, (_, index) => ({
        time: index / 2,
        boxes: [wears(index) ? { ...box, worn: { body: ['red'], head: ['black'] } } : box],
      }));
    expect(
      colouredRuns(
        faces((index) => index === 7),
        [],
        [],
        [],
        10,
      ),
    ).toEqual([]);
    expect(
      colouredRuns(
        faces((index) => index >= 4 && index < 8),
        [],
        [],
        [],
        10,
      ),
    ).toEqual([
      { label: 'red clothes', start: 1.75, end: 3.75 },
      { label: 'black head', start: 1.75, end: 3.75 },
    ]);
  });
});
