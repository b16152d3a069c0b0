/** What a path costs: for moving at all, for changing its speed, for changing its acceleration. */
export interface PathWeights {
  velocity: number;
  acceleration: number;
  jerk: number;
}

/** Grundmann, Kwatra, Essa 2011, "Auto-directed video stabilization with robust L1 optimal camera paths", section 3.1: 10, 1, 100. */
const pathWeights: PathWeights = { velocity: 10, acceleration: 1, jerk: 100 };

/** Differences of the first, second and third order. */
const stencils = [
  [-1, 1],
  [1, -2, 1],
  [-1, 3, -3, 1],
] as const;
const rounds = 4000;
/** Over-relaxation, Boyd and others 2011, section 3.4.3. */
const relaxation = 1.7;
/** How hard the zones pull, against the terms of the path. */
const zonePull = 12;

/**
 * The calmest path through zones: of all paths with `low ≤ x ≤ high` the one whose first, second and third differences
 * have the smallest weighted sum of absolute values. Such a path consists of stretches that stand still, move evenly
 * and speed up evenly (Grundmann, Kwatra, Essa 2011). The linear program is solved by the alternating direction method
 * of multipliers (Boyd and others 2011, "Distributed optimization and statistical learning via ADMM"), with one banded
 * Cholesky factor for all rounds.
 * @param low one bound a sample; -Infinity where anything goes
 * @param high not below `low`; the same value for a point that the path must run through
 * @returns one value a sample, inside the zones
 */
export function calmPath(
  low: ArrayLike<number>,
  high: ArrayLike<number>,
  weights: PathWeights = pathWeights,
): Float64Array {
  const n = low.length;
  const middle = (index: number) =>
    Number.isFinite(low[index]!) && Number.isFinite(high[index]!)
      ? (low[index]! + high[index]!) / 2
      : Number.isFinite(low[index]!)
        ? low[index]!
        : Number.isFinite(high[index]!)
          ? high[index]!
          : 0;
  const still = stillValue(low, high);
  if (n === 0 || still !== null) return new Float64Array(n).fill(still ?? 0);
  const own = [weights.velocity, weights.acceleration, weights.jerk];
  const pull = own.map((weight) => Math.max(weight, 1e-3));
  const factor = bandedFactor(n, pull);
  const x = Float64Array.from({ length: n }, (_, index) => middle(index));
  const zone = x.slice();
  const zoneOff = new Float64Array(n);
  const parts = stencils.map((stencil) => new Float64Array(Math.max(0, n - stencil.length + 1)));
  const offs = parts.map((part) => new Float64Array(part.length));
  for (const [order, part] of parts.entries()) difference(x, stencils[order]!, part);
  const right = new Float64Array(n);
  /** All thresholds are the same since pulls follow the weights: a hundredth of a picture's width a sample squared away. */
  const scale = 160;
  const threshold = 1 / scale;
  const now = parts.map((part) => new Float64Array(part.length));
  for (let round = 0; round < rounds; round++) {
    for (let index = 0; index < n; index++) right[index] = zonePull * (zone[index]! - zoneOff[index]!);
    for (const [order, part] of parts.entries()) {
      const off = offs[order]!;
      const stencil = stencils[order]!;
      for (let index = 0; index < part.length; index++) {
        const wanted = pull[order]! * (part[index]! - off[index]!);
        for (let tap = 0; tap < stencil.length; tap++) right[index + tap]! += stencil[tap]! * wanted;
      }
    }
    solveBanded(factor, right, x);
    let moved = 0;
    for (const [order, part] of parts.entries()) {
      const off = offs[order]!;
      difference(x, stencils[order]!, now[order]!);
      const cut = own[order]! > 0 ? threshold * (own[order]! / pull[order]!) : 0;
      for (let index = 0; index < part.length; index++) {
        const eased = relaxation * now[order]![index]! + (1 - relaxation) * part[index]!;
        const value = eased + off[index]!;
        const next = value > cut ? value - cut : value < -cut ? value + cut : 0;
        off[index]! += eased - next;
        moved = Math.max(moved, Math.abs(next - part[index]!), Math.abs(now[order]![index]! - next));
        part[index] = next;
      }
    }
    for (let index = 0; index < n; index++) {
      const eased = relaxation * x[index]! + (1 - relaxation) * zone[index]!;
      const value = eased + zoneOff[index]!;
      const next = Math.min(high[index]!, Math.max(low[index]!, value));
      zoneOff[index]! += eased - next;
      moved = Math.max(moved, Math.abs(next - zone[index]!), Math.abs(x[index]! - next));
      zone[index] = next;
    }
    if (moved < 1e-5) break;
  }
  return x.map((value, index) => Math.min(high[index]!, Math.max(low[index]!, value)));
}

