import { formatClock, framesPerSecond } from '#core/time';
import type { EditResult, ReelCommand } from '../command';
import { insertAt, takeOut, tidy, type NewId } from '../items';
import {
  itemsFrames,
  sourceFrames,
  startOf,
  type Clip,
  type Reel,
  type ReelItem,
  type Source,
  type Track,
} from '../types';

export type Sources = ReadonlyMap<string, Source>;

export const refuse = (
  reason: string,
  instead?: { says: string; command: ReelCommand },
): EditResult & { ok: false } => ({ ok: false, reason, ...(instead ? { instead } : {}) });
export const done = (reel: Reel): EditResult => ({ ok: true, reel });

/** Tracks with other items; those above and beside the main one go when nothing is left in them. */
export function withItems(reel: Reel, change: (track: Track, index: number) => readonly ReelItem[]): Reel {
  const tracks = reel.tracks
    .map((track, index) => ({ ...track, items: tidy(change(track, index)) }))
    .filter((track, index) => index === 0 || track.items.length > 0);
  return { ...reel, tracks };
}

/** Ids for what a cut makes, told from every id in the reel. */
export function idsFrom(seed: string, reel: Reel): NewId {
  const taken = new Set(reel.tracks.flatMap((track) => track.items.map((item) => item.id)));
  let count = 0;
  return () => {
    let id: string;
    do id = `${seed}.${++count}`;
    while (taken.has(id));
    return id;
  };
}

/** A clip and where it stands. */
export interface Found {
  clip: Clip;
  track: Track;
  trackIndex: number;
  index: number;
  start: number;
  end: number;
}

export function locate(reel: Reel, id: string): Found | null {
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
export const linkedWith = (reel: Reel, clip: Clip): Found[] =>
  clip.link === undefined
    ? []
    : reel.tracks.flatMap((track) =>
        track.items
          .filter((item) => item.kind === 'clip' && item.link === clip.link && item.id !== clip.id)
          .map((item) => locate(reel, item.id)!),
      );

const shifted = (frame: number, at: number, frames: number): number =>
  frames > 0 ? (frame >= at ? frame + frames : frame) : frame >= at - frames ? frame + frames : Math.min(frame, at);

/**
 * Opens room at a frame (`frames` > 0) or closes up a stretch that begins there (`frames` < 0): in every track that is
 * not locked, for markers and titles.
 * @param except tracks in which it was done already
 */
export function ripple(reel: Reel, at: number, frames: number, except: ReadonlySet<number>, newId: NewId): Reel {
  if (frames === 0) return reel;
  const moved = withItems(reel, (track, index) => {
    if (except.has(index) || track.locked) return track.items;
    if (frames < 0) return takeOut(track.items, at, at - frames, newId);
    return at >= itemsFrames(track.items)
      ? track.items
      : insertAt(track.items, at, [{ kind: 'gap', id: newId(), frames }], newId);
  });
  return {
    ...moved,
    ...(reel.markers
      ? { markers: reel.markers.map((marker) => ({ ...marker, frame: shifted(marker.frame, at, frames) })) }
      : {}),
    ...(reel.titles
      ? { titles: reel.titles.map((title) => ({ ...title, frame: shifted(title.frame, at, frames) })) }
      : {}),
  };
}

/** Frames that a source holds at the reel's rate; a photo has no end. */
export const lastFrame = (source: Source, reel: Pick<Reel, 'rate'>): number =>
  source.photo ? Infinity : Math.floor(source.durationSeconds * framesPerSecond(reel.rate) + 1e-6);

/** Why a clip cannot be as it is, or null when it can. A piece of another speed may end within a frame of the source's end. */
export function problemOf(clip: Clip, source: Source | undefined, reel: Reel): string | null {
  if (!source) return `The footage of “${clip.name}” is missing.`;
  if (clip.frames < 1) return 'A piece keeps at least one frame. Take it out instead.';
  if (source.photo) return null;
  if (clip.sourceIn < 0) return `“${source.name}” begins here; there is nothing before its first frame.`;
  const left = framesLeft(clip, source, reel);
  if (left < 0)
    return `“${source.name}” ends at ${formatClock(source.durationSeconds, true)}; the piece reaches beyond it by ${-left} ${left === -1 ? 'frame' : 'frames'}.`;
  return null;
}

/** Frames of the reel by which a clip could end later; negative when it ends too late. */
export function framesLeft(clip: Clip, source: Source, reel: Pick<Reel, 'rate'>): number {
  const speed = clip.speed ?? 100;
  if (source.photo || speed === 0) return Infinity;
  const room = lastFrame(source, reel) - clip.sourceIn - sourceFrames(clip, clip.frames);
  return Math.floor((room * 100) / speed + 1e-6);
}

/** Frames of the reel by which a clip could begin earlier. */
export function framesBefore(clip: Clip, source: Source): number {
  const speed = clip.speed ?? 100;
  return source.photo || speed === 0 ? Infinity : Math.floor((clip.sourceIn * 100) / speed + 1e-6);
}

export const isLocked = (track: Track): string | null => (track.locked ? `The track “${track.name}” is locked.` : null);
export const hundredth = (frames: number): number => Math.round(frames * 100) / 100;
