import { percentile, runsAbove } from '#core/signal';
import type { Range } from '#core/time';

/** A dissolve, or a fade from or to black, in seconds. */
export interface FoundTransition extends Range {
  kind: 'dissolve' | 'fade';
}

/** Rough looks of a film: `cells` mean lumas per sample, 0 to 1, `hz` samples a second. */
export interface Looks {
  hz: number;
  cells: number;
  values: Float32Array;
}

const shortest = 0.25;
const longest = 4;

/**
 * Dissolves and fades, from rough looks alone. During a dissolve every cell runs in a straight line from its value in
 * the old shot to its value in the new one (the mixing model of Hampapur, Jain & Weymouth 1994), so a stretch of
 * steady change counts when its looks lie near that line, when both ends differ in pattern and not just in
 * brightness, and when nothing like it goes on before or after. A fade has black (or white) at one end.
 * @param travel how far the camera moved per sample, in picture widths; a pan changes looks too
 * @param sensitivity 0 (only the plainest) to 1
 */
export function findTransitions(looks: Looks, travel: ArrayLike<number>, sensitivity = 0.5): FoundTransition[] {
  const { hz, cells, values } = looks;
  const count = Math.floor(values.length / cells);
  const step = new Float32Array(count);
  for (let index = 1; index < count; index++) step[index] = distance(values, cells, index - 1, index);
  // Slow dissolves show over four samples, where they stand out of the noise.
  const going = Float32Array.from({ length: count }, (_, index) =>
    distance(values, cells, Math.max(0, index - 2), Math.min(count - 1, index + 2)),
  );
  const least = 0.09 - 0.07 * sensitivity;
  const found: FoundTransition[] = [];
  for (const run of runsAbove(going, hz, { enter: 0.008, stay: 0.006, minSeconds: 0.15, bridgeSeconds: 0.15 })) {
    const from = Math.max(0, Math.round(run.start * hz) - 1);
    const to = Math.min(count - 1, Math.round(run.end * hz) - 1);
    const best = bestWindow(looks, step, from, to);
    if (!best) continue;
    const { a, b, straight } = best;
    const seconds = (b - a) / hz;
    const apart = distance(values, cells, a, b);
    if (seconds < shortest || seconds > longest || apart < least || straight > 0.22 + 0.16 * sensitivity) continue;
    let way = 0;
    for (let index = a; index <= b; index++) way += Math.abs(travel[index] ?? 0);
    const dark = fadeEnd(values, cells, a, b);
    if (way > 0.12 && !dark) continue;
    if (!dark && sameButForLight(values, cells, a, b)) continue;
    found.push({ start: a / hz, end: b / hz, kind: dark ? 'fade' : 'dissolve' });
  }
  return found;
}

/** The part of a run of change that is straightest for its length, calm just before and just after. */
function bestWindow(
  { hz, cells, values }: Looks,
  step: Float32Array,
  from: number,
  to: number,
): { a: number; b: number; straight: number } | null {
  let best: { a: number; b: number; straight: number; worth: number } | null = null;
  const most = Math.round(longest * hz);
  for (let a = from; a < to; a++) {
    let biggest = 0;
    for (let b = a + 1; b <= Math.min(to, a + most); b++) {
      biggest = Math.max(biggest, step[b]!);
      if (b < a + 3) continue;
      const apart = distance(values, cells, a, b);
      const even = apart / (b - a);
      if (
        apart < 0.015 ||
        biggest > Math.max(0.75 * apart, 2.2 * even) ||
        (step[a] ?? 0) > 0.7 * even ||
        (step[b + 1] ?? 0) > 0.7 * even
      )
        continue;
      const straight = bend(values, cells, a, b);
      const worth = apart * (1 - 2 * straight);
      if (!best || worth > best.worth + 1e-6) best = { a, b, straight, worth };
    }
  }
  return best;
}

function distance(values: Float32Array, cells: number, a: number, b: number): number {
  let sum = 0;
  for (let cell = 0; cell < cells; cell++) sum += Math.abs(values[a * cells + cell]! - values[b * cells + cell]!);
  return sum / cells;
}

/** Largest distance of the looks between a and b from the straight line through both, as a share of the line's length. */
function bend(values: Float32Array, cells: number, a: number, b: number): number {
  let length = 0;
  for (let cell = 0; cell < cells; cell++) length += (values[b * cells + cell]! - values[a * cells + cell]!) ** 2;
  if (length < 1e-9) return 1;
  let worst = 0;
  for (let index = a + 1; index < b; index++) {
    let along = 0;
    for (let cell = 0; cell < cells; cell++)
      along +=
        (values[index * cells + cell]! - values[a * cells + cell]!) *
        (values[b * cells + cell]! - values[a * cells + cell]!);
    const share = Math.min(1, Math.max(0, along / length));
    let off = 0;
    for (let cell = 0; cell < cells; cell++)
      off +=
        (values[index * cells + cell]! -
          values[a * cells + cell]! -
          share * (values[b * cells + cell]! - values[a * cells + cell]!)) **
        2;
    worst = Math.max(worst, Math.sqrt(off / length));
  }
  return worst;
}

const mean = (values: Float32Array, cells: number, at: number) =>
  values.subarray(at * cells, (at + 1) * cells).reduce((sum, value) => sum + value, 0) / cells;

function spread(values: Float32Array, cells: number, at: number): number {
  const middle = mean(values, cells, at);
  return Math.sqrt(
    values.subarray(at * cells, (at + 1) * cells).reduce((sum, value) => sum + (value - middle) ** 2, 0) / cells,
  );
}

/** Whether one end is plain black or white. */
const fadeEnd = (values: Float32Array, cells: number, a: number, b: number): boolean =>
  [a, b].some(
    (at) => spread(values, cells, at) < 0.012 && (mean(values, cells, at) < 0.06 || mean(values, cells, at) > 0.94),
  );

/** Whether both ends show the same pattern, brighter or darker: a change of light, not of shot. */
function sameButForLight(values: Float32Array, cells: number, a: number, b: number): boolean {
  const ma = mean(values, cells, a),
    mb = mean(values, cells, b);
  let together = 0,
    aa = 0,
    bb = 0;
  for (let cell = 0; cell < cells; cell++) {
    const u = values[a * cells + cell]! - ma;
    const v = values[b * cells + cell]! - mb;
    together += u * v;
    aa += u * u;
    bb += v * v;
  }
  return aa > 0 && bb > 0 && together / Math.sqrt(aa * bb) > 0.93;
}

/**
 * Flashes: up to 0.25 s in which the whole picture is brighter than before and after.
 * @param mean mean luma per frame, 0 to 1
 */
export function findFlashes(mean: ArrayLike<number>, hz: number): Range[] {
  const reach = Math.round(hz * 0.4);
  const over = Float32Array.from({ length: mean.length }, (_, index) => {
    const from = Math.max(0, index - reach);
    const to = Math.min(mean.length, index + reach + 1);
    let darkest = Infinity;
    for (let at = from; at < to; at++) darkest = Math.min(darkest, mean[at]!);
    // Nothing around is much darker, so the median cannot be.
    if (mean[index]! - darkest < 0.04) return 0;
    return (
      mean[index]! -
      percentile(
        Array.from({ length: to - from }, (__, at) => mean[from + at]!),
        0.5,
      )
    );
  });
  return runsAbove(over, hz, { enter: 0.1, stay: 0.04 }).filter((run) => run.end - run.start <= 0.27);
}
