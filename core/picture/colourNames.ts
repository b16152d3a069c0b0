import type { ColourPicture, Part } from './colour';

/** The basic colour terms of English (Berlin & Kay 1969, *Basic Color Terms*). */
export const colourNames = [
  'black',
  'white',
  'grey',
  'red',
  'orange',
  'yellow',
  'green',
  'blue',
  'purple',
  'pink',
  'brown',
] as const;
/** One of the basic colour terms. */
export type ColourName = (typeof colourNames)[number];

/** sRGB bytes without their gamma (IEC 61966-2-1), 0 to 1. */
const linear = Float32Array.from({ length: 256 }, (_, byte) => {
  const value = byte / 255;
  return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
});

/** Lightness 0 to 1, and the two opponent colours: the Oklab space of Ottosson 2020, *A perceptual color space for image processing*. */
function oklab(red: number, green: number, blue: number): [number, number, number] {
  const [r, g, b] = [linear[red]!, linear[green]!, linear[blue]!];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** Less colourful than this is a grey, less than the other a pale or brownish shade. */
const greyUnder = 0.04,
  shadeUnder = 0.09;

/**
 * What most people would call a colour. Where one ends and the next begins was set on colours that people named; they
 * do not agree near the borders.
 * @param red byte of sRGB, like green and blue
 */
export function colourName(red: number, green: number, blue: number): ColourName {
  const [light, a, b] = oklab(red, green, blue);
  const chroma = Math.hypot(a, b);
  if (light < 0.2 || (light < 0.32 && chroma < shadeUnder / 2)) return 'black';
  if (chroma < greyUnder) return light > 0.9 ? 'white' : 'grey';
  const hue = ((Math.atan2(b, a) * 180) / Math.PI + 360) % 360;
  if (hue < 12 || hue >= 340) return light > 0.55 ? 'pink' : hue >= 340 ? 'purple' : 'red';
  if (hue < 40) return light > 0.75 ? 'pink' : light < 0.5 && chroma < 0.14 && hue > 24 ? 'brown' : 'red';
  if (hue < 85)
    return light > 0.9 && chroma < shadeUnder ? 'white' : chroma < shadeUnder || light < 0.64 ? 'brown' : 'orange';
  if (hue < 118) return light > 0.68 ? 'yellow' : hue < 100 ? 'brown' : 'green';
  if (hue < 192) return 'green';
  if (hue < 290) return 'blue';
  return light > 0.75 && hue > 318 ? 'pink' : 'purple';
}

/** Names are looked up in a cube of so many steps along each side. */
const steps = 32;
let cube: Uint8Array | null = null;
function numberOf(red: number, green: number, blue: number): number {
  cube ??= Uint8Array.from({ length: steps ** 3 }, (_, at) => {
    const byte = (step: number) => Math.round(((step + 0.5) / steps) * 255);
    return colourNames.indexOf(
      colourName(byte(Math.floor(at / steps ** 2)), byte(Math.floor(at / steps) % steps), byte(at % steps)),
    );
  });
  return cube[((red >> 3) * steps + (green >> 3)) * steps + (blue >> 3)]!;
}

/** About so many pixels along each side of a part are looked at. */
const looks = 24;

/** Share of a part of a picture that has each of `colourNames`; what lies outside the picture does not count. */
function sharesOf({ width, height, data }: ColourPicture, part: Part, but?: Part): Float32Array {
  const counts = new Float32Array(colourNames.length);
  let total = 0;
  for (let row = 0; row < looks; row++)
    for (let column = 0; column < looks; column++) {
      const x = part.x + ((column + 0.5) / looks) * part.width;
      const y = part.y + ((row + 0.5) / looks) * part.height;
      if (x < 0 || y < 0 || x >= 1 || y >= 1) continue;
      if (but && x >= but.x && x < but.x + but.width && y >= but.y && y < but.y + but.height) continue;
      const at = (Math.floor(y * height) * width + Math.floor(x * width)) * 3;
      counts[numberOf(data[at]!, data[at + 1]!, data[at + 2]!)]!++;
      total++;
    }
  return counts.map((count) => count / Math.max(1, total));
}

/** A thing has a colour that covers so much of its box, */
const enough = 0.16;
/** and so many times as much of it as of what lies around. */
const moreThanAround = 1.4;
const most = 2;

/** What a thing is coloured: what is in its box and not as much around it. The strongest first, at most two. */
export function coloursOf(picture: ColourPicture, box: Part): ColourName[] {
  const { x, y, width, height } = box;
  const around = { x: x - width / 3, y: y - height / 3, width: (width * 5) / 3, height: (height * 5) / 3 };
  const [inside, outside] = [sharesOf(picture, box), sharesOf(picture, around, box)];
  return named(
    inside.map((share, index) => (share >= moreThanAround * outside[index]! ? share : 0)),
    enough,
  );
}

/** What somebody wears under the face and has on the head, where the picture shows it. */
export interface Worn {
  body?: ColourName[];
  head?: ColourName[];
}

/** So much of a part of the body has one colour when something is worn there, */
const wornShare = 0.34;
/** and so much of it must be in the picture, in heights of the face. */
const leastBody = 0.35,
  leastHead = 0.2;

/** Colours of what is under a face and above it. Hair counts as what is on the head. @param face in fractions of the picture */
export function wornColours(picture: ColourPicture, face: Part): Worn {
  const { x, y, width, height } = face;
  const seen = (part: Part, least: number): ColourName[] => {
    const top = Math.max(0, part.y);
    const bottom = Math.min(1, part.y + part.height);
    return bottom - top < least * height
      ? []
      : named(sharesOf(picture, { ...part, y: top, height: bottom - top }), wornShare);
  };
  const body = seen({ x: x - width * 0.25, y: y + height * 1.4, width: width * 1.5, height: height * 1.1 }, leastBody);
  const head = seen({ x: x + width * 0.15, y: y - height * 0.32, width: width * 0.7, height: height * 0.3 }, leastHead);
  return { ...(body.length > 0 ? { body } : {}), ...(head.length > 0 ? { head } : {}) };
}

const named = (shares: Float32Array, least: number): ColourName[] =>
  colourNames
    .filter((_, index) => shares[index]! >= least)
    .sort((a, b) => shares[colourNames.indexOf(b)]! - shares[colourNames.indexOf(a)]!)
    .slice(0, most);

const tintColumns = 4,
  tintRows = 3;
/** Numbers that `tintOf` gives: two for each of so many columns and rows. */
export const tintCells = 2 * tintColumns * tintRows;

/** Mean colourfulness of the cells of a picture: two opponent colours each, in thousandths of Oklab. It tells two places apart that are as bright. */
export function tintOf({ width, height, data }: ColourPicture): number[] {
  const out: number[] = [];
  const step = 4;
  for (let row = 0; row < tintRows; row++)
    for (let column = 0; column < tintColumns; column++) {
      const sums = [0, 0];
      let count = 0;
      for (let y = Math.ceil((row / tintRows) * height); y < ((row + 1) / tintRows) * height; y += step)
        for (let x = Math.ceil((column / tintColumns) * width); x < ((column + 1) / tintColumns) * width; x += step) {
          const at = (y * width + x) * 3;
          const [, a, b] = oklab(data[at]!, data[at + 1]!, data[at + 2]!);
          sums[0]! += a;
          sums[1]! += b;
          count++;
        }
      out.push(...sums.map((sum) => Math.round((1000 * sum) / count)));
    }
  return out;
}
