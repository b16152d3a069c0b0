import { overlap, type Range } from '#core/time';
import { voiceRate } from './cepstra';
import type { VoiceTurn } from './turns';

/** Frames a second, and numbers a frame. */
export const periodsHz = 50,
  periodsSize = 2;

/** Sound is looked at with half its samples; voices have their pitch far below. */
const rate = voiceRate / 2,
  hop = rate / periodsHz,
  windowSamples = 400;
/** Periods of voices, in samples: pitches from 62 to 444 Hz. */
const shortest = 18,
  longest = 130;
const reach = 2 * longest;
const leastEnergy = 1e-9,
  leastLeft = 1e-3;

/**
 * How much of sound is left when the period that suits it best is cancelled, and how much of that when another one is: one voice
 * goes with its own period, of two the other stays and has a period as well (de Cheveigné 1993, “Separation of concurrent harmonic
 * sounds: fundamental frequency estimation and a time-domain cancellation model of auditory processing”; one period after the
 * other instead of both at once). Natural logarithms of the two shares, 50 times a second, over 50 ms.
 */
export class HeardPeriods {
  private rest = new Float32Array(0);
  /** Where the next frame begins, in samples of `rest`. */
  private next = -(windowSamples / 2 + reach) + hop / 2;
  private odd = new Float32Array(0);
  private readonly values: number[] = [];
  private readonly frame = new Float64Array(reach + windowSamples);
  private readonly cancelled = new Float64Array(reach + windowSamples);
  private readonly energies = new Float64Array(reach + windowSamples + 1);

  /** @param samples mono, 16 kHz, -1 to 1 */
  push(samples: Float32Array): void {
    const given = joined(this.odd, samples);
    const even = given.length & ~1;
    this.odd = given.slice(even);
    const all = joined(this.rest, halved(given.subarray(0, even)));
    const size = reach + windowSamples;
    for (; this.next + size <= all.length; this.next += hop) this.take(all);
    const keep = Math.max(0, this.next);
    this.rest = all.slice(keep);
    this.next -= keep;
  }

  private take(samples: Float32Array): void {
    const { frame, cancelled, next } = this;
    for (let at = 0; at < frame.length; at++) frame[at] = samples[next + at] ?? 0;
    const [own, period] = this.cancelling(frame);
    for (let at = longest; at < frame.length; at++) cancelled[at] = frame[at]! - frame[at - period]!;
    const [other] = this.cancelling(cancelled);
    this.values.push(Math.log(Math.max(0, own) + leastLeft), Math.log(Math.max(0, other) + leastLeft));
  }

  /** The share that stays, and the period that is taken away. */
  private cancelling(sound: Float64Array): [number, number] {
    const { energies } = this;
    for (let at = 0; at < sound.length; at++) energies[at + 1] = energies[at]! + sound[at]! ** 2;
    const own = energies[sound.length]! - energies[reach]!;
    let [least, period] = [Infinity, shortest];
    for (let lag = shortest; lag <= longest; lag++) {
      // Four sums, since each would wait for itself otherwise.
      let [a, b, c, d] = [0, 0, 0, 0];
      for (let at = reach; at < sound.length; at += 4) {
        a += sound[at]! * sound[at - lag]!;
        b += sound[at + 1]! * sound[at + 1 - lag]!;
        c += sound[at + 2]! * sound[at + 2 - lag]!;
        d += sound[at + 3]! * sound[at + 3 - lag]!;
      }
      const product = a + b + c + d;
      const both = own + energies[sound.length - lag]! - energies[reach - lag]! + leastEnergy;
      const left = 1 - (2 * product) / both;
      if (left < least) [least, period] = [left, lag];
    }
    return [least, period];
  }

  /** All frames so far: `periodsSize` numbers each. */
  frames(): Float32Array {
    return Float32Array.from(this.values);
  }
}

function joined(a: Float32Array, b: Float32Array): Float32Array<ArrayBuffer> {
  const all = new Float32Array(a.length + b.length);
  all.set(a);
  all.set(b, a.length);
  return all;
}

const halved = (samples: Float32Array): Float32Array =>
  Float32Array.from({ length: samples.length >> 1 }, (_, at) => (samples[2 * at]! + samples[2 * at + 1]!) / 2);

/**
 * How likely it is that two speak in a frame rather than one, as a logarithm of odds: logistic regression on the two numbers and
 * their products, fitted to prompts in French and Spanish (Debian's asterisk-core-sounds), alone, in noise and laid over one
 * another at -6 to 6 dB.
 */
