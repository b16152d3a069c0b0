import { formatClock, framesPerSecond } from '#core/time';
import { sourceFrames, type Clip, type Reel, type Source } from '../types';

/** Frames that a source holds at the reel's rate; a photo has no end. */
export const lastFrame = (source: Source, reel: Pick<Reel, 'rate'>): number =>
  source.photo ? Infinity : Math.floor(source.durationSeconds * framesPerSecond(reel.rate) + 1e-6);

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

export const hundredth = (frames: number): number => Math.round(frames * 100) / 100;
