import { framesPerSecond, framesToSeconds, rates, secondsToFrames, type Range, type Rate } from '#core/time';
import type { Clip, Reel, ReelItem, Source, Track } from './types';

/** A piece as it is asked for, in seconds of its source. */
export interface WantedPiece {
  media: string;
  start: number;
  end: number;
  name: string;
  /** Why it was picked. */
  reason?: string;
}

/**
 * A piece of footage as a clip of a reel, or null when nothing of it can be shown: ends are rounded to frames of the
 * reel and then held inside the source.
 */
export function clipFor(piece: WantedPiece, source: Source | undefined, rate: Rate, id: string): Clip | null {
  if (!source) return null;
  const whole = source.photo ? Infinity : Math.floor(source.durationSeconds * framesPerSecond(rate) + 1e-6);
  const sourceIn = source.photo ? 0 : Math.max(0, secondsToFrames(piece.start, rate));
  const frames = source.photo
    ? secondsToFrames(piece.end - piece.start, rate)
    : Math.min(secondsToFrames(piece.end, rate), whole) - sourceIn;
  if (frames < 1) return null;
  const { media, name, reason } = piece;
  return { kind: 'clip', id, media, name, sourceIn, frames, ...(reason === undefined ? {} : { reason }) };
}

/**
 * A highlight reel in the given order. Every piece lies inside its source by construction; a piece shorter than one
 * frame is left out.
 * @param sources by media id
 */
export function assembleReel(
  name: string,
  pieces: readonly WantedPiece[],
  sources: ReadonlyMap<string, Source>,
  rate: Rate,
  size: Reel['size'],
  makeId: () => string,
): Reel {
  const items = pieces.flatMap((piece) => clipFor(piece, sources.get(piece.media), rate, makeId()) ?? []);
  return { schema: 'BrightReel.Reel.1', name, rate, size, tracks: [{ kind: 'picture', name: 'Main', items }] };
}

/** A file of cameras in step, with its place on their clock in seconds. */
export interface SyncedFile {
  media: string;
  name: string;
  /** Where the file begins on the common clock, in seconds. */
  offsetSeconds: number;
  ranges: readonly Range[];
}

/**
 * A reel in which every piece of several cameras stays where it was filmed: a track a camera, with gaps where nothing
 * of it is wanted, so that nothing loses step. The clock begins with the earliest camera.
 */
export function inPlaceReel(
  name: string,
  files: readonly SyncedFile[],
  sources: ReadonlyMap<string, Source>,
  rate: Rate,
  size: Reel['size'],
  makeId: () => string,
): Reel {
  const earliest = Math.min(...files.map((file) => file.offsetSeconds));
  const tracks = files.map((file): Track => {
    const items: ReelItem[] = [];
    let at = 0;
    for (const range of file.ranges) {
      const clip = clipFor({ media: file.media, ...range, name: file.name }, sources.get(file.media), rate, makeId());
      if (!clip) continue;
      const start = secondsToFrames(file.offsetSeconds - earliest + framesToSeconds(clip.sourceIn, rate), rate);
      if (start > at) items.push({ kind: 'gap', id: makeId(), frames: start - at });
      items.push(clip);
      at = Math.max(at, start) + clip.frames;
    }
    return { kind: 'picture', name: file.name, items };
  });
  return {
    schema: 'BrightReel.Reel.1',
    name,
    rate,
    size,
    tracks: tracks.filter((track, index) => index === 0 || track.items.length > 0),
  };
}

/** Rate and size of a source. */
export interface SourceShape {
  rate: Rate | null;
  width: number;
  height: number;
  seconds: number;
}

const same = (a: Rate, b: Rate) => Math.abs(framesPerSecond(a) / framesPerSecond(b) - 1) < 2e-4;

/** Rate and size for a reel: the rate and the shape that most of its seconds have, of at most 1080 lines, even numbers. */
export function reelFormat(shapes: readonly SourceShape[]): { rate: Rate; size: Reel['size'] } {
  const byRate: { rate: Rate; seconds: number }[] = [];
  const bySize = new Map<string, { width: number; height: number; seconds: number }>();
  for (const { rate, width, height, seconds } of shapes) {
    if (width && height) {
      const scale = Math.min(1, 1920 / Math.max(width, height), 1080 / Math.min(width, height));
      const even = (value: number) => Math.max(2, Math.round((value * scale) / 2) * 2);
      const key = `${even(width)}x${even(height)}`;
      const entry = bySize.get(key) ?? { width: even(width), height: even(height), seconds: 0 };
      bySize.set(key, { ...entry, seconds: entry.seconds + seconds });
    }
    if (!rate) continue;
    const usable = framesPerSecond(rate) > 60.1 || framesPerSecond(rate) < 10 ? rates['30'] : rate;
    const known = byRate.find((each) => same(each.rate, usable));
    if (known) known.seconds += seconds;
    else byRate.push({ rate: usable, seconds });
  }
  const most = <T extends { seconds: number }>(list: T[]) => list.sort((a, b) => b.seconds - a.seconds)[0];
  const size = most([...bySize.values()]);
  return {
    rate: most(byRate)?.rate ?? rates['30'],
    size: size ? { width: size.width, height: size.height } : { width: 1920, height: 1080 },
  };
}
