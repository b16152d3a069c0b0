import { framesPerSecond } from '#core/time';
import { pictureTracks, reelFrames, sourceFrames, speedOf, type Clip, type Reel } from './types';

/** Where something of an earlier version is in a later one. */
export interface NowAt {
  /** A frame of the later version. */
  frame: number;
  /**
   * `there`: the same frame of the footage is seen. `trimmed`: its piece is, without that frame; the nearest end of it is
   * given. `gone`: neither; the same time of the reel is given.
   */
  how: 'there' | 'trimmed' | 'gone';
}

interface Placed {
  clip: Clip;
  start: number;
}

const placed = (reel: Reel): Placed[] =>
  pictureTracks(reel).flatMap(({ items }) => {
    let start = 0;
    return items.flatMap((item) => {
      const at = start;
      start += item.frames;
      return item.kind === 'clip' ? [{ clip: item, start: at }] : [];
    });
  });

/** The piece that is seen at a frame: of those that lie above one another the topmost. */
const seenAt = (reel: Reel, frame: number): Placed | null =>
  placed(reel).findLast(({ clip, start }) => frame >= start && frame < start + clip.frames) ?? null;

/**
 * Follows a note on an earlier version of a reel to where its picture is now: by the piece, whatever was done before it,
 * else by the frame of the footage, so that pieces that were split or replaced by the same footage keep it.
 * @param frame of the earlier version
 */
export function whereNow(before: Reel, now: Reel, frame: number): NowAt {
  const perFrame = framesPerSecond(now.rate) / framesPerSecond(before.rate);
  const last = Math.max(0, reelFrames(now) - 1);
  const sameTime = Math.min(last, Math.max(0, Math.round(frame * perFrame)));
  const seen = seenAt(before, frame);
  if (!seen) return { frame: sameTime, how: seenAt(now, sameTime) ? 'gone' : 'there' };
  const source = (seen.clip.sourceIn + sourceFrames(seen.clip, frame - seen.start)) * perFrame;
  const still = speedOf(seen.clip) === 0;
  const candidates = placed(now).filter(({ clip }) => clip.media === seen.clip.media);
  const own = candidates.find(({ clip }) => clip.id === seen.clip.id);
  const inOrder = own ? [own, ...candidates.filter((each) => each !== own)] : candidates;
  for (const { clip, start } of inOrder) {
    const into = still && clip === own?.clip ? (frame - seen.start) * perFrame : framesInto(clip, source);
    if (into !== null && into >= -0.5 && into < clip.frames)
      return { frame: start + Math.max(0, Math.min(clip.frames - 1, Math.round(into))), how: 'there' };
  }
  if (!own) return { frame: sameTime, how: 'gone' };
  const into = framesInto(own.clip, source) ?? (frame - seen.start) * perFrame;
  return { frame: own.start + (into < 0 ? 0 : own.clip.frames - 1), how: 'trimmed' };
}

/** Frames from the beginning of a piece to a frame of its footage; null where its time stands still. */
const framesInto = (clip: Clip, source: number): number | null =>
  speedOf(clip) === 0 ? null : ((source - clip.sourceIn) * 100) / speedOf(clip);
