import { onsetHz, toneHz, type Novelty } from './novelty';
import { onsetNear } from './track';

/** Which of the half beats are beats, and which beats begin a bar. */
export interface Meter {
  /** Beats of a usual bar. */
  bar: number;
  /** Indices of the half beats that are beats. */
  beats: number[];
  /** Those of them with which a bar begins. */
  starts: number[];
}

/**
 * How much the harmony changes at a time: 1 − cosine of the pitch classes before and after it, 0 to 1.
 * @param width seconds on each side
 */
function harmonyChange({ chroma }: Pick<Novelty, 'chroma'>, times: readonly number[], width: number): number[] {
  const frames = chroma.length / 12;
  // Sums from the start; the root, so that one loud note is not everything.
  const sums = new Float64Array((frames + 1) * 12);
  for (let frame = 0; frame < frames; frame++)
    for (let tone = 0; tone < 12; tone++)
      sums[(frame + 1) * 12 + tone] = sums[frame * 12 + tone]! + Math.sqrt(chroma[frame * 12 + tone]!);
  const until = (seconds: number, tone: number) => {
    const at = Math.min(frames, Math.max(0, seconds * toneHz));
    const low = Math.max(0, Math.min(frames - 1, Math.floor(at)));
    return sums[low * 12 + tone]! + (sums[(low + 1) * 12 + tone]! - sums[low * 12 + tone]!) * (at - low);
  };
  return times.map((time) => {
    let product = 0,
      before = 0,
      after = 0;
    for (let tone = 0; tone < 12; tone++) {
      const now = until(time, tone);
      const a = now - until(time - width, tone),
        b = until(time + width, tone) - now;
      product += a * b;
      before += a * a;
      after += b * b;
    }
    return before * after < 1e-12 ? 0 : 1 - product / Math.sqrt(before * after);
  });
}

/** Values with mean 0 and a spread of 1; none may outweigh many. */
function standardised(values: readonly number[]): number[] {
  const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
  const spread = Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
  return values.map((value) => (spread < 1e-9 ? 0 : Math.min(3, (value - mean) / spread)));
}

/** What it costs when the count slips, in standard deviations of the evidence: some bars have to speak for it. Where the step itself is uneven, a quarter. */
const slipCost = 30;

/**
 * Bars from half beats: chords change, and the bass drum falls, at their beginnings (after Goto 2001, "An audio-based
 * real-time beat tracking system for music with or without drum sounds"). The count that has the strongest evidence
 * over the whole music is found by dynamic programming; it may slip where the tempo jumps or a bar is cut short.
 * @param pulses half beats, in samples of the onset strength
 * @param low evened onset strength of the bass
 */
export function findMeter(novelty: Novelty, pulses: readonly number[], low: Float32Array, onset: Float32Array): Meter {
  const seconds = pulses.map((at) => at / onsetHz);
  const beat = pulses.length > 2 ? ((seconds.at(-1)! - seconds[0]!) / (pulses.length - 1)) * 2 : 0.5;
  const harmony = standardised(harmonyChange(novelty, seconds, beat));
  const wide = standardised(harmonyChange(novelty, seconds, 2 * beat));
  const bass = standardised(pulses.map((at) => onsetNear(low, at, 4)));
  const all = standardised(pulses.map((at) => onsetNear(onset, at, 4)));
  const begins = pulses.map((_, index) => harmony[index]! + 0.5 * wide[index]! + 0.6 * bass[index]!);
  // The bass falls on beats; other strokes may be as loud between them.
  const onBeat = pulses.map((_, index) => 0.3 * bass[index]! + 0.03 * all[index]!);
  const steps = pulses.map((at, index) => at - (pulses[index - 1] ?? at - (beat * onsetHz) / 2));
  const slips = steps.map((step, index) => {
    const around = steps.slice(Math.max(0, index - 8), index + 9).sort((a, b) => a - b);
    return Math.abs(Math.log(step / around[around.length >> 1]!)) > 0.08 ? slipCost / 4 : slipCost;
  });
  const counts = [4, 3]
    .filter((bar) => pulses.length >= bar * 4)
    .map((bar) => ({ bar, ...count(begins, onBeat, slips, bar * 2) }));
  // A bar of three is rarer.
  const best = counts.sort((a, b) => b.clearness - (b.bar === 3 ? 1 : 0) - a.clearness + (a.bar === 3 ? 1 : 0))[0];
  if (!best) return { bar: 4, beats: pulses.flatMap((_, index) => (index % 2 === 0 ? [index] : [])), starts: [0] };
  const { bar, places } = best;
  const beats: number[] = [];
  for (const [index, place] of places.entries())
    if (place % 2 === 0 && index - (beats.at(-1) ?? -2) > 1) beats.push(index);
  return { bar, beats, starts: beats.filter((index) => places[index] === 0) };
}

/** Place of each half beat in its bar, and how clear that is: the mean evidence at the beginnings in standard errors. */
function count(
  begins: readonly number[],
  onBeat: readonly number[],
  slipCosts: readonly number[],
  cycle: number,
): { places: number[]; clearness: number } {
  let scores = new Float64Array(cycle);
  const from: Int8Array[] = [];
  for (let index = 0; index < begins.length; index++) {
    const next = new Float64Array(cycle);
    const back = new Int8Array(cycle);
    let best = 0;
    for (let place = 1; place < cycle; place++) if (scores[place]! > scores[best]!) best = place;
    for (let place = 0; place < cycle; place++) {
      const before = (place + cycle - 1) % cycle;
      const slips = index > 0 && scores[best]! - slipCosts[index]! > scores[before]!;
      back[place] = slips ? best : before;
      next[place] =
        (slips ? scores[best]! - slipCosts[index]! : scores[before]!) +
        (place === 0 ? begins[index]! : 0) +
        (place % 2 === 0 ? onBeat[index]! : -onBeat[index]!);
    }
    scores = next;
    from.push(back);
  }
  let at = scores.indexOf(Math.max(...scores));
  const clearness = scores[at]! / Math.sqrt(Math.max(1, begins.length / cycle));
  const places = new Array<number>(begins.length);
  for (let index = begins.length - 1; index >= 0; index--) {
    places[index] = at;
    at = from[index]![at]!;
  }
  return { places, clearness };
}

/** Change of the harmony is looked at over so many seconds on each side, whatever the count. */
const contrastSeconds = 0.5;

/**
 * How much more begins with the bars of a count than in their middles: harmony and bass, in standard deviations, about
 * −2 to 2. A count at half the tempo finds as much in the middle of its bars, since another bar begins there; one at
 * twice the tempo finds it at every second bar only.
 * @param starts where bars begin, in seconds
 * @param low evened onset strength of the bass
 */
export function barContrast(novelty: Novelty, starts: readonly number[], low: Float32Array): number {
  const middles = starts.slice(1).map((start, index) => (start + starts[index]!) / 2);
  if (middles.length < 4) return 0;
  const times = [...starts, ...middles];
  const harmony = standardised(harmonyChange(novelty, times, contrastSeconds));
  const bass = standardised(times.map((time) => onsetNear(low, time * onsetHz, 4)));
  const both = times.map((_, index) => 0.7 * harmony[index]! + 0.3 * bass[index]!);
  const mean = (values: readonly number[]) => values.reduce((sum, value) => sum + value, 0) / values.length;
  return mean(both.slice(0, starts.length)) - mean(both.slice(starts.length));
}
