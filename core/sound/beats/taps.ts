import type { Range } from '#core/time';
import { clamp } from '#core/signal';
import type { BeatGrid } from './grid';

/** So many taps settle a tempo. */
export const enoughTaps = 4;
/** Steps between beats that somebody can tap and cut to, in seconds: 30 to 300 beats a minute. */
const shortestStep = 0.2,
  longestStep = 2;
/** A pause of more than so many steps begins a new count. */
const pause = 2.6;

/** A stroke of the music, and what it counts for, 0 to 1. */
export interface WeighedStroke {
  seconds: number;
  weight: number;
}

/** The last taps that belong together: even steps without a long pause. */
export function tapsTogether(taps: readonly number[]): number[] {
  const own: number[] = [];
  for (let index = taps.length - 1; index >= 0; index--) {
    const step = own.length ? own[0]! - taps[index]! : 0;
    if (own.length && (step < shortestStep || step > longestStep)) break;
    if (own.length > 1 && step > pause * middleStep(own)) break;
    own.unshift(taps[index]!);
  }
  return own;
}

const middle = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const middleStep = (taps: readonly number[]): number => middle(taps.slice(1).map((tap, index) => tap - taps[index]!));

/**
 * Step and phase of taps: the median of the slopes between all pairs (Theil 1950, Sen 1968), so that one clumsy tap
 * does not count; a tap that was left out is one.
 */
function lineThrough(taps: readonly number[]): { step: number; phase: number } {
  const rough = middleStep(taps);
  const counts = taps.map((tap) => Math.round((tap - taps[0]!) / rough));
  const slopes: number[] = [];
  for (let a = 0; a < taps.length; a++)
    for (let b = a + 1; b < taps.length; b++)
      if (counts[b]! > counts[a]!) slopes.push((taps[b]! - taps[a]!) / (counts[b]! - counts[a]!));
  const step = middle(slopes);
  return { step, phase: middle(taps.map((tap, index) => tap - counts[index]! * step)) };
}

/** Width of what a beat hears around it, in seconds. */
const hearing = 0.035;
/** How far taps may lie beside the music, and their tempo beside its own: people tap early, and four taps are few (Repp 2005). */
const offBeat = 0.08,
  offTempo = 0.05;
/** Beats before and behind the taps by which they are laid onto the music. */
const around = 12;

/** Strokes by time, for looking one up near a moment. */
class Strokes {
  private readonly times: Float64Array;
  constructor(private readonly list: readonly WeighedStroke[]) {
    this.times = Float64Array.from(list, ({ seconds }) => seconds);
  }
  /** Strokes within `reach` seconds of a time. */
  near(seconds: number, reach: number): readonly WeighedStroke[] {
    let low = 0,
      high = this.times.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.times[middle]! < seconds - reach) low = middle + 1;
      else high = middle;
    }
    let end = low;
    while (end < this.times.length && this.times[end]! <= seconds + reach) end++;
    return this.list.slice(low, end);
  }
  /** What a beat at a time hears, 0 to 1. */
  heardAt(seconds: number): number {
    let best = 0;
    for (const stroke of this.near(seconds, hearing))
      best = Math.max(best, stroke.weight * (1 - Math.abs(stroke.seconds - seconds) / hearing));
    return best;
  }
}

/** Shares of an error by which the next beat and the step to it are put right: phase and period correction (Mates 1994). */
const phaseCorrection = 0.35,
  periodCorrection = 0.06;
/** A stroke is taken for a beat within this share of a step. */
const capture = 0.14;
/** A followed tempo stays within this of the tapped one. */
const drift = 0.15;

/**
 * A count of a part of the music by a few taps: their tempo and phase, laid onto the strokes around them and followed
 * from stroke to stroke to both ends of the part. The first tap begins a bar.
 * @param taps seconds, at least `enoughTaps` that belong together, ascending
 * @param strokes of the music, ascending
 * @param part seconds that are counted; the taps lie in it
 */
export function gridByTaps(
  taps: readonly number[],
  strokes: readonly WeighedStroke[],
  part: Range,
  bar: number,
): BeatGrid {
  const heard = new Strokes(strokes);
  const tapped = lineThrough(taps);
  const count = Math.round((taps.at(-1)! - taps[0]!) / tapped.step);
  const centre = tapped.phase + (count / 2) * tapped.step;
  let best = { step: tapped.step, centre, value: 0 };
  for (let tempo = -offTempo; tempo <= offTempo + 1e-9; tempo += 0.0025)
    for (let shift = -offBeat; shift <= offBeat + 1e-9; shift += 0.005) {
      const step = tapped.step * (1 + tempo);
      let value = 0;
      for (let beat = -around - Math.floor(count / 2); beat <= around + Math.ceil(count / 2); beat++) {
        // From the middle of the taps, where step and phase do not pull at one another.
        const at = centre + shift + (beat + (count % 2) / 2) * step;
        if (at >= part.start && at < part.end) value += heard.heardAt(at);
      }
      // What was tapped counts unless the music clearly says otherwise.
      value *= 1 - 0.3 * Math.hypot(tempo / offTempo, shift / offBeat);
      if (value > best.value) best = { step, centre: centre + shift, value };
    }
  const first = best.centre - (count / 2) * best.step;
  const follow = (direction: 1 | -1): number[] => {
    const beats: number[] = [];
    let { step } = best;
    let at = first;
    for (;;) {
      at += direction * step;
      if (at < part.start - 1e-9 || at >= part.end) return beats;
      const near = heard.near(at, capture * step);
      const meant = near.reduce<WeighedStroke | null>((most, stroke) => {
        const worth = (each: WeighedStroke) => each.weight * (1 - Math.abs(each.seconds - at) / (capture * step * 1.5));
        return !most || worth(stroke) > worth(most) ? stroke : most;
      }, null);
      if (meant) {
        const error = (meant.seconds - at) * meant.weight;
        at += phaseCorrection * error;
        step = clamp(step + direction * periodCorrection * error, best.step * (1 - drift), best.step * (1 + drift));
      }
      beats.push(at);
    }
  };
  const back = follow(-1).reverse();
  const beats = [...back, ...(first >= part.start && first < part.end ? [first] : []), ...follow(1)];
  const offset = back.length % bar;
  return { beats, bar, starts: beats.flatMap((_, index) => (index % bar === offset ? [index] : [])) };
}
