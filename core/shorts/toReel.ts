import type { CaptionStyle } from '#core/captions';
import {
  assembleReel,
  clipsOf,
  framesLeft,
  mainTrack,
  sizeOf,
  type Reel,
  type ReelCommand,
  type Shape,
  type Source,
} from '#core/reel';
import { framesPerSecond, framesToSeconds, secondsToFrames, type Rate } from '#core/time';
import type { Short } from './types';

/** Loudness of shorts for the web; common practice, no source. */
const loudness = -14;
/** Lines of the shorter side of a short. */
const lines = 1080;

/** A short as a reel: its pieces in the shape that was wished, filled, captioned. */
export function shortReel(
  short: Pick<Short, 'title' | 'pieces' | 'media'> & { reason?: string },
  source: Source,
  rate: Rate,
  shape: Shape,
  captions: CaptionStyle | null,
  makeId: () => string,
): Reel {
  const name = source.name.replace(/\.\w+$/, '');
  const reel = assembleReel(
    short.title,
    short.pieces.map((piece) => ({
      media: short.media,
      ...piece,
      name,
      ...(short.reason ? { reason: short.reason.slice(0, 500) } : {}),
    })),
    new Map([[source.id, source]]),
    rate,
    sizeOf(shape, lines),
    makeId,
  );
  return { ...reel, fit: 'fill', loudnessLufs: loudness, ...(captions ? { captions } : {}) };
}

/**
 * Lets a short end somewhere else in its source: pieces behind that are taken out, the last one is made shorter or
 * longer. Null when it ends there already, or nothing would be left.
 */
export function endAt(reel: Reel, end: number, sources: ReadonlyMap<string, Source>): ReelCommand | null {
  const clips = mainTrack(reel).items.filter((item) => item.kind === 'clip');
  const wanted = secondsToFrames(end, reel.rate);
  // A piece shorter than a quarter of a second would only flash up.
  const least = Math.round(framesPerSecond(reel.rate) / 4);
  const kept = clips.filter((clip) => clip.sourceIn + least < wanted);
  const last = kept.at(-1);
  if (!last) return null;
  const source = sources.get(last.media);
  const more = Math.min(
    Math.round(wanted - (last.sourceIn + last.frames)),
    source ? framesLeft(last, source, reel) : 0,
  );
  const gone = clips.slice(kept.length);
  if (gone.length === 0 && more === 0) return null;
  return {
    type: 'several',
    name: 'chose another ending',
    commands: [
      ...gone.map((clip) => ({ type: 'remove' as const, clip: clip.id })),
      ...(more === 0 ? [] : [{ type: 'trim' as const, clip: last.id, edge: 'out' as const, frames: more }]),
    ],
  };
}

/** What of the source a reel shows, piece by piece, in seconds. */
export const shownPieces = (reel: Reel): { clip: string; media: string; start: number; end: number }[] =>
  clipsOf(reel).map((clip) => ({
    clip: clip.id,
    media: clip.media,
    start: framesToSeconds(clip.sourceIn, reel.rate),
    end: framesToSeconds(clip.sourceIn + (clip.frames * (clip.speed ?? 100)) / 100, reel.rate),
  }));
