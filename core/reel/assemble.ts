import { framesPerSecond, rates, secondsToFrames, type Rate } from '#core/time';
import type { Clip, Reel, Source } from './types';

export interface WantedPiece {
  media: string;
  start: number;
  end: number;
  name: string;
}

/**
 * A highlight reel in the given order. Every piece lies inside its source by construction: ends are rounded to frames
 * of the reel and then held inside the source; a piece shorter than one frame is left out.
 * @param sources by media id
 */
export function assembleReel(name: string, pieces: readonly WantedPiece[], sources: ReadonlyMap<string, Source>, rate: Rate, size: Reel['size'], makeId: () => string): Reel {
  const items = pieces.flatMap((piece): Clip[] => {
    const source = sources.get(piece.media);
    if (!source) return [];
    const whole = source.photo ? Infinity : Math.floor(source.durationSeconds * framesPerSecond(rate) + 1e-6);
    const sourceIn = Math.max(0, secondsToFrames(piece.start, rate));
    const frames = Math.min(secondsToFrames(piece.end, rate), whole) - sourceIn;
    return frames < 1 ? [] : [{ kind: 'clip', id: makeId(), media: piece.media, name: piece.name, sourceIn, frames }];
  });
  return { schema: 'BrightReel.Reel.1', name, rate, size, tracks: [{ kind: 'picture', name: 'Main', items }] };
}

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
  return { rate: most(byRate)?.rate ?? rates['30'], size: size ? { width: size.width, height: size.height } : { width: 1920, height: 1080 } };
}
