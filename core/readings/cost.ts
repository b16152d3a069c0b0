import { percentile } from '#core/signal';

/** As much of a file as tells how long reading it takes. */
interface ReadingSize {
  kind: 'video' | 'sound' | 'photo';
  width: number;
  height: number;
}

/** Seconds of a second of film: what every picture costs, and a million of its pixels, on a usual machine with two cores. */
const perSecond = { picture: 0.08, megapixel: 0.2, sound: 0.02 };
const photoSeconds = 1;

/** How long a machine as `perSecond` describes it reads a stretch of so many seconds. In seconds. */
export const guessReading = ({ kind, width, height }: ReadingSize, seconds: number): number =>
  kind === 'photo'
    ? photoSeconds
    : seconds *
      (kind === 'sound'
        ? perSecond.sound
        : perSecond.picture + perSecond.sound + (perSecond.megapixel * width * height) / 1e6);

/**
 * How much longer than guessed this machine takes: the median of what it took for other files; 1 while it read none.
 * @param read `guess` and `took` in seconds
 */
export function readingPace(read: readonly { guess: number; took: number }[]): number {
  const ratios = read.filter(({ guess }) => guess > 0).map(({ guess, took }) => took / guess);
  return ratios.length ? Math.min(20, Math.max(0.05, percentile(ratios, 0.5))) : 1;
}
