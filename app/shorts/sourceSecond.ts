import { segmentAt } from '#core/reel';
import type { ReelDesk } from '../reel/useReelDesk';

/** The source's second at a second of the reel. */
export const sourceSecond =
  (desk: ReelDesk) =>
  (seconds: number): number => {
    const segment = desk.segments[segmentAt(desk.segments, seconds)];
    return segment ? segment.sourceSeconds + (seconds - segment.startSeconds) * segment.speed : seconds;
  };
