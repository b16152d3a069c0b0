import { clamp } from '#core/signal';
import type { Gray } from './gray';

/**
 * Sharpness after Crété-Roffet and others, "The Blur Effect" (2007): how much of the change between neighbouring
 * pixels goes when the picture is blurred once more; a blurred picture loses little. It is a ratio to what varies at
 * all, so a plain background is not punished. Here with a filter of three pixels instead of nine, since the pictures are
 * only 320 wide, and the ratios 0.1 to 0.5 spread over 0 to 1: photographs in focus read 0.6 and more, the same
 * ones blurred with a sigma of 6 pixels at 720 lines 0.5 and less, mostly under 0.3.
 */
export function sharpness(picture: Gray): number {
  const ratio = Math.max(directional(picture, 1, picture.width), directional(picture, picture.width, 1));
  return clamp((ratio - 0.1) / 0.4);
}

function directional({ data, width, height }: Gray, step: number, across: number): number {
  const horizontal = step === 1;
  const length = horizontal ? width : height;
  const lines = horizontal ? height : width;
  let kept = 0;
  let all = 0;
  for (let line = 0; line < lines; line += 3) {
    let at = line * across + step;
    for (let index = 1; index < length - 2; index++, at += step) {
      const change = Math.abs(data[at + step]! - data[at]!);
      const blurred = Math.abs(data[at + 2 * step]! - data[at - step]!) / 3;
      all += change;
      if (change > blurred) kept += change - blurred;
    }
  }
  return all < lines ? 0 : kept / all;
}

/** How the light of a picture lies. */
export interface Exposure {
  /** Mean luma, 0 (black) to 1 (white). */
  mean: number;
  /** Share of pixels under 6 % and over 96 % luma. */
  dark: number;
  bright: number;
  /** Standard deviation of luma, 0 to 0.5. */
  contrast: number;
}

/** Light of a picture whose luma runs over the full range 0 to 255. */
export function exposure({ data }: Gray): Exposure {
  let sum = 0;
  let squares = 0;
  let dark = 0;
  let bright = 0;
  for (let index = 0; index < data.length; index++) {
    const value = data[index]!;
    sum += value;
    squares += value * value;
    if (value < 15) dark++;
    else if (value > 245) bright++;
  }
  const mean = sum / data.length;
  return {
    mean: mean / 255,
    dark: dark / data.length,
    bright: bright / data.length,
    contrast: Math.sqrt(Math.max(0, squares / data.length - mean * mean)) / 255,
  };
}

/** How well lit a picture is, 0 to 1: 1 between 25 % and 70 % mean luma, less when much is black or clipped. Common practice, no source. */
export function lightScore(light: Exposure): number {
  const level = Math.min(clamp((light.mean - 0.03) / 0.2), clamp((0.95 - light.mean) / 0.25));
  return (
    level *
    (1 - 0.7 * clamp(light.dark * 1.3 - 0.2)) *
    (1 - 0.8 * clamp(light.bright * 2 - 0.1)) *
    clamp(0.4 + light.contrast * 6)
  );
}

/** Mean luma in a grid of cells, 0 to 1, row by row: a picture's rough look, for telling like from unlike. */
export function lookGrid({ data, width, height }: Gray, columns: number, rows: number): Float32Array {
  const grid = new Float32Array(columns * rows);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const x0 = Math.floor((column * width) / columns),
        x1 = Math.floor(((column + 1) * width) / columns);
      const y0 = Math.floor((row * height) / rows),
        y1 = Math.floor(((row + 1) * height) / rows);
      let sum = 0;
      for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) sum += data[y * width + x]!;
      grid[row * columns + column] = sum / ((x1 - x0) * (y1 - y0)) / 255;
    }
  return grid;
}

/** Noise in a picture of 320 pixels that reads as 1, in units of 255. */
const noiseScale = 6;

/**
 * Noise after Immerkær, "Fast Noise Variance Estimation" (1996): the mean absolute answer of a mask that is blind to
 * edges and slopes, here of the quietest fifth of 96 blocks, so that texture does not count. 0 to 1; 1 is a standard
 * deviation of 6 (of 255) at 320 pixels, which is some 25 in a 1080-line picture before it was made small.
 */
export function noiseLevel({ data, width, height }: Gray): number {
  const columns = 12,
    rows = 8;
  const blocks: number[] = [];
  const w = Math.floor((width - 2) / columns),
    h = Math.floor((height - 2) / rows);
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      let sum = 0;
      for (let y = 1 + row * h; y < 1 + (row + 1) * h; y++)
        for (let x = 1 + column * w, at = y * width + x; x < 1 + (column + 1) * w; x++, at++) {
          const up = at - width,
            down = at + width;
          sum += Math.abs(
            data[up - 1]! -
              2 * data[up]! +
              data[up + 1]! -
              2 * data[at - 1]! +
              4 * data[at]! -
              2 * data[at + 1]! +
              data[down - 1]! -
              2 * data[down]! +
              data[down + 1]!,
          );
        }
      blocks.push((Math.sqrt(Math.PI / 2) * sum) / (6 * w * h));
    }
  blocks.sort((a, b) => a - b);
  const quiet = blocks.slice(0, Math.ceil(blocks.length / 5));
  return clamp(quiet.reduce((sum, value) => sum + value, 0) / quiet.length / noiseScale);
}
