import type { Footage } from './types';

const known = new WeakMap<Footage, Float32Array>();

/**
 * How much there is to see in the large at every sample, 0 to about 0.5: the standard deviation of the mean luma of the
 * cells of a picture. A covered lens, fog and the ground under a camera that was left running have hardly any; a place
 * under its sky has much. 1 where looks were not read.
 */
export function structureOf(footage: Footage): Float32Array {
  let own = known.get(footage);
  if (!own) known.set(footage, (own = measured(footage)));
  return own;
}

function measured({ look, traces, hz }: Footage): Float32Array {
  const out = new Float32Array(traces.faces.length).fill(1);
  if (!look || look.values.length < look.cells) return out;
  const { values, cells } = look;
  const grids = Float32Array.from({ length: Math.floor(values.length / cells) }, (_, grid) => {
    let sum = 0;
    let squares = 0;
    for (let cell = grid * cells; cell < (grid + 1) * cells; cell++) {
      sum += values[cell]!;
      squares += values[cell]! ** 2;
    }
    return Math.sqrt(Math.max(0, squares / cells - (sum / cells) ** 2));
  });
  for (let index = 0; index < out.length; index++)
    out[index] = grids[Math.min(grids.length - 1, Math.round((index / hz) * look.hz))]!;
  return out;
}