/** A value that lies in every zone, the nearest to the middle of the narrowest room; null when there is none. */
function stillValue(low: ArrayLike<number>, high: ArrayLike<number>): number | null {
  let [from, to] = [-Infinity, Infinity];
  for (let index = 0; index < low.length; index++) {
    from = Math.max(from, low[index]!);
    to = Math.min(to, high[index]!);
  }
  if (from > to) return null;
  return Number.isFinite(from) && Number.isFinite(to)
    ? (from + to) / 2
    : Number.isFinite(from)
      ? from
      : Number.isFinite(to)
        ? to
        : 0;
}

function difference(x: Float64Array, stencil: readonly number[], out: Float64Array): void {
  for (let index = 0; index < out.length; index++) {
    let sum = 0;
    for (let tap = 0; tap < stencil.length; tap++) sum += stencil[tap]! * x[index + tap]!;
    out[index] = sum;
  }
}

const band = 3;

/** Cholesky factor L of (zonePull · 1 + Σ pull · DᵀD), four diagonals: entry `row * 4 + k` is L[row][row - k]. */
function bandedFactor(n: number, pull: readonly number[]): Float64Array {
  const matrix = new Float64Array(n * (band + 1));
  for (let row = 0; row < n; row++) matrix[row * (band + 1)] = zonePull;
  for (const [order, stencil] of stencils.entries())
    for (let index = 0; index + stencil.length <= n; index++)
      for (let a = 0; a < stencil.length; a++)
        for (let b = 0; b <= a; b++)
          matrix[(index + a) * (band + 1) + (a - b)]! += pull[order]! * stencil[a]! * stencil[b]!;
  for (let row = 0; row < n; row++)
    for (let k = Math.min(band, row); k >= 0; k--) {
      const column = row - k;
      let sum = matrix[row * (band + 1) + k]!;
      for (let m = 1; m + k <= band && m <= column; m++)
        sum -= matrix[row * (band + 1) + k + m]! * matrix[column * (band + 1) + m]!;
      matrix[row * (band + 1) + k] = k === 0 ? Math.sqrt(sum) : sum / matrix[column * (band + 1)]!;
    }
  return matrix;
}

function solveBanded(factor: Float64Array, right: Float64Array, x: Float64Array): void {
  const n = right.length;
  for (let row = 0; row < n; row++) {
    let sum = right[row]!;
    for (let k = 1; k <= band && k <= row; k++) sum -= factor[row * (band + 1) + k]! * x[row - k]!;
    x[row] = sum / factor[row * (band + 1)]!;
  }
  for (let row = n - 1; row >= 0; row--) {
    let sum = x[row]!;
    for (let k = 1; k <= band && row + k < n; k++) sum -= factor[(row + k) * (band + 1) + k]! * x[row + k]!;
    x[row] = sum / factor[row * (band + 1)]!;
  }
}

/** The weighted sum of absolute differences of a path: what `calmPath` makes small. */
export function pathCost(x: ArrayLike<number>, weights: PathWeights = pathWeights): number {
  const own = [weights.velocity, weights.acceleration, weights.jerk];
  return stencils.reduce((sum, stencil, order) => {
    let part = 0;
    for (let index = 0; index + stencil.length <= x.length; index++)
      part += Math.abs(stencil.reduce((total, tap, at) => total + tap * x[index + at]!, 0));
    return sum + own[order]! * part;
  }, 0);
}
