/**
 * A table of colours: `size`³ entries of red, green, blue, each 0 to 1, red varying fastest (the order of `.cube`).
 * Input colours outside `from`–`to` are held at its edge.
 */
export interface ColourTable {
  size: number;
  values: Float32Array;
  from: readonly [number, number, number];
  to: readonly [number, number, number];
}

/** R'G'B', each 0 to 1. */
export type Rgb = readonly [number, number, number];

/** A table of a function of colours. */
export function tableOf(colour: (rgb: Rgb) => Rgb, size = 33): ColourTable {
  const values = new Float32Array(size ** 3 * 3);
  let at = 0;
  for (let b = 0; b < size; b++)
    for (let g = 0; g < size; g++)
      for (let r = 0; r < size; r++) {
        const out = colour([r / (size - 1), g / (size - 1), b / (size - 1)]);
        for (const channel of out) values[at++] = Math.min(1, Math.max(0, channel));
      }
  return { size, values, from: [0, 0, 0], to: [1, 1, 1] };
}

/** What a table makes of a colour, between its entries by trilinear interpolation. */
export function lookUp({ size, values, from, to }: ColourTable, rgb: Rgb): [number, number, number] {
  const place = rgb.map(
    (value, channel) =>
      Math.min(1, Math.max(0, (value - from[channel]!) / (to[channel]! - from[channel]!))) * (size - 1),
  ) as [number, number, number];
  const low = place.map((value) => Math.min(size - 2, Math.floor(value))) as [number, number, number];
  const out: [number, number, number] = [0, 0, 0];
  for (let corner = 0; corner < 8; corner++) {
    let weight = 1;
    let index = 0;
    for (let channel = 0; channel < 3; channel++) {
      const high = (corner >> channel) & 1;
      const share = place[channel]! - low[channel]!;
      weight *= high ? share : 1 - share;
      index += (low[channel]! + high) * size ** channel;
    }
    if (weight > 0)
      for (let channel = 0; channel < 3; channel++) out[channel]! += weight * values[index * 3 + channel]!;
  }
  return out;
}

/** Applies a table to pixels of four bytes each (red, green, blue, and one that stays), in place. */
export function applyTable({ size, values, from, to }: ColourTable, pixels: Uint8ClampedArray): void {
  const top = size - 1;
  // Place of each byte value on each axis of the table.
  const low = [0, 1, 2].map(() => new Int32Array(256));
  const share = [0, 1, 2].map(() => new Float32Array(256));
  for (let channel = 0; channel < 3; channel++)
    for (let value = 0; value < 256; value++) {
      const place = Math.min(1, Math.max(0, (value / 255 - from[channel]!) / (to[channel]! - from[channel]!))) * top;
      low[channel]![value] = Math.min(top - 1, Math.floor(place));
      share[channel]![value] = place - low[channel]![value]!;
    }
  // Offsets into the table instead of cells, and everything written out: this runs for every pixel of every frame.
  const offR = low[0]!.map((cell) => cell * 3);
  const offG = low[1]!.map((cell) => cell * size * 3);
  const offB = low[2]!.map((cell) => cell * size * size * 3);
  const shareR = share[0]!;
  const shareG = share[1]!;
  const shareB = share[2]!;
  const g1 = size * 3;
  const b1 = size * size * 3;
  let lastIn = -1;
  let lastOut = 0;
  for (let at = 0; at < pixels.length; at += 4) {
    const r = pixels[at]!;
    const g = pixels[at + 1]!;
    const b = pixels[at + 2]!;
    const key = (r << 16) | (g << 8) | b;
    // Neighbours are often the same.
    if (key === lastIn) {
      pixels[at] = lastOut >> 16;
      pixels[at + 1] = (lastOut >> 8) & 255;
      pixels[at + 2] = lastOut & 255;
      continue;
    }
    const i = offR[r]! + offG[g]! + offB[b]!;
    const x = shareR[r]!;
    const y = shareG[g]!;
    const z = shareB[b]!;
    // Weights of the eight corners.
    const xy = x * y;
    const w11 = xy;
    const w10 = x - xy;
    const w01 = y - xy;
    const w00 = 1 - x - y + xy;
    const u = 1 - z;
    const j = i + g1;
    const k = i + b1;
    const l = k + g1;
    const outR =
      (values[i]! * w00 + values[i + 3]! * w10 + values[j]! * w01 + values[j + 3]! * w11) * u +
      (values[k]! * w00 + values[k + 3]! * w10 + values[l]! * w01 + values[l + 3]! * w11) * z;
    const outG =
      (values[i + 1]! * w00 + values[i + 4]! * w10 + values[j + 1]! * w01 + values[j + 4]! * w11) * u +
      (values[k + 1]! * w00 + values[k + 4]! * w10 + values[l + 1]! * w01 + values[l + 4]! * w11) * z;
    const outB =
      (values[i + 2]! * w00 + values[i + 5]! * w10 + values[j + 2]! * w01 + values[j + 5]! * w11) * u +
      (values[k + 2]! * w00 + values[k + 5]! * w10 + values[l + 2]! * w01 + values[l + 5]! * w11) * z;
    const byteR = (outR * 255 + 0.5) | 0;
    const byteG = (outG * 255 + 0.5) | 0;
    const byteB = (outB * 255 + 0.5) | 0;
    lastIn = key;
    lastOut = (clampByte(byteR) << 16) | (clampByte(byteG) << 8) | clampByte(byteB);
    pixels[at] = lastOut >> 16;
    pixels[at + 1] = (lastOut >> 8) & 255;
    pixels[at + 2] = lastOut & 255;
  }
}

/** Tables that were brought in may go beyond what a byte holds. */
const clampByte = (value: number): number => (value < 0 ? 0 : value > 255 ? 255 : value);
