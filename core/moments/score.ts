import { clamp, gaussianSmooth, prefixSums } from '#core/signal';
import { structureOf } from './structure';
import { ingredientNames, type Footage, type Ingredient, type Ingredients, type Mix } from './types';

/** The ingredients of every instant, and sums of them and their squares from the start, so that any stretch is judged at once. */
export interface Prepared {
  footage: Footage;
  samples: number;
  values: Record<Ingredient, Float32Array>;
  sums: Record<Ingredient, Float64Array>;
  squares: Record<Ingredient, Float64Array>;
}

/**
 * Readings to ingredients:
 * people: a first face counts 0.4, each further one less, closer faces and smiles more;
 * talk: speech, smoothed over a second; action: motion of things, not of the camera, less of it where the camera moves or shakes;
 * camera: a steady move; a whip pan counts as one; sound: bursts that are not speech;
 * picture: sharpness and light together, more of it where there is much to see in the large.
 */
export function prepare(footage: Footage): Prepared {
  const { traces, hz } = footage;
  const count = traces.faces.length;
  const raw = (of: (index: number) => number) => Float32Array.from({ length: count }, (_, index) => clamp(of(index)));
  const seen = structureOf(footage);
  const whip = new Uint8Array(count);
  for (const run of footage.runs)
    if (run.kind === 'whip') whip.fill(1, Math.floor(run.start * hz), Math.ceil(run.end * hz));
  const soft = (values: Float32Array, seconds: number) => gaussianSmooth(values, seconds * hz);
  const values: Record<Ingredient, Float32Array> = {
    people: soft(
      raw((i) =>
        traces.faces[i]! > 0.5
          ? 0.2 +
            0.1 * Math.min(3, traces.faces[i]! - 1) +
            0.25 * clamp(traces.faceArea[i]! / 0.05) +
            0.45 * traces.smile[i]! ** 2 * clamp(traces.faceArea[i]! / 0.004)
          : 0,
      ),
      0.3,
    ),
    talk: soft(traces.speech, 0.4),
    action: soft(
      raw(
        (i) =>
          traces.motion[i]! * (1 - 0.8 * clamp((traces.shake[i]! - 0.25) * 3)) * (1 - 0.5 * clamp(traces.moves[i]!)),
      ),
      0.3,
    ),
    camera: soft(
      raw((i) => (whip[i] ? 0.8 : traces.moves[i]! * (1 - clamp(traces.shake[i]! * 2.2)))),
      0.3,
    ),
    sound: soft(traces.bursts, 0.3),
    picture: soft(
      raw(
        (i) => clamp((traces.sharpness[i]! - 0.3) / 0.35) * traces.exposure[i]! * (0.6 + 0.4 * clamp(seen[i]! / 0.08)),
      ),
      0.2,
    ),
  };
  const sums = Object.fromEntries(ingredientNames.map((name) => [name, prefixSums(values[name])])) as Prepared['sums'];
  const squares = Object.fromEntries(
    ingredientNames.map((name) => [name, prefixSums(values[name].map((value) => value * value))]),
  ) as Prepared['squares'];
  return { footage, samples: count, values, sums, squares };
}

/** Share of each weight in the whole; all equal when every weight is 0. */
export function weightShares(mix: Mix): Ingredients {
  const total = ingredientNames.reduce((sum, name) => sum + Math.max(0, mix[name]), 0);
  return Object.fromEntries(
    ingredientNames.map((name) => [name, total > 0 ? Math.max(0, mix[name]) / total : 1 / ingredientNames.length]),
  ) as Ingredients;
}

/**
 * Score of every sample, 0 to 100: the weighted quadratic mean of the ingredients. No moment is full of everything;
 * a quadratic mean lets one strong ingredient count for more than several weak ones.
 */
export function scoreCurve(prepared: Prepared, mix: Mix): Float32Array {
  const weights = weightShares(mix);
  const out = new Float32Array(prepared.samples);
  for (const name of ingredientNames) {
    const weight = weights[name];
    const values = prepared.values[name];
    if (weight > 0)
      for (let index = 0; index < out.length; index++) out[index]! += weight * values[index]! * values[index]!;
  }
  for (let index = 0; index < out.length; index++) out[index] = 100 * Math.sqrt(out[index]!);
  return out;
}

function meanOf(
  sums: Record<Ingredient, Float64Array>,
  { footage, samples }: Prepared,
  start: number,
  end: number,
): Ingredients {
  const from = Math.min(samples - 1, Math.max(0, Math.round(start * footage.hz)));
  const to = Math.min(samples, Math.max(from + 1, Math.round(end * footage.hz)));
  return Object.fromEntries(
    ingredientNames.map((name) => [name, (sums[name][to]! - sums[name][from]!) / (to - from)]),
  ) as Ingredients;
}

/** Mean of each ingredient, 0 to 1, over a stretch given in seconds. */
export const meanIngredients = (prepared: Prepared, start: number, end: number): Ingredients =>
  meanOf(prepared.sums, prepared, start, end);

/** Means of the squared ingredients, of which a score is made. */
export const meanSquares = (prepared: Prepared, start: number, end: number): Ingredients =>
  meanOf(prepared.squares, prepared, start, end);

/** A stretch's score opened into the points of each ingredient, which add up to it: by weight and mean square. */
export function explainScore(prepared: Prepared, mix: Mix, start: number, end: number, score: number): Ingredients {
  const weights = weightShares(mix);
  const means = meanOf(prepared.squares, prepared, start, end);
  const total = ingredientNames.reduce((sum, name) => sum + weights[name] * means[name], 0);
  return Object.fromEntries(
    ingredientNames.map((name) => [name, total > 0 ? (score * weights[name] * means[name]) / total : 0]),
  ) as Ingredients;
}
