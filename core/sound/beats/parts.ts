import { contains, type Range } from '#core/time';
import { tempoOf, type BeatGrid } from './grid';

/** Beats of two counts this near are the same one, in seconds. */
const sameBeat = 0.025;
/** Of the shorter beat at a seam; two beats nearer than this are one. */
const nearSeam = 0.6;

/**
 * One count of the music with a part of it counted as another does. Beats of both that nearly meet at a seam become
 * one, that of the part; bars begin where they did on either side.
 * @param part seconds; where `other` has no beats in it, the part has none
 */
export function gridWithPart(grid: BeatGrid, other: BeatGrid, part: Range): BeatGrid {
  const taken = other.beats.filter((beat) => contains(part, beat));
  const [first, last] = [taken[0], taken.at(-1)];
  const reach = nearSeam * Math.min(60 / (tempoOf(grid) || 60), 60 / (tempoOf(other) || 60));
  const kept = grid.beats.filter(
    (beat) =>
      !contains(part, beat) &&
      (first === undefined || Math.abs(beat - first) >= reach) &&
      (last === undefined || Math.abs(beat - last) >= reach),
  );
  const beats = [...kept, ...taken].sort((a, b) => a - b);
  const begins = new Set([
    ...grid.starts.map((index) => grid.beats[index]!).filter((beat) => !contains(part, beat)),
    ...other.starts.map((index) => other.beats[index]!).filter((beat) => contains(part, beat)),
  ]);
  return {
    beats,
    bar: taken.length > kept.length ? other.bar : grid.bar,
    starts: beats.flatMap((beat, index) => (begins.has(beat) ? [index] : [])),
  };
}

/** Whether two counts have the same beats and bars within a part. */
export function sameCountIn(a: BeatGrid, b: BeatGrid, part: Range): boolean {
  const [own, other] = [a, b].map(({ beats, starts }) => {
    const bars = new Set(starts);
    return beats.flatMap((beat, index) => (contains(part, beat) ? [{ beat, begins: bars.has(index) }] : []));
  }) as [{ beat: number; begins: boolean }[], { beat: number; begins: boolean }[]];
  return (
    own.length === other.length &&
    own.every(
      ({ beat, begins }, index) => Math.abs(beat - other[index]!.beat) <= sameBeat && begins === other[index]!.begins,
    )
  );
}

/** Beats a minute of a count within a part; 0 where it has fewer than two beats there. */
export function tempoWithin({ beats, bar }: BeatGrid, part: Range): number {
  return tempoOf({ beats: beats.filter((beat) => contains(part, beat)), bar, starts: [] });
}
