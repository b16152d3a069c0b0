import type { FaceTrack } from '#core/picture';
import { overlap, type Range } from '#core/time';
import type { Watched } from './follow';

/** A face counts in a shot that it is seen in for longer than this, in seconds. */
const shortestSeen = 0.2;
/** A shorter shot is over before anybody is chosen, in seconds. */
const shortestShot = 0.3;

/**
 * Shots in which somebody has to be chosen: two faces and more, not watched yet.
 * @param ranges stretches that are shown, in seconds of the recording
 * @param duration of the recording, in seconds
 * @returns whole shots, in seconds
 */
export function shotsToWatch(
  { tracks, cuts, mouths }: Pick<Watched, 'tracks' | 'cuts' | 'mouths'>,
  ranges: readonly Range[],
  duration: number,
): Range[] {
  const edges = [0, ...cuts, duration];
  const isSeenIn = (shot: Range) => (track: FaceTrack) => overlap(track, shot) > shortestSeen;
  return edges
    .slice(1)
    .map((end, index): Range => ({ start: edges[index]!, end }))
    .filter(
      (shot) =>
        shot.end - shot.start > shortestShot &&
        ranges.some((range) => overlap(range, shot) > 0) &&
        tracks.filter(isSeenIn(shot)).length > 1 &&
        !mouths.some((each) => Math.abs(each.start - shot.start) < 0.02),
    );
}
