import { startOf, type Clip, type Reel, type Track } from '../types';

/** A clip and where it stands. */
export interface FoundClip {
  clip: Clip;
  track: Track;
  trackIndex: number;
  index: number;
  start: number;
  end: number;
}

export function locate(reel: Reel, id: string): FoundClip | null {
  for (const [trackIndex, track] of reel.tracks.entries()) {
    const index = track.items.findIndex((item) => item.kind === 'clip' && item.id === id);
    if (index < 0) continue;
    const clip = track.items[index] as Clip;
    const start = startOf(track, id);
    return { clip, track, trackIndex, index, start, end: start + clip.frames };
  }
  return null;
}

/** The clips that are linked with this one, in other tracks. */
export const linkedWith = (reel: Reel, clip: Clip): FoundClip[] =>
  clip.link === undefined
    ? []
    : reel.tracks.flatMap((track) =>
        track.items
          .filter((item) => item.kind === 'clip' && item.link === clip.link && item.id !== clip.id)
          .map((item) => locate(reel, item.id)!),
      );

export const isLocked = (track: Track): string | null => (track.locked ? `The track “${track.name}” is locked.` : null);
