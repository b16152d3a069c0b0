/** x' = x + tx + a·x − b·y, y' = y + ty + b·x + a·y around the picture's middle, in pixels. */
export interface Similarity {
  a: number;
  b: number;
  tx: number;
  ty: number;
}

interface Vector {
  x: number;
  y: number;
  vx: number;
  vy: number;
}

/**
 * The similarity that most vectors agree on: RANSAC over pairs (Fischler & Bolles 1981), then least squares with
 * Tukey weights. The draws come from a fixed sequence, so the same vectors give the same answer.
 * @param before what the camera did last; where only a part of the picture tells anything, it is thought to go on so unless
 *   much more of it agrees on something else, such as what crosses close to the lens
 * @returns the model and the share of the vectors (by zones of the picture) within one pixel (a little more in fast motion) of it
 */
export function fitSimilarity(
  vectors: readonly Vector[],
  cx: number,
  cy: number,
  before: Similarity | null = null,
): { model: Similarity; inliers: number } {
  const shares = zoneShares(vectors, cx, cy);
  // A thing that moves little more than a pixel and a still background can both be met half way by a slight zoom; only
  // a narrow tolerance tells them apart. Blurred pictures need the wide one.
  const narrow = mostAgreed(vectors, shares, 0.4, cx, cy);
  const stands = standsStill(vectors, shares, cx, cy);
  let best = stands
    ? rest
    : agreement(vectors, shares, narrow, 0.4, cx, cy) >= 0.5
      ? narrow
      : mostAgreed(vectors, shares, 1, cx, cy);
  if (before && !stands) {
    const most = agreement(vectors, shares, best, 1, cx, cy);
    if (most < plainMajority && goesOnBonus * agreement(vectors, shares, before, 1, cx, cy) >= most) best = before;
  }
  for (let round = 0; round < 5; round++) {
    // How well the vectors that fit do fit tells how far away one may lie and still count.
    const limit = stands ? 0.5 : tolerance(best, 1);
    const near = vectors
      .map((vector) => distance(vector, best, cx, cy))
      .filter((away) => away <= limit)
      .sort((a, b) => a - b);
    const spread = 1.4826 * (near[near.length >> 1] ?? limit);
    best = refine(vectors, shares, best, Math.min(stands ? 0.5 : 2 * limit, Math.max(0.5, 4 * spread)), cx, cy) ?? best;
  }
  return { model: best, inliers: agreement(vectors, shares, best, 1, cx, cy) };
}

/** What so much of the picture agrees on is the camera, whatever it did before; below it, what it did before counts more. */
const plainMajority = 0.6;
const goesOnBonus = 1.6;

const rest: Similarity = { a: 0, b: 0, tx: 0, ty: 0 };

/**
 * Whether the camera stands even though something large moves: when it moves, hardly a block anywhere stays where it
 * was to a third of a pixel; so a third of the picture that does, in zones all over it, is the ground. (A slow pan is
 * that slow, too, but then all blocks agree, and the refinement that follows finds it.)
 */
function standsStill(vectors: readonly Vector[], shares: Float64Array, cx: number, cy: number): boolean {
  const zones = new Set<number>();
  let share = 0;
  for (const [index, vector] of vectors.entries()) {
    if (Math.hypot(vector.vx, vector.vy) > 0.33) continue;
    share += shares[index]!;
    zones.add(zoneOf(vector, cx, cy));
  }
  return share >= 0.3 && zones.size >= 4;
}

/** Pixels within which a vector agrees with a model; a little more in fast motion. */
const tolerance = (model: Similarity, pixels: number) => pixels + 0.03 * Math.hypot(model.tx, model.ty);

const agreement = (
  vectors: readonly Vector[],
  shares: Float64Array,
  model: Similarity,
  pixels: number,
  cx: number,
  cy: number,
): number => {
  const limit = tolerance(model, pixels);
  return vectors.reduce(
    (sum, vector, index) => sum + (distance(vector, model, cx, cy) <= limit ? shares[index]! : 0),
    0,
  );
};

