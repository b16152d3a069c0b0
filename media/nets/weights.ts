import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import type { Weight } from './netBuilder';

interface Entry {
  name: string;
  shape: number[];
  dtype: 'float32' | 'int32' | 'bool';
  quantization?: { dtype: 'uint8' | 'uint16' | 'float16'; scale?: number; min?: number };
}
export type Manifest = { paths: string[]; weights: Entry[] }[];

/** Weights of a TensorFlow.js manifest, unpacked to floats. Quantised ones are value × scale + min, or half floats. */
export function readWeights(manifestFile: string, manifest: Manifest): Map<string, Weight> {
  const found = new Map<string, Weight>();
  for (const group of manifest) {
    const bytes = Buffer.concat(group.paths.map((path) => readFileSync(join(dirname(manifestFile), path))));
    let at = 0;
    for (const entry of group.weights) {
      const size = entry.shape.reduce((product, length) => product * length, 1);
      const width = { uint8: 1, uint16: 2, float16: 2, float32: 4, int32: 4, bool: 1 }[
        entry.quantization?.dtype ?? entry.dtype
      ];
      found.set(entry.name, { shape: entry.shape, data: unpack(bytes.subarray(at, at + size * width), entry, size) });
      at += size * width;
    }
  }
  return found;
}

function unpack(bytes: Buffer, { dtype, quantization }: Entry, size: number): Float32Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const out = new Float32Array(size);
  const { scale = 1, min = 0 } = quantization ?? {};
  const kind = quantization?.dtype ?? dtype;
  if (kind === 'uint8' || kind === 'bool')
    for (let index = 0; index < size; index++) out[index] = bytes[index]! * scale + min;
  else if (kind === 'uint16')
    for (let index = 0; index < size; index++) out[index] = view.getUint16(index * 2, true) * scale + min;
  else if (kind === 'float16')
    for (let index = 0; index < size; index++) out[index] = halfToFloat(view.getUint16(index * 2, true));
  else if (kind === 'int32') for (let index = 0; index < size; index++) out[index] = view.getInt32(index * 4, true);
  else for (let index = 0; index < size; index++) out[index] = view.getFloat32(index * 4, true);
  return out;
}

/** IEEE 754 binary16 to number. */
export function halfToFloat(bits: number): number {
  const sign = bits & 0x8000 ? -1 : 1;
  const exponent = (bits >> 10) & 31;
  const fraction = bits & 1023;
  if (exponent === 0) return sign * fraction * 2 ** -24;
  if (exponent === 31) return fraction ? NaN : sign * Infinity;
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15);
}
