import type { Range } from '#core/time';
import { cepstraHz, cepstraSize } from './cepstra';
import { twoVoices, VoiceSum } from './gaussian';

/** A stretch in which one voice speaks: seconds, and which voice, from 0 in the order of their first words. */
export interface VoiceTurn extends Range {
  voice: number;
  /** Another voice that speaks at the same time. */
  also?: number;
}

/** What the search for turns goes by; found on made dialogues (`npm run accuracy voices`). */
export interface TurnRule {
  /** Two are one voice while what two normal distributions gain is under λ times their cost and so much for each frame of the shorter. */
  penalty: number;
  perFrame: number;
  /** Nobody speaks for less, in seconds, when the edges of turns are sought again. */
  leastSeconds: number;
  /** So many voices there are; found where it is missing. */
  voices?: number;
}
/** Nobody asks for more voices than these. */
export const mostVoices = 12;
export const turnRule: TurnRule = { penalty: 2.3, perFrame: 0.7, leastSeconds: 0.6 };

/**
 * Who speaks when, by the voice alone: what is said between two pauses is taken for one voice, and pieces are put together from the
 * most alike on (Chen & Gopalakrishnan 1998, by the Bayesian information criterion); the edges are then sought once more by the
 * path that fits best (Viterbi) through all voices that were found. The criterion alone parts one voice into more the longer it
 * speaks, as nobody's voice stays the same for long; so what is gained has to be more for each frame as well.
 * @param frames of `Cepstra`, 100 a second
 * @param speech in seconds; what lies between is nobody's
 */
export function turnsOf(frames: Float32Array, speech: readonly Range[], rule: TurnRule = turnRule): VoiceTurn[] {
  const total = Math.floor(frames.length / cepstraSize);
  const runs = speech
    .map(({ start, end }) => ({
      from: Math.max(0, Math.round(start * cepstraHz)),
      to: Math.min(total, Math.round(end * cepstraHz)),
    }))
    .filter(({ from, to }) => to > from);
  const pieces = runs.flatMap((run) => piecesOf(frames, run));
  const voices = asMany(pieces, rule);
  if (voices.length === 0) return [];
  return inOrder(settled(frames, runs, voices, rule));
}

interface Frames {
  from: number;
  to: number;
}

/** Sums of a tenth of a second each; of two parts of a run none is shorter than a second, and none has to be longer than four. */
const blockFrames = 10,
  shortestBlocks = 10,
  longestBlocks = 40,
  reachBlocks = 20;

/** A run without a pause is parted where what is before and behind is least alike, until no part is longer than four seconds. */
function piecesOf(frames: Float32Array, { from, to }: Frames): VoiceSum[] {
  const blocks: VoiceSum[] = [];
  for (let at = from; at < to; at += blockFrames)
    blocks.push(new VoiceSum(cepstraSize).add(frames, at, Math.min(to, at + blockFrames)));
  return parted(blocks);
}

function parted(blocks: readonly VoiceSum[]): VoiceSum[] {
  if (blocks.length <= longestBlocks) return [sumOf(blocks)];
  let best = -Infinity,
    cut = Math.floor(blocks.length / 2);
  const before = sumOf(blocks.slice(0, shortestBlocks));
  const after = sumOf(blocks.slice(shortestBlocks, shortestBlocks + reachBlocks));
  for (let at = shortestBlocks; at <= blocks.length - shortestBlocks; at++) {
    if (at > shortestBlocks) {
      before.take(blocks[at - 1]!);
      if (at > reachBlocks) before.take(blocks[at - 1 - reachBlocks]!, -1);
      after.take(blocks[at - 1]!, -1);
      if (at + reachBlocks <= blocks.length) after.take(blocks[at + reachBlocks - 1]!);
    }
    const gain = twoVoices(before, after, 1);
    if (gain > best) [best, cut] = [gain, at];
  }
  return [...parted(blocks.slice(0, cut)), ...parted(blocks.slice(cut))];
}

const sumOf = (blocks: readonly VoiceSum[]): VoiceSum =>
  blocks.reduce((sum, block) => sum.take(block), new VoiceSum(cepstraSize));

/** So many pieces are put together at a time; the groups that come of them after that. Time grows with the square of the number. */
const atOnce = 240;

/** The voices that pieces are of. */
function voicesOf(pieces: readonly VoiceSum[], rule: TurnRule): VoiceSum[] {
  let groups = [...pieces];
  for (;;) {
    const parts: VoiceSum[] = [];
    for (let at = 0; at < groups.length; at += atOnce) parts.push(...grouped(groups.slice(at, at + atOnce), rule));
    const isWhole = groups.length <= atOnce;
    // Nothing goes together any more: whoever speaks has too many voices to be told.
    if (isWhole || parts.length === groups.length) return parts;
    groups = parts;
  }
}

