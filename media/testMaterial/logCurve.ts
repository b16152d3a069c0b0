import { writeFileSync } from 'node:fs';
import { writeCube } from '#core/formats';

/**
 * ACEScct, the logarithmic curve of the Academy's specification S-2016-001 (constants from memory), and its inverse; light of
 * 0 to 1 and more.
 */
const toLog = (light: number): number =>
  light <= 0.0078125 ? 10.5402377416545 * light + 0.0729055341958355 : (Math.log2(light) + 9.72) / 17.52;
const fromLog = (signal: number): number =>
  signal <= 0.155251141552511 ? (signal - 0.0729055341958355) / 10.5402377416545 : 2 ** (signal * 17.52 - 9.72);

/** What a screen makes of a signal: Rec. ITU-R BT.1886 with black at zero. */
const screen = 2.4;

/** Writes the table of a curve that all channels have. */
export function writeCurve(file: string, curve: (value: number) => number, size = 65): void {
  const values = new Float32Array(size ** 3 * 3);
  const axis = Array.from({ length: size }, (_, step) => Math.min(1, Math.max(0, curve(step / (size - 1)))));
  for (let cell = 0; cell < size ** 3; cell++) {
    values[cell * 3] = axis[cell % size]!;
    values[cell * 3 + 1] = axis[Math.floor(cell / size) % size]!;
    values[cell * 3 + 2] = axis[Math.floor(cell / size ** 2)]!;
  }
  writeFileSync(file, writeCube({ size, values, from: [0, 0, 0], to: [1, 1, 1] }, 'curve'));
}

/** From what a screen shows to logarithmic, as a camera records it. */
export const logOf = (shown: number): number => toLog(Math.max(0, shown) ** screen);
/** Back to what a screen shows: the input look of such footage. */
export const shownOf = (signal: number): number => Math.max(0, fromLog(signal)) ** (1 / screen);
