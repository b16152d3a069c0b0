/** Where the beats of a piece of music lie, and its bars. */
export interface BeatGrid {
  /** Seconds, ascending. */
  beats: number[];
  /** Beats of a usual bar. */
  bar: number;
  /** Indices of the beats that begin a bar, ascending; a bar may be cut short, or have a beat too many. */
  starts: number[];
}

/** The grid of what has no beats. */
export const emptyGrid: BeatGrid = { beats: [], bar: 4, starts: [] };

/** Index of the last of an ascending list's values that is at most `value`; -1 when there is none. */
function lastUpTo(list: readonly number[], value: number): number {
  let low = 0,
    high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (list[middle]! <= value) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** Whether a beat begins a bar. */
export const beginsBar = (grid: BeatGrid, index: number): boolean =>
  grid.starts[lastUpTo(grid.starts, index)] === index;
/** Where bars begin, in seconds. */
export const downbeats = (grid: BeatGrid): number[] => grid.starts.map((index) => grid.beats[index]!);
/** Beats a minute: from the median step, so that one slip does not count. */
export function tempoOf(grid: BeatGrid): number {
  const steps = grid.beats
    .slice(1)
    .map((beat, index) => beat - grid.beats[index]!)
    .sort((a, b) => a - b);
  return steps.length === 0 ? 0 : 60 / steps[steps.length >> 1]!;
}
/** Place of a beat in its bar, both counted from 1. Beats before the first bar belong to bar 0. */
export function placeOf(grid: BeatGrid, index: number): { bar: number; beat: number } {
  const bar = lastUpTo(grid.starts, index);
  return bar < 0
    ? { bar: 0, beat: grid.bar - ((grid.starts[0] ?? 0) - index) + 1 }
    : { bar: bar + 1, beat: index - grid.starts[bar]! + 1 };
}
/** Index of the last beat at or before a time; -1 before the first. */
export const beatBefore = (grid: BeatGrid, seconds: number): number => lastUpTo(grid.beats, seconds + 1e-6);
/** Index of the beat nearest to a time; -1 when there is none. */
export function nearestBeat(grid: BeatGrid, seconds: number): number {
  const before = beatBefore(grid, seconds);
  const after = grid.beats[before + 1];
  if (before < 0) return after === undefined ? -1 : 0;
  return after !== undefined && after - seconds < seconds - grid.beats[before]! ? before + 1 : before;
}

/** The nearest of an ascending list's times when it lies within `reach` seconds; else the time itself. */
export function snapTo(times: readonly number[], seconds: number, reach: number): number {
  const before = lastUpTo(times, seconds);
  const near = [times[before], times[before + 1]].filter(
    (time) => time !== undefined && Math.abs(time - seconds) <= reach,
  ) as number[];
  return near.sort((a, b) => Math.abs(a - seconds) - Math.abs(b - seconds))[0] ?? seconds;
}

/** What can be wrong with a grid, put right in one step. */
export type GridCorrection =
  | { type: 'half' }
  | { type: 'double' }
  /** Every bar begins so many beats later. */
  | { type: 'turn'; beats: number }
  | { type: 'shift'; seconds: number }
  /** This beat begins a bar, and so do those around it at a bar's distance, as far as bars are regular. */
  | { type: 'downbeat'; index: number }
  | { type: 'bar'; beats: number }
  /** Two beats lie there: what is between is spread as it was, what is outside moves along. */
  | { type: 'stretch'; from: { index: number; seconds: number }; to: { index: number; seconds: number } };

/** Bars of `bar` beats, so that one begins at `anchor`, from `from` to before `to`. */
function regularStarts(anchor: number, bar: number, from: number, to: number): number[] {
  const starts: number[] = [];
  for (let at = anchor - Math.floor((anchor - from) / bar) * bar; at < to; at += bar) starts.push(at);
  return starts;
}

/**
 * A grid put right.
 * @returns a sentence when it cannot be done
 */
export function correctGrid(
  grid: BeatGrid,
  correction: GridCorrection,
): { ok: true; grid: BeatGrid } | { ok: false; reason: string } {
  const { beats, bar, starts } = grid;
  const no = (reason: string) => ({ ok: false as const, reason });
  const yes = (changed: Partial<BeatGrid>) => ({ ok: true as const, grid: { ...grid, ...changed } });
  const count = beats.length;
  switch (correction.type) {
    case 'half': {
      if (count < 4) return no('There are too few beats to take every other one away.');
      // Beats are counted from the one that begins their bar, so that it stays; two slow bars take as long as four fast ones.
      const kept: number[] = [];
      for (let index = 0; index < count; index++) {
        const start = starts[Math.max(0, lastUpTo(starts, index))] ?? 0;
        if (Math.abs(index - start) % 2 !== 0) continue;
        if (kept.length && index - kept.at(-1)! < 2) kept.pop();
        kept.push(index);
      }
      return yes({
        beats: kept.map((index) => beats[index]!),
        starts: starts
          .filter((_, at) => at % 2 === 0)
          .map((index) => kept.indexOf(index))
          .filter((index) => index >= 0),
      });
    }
    case 'double': {
      if (count < 2) return no('There are too few beats to put others between.');
      if (tempoOf(grid) > 300) return no('Twice as fast would be over 600 beats a minute.');
      const doubled = starts.map((index) => index * 2);
      return yes({
        beats: beats.flatMap((beat, index) => (index + 1 < count ? [beat, (beat + beats[index + 1]!) / 2] : [beat])),
        starts: doubled.flatMap((index, at) => [
          index,
          ...(index + bar < (doubled[at + 1] ?? count * 2 - 1) ? [index + bar] : []),
        ]),
      });
    }
    case 'turn': {
      const moved = starts.map((index) => index + correction.beats).filter((index) => index >= 0 && index < count);
      const [head, tail] = [moved[0] ?? 0, moved.at(-1) ?? 0];
      return yes({
        starts: [...regularStarts(head, bar, 0, head), ...moved, ...regularStarts(tail + bar, bar, tail + bar, count)],
      });
    }
    case 'downbeat': {
      const { index } = correction;
      if (beats[index] === undefined) return no('There is no such beat.');
      // The regular stretch around it: as far as bars follow one another at the usual length.
      const at = Math.max(0, lastUpTo(starts, index));
      let [first, last] = [at, at];
      while (first > 0 && starts[first]! - starts[first - 1]! === bar) first--;
      while (last + 1 < starts.length && starts[last + 1]! - starts[last]! === bar) last++;
      const from = first === 0 ? 0 : starts[first]!,
        to = last + 1 < starts.length ? starts[last + 1]! : count;
      return yes({
        starts: [...starts.slice(0, first), ...regularStarts(index, bar, from, to), ...starts.slice(last + 1)].filter(
          (value, position, list) => value !== list[position - 1],
        ),
      });
    }
    case 'bar': {
      if (!Number.isInteger(correction.beats) || correction.beats < 2 || correction.beats > 12)
        return no('A bar has 2 to 12 beats.');
      return yes({
        bar: correction.beats,
        starts: count === 0 ? [] : regularStarts(starts[0] ?? 0, correction.beats, 0, count),
      });
    }
    case 'shift':
      return yes(
        withoutNegative(
          beats.map((beat) => beat + correction.seconds),
          starts,
        ),
      );
    case 'stretch': {
      const [from, to] = [correction.from, correction.to].sort((a, b) => a.index - b.index) as [
        typeof correction.from,
        typeof correction.from,
      ];
      const [oldFrom, oldTo] = [beats[from.index], beats[to.index]];
      if (oldFrom === undefined || oldTo === undefined || from.index === to.index)
        return no('Place two different beats.');
      if ((to.seconds - from.seconds) / (to.index - from.index) < 0.1)
        return no('The second of the two beats has to lie after the first, with room for the beats between.');
      const scale = (to.seconds - from.seconds) / (oldTo - oldFrom);
      return yes(
        withoutNegative(
          beats.map((beat, index) =>
            index < from.index
              ? beat + from.seconds - oldFrom
              : index > to.index
                ? beat + to.seconds - oldTo
                : from.seconds + (beat - oldFrom) * scale,
          ),
          starts,
        ),
      );
    }
  }
}

function withoutNegative(beats: number[], starts: readonly number[]): Pick<BeatGrid, 'beats' | 'starts'> {
  const gone = beats.filter((beat) => beat < 0).length;
  return { beats: beats.slice(gone), starts: starts.map((index) => index - gone).filter((index) => index >= 0) };
}
