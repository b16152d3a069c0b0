import { lookHz, tintHz } from '#core/readings';
import type { Footage } from './types';

/** How long a photo stands when nobody said otherwise. Common practice (3 to 5 s), no source. */
export const photoSeconds = 4;

/**
 * A photo as footage: its one reading held for as long as it stands. It has a score from light, focus and faces like
 * everything else, and is picked whole or not at all.
 * @param photo as read: one sample a trace, no length
 */
export function photoFootage(photo: Footage, seconds = photoSeconds): Footage {
  const count = Math.max(1, Math.round(seconds * photo.hz));
  const held = (values: Float32Array) => new Float32Array(count).fill(values[0] ?? 0);
  const traces = Object.fromEntries(
    Object.entries(photo.traces).map(([name, values]) => [name, held(values)]),
  ) as Footage['traces'];
  const runs = photo.runs
    .filter((run) => run.kind === 'object' || run.kind === 'coloured')
    .map((run) => ({ ...run, start: 0, end: seconds }));
  const look = photo.look && {
    ...photo.look,
    values: repeated(photo.look.values.subarray(0, photo.look.cells), Math.max(1, Math.ceil(seconds * lookHz))),
  };
  const tint = photo.tint && {
    ...photo.tint,
    values: repeated(photo.tint.values.subarray(0, photo.tint.cells), Math.max(1, Math.ceil(seconds * tintHz))),
  };
  return {
    ...photo,
    durationSeconds: seconds,
    traces,
    runs: [{ kind: 'scene', start: 0, end: seconds }, ...runs],
    whole: true,
    ...(look ? { look } : {}),
    ...(tint ? { tint } : {}),
  };
}

function repeated(values: Float32Array, times: number): Float32Array {
  const out = new Float32Array(values.length * times);
  for (let index = 0; index < times; index++) out.set(values, index * values.length);
  return out;
}