function oddsOf(own: number, other: number): number {
  const odds = -2.293 - 0.606 * own - 5.726 * other - 0.052 * own * own - 1.597 * own * other - 0.484 * other * other;
  return Math.max(-mostOdds, Math.min(mostOdds, odds));
}
const mostOdds = 3;

/** Odds are averaged over so many frames on either side. An overlap begins where they come to `enter`, and reaches as far as they stay over `stay`. */
const around = 20,
  enter = 0.3,
  stay = 0.1;
const leastSeconds = 0.3;

/**
 * Where two speak at once.
 * @param periods frames of `HeardPeriods`
 * @param speech in seconds; nothing else is looked at
 * @param music in seconds; instruments have periods too, so nothing is said of these
 */
export function overlapsIn(periods: Float32Array, speech: readonly Range[], music: readonly Range[] = []): Range[] {
  const count = Math.floor(periods.length / periodsSize);
  const isSpoken = marked(count, speech);
  for (const [at, plays] of marked(count, music).entries()) if (plays) isSpoken[at] = 0;
  const sums = new Float64Array(count + 1),
    spoken = new Float64Array(count + 1);
  for (let at = 0; at < count; at++) {
    sums[at + 1] = sums[at]! + (isSpoken[at] ? oddsOf(periods[2 * at]!, periods[2 * at + 1]!) : 0);
    spoken[at + 1] = spoken[at]! + isSpoken[at]!;
  }
  const oddsAt = (at: number): number => {
    if (at < 0 || at >= count || !isSpoken[at]) return -Infinity;
    const [from, to] = [Math.max(0, at - around), Math.min(count, at + around + 1)];
    return (sums[to]! - sums[from]!) / (spoken[to]! - spoken[from]!);
  };
  const found: Range[] = [];
  for (let at = 0; at < count; at++) {
    if (oddsAt(at) <= enter) continue;
    let [from, to] = [at, at + 1];
    while (oddsAt(from - 1) > stay) from--;
    while (oddsAt(to) > stay) to++;
    if ((to - from) / periodsHz >= leastSeconds) found.push({ start: from / periodsHz, end: to / periodsHz });
    at = to;
  }
  return found;
}

function marked(count: number, ranges: readonly Range[]): Uint8Array {
  const marks = new Uint8Array(count);
  for (const { start, end } of ranges)
    marks.fill(1, Math.max(0, Math.floor(start * periodsHz)), Math.max(0, Math.ceil(end * periodsHz)));
  return marks;
}

/** Whoever speaks at the same time had the word so many seconds before, or has it so many after. */
const nearSeconds = 4;

/**
 * Turns parted where two speak at once, with the other voice in them: the one that had the word last, or has it next, whichever is
 * nearer. Where nobody else is near, nothing is marked.
 */
export function withOverlaps(turns: readonly VoiceTurn[], overlaps: readonly Range[]): VoiceTurn[] {
  let first = 0;
  return turns.flatMap((turn, index) => {
    while (first < overlaps.length && overlaps[first]!.end <= turn.start) first++;
    const parts: VoiceTurn[] = [];
    let from = turn.start;
    for (let at = first; at < overlaps.length && overlaps[at]!.start < turn.end; at++) {
      const own = { start: Math.max(turn.start, overlaps[at]!.start), end: Math.min(turn.end, overlaps[at]!.end) };
      const also = nearestOther(turns, index, own);
      if (also === null || overlap(own, turn) <= 0) continue;
      if (own.start > from) parts.push({ ...turn, start: from, end: own.start });
      parts.push({ ...turn, ...own, also });
      from = own.end;
    }
    if (turn.end > from) parts.push({ ...turn, start: from });
    return parts;
  });
}

function nearestOther(turns: readonly VoiceTurn[], index: number, { start, end }: Range): number | null {
  const own = turns[index]!.voice;
  let nearest: { voice: number; away: number } | null = null;
  const look = (step: 1 | -1) => {
    for (let at = index + step; at >= 0 && at < turns.length; at += step) {
      const turn = turns[at]!;
      const away = step === 1 ? turn.start - end : start - turn.end;
      if (away > nearSeconds) return;
      if (turn.voice === own) continue;
      if (!nearest || away < nearest.away) nearest = { voice: turn.voice, away };
      return;
    }
  };
  look(-1);
  look(1);
  return (nearest as { voice: number } | null)?.voice ?? null;
}
