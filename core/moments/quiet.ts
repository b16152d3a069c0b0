import { overlap, subtractRanges, type Range } from '#core/time';

/** A silence that is about to be taken out, or one that somebody keeps. */
export interface Silence extends Range {
  kept: boolean;
}

/**
 * Silences with what was kept by hand. A kept stretch stays kept when threshold, length or padding move, as long as it
 * lies mostly in the same silence.
 */
export function markSilences(found: readonly Range[], kept: readonly Range[]): Silence[] {
  return found.map(({ start, end }) => ({
    start,
    end,
    kept: kept.some((range) => overlap(range, { start, end }) > 0.5 * Math.min(range.end - range.start, end - start)),
  }));
}

/** What is left of a file when its silences are taken out, but those kept; nothing shorter than `leastSeconds` is left standing. */
export function withoutSilence(durationSeconds: number, silences: readonly Silence[], leastSeconds = 0.15): Range[] {
  return subtractRanges(
    { start: 0, end: durationSeconds },
    silences.filter((silence) => !silence.kept),
  ).filter((range) => range.end - range.start >= leastSeconds);
}
