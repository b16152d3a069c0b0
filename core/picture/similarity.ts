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
 * @returns the model and the share of vectors within one pixel (a little more in fast motion) of it
 */
export function fitSimilarity(vectors: readonly Vector[], cx: number, cy: number): { model: Similarity; inliers: number } {
  let draw = 12345;
  const pick = () => {
    draw = (Math.imul(draw, 1103515245) + 12345) & 0x7fffffff;
    return vectors[(draw >>> 8) % vectors.length]!;
  };
  const tolerance = (model: Similarity) => 1 + 0.03 * Math.hypot(model.tx, model.ty);
  const score = (model: Similarity) => {
    const limit = tolerance(model);
    let sum = 0;
    for (const vector of vectors) sum += Math.max(0, 1 - (distance(vector, model, cx, cy) / limit) ** 2);
    return sum;
  };
  let best: Similarity = { a: 0, b: 0, tx: 0, ty: 0 };
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
  for (let round = 0; round < 4; round++) best = refine(vectors, best, tolerance(best) * 2, cx, cy) ?? best;
  const limit = tolerance(best);
  return { model: best, inliers: vectors.filter((vector) => distance(vector, best, cx, cy) <= limit).length / vectors.length };
}

function distance(vector: Vector, model: Similarity, cx: number, cy: number): number {
  const x = vector.x - cx;
  const y = vector.y - cy;
  return Math.hypot(vector.vx - model.tx - model.a * x + model.b * y, vector.vy - model.ty - model.b * x - model.a * y);
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
function refine(vectors: readonly Vector[], model: Similarity, reach: number, cx: number, cy: number): Similarity | null {
  let w = 0, sx = 0, sy = 0, su = 0, sv = 0, count = 0;
  const weights = vectors.map((vector) => {
    const share = distance(vector, model, cx, cy) / reach;
    const weight = share < 1 ? (1 - share * share) ** 2 : 0;
    if (weight > 0) count++;
    w += weight;
    sx += weight * (vector.x - cx);
    sy += weight * (vector.y - cy);
    su += weight * vector.vx;
    sv += weight * vector.vy;
    return weight;
  });
  if (count < 4) return null;
  const mx = sx / w, my = sy / w, mu = su / w, mv = sv / w;
  let square = 0, along = 0, across = 0;
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
