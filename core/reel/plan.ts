import { framesToSamples, framesToSeconds } from '#core/time';
import { mainTrack, type Reel } from './types';

export const soundRate = 48000;
/** Fade at each sound cut, in seconds, so that nothing clicks. Common practice (10 to 20 ms), no source. */
export const cutFadeSeconds = 0.015;

/** One piece as the player and the renderer play it; both use this and nothing else. */
export interface Segment {
  id: string;
  media: string;
  name: string;
  /** In the reel. */
  startFrame: number;
  frames: number;
  startSeconds: number;
  endSeconds: number;
  /** In the source. */
  sourceSeconds: number;
  /** Sound samples of this piece; sums of them never drift from the frames. */
  samples: number;
}

/** The reel as a row of segments without gaps. */
export function planSegments(reel: Reel): Segment[] {
  let at = 0;
  return mainTrack(reel).items.map((clip) => {
    const startFrame = at;
    at += clip.frames;
    return {
      id: clip.id, media: clip.media, name: clip.name, startFrame, frames: clip.frames,
      startSeconds: framesToSeconds(startFrame, reel.rate), endSeconds: framesToSeconds(at, reel.rate),
      sourceSeconds: framesToSeconds(clip.sourceIn, reel.rate),
      samples: framesToSamples(at, reel.rate, soundRate) - framesToSamples(startFrame, reel.rate, soundRate),
    };
  });
}

/** Index of the segment that shows at `seconds`; the last one at and after the end, -1 for an empty reel. */
export function segmentAt(segments: readonly Segment[], seconds: number): number {
  let low = 0;
  let high = segments.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (segments[middle]!.endSeconds <= seconds) low = middle + 1;
    else high = middle;
  }
  return segments.length ? low : -1;
}