/** RANSAC with a soft count (MSAC, Torr & Zisserman 2000). */
function mostAgreed(
  vectors: readonly Vector[],
  shares: Float64Array,
  pixels: number,
  cx: number,
  cy: number,
): Similarity {
  let draw = 12345;
  const pick = () => {
    draw = (Math.imul(draw, 1103515245) + 12345) & 0x7fffffff;
    return vectors[(draw >>> 8) % vectors.length]!;
  };
  const score = (model: Similarity) => {
    const square = tolerance(model, pixels) ** 2;
    let sum = 0;
    for (let index = 0; index < vectors.length; index++) {
      const { x, y, vx, vy } = vectors[index]!;
      const dx = vx - model.tx - model.a * (x - cx) + model.b * (y - cy);
      const dy = vy - model.ty - model.b * (x - cx) - model.a * (y - cy);
      const away = dx * dx + dy * dy;
      if (away < square) sum += shares[index]! * (1 - away / square);
    }
    return sum;
  };
  let best = rest;
  let bestScore = score(best);
  for (let round = 0; round < 70; round++) {
    const model = throughPair(pick(), pick(), cx, cy);
    if (!model || Math.abs(model.a) > 0.25 || Math.abs(model.b) > 0.25) continue;
    const value = score(model);
    if (value > bestScore) {
      bestScore = value;
      best = model;
    }
  }
  return best;
}

const zonesAcross = 4;
const zonesDown = 3;

const zoneOf = ({ x, y }: Vector, cx: number, cy: number): number =>
  Math.min(zonesDown - 1, Math.floor((y / (2 * cy)) * zonesDown)) * zonesAcross +
  Math.min(zonesAcross - 1, Math.floor((x / (2 * cx)) * zonesAcross));

/**
 * How much each vector counts; all together 1. Zones of the picture count alike however many vectors they hold: a thing
 * full of detail before a plain background has most of the vectors, but not most of the picture.
 */
function zoneShares(vectors: readonly Vector[], cx: number, cy: number): Float64Array {
  const counts = new Float64Array(zonesAcross * zonesDown);
  for (const vector of vectors) counts[zoneOf(vector, cx, cy)]!++;
  // A zone with few vectors is worth less: one stray one must not speak for a twelfth of the picture.
  const worth = counts.map((count) => (count ? Math.min(1, count / 4) : 0));
  const total = worth.reduce((sum, value) => sum + value, 0);
  return Float64Array.from(
    vectors,
    (vector) => worth[zoneOf(vector, cx, cy)]! / counts[zoneOf(vector, cx, cy)]! / total,
  );
}

function distance(vector: Vector, model: Similarity, cx: number, cy: number): number {
  const x = vector.x - cx;
  const y = vector.y - cy;
  const dx = vector.vx - model.tx - model.a * x + model.b * y;
  const dy = vector.vy - model.ty - model.b * x - model.a * y;
  // Math.hypot guards against overflow, which vectors of pixels do not need, and takes six times as long.
  return Math.sqrt(dx * dx + dy * dy);
}

function throughPair(p: Vector, q: Vector, cx: number, cy: number): Similarity | null {
  const dx = q.x - p.x;
  const dy = q.y - p.y;
  const square = dx * dx + dy * dy;
  if (square < 1600) return null;
  const ux = q.vx - p.vx;
  const uy = q.vy - p.vy;
  const a = (ux * dx + uy * dy) / square;
  const b = (uy * dx - ux * dy) / square;
  return { a, b, tx: p.vx - a * (p.x - cx) + b * (p.y - cy), ty: p.vy - b * (p.x - cx) - a * (p.y - cy) };
}

/** One step of weighted least squares; null when too few vectors carry weight. */
function refine(
  vectors: readonly Vector[],
  shares: Float64Array,
  model: Similarity,
  reach: number,
  cx: number,
  cy: number,
): Similarity | null {
  let w = 0,
    sx = 0,
    sy = 0,
    su = 0,
    sv = 0,
    count = 0;
  const weights = vectors.map((vector, index) => {
    const share = distance(vector, model, cx, cy) / reach;
    const weight = share < 1 ? shares[index]! * (1 - share * share) ** 2 : 0;
    if (weight > 0) count++;
    w += weight;
    sx += weight * (vector.x - cx);
    sy += weight * (vector.y - cy);
    su += weight * vector.vx;
    sv += weight * vector.vy;
    return weight;
  });
  if (count < 4) return null;
  const mx = sx / w,
    my = sy / w,
    mu = su / w,
    mv = sv / w;
  let square = 0,
    along = 0,
    across = 0;
  for (const [index, vector] of vectors.entries()) {
    const x = vector.x - cx - mx;
    const y = vector.y - cy - my;
    const u = vector.vx - mu;
    const v = vector.vy - mv;
    square += weights[index]! * (x * x + y * y);
    along += weights[index]! * (u * x + v * y);
    across += weights[index]! * (v * x - u * y);
  }
  if (square === 0) return null;
  const a = along / square;
  const b = across / square;
  return { a, b, tx: mu - a * mx + b * my, ty: mv - b * mx - a * my };
}
