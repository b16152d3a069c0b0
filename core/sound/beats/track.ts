/** How much an even step counts against an onset; after Ellis (2007), for onset strength of RMS 1. */
const tightness = 800;

/**
 * Beats by dynamic programming (Ellis 2007, "Beat tracking by dynamic programming", equations 5 to 7): the series of
 * times that lies on strong onsets while every step is close to the beat's period at that time.
 * @param onset evened onset strength, `onsetHz` a second
 * @param periodAt length of a beat at a sample, in samples
 * @returns times in samples of the onset strength, ascending
 */
export function trackBeats(onset: Float32Array, periodAt: (sample: number) => number): number[] {
  const count = onset.length;
  const score = new Float64Array(count);
  const back = new Int32Array(count).fill(-1);
  const costs = new Map<number, Float64Array>();
  // The cost of each step against a period, made once a period.
  const costsFor = (period: number) => {
    const key = Math.round(period * 4);
    let made = costs.get(key);
    if (!made) {
      const longest = Math.round(period * 2);
      made = Float64Array.from({ length: longest + 1 }, (_, step) =>
        step === 0 ? -Infinity : -tightness * Math.log(step / period) ** 2,
      );
      costs.set(key, made);
    }
    return made;
  };
  for (let at = 0; at < count; at++) {
    const period = periodAt(at);
    const cost = costsFor(period);
    // A step of less than two thirds or more than one and a half of a period never pays.
    const nearest = Math.max(1, Math.round(period * 0.66)),
      farthest = Math.min(at, Math.round(period * 1.5));
    let best = 0,
      via = -1;
    for (let step = nearest; step <= farthest; step++) {
      const value = score[at - step]! + cost[step]!;
      if (value <= best) continue;
      best = value;
      via = at - step;
    }
    score[at] = onset[at]! + best;
    back[at] = via;
  }
  // The best end lies within the last period.
  let end = count - 1;
  for (let at = Math.max(0, count - Math.ceil(periodAt(count - 1) * 1.2)); at < count; at++)
    if (score[at]! > score[end]!) end = at;
  const beats: number[] = [];
  for (let at = end; at >= 0; at = back[at]!) beats.unshift(at);
  return beats;
}

/**
 * Beats without the jitter of single onsets: each is drawn onto a parabola through its neighbours (local quadratic
 * regression with tricube weights; Cleveland 1979), which follows a drift but not a swung or early stroke.
 * @param beats in seconds
 */
export function smoothedBeats(beats: readonly number[], weights: readonly number[], half = 6): number[] {
  return beats.map((beat, index) => {
    // Moments of the weights, up to the fourth, and of the times.
    const s = [0, 0, 0, 0, 0],
      t = [0, 0, 0];
    for (let other = Math.max(0, index - half); other <= Math.min(beats.length - 1, index + half); other++) {
      const x = (other - index) / half;
      const weight = (1 - (Math.abs(other - index) / (half + 1)) ** 3) ** 3 * (0.05 + weights[other]!);
      const y = beats[other]! - beat;
      let power = weight;
      for (let order = 0; order < 5; order++) {
        s[order]! += power;
        if (order < 3) t[order]! += power * y;
        power *= x;
      }
    }
    // The constant term of the parabola, by Cramer's rule.
    const [a, b, c, d, e] = s as [number, number, number, number, number];
    const determinant = a * (c * e - d * d) - b * (b * e - c * d) + c * (b * d - c * c);
    if (Math.abs(determinant) < 1e-12) return beat;
    return beat + (t[0]! * (c * e - d * d) - b * (t[1]! * e - d * t[2]!) + c * (t[1]! * d - c * t[2]!)) / determinant;
  });
}

/** Largest onset strength within so many samples of a time. */
export function onsetNear(onset: Float32Array, at: number, reach: number): number {
  let best = 0;
  for (
    let index = Math.max(0, Math.round(at) - reach);
    index <= Math.min(onset.length - 1, Math.round(at) + reach);
    index++
  )
    if (onset[index]! > best) best = onset[index]!;
  return best;
}
