import { decimal } from '#core/sentences';
import { guessReading } from '#core/readings';
import { formatClock, parseClock } from '#core/time';
import type { Item } from '#usecases/projects';

/** What a stretch of some items comes to. */
export interface RangeCost {
  /** Seconds of film and sound that are read. */
  seconds: number;
  /** How long that takes on this machine, in seconds. */
  takes: number;
  /** Items that the stretch does not lie in. */
  outside: number;
  /** Items whose length is not known yet. */
  unknown: number;
}

/**
 * What reading the same stretch of items costs.
 * @param from as people write times; empty for the start
 * @param to the same; empty for the end
 * @param pace of this machine, see `readingPace`
 * @returns null when these are no times
 */
export function rangeCost(items: readonly Item[], from: string, to: string, pace: number): RangeCost | null {
  const start = from.trim() ? parseClock(from) : 0;
  const end = to.trim() ? parseClock(to) : Infinity;
  if (start === null || end === null || end - start < 1) return null;
  const cost: RangeCost = { seconds: 0, takes: 0, outside: 0, unknown: 0 };
  for (const { probe, arrived } of items) {
    const known = probe ?? arrived;
    if (!known) cost.unknown++;
    else if (known.kind !== 'photo') {
      const seconds = Math.min(end, known.durationSeconds) - start;
      // As the server holds it against the file.
      if (seconds < 1 || (Number.isFinite(end) && end > known.durationSeconds + 1)) cost.outside++;
      else {
        cost.seconds += seconds;
        cost.takes += guessReading(known, seconds) * pace;
      }
    }
  }
  return cost;
}

const files = (count: number) => (count === 1 ? 'one file' : `${count} files`);

/** The same in a sentence. */
export function costWords({ seconds, takes, outside, unknown }: RangeCost): string {
  const minutes = takes / 60;
  const about =
    takes < 50
      ? `${Math.max(1, Math.round(takes))} s`
      : minutes < 90
        ? `${Math.max(1, Math.round(minutes))} min`
        : `${decimal(minutes / 60, 1)} h`;
  return [
    seconds > 0 ? `${formatClock(seconds)} to read, about ${about}` : 'nothing to read',
    ...(outside
      ? [
          `it does not lie in ${files(outside)}, which ${outside === 1 ? 'stays' : 'stay'} as ${outside === 1 ? 'it is' : 'they are'}`,
        ]
      : []),
    ...(unknown ? [`the length of ${files(unknown)} is not known yet`] : []),
  ].join('; ');
}
