import { tableOf, type ColourTable, type Rgb } from './table';

/** How light is coded in pictures that hold more of it than a usual screen shows: SMPTE ST 2084, or hybrid log-gamma. */
export type HdrTransfer = 'pq' | 'hlg';

/** Colours that are brought to the usual screen: BT.709, standard range. */
interface WideColour {
  /** Null for the usual range. */
  hdr: HdrTransfer | null;
  /** Whether the primaries are those of BT.2020. */
  wideGamut: boolean;
  /** The brightest light of the material, in cd/m²; matters for PQ alone. */
  peakNits: number;
}

/** Diffuse white of HDR material and of what it becomes, in cd/m²: Rec. ITU-R BT.2408-7, table 1. */
const diffuseWhiteNits = 203;

// Constants of SMPTE ST 2084, 5.2.
const m1 = 2610 / 16384;
const m2 = (2523 / 4096) * 128;
const c1 = 3424 / 4096;
const c2 = (2413 / 4096) * 32;
const c3 = (2392 / 4096) * 32;

/** Light of a PQ signal of 0 to 1, in cd/m² (ST 2084, 5.1). */
export function pqToNits(signal: number): number {
  const power = Math.max(0, signal) ** (1 / m2);
  return 10_000 * (Math.max(0, power - c1) / (c2 - c3 * power)) ** (1 / m1);
}

/** The PQ signal of a light in cd/m². */
export function nitsToPq(nits: number): number {
  const power = (Math.max(0, nits) / 10_000) ** m1;
  return ((c1 + c2 * power) / (1 + c3 * power)) ** m2;
}

/** Scene light, 0 to 1, of an HLG signal of 0 to 1: the inverse of Rec. ITU-R BT.2100-2, table 5. */
export function hlgToScene(signal: number): number {
  const a = 0.17883277;
  const b = 1 - 4 * a;
  const c = 0.5 - a * Math.log(4 * a);
  return signal <= 0.5 ? (signal * signal) / 3 : (Math.exp((signal - c) / a) + b) / 12;
}

/** Peak of the screen for which HLG is shown, and its system gamma there (BT.2100-2, table 5, note 5f). */
const hlgPeakNits = 1000;
const hlgGamma = 1.2;
const luma2020 = ([r, g, b]: Rgb): number => 0.2627 * r + 0.678 * g + 0.0593 * b;
const luma709 = ([r, g, b]: Rgb): number => 0.2126 * r + 0.7152 * g + 0.0722 * b;
const each = (rgb: Rgb, change: (value: number) => number): Rgb => [change(rgb[0]), change(rgb[1]), change(rgb[2])];

/** Linear light from the primaries of BT.2020 to those of BT.709 (Rec. ITU-R BT.2407-0, 2.1). */
const narrowed = ([r, g, b]: Rgb): Rgb => [
  1.6605 * r - 0.5876 * g - 0.0728 * b,
  -0.1246 * r + 1.1329 * g - 0.0083 * b,
  -0.0182 * r - 0.1006 * g + 1.1187 * b,
];

/** Colours that BT.709 does not have are drawn towards their grey until it has them. */
function insideGamut(rgb: Rgb): Rgb {
  const low = Math.min(...rgb);
  const grey = Math.max(0, luma709(rgb));
  if (low >= 0 || grey <= 0) return each(rgb, (value) => Math.max(0, value));
  const share = grey / (grey - low);
  return each(rgb, (value) => Math.max(0, grey + (value - grey) * share));
}

/**
 * Light after the roll-off of highlights that Rec. ITU-R BT.2390-10, 5.4.1 gives: unchanged below its knee, bent above it
 * so that the peak of the material becomes the peak of the screen.
 * @param nits in cd/m²
 */
export function rolledOff(nits: number, peakNits: number, screenNits: number = diffuseWhiteNits): number {
  const top = nitsToPq(peakNits);
  const highest = nitsToPq(screenNits) / top;
  if (highest >= 1) return Math.min(nits, screenNits);
  const signal = Math.min(1, nitsToPq(nits) / top);
  const knee = 1.5 * highest - 0.5;
  if (signal < knee) return nits;
  const t = (signal - knee) / (1 - knee);
  const bent =
    (2 * t ** 3 - 3 * t ** 2 + 1) * knee +
    (t ** 3 - 2 * t ** 2 + t) * (1 - knee) +
    (-2 * t ** 3 + 3 * t ** 2) * highest;
  return pqToNits(bent * top);
}

/** Light of coded colours, in cd/m² at the primaries they are coded in. */
function lightOf(rgb: Rgb, hdr: HdrTransfer | null): Rgb {
  if (hdr === 'pq') return each(rgb, pqToNits);
  // Of standard range: Rec. ITU-R BT.1886, annex 1, with the white of the result.
  if (hdr === null) return each(rgb, (value) => diffuseWhiteNits * Math.max(0, value) ** 2.4);
  const scene = each(rgb, hlgToScene);
  const gain = hlgPeakNits * Math.max(1e-6, luma2020(scene)) ** (hlgGamma - 1);
  return each(scene, (value) => value * gain);
}

/** A coded colour, 0 to 1 each, as a signal of 0 to 1 for a screen of BT.709 in standard range. */
export function toStandardRange(rgb: Rgb, { hdr, wideGamut, peakNits }: WideColour): Rgb {
  const coded = lightOf(rgb, hdr);
  const light = wideGamut ? insideGamut(narrowed(coded)) : coded;
  const highest = Math.max(...light, 1e-9);
  const peak = hdr === 'pq' ? peakNits : hdr === 'hlg' ? hlgPeakNits : diffuseWhiteNits;
  // One factor for all three keeps the hue.
  const factor = rolledOff(highest, peak) / highest / diffuseWhiteNits;
  return each(light, (value) => Math.min(1, Math.max(0, value * factor)) ** (1 / 2.4));
}

/** `toStandardRange` as a table, fine enough for pictures of 8 bits. */
export const standardRangeTable = (colour: WideColour): ColourTable =>
  tableOf((rgb) => toStandardRange(rgb, colour), 33);
