import type { Look } from './types';
import { lookUp, tableOf, type Rgb, type ColourTable } from './table';

/** Transfer function of sRGB (IEC 61966-2-1) and back. */
const toLinear = (value: number): number => (value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4);
const fromLinear = (value: number): number =>
  value <= 0.0031308 ? value * 12.92 : 1.055 * Math.max(0, value) ** (1 / 2.4) - 0.055;
/** Luma of Rec. ITU-R BT.709. */
const luma = ([r, g, b]: Rgb): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const mix = (a: number, b: number, share: number): number => a + (b - a) * share;
const each = (rgb: Rgb, change: (value: number, channel: number) => number): Rgb => [
  change(rgb[0], 0),
  change(rgb[1], 1),
  change(rgb[2], 2),
];
/** Pulls colours towards their grey, or away from it. */
const saturated = (rgb: Rgb, by: number): Rgb => each(rgb, (value) => mix(luma(rgb), value, by));
const contrasted = (rgb: Rgb, by: number): Rgb => each(rgb, (value) => 0.5 + (value - 0.5) * by);
/** Adds one colour to the dark parts and another to the bright ones. */
const toned = (rgb: Rgb, dark: Rgb, bright: Rgb): Rgb =>
  each(rgb, (value, channel) => value + dark[channel]! * (1 - luma(rgb)) ** 2 + bright[channel]! * luma(rgb) ** 2);
/** Lifts black and lowers white. */
const faded = (rgb: Rgb, low: number, high: number): Rgb => each(rgb, (value) => low + value * (high - low));

/** Looks of our own. */
export const namedLooks: Readonly<Record<string, { says: string; colour(rgb: Rgb): Rgb }>> = {
  Pondwater: {
    says: 'cool greens in the shadows, gentle',
    colour: (rgb) => toned(saturated(rgb, 0.9), [-0.02, 0.035, 0.03], [0.01, 0.01, -0.01]),
  },
  Ember: {
    says: 'warm lights, deep shadows',
    colour: (rgb) => toned(contrasted(rgb, 1.12), [0.02, -0.01, -0.02], [0.05, 0.015, -0.05]),
  },
  Chalk: { says: 'pale, soft, low contrast', colour: (rgb) => faded(saturated(rgb, 0.7), 0.09, 0.95) },
  Bunting: { says: 'strong, cheerful colour', colour: (rgb) => contrasted(saturated(rgb, 1.35), 1.08) },
  Tin: { says: 'black and white, crisp', colour: (rgb) => contrasted(saturated(rgb, 0), 1.15) },
  Old: {
    says: 'brownish black and white',
    colour: (rgb) => faded(toned(saturated(rgb, 0.08), [0.03, 0.01, -0.02], [0.06, 0.02, -0.06]), 0.04, 0.97),
  },
  Dusk: {
    says: 'blue shadows, rosy lights',
    colour: (rgb) => toned(saturated(rgb, 0.95), [-0.01, -0.01, 0.07], [0.05, 0, -0.01]),
  },
};

/** Stops of exposure at full deflection. */
const stops = 2;

/** What a look makes of a colour: exposure and temperature in linear light, then contrast and saturation, then the named look. */
export function lookColour(look: Look, rgb: Rgb): Rgb {
  const warm: Rgb = [1 + 0.25 * look.temperature, 1, 1 - 0.25 * look.temperature];
  // A change of temperature leaves grey as bright as it was.
  const keep = luma(warm);
  let out = each(rgb, (value, channel) =>
    fromLinear((toLinear(value) * 2 ** (stops * look.exposure) * warm[channel]!) / keep),
  );
  out = contrasted(out, 1 + look.contrast * (look.contrast > 0 ? 0.8 : 0.6));
  out = saturated(out, 1 + look.saturation);
  const named = look.named === undefined ? undefined : namedLooks[look.named];
  return named ? named.colour(each(out, (value) => Math.min(1, Math.max(0, value)))) : out;
}

/** Whether a look changes anything. */
export const changesNothing = (look: Look | undefined): boolean =>
  !look ||
  (look.exposure === 0 &&
    look.contrast === 0 &&
    look.saturation === 0 &&
    look.temperature === 0 &&
    !look.named &&
    !look.lut);

/** A look as one table, for the player and the renderer alike. @param lut the table that the look names, when it names one */
export function lookTable(look: Look, lut: ColourTable | null = null): ColourTable {
  const plain = tableOf((rgb) => lookColour(look, rgb));
  if (!lut) return plain;
  return tableOf((rgb) => lookUp(lut, lookUp(plain, rgb)));
}
