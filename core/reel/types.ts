import type { Rate } from '#core/time';

/**
 * A piece of footage in a reel. Frames are counted at the reel's rate: `sourceIn` is the source's time at which the
 * piece begins, `frames` its length. Photos have no time of their own; their `sourceIn` is 0.
 */
export interface Clip {
  kind: 'clip';
  id: string;
  media: string;
  name: string;
  sourceIn: number;
  frames: number;
}

export interface Track {
  kind: 'picture';
  name: string;
  items: Clip[];
}

/** An edit list, modelled on OpenTimelineIO's timeline, track, clip. */
export interface Reel {
  schema: 'BrightReel.Reel.1';
  name: string;
  rate: Rate;
  size: { width: number; height: number };
  tracks: Track[];
}

/** What a reel must know of a source to check an edit. */
export interface Source {
  id: string;
  name: string;
  durationSeconds: number;
  photo?: boolean;
}

export const mainTrack = (reel: Reel): Track => reel.tracks[0]!;
export const reelFrames = (reel: Reel): number => mainTrack(reel).items.reduce((sum, clip) => sum + clip.frames, 0);