/** So many voices, or as many as there are. */
function asMany(pieces: readonly VoiceSum[], rule: TurnRule): VoiceSum[] {
  if (rule.voices === undefined) return voicesOf(pieces, rule);
  let groups = [...pieces];
  // Of so many pieces as can be looked at together some more than there are voices; of all of these as many as there are.
  while (groups.length > atOnce) {
    const fewer: VoiceSum[] = [];
    for (let at = 0; at < groups.length; at += atOnce)
      fewer.push(...grouped(groups.slice(at, at + atOnce), rule, groupsEach * rule.voices));
    if (fewer.length >= groups.length) break;
    groups = fewer;
  }
  return grouped(groups, rule, rule.voices);
}
const groupsEach = 4;

/** Whether two are one voice: what two distributions gain stays under what they have to. */
function areOne(a: VoiceSum, b: VoiceSum, { penalty, perFrame }: TurnRule): boolean {
  return twoVoices(a, b, penalty) < perFrame * Math.min(a.count, b.count);
}

/** Puts the two together that are most alike, until any two are two voices. */
function grouped(pieces: readonly VoiceSum[], rule: TurnRule, count = 0): VoiceSum[] {
  const groups: (VoiceSum | null)[] = [...pieces];
  /** How unlike any two are; infinite for two voices. */
  const apart = groups.map((_, at) => new Float64Array(at));
  const measure = (one: number, other: number) => {
    const [a, b] = [groups[one]!, groups[other]!];
    apart[Math.max(one, other)]![Math.min(one, other)] =
      count > 0 ? twoVoices(a, b, 0) : areOne(a, b, rule) ? twoVoices(a, b, 1) : Infinity;
  };
  for (let one = 0; one < groups.length; one++) for (let other = 0; other < one; other++) measure(one, other);
  for (let left = groups.length; ; left--) {
    let best = Infinity,
      first = -1,
      second = -1;
    for (let one = 0; one < groups.length; one++) {
      if (!groups[one]) continue;
      const row = apart[one]!;
      for (let other = 0; other < one; other++)
        if (row[other]! < best && groups[other]) [best, first, second] = [row[other]!, other, one];
    }
    if (first < 0 || left <= count) return groups.filter((group) => group !== null);
    groups[first] = groups[first]!.plus(groups[second]!);
    groups[second] = null;
    for (let other = 0; other < groups.length; other++) if (other !== first && groups[other]) measure(first, other);
  }
}

/** How well each frame fits a voice, as a logarithm: a normal distribution of all its numbers. */
class Fit {
  private readonly mean: Float64Array;
  private readonly lower: Float64Array;
  private readonly constant: number;
  private readonly solved = new Float64Array(cepstraSize);

  constructor(sum: VoiceSum) {
    this.mean = sum.mean();
    this.lower = sum.factor();
    this.constant = -sum.spread() / 2;
  }

  of(frames: Float32Array, frame: number): number {
    const { mean, lower } = this;
    let squares = 0;
    const { solved } = this;
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

/** Seconds of speech below which a voice is none: somebody coughs, or a door creaks. */
const leastVoiceSeconds = 2;

/** The path through the voices that fits best, nobody for less than the least time; done twice, since the voices become clearer. */
function settled(
  frames: Float32Array,
  runs: readonly Frames[],
  found: readonly VoiceSum[],
  rule: TurnRule,
): VoiceTurn[] {
  const longest = Math.max(...found.map(({ count }) => count));
  const enough = Math.min(leastVoiceSeconds * cepstraHz, longest);
  let voices = found.filter(({ count }) => count >= enough);
  for (let round = 0; ; round++) {
    const turns = bestPath(frames, runs, voices, rule);
    if (round === 1) return turns;
    const again = voices.map(() => new VoiceSum(cepstraSize));
    for (const { voice, start, end } of turns)
      again[voice]!.add(frames, Math.round(start * cepstraHz), Math.round(end * cepstraHz));
    const heard = again.filter(({ count }) => count > 2 * cepstraSize);
    voices = rule.voices === undefined ? voicesOf(heard, rule) : heard;
  }
}

function bestPath(
  frames: Float32Array,
  runs: readonly Frames[],
  sums: readonly VoiceSum[],
  rule: TurnRule,
): VoiceTurn[] {
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
  const turns: VoiceTurn[] = [];
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
function inOrder(turns: readonly VoiceTurn[]): VoiceTurn[] {
  const numbers = new Map<number, number>();
  return turns.map((turn) => {
    if (!numbers.has(turn.voice)) numbers.set(turn.voice, numbers.size);
    return { ...turn, voice: numbers.get(turn.voice)! };
  });
}
