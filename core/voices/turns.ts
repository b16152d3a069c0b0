import type { Range } from '../time/index';
import { cepstraHz, cepstraSize } from './cepstra';
import { twoVoices, VoiceSum } from './gaussian';

/** A stretch in which one voice speaks: seconds, and which voice, from 0 in the order of their first words. */
export interface Turn extends Range {
  voice: number;
}

/** What the search for turns goes by; found on made dialogues (`npm run accuracy voices`). */
export interface TurnRule {
  /** Frames on each side of a place where another voice may begin. */
  window: number;
  /** Weight of the cost of a second voice (λ) where neighbours are told apart, and where all are. */
  neighbours: number;
  all: number;
  /** Nobody speaks for less, in seconds, when the edges of turns are sought again. */
  leastSeconds: number;
}
export const turnRule: TurnRule = { window: 150, neighbours: 1, all: 2.2, leastSeconds: 0.8 };

/**
 * Who speaks when, by the voice alone: places at which the voice changes (two windows that slide over the speech, by the Bayesian
 * information criterion), pieces that are of one voice put together from the most alike on (Chen & Gopalakrishnan 1998), and the
 * edges sought once more by the path that fits best (Viterbi) through all voices that were found.
 * @param frames of `Cepstra`, 100 a second
 * @param speech in seconds; what lies between is nobody's
 */
export function turnsOf(frames: Float32Array, speech: readonly Range[], rule: TurnRule = turnRule): Turn[] {
  const total = Math.floor(frames.length / cepstraSize);
  const runs = speech
    .map(({ start, end }) => ({
      from: Math.max(0, Math.round(start * cepstraHz)),
      to: Math.min(total, Math.round(end * cepstraHz)),
    }))
    .filter(({ from, to }) => to > from);
  const pieces = piecesOf(frames, runs, rule);
  const groups = grouped(pieces.map(({ sum }) => sum), rule.all);
  const count = Math.max(-1, ...groups) + 1;
  if (count === 0) return [];
  const path = settled(frames, runs, pieces, groups, count, rule);
  return inOrder(path);
}

interface Frames {
  from: number;
  to: number;
}
interface Piece extends Frames {
  sum: VoiceSum;
}

/** Speech, parted where the voice seems to change; what is too short to tell goes with what comes before it. */
function piecesOf(frames: Float32Array, runs: readonly Frames[], rule: TurnRule): Piece[] {
  // Runs one after the other, so that windows look over pauses.
  const index: number[] = [];
  for (const { from, to } of runs) for (let at = from; at < to; at++) index.push(at);
  const packed = new Float32Array(index.length * cepstraSize);
  for (const [place, at] of index.entries())
    packed.set(frames.subarray(at * cepstraSize, (at + 1) * cepstraSize), place * cepstraSize);
  const step = 10;
  const { window } = rule;
  const gains: { at: number; gain: number }[] = [];
  for (let at = window; at + window <= index.length; at += step) {
    const before = new VoiceSum(cepstraSize).add(packed, at - window, at);
    const after = new VoiceSum(cepstraSize).add(packed, at, at + window);
    gains.push({ at, gain: twoVoices(before, after, 0) });
  }
  const cuts: number[] = [];
  const reach = Math.floor(window / 2 / step);
  for (const [place, { at, gain }] of gains.entries()) {
    const near = gains.slice(Math.max(0, place - reach), place + reach + 1);
    if (near.every((other) => other.gain <= gain)) cuts.push(at);
  }
  const edges = [0, ...cuts, index.length];
  const pieces: { from: number; to: number; sum: VoiceSum }[] = [];
  for (let at = 1; at < edges.length; at++) {
    const [from, to] = [edges[at - 1]!, edges[at]!];
    if (to <= from) continue;
    const sum = new VoiceSum(cepstraSize).add(packed, from, to);
    const last = pieces.at(-1);
    if (last && twoVoices(last.sum, sum, rule.neighbours) < 0) {
      last.to = to;
      last.sum = last.sum.plus(sum);
    } else pieces.push({ from, to, sum });
  }
  return pieces.map(({ from, to, sum }) => ({ from: index[from]!, to: index[to - 1]! + 1, sum }));
}

/** The group of each: the two that are most alike go together, until any two are two voices. */
function grouped(sums: readonly VoiceSum[], penalty: number): number[] {
  const groups: { sum: VoiceSum; members: number[] }[] = sums.map((sum, at) => ({ sum, members: [at] }));
  const apart = groups.map((one, at) => groups.slice(0, at).map((other) => twoVoices(one.sum, other.sum, penalty)));
  const live = new Set(groups.keys());
  for (;;) {
    let best = 0,
      first = -1,
      second = -1;
    for (const one of live)
      for (const other of live) {
        if (other >= one) break;
        const value = apart[one]![other]!;
        if (value < best) [best, first, second] = [value, other, one];
      }
    if (first < 0) break;
    groups[first]!.sum = groups[first]!.sum.plus(groups[second]!.sum);
    groups[first]!.members.push(...groups[second]!.members);
    live.delete(second);
    for (const other of live)
      if (other !== first) {
        const value = twoVoices(groups[first]!.sum, groups[other]!.sum, penalty);
        apart[Math.max(first, other)]![Math.min(first, other)] = value;
      }
  }
  const out = sums.map(() => 0);
  for (const [number, at] of [...live].entries()) for (const member of groups[at]!.members) out[member] = number;
  return out;
}

/** How well each frame fits a voice, as a logarithm: a normal distribution of all its numbers. */
class Fit {
  private readonly mean: Float64Array;
  private readonly lower: Float64Array;
  private readonly constant: number;

