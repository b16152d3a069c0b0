import { nearestBeat, type BeatGrid } from '#core/sound';

/** Two marks closer than this are one, in seconds; nobody taps faster. */
const apart = 0.08;

/** Marks in order, none twice, none before the music. */
export const tidyMarks = (marks: readonly number[]): number[] =>
  marks
    .filter((mark) => mark >= 0)
    .sort((a, b) => a - b)
    .filter((mark, index, all) => index === 0 || mark - all[index - 1]! >= apart);

/** The marks with one more, in seconds, ascending. */
export const addMark = (marks: readonly number[], seconds: number): number[] =>
  tidyMarks([...marks, Math.max(0, seconds)]);
/** The marks without the one at a second. */
export const removeMark = (marks: readonly number[], seconds: number): number[] =>
  marks.filter((mark) => Math.abs(mark - seconds) > 1e-6);
/** A mark elsewhere; it may pass others. */
export const moveMark = (marks: readonly number[], from: number, to: number): number[] =>
  tidyMarks([...removeMark(marks, from), Math.max(0, to)]);

/** Beats, half beats between them, to the nearest of which marks are drawn. */
function places(grid: BeatGrid, half: boolean): number[] {
  return half
    ? grid.beats.flatMap((beat, index) =>
        index + 1 < grid.beats.length ? [beat, (beat + grid.beats[index + 1]!) / 2] : [beat],
      )
    : grid.beats;
}

/** Marks drawn to the nearest beat, or half beat; two that come to lie on the same one are one. */
export function quantiseMarks(marks: readonly number[], grid: BeatGrid, half = false): number[] {
  const all: BeatGrid = { ...grid, beats: places(grid, half), starts: [] };
  if (all.beats.length === 0) return [...marks];
  return tidyMarks(marks.map((mark) => all.beats[nearestBeat(all, mark)]!));
}

/**
 * By how much somebody taps late (or early, less than 0) against the beats, in seconds: the median distance from the
 * nearest beat, when the taps agree about it. People tap some tens of milliseconds early ("negative mean asynchrony",
 * Repp 2005), and the player's way to the loudspeaker adds a delay.
 * @returns null with fewer than five taps, or when they are not about the beats
 */
export function tapOffset(taps: readonly number[], grid: BeatGrid): number | null {
  if (grid.beats.length < 2) return null;
  const off = taps.map((tap) => tap - grid.beats[nearestBeat(grid, tap)]!).sort((a, b) => a - b);
  if (off.length < 5) return null;
  const at = (share: number) => off[Math.floor(share * (off.length - 1))]!;
  return at(0.75) - at(0.25) > 0.07 ? null : at(0.5);
}