  constructor(sum: VoiceSum) {
    this.mean = sum.mean();
    this.lower = sum.factor();
    this.constant = -sum.spread() / 2;
  }

  of(frames: Float32Array, frame: number): number {
    const { mean, lower } = this;
    let squares = 0;
    const solved = new Float64Array(cepstraSize);
    for (let row = 0; row < cepstraSize; row++) {
      let value = frames[frame * cepstraSize + row]! - mean[row]!;
      for (let column = 0; column < row; column++) value -= lower[row * cepstraSize + column]! * solved[column]!;
      value /= lower[row * cepstraSize + row]!;
      solved[row] = value;
      squares += value * value;
    }
    return this.constant - squares / 2;
  }
}

/** The path through the voices that fits best, nobody for less than the least time; done twice, since the voices become clearer. */
function settled(
  frames: Float32Array,
  runs: readonly Frames[],
  pieces: readonly Piece[],
  groups: readonly number[],
  count: number,
  rule: TurnRule,
): Turn[] {
  let sums = Array.from({ length: count }, () => new VoiceSum(cepstraSize));
  for (const [at, { sum }] of pieces.entries()) sums[groups[at]!] = sums[groups[at]!]!.plus(sum);
  let turns: Turn[] = [];
  for (let round = 0; round < 2; round++) {
    turns = bestPath(frames, runs, sums, rule);
    const again = sums.map(() => new VoiceSum(cepstraSize));
    for (const { voice, start, end } of turns)
      again[voice]!.add(frames, Math.round(start * cepstraHz), Math.round(end * cepstraHz));
    // A voice that lost all its words stays what it was.
    sums = again.map((sum, at) => (sum.count > 2 * cepstraSize ? sum : sums[at]!));
  }
  return turns;
}

const blockFrames = 10;
function bestPath(
  frames: Float32Array,
  runs: readonly Frames[],
  sums: readonly VoiceSum[],
  rule: TurnRule,
): Turn[] {
  const fits = sums.map((sum) => new Fit(sum));
  const count = fits.length;
  // Blocks of a tenth of a second, none over the edge of a run.
  const blocks: Frames[] = [];
  for (const { from, to } of runs)
    for (let at = from; at < to; at += blockFrames) blocks.push({ from: at, to: Math.min(to, at + blockFrames) });
  const least = Math.max(1, Math.round((rule.leastSeconds * cepstraHz) / blockFrames));
  const scores = blocks.map(({ from, to }) =>
    fits.map((fit) => {
      let sum = 0;
      for (let at = from; at < to; at++) sum += fit.of(frames, at);
      return sum;
    }),
  );
  // best[block][voice]: of all paths that end with this voice, which has spoken for at least `least` blocks.
  const totals = fits.map(() => new Float64Array(blocks.length + 1));
  for (const [at, row] of scores.entries())
    for (let voice = 0; voice < count; voice++) totals[voice]![at + 1] = totals[voice]![at]! + row[voice]!;
  const best = Array.from({ length: blocks.length + 1 }, () => new Float64Array(count).fill(-Infinity));
  const began = Array.from({ length: blocks.length + 1 }, () => new Int32Array(count));
  const from = Array.from({ length: blocks.length + 1 }, () => new Int32Array(count).fill(-1));
  const cost = cepstraSize * 2;
  for (let end = 1; end <= blocks.length; end++)
    for (let voice = 0; voice < count; voice++) {
      const sum = totals[voice]!;
      const start = Math.max(0, end - least);
      // Goes on,
      if (end > 1 && best[end - 1]![voice]! > -Infinity) {
        best[end]![voice] = best[end - 1]![voice]! + scores[end - 1]![voice]!;
        began[end]![voice] = began[end - 1]![voice]!;
        from[end]![voice] = from[end - 1]![voice]!;
      }
      // or began so many blocks ago after another one.
      if (start === 0) {
        const value = sum[end]!;
        if (value > best[end]![voice]!) {
          best[end]![voice] = value;
          began[end]![voice] = 0;
          from[end]![voice] = -1;
        }
      } else
        for (let other = 0; other < count; other++) {
          if (other === voice) continue;
          const value = best[start]![other]! + sum[end]! - sum[start]! - cost;
          if (value > best[end]![voice]!) {
            best[end]![voice] = value;
            began[end]![voice] = start;
            from[end]![voice] = other;
          }
        }
    }
  const voices = new Int32Array(blocks.length);
  let end = blocks.length;
  let voice = [...best[end]!].reduce((most, value, at, all) => (value > all[most]! ? at : most), 0);
  while (end > 0) {
    const start = began[end]![voice]!;
    voices.fill(voice, start, end);
    const next = from[end]![voice]!;
    end = start;
    if (next < 0) break;
    voice = next;
  }
  const turns: Turn[] = [];
  for (const [at, block] of blocks.entries()) {
    const last = turns.at(-1);
    const start = block.from / cepstraHz,
      stop = block.to / cepstraHz;
    if (last && last.voice === voices[at] && start - last.end < 1e-6) last.end = stop;
    else turns.push({ start, end: stop, voice: voices[at]! });
  }
  return turns;
}

/** Voices are counted in the order in which they are heard first. */
function inOrder(turns: readonly Turn[]): Turn[] {
  const numbers = new Map<number, number>();
  return turns.map((turn) => {
    if (!numbers.has(turn.voice)) numbers.set(turn.voice, numbers.size);
    return { ...turn, voice: numbers.get(turn.voice)! };
  });
}
