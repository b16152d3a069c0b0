import { runsOf, type Run } from '#core/readings';
import { framesToSeconds, mergeRanges, type Range } from '#core/time';
import { amplitude, quietest } from './level';
import { clipsBeside, planSound } from './plan';
import { reelFrames, type Reel } from './types';

/** A point of a gain curve; between points the level moves in a straight line in dB. */
export interface GainPoint {
  seconds: number;
  db: number;
}

/** Music begins to sink so long before somebody speaks, and takes so long to come back. Common practice, no source. */
export const usualSink = 0.3,
  usualRise = 0.7;
/** Between sentences closer than this the music stays down. */
const stayDownSeconds = 1.2;

/** Where somebody is heard speaking in a reel: the speech runs of its main track's pieces and of the sounds beside them, unless they are muted. */
export function speechInReel(reel: Reel, runsOfMedia: (media: string) => readonly Run[]): Range[] {
  const heard = [...planSound(reel), ...clipsBeside(reel)].filter(
    (segment) => segment.media !== null && segment.gain > 0,
  );
  return mergeRanges(
    heard
      .flatMap((segment) => {
        const { speed, sourceSeconds, startSeconds, endSeconds } = segment;
        const end = sourceSeconds + (endSeconds - startSeconds) * speed;
        const inReel = (seconds: number) =>
          startSeconds + (Math.min(end, Math.max(sourceSeconds, seconds)) - sourceSeconds) / speed;
        return runsOf(runsOfMedia(segment.media!), 'speech')
          .filter((run) => run.end > sourceSeconds && run.start < end)
          .map((run) => ({ start: inReel(run.start), end: inReel(run.end) }));
      })
      .sort((a, b) => a.start - b.start),
    stayDownSeconds,
  );
}

/**
 * The level of the music all along the reel: up from nothing at the start, at its level, down by `duckDb` under speech
 * (down before the first word, up after the last), to nothing at the end. Times never go back.
 */
export function musicCurve(reel: Reel, speech: readonly Range[]): GainPoint[] {
  const { music } = reel;
  const total = framesToSeconds(reelFrames(reel), reel.rate);
  if (!music || total === 0) return [];
  const low = music.levelDb - Math.abs(music.duckDb);
  const { sinkSeconds = usualSink, riseSeconds = usualRise } = music;
  const body: GainPoint[] = [{ seconds: 0, db: music.levelDb }];
  for (const run of music.duckDb === 0 ? [] : speech) {
    body.push(
      { seconds: Math.max(0, run.start - sinkSeconds), db: music.levelDb },
      { seconds: run.start, db: low },
      { seconds: run.end, db: low },
      { seconds: run.end + riseSeconds, db: music.levelDb },
    );
  }
  // A rise that the next sinking cuts short would go back in time; the lower of both counts.
  const at = (seconds: number): number => {
    let db = music.levelDb;
    for (let index = 1; index + 3 < body.length; index += 4) {
      const [sink, down, up, risen] = body.slice(index, index + 4) as [GainPoint, GainPoint, GainPoint, GainPoint];
      if (seconds <= sink.seconds || seconds >= risen.seconds) continue;
      const share =
        seconds < down.seconds
          ? (seconds - sink.seconds) / (down.seconds - sink.seconds)
          : seconds > up.seconds
            ? 1 - (seconds - up.seconds) / riseSeconds
            : 1;
      db = Math.min(db, music.levelDb + (low - music.levelDb) * share);
    }
    return db;
  };
  const fadeIn = Math.min(music.fadeInSeconds, total / 2);
  const fadeOut = Math.min(music.fadeOutSeconds, total / 2);
  const faded = (seconds: number): number => {
    const share = Math.min(fadeIn > 0 ? seconds / fadeIn : 1, fadeOut > 0 ? (total - seconds) / fadeOut : 1, 1);
    return share <= 0 ? quietest : Math.max(quietest, at(seconds) + (1 - share) * (quietest - at(seconds)));
  };
  const times = [...new Set([0, fadeIn, total - fadeOut, total, ...body.map((point) => point.seconds)])]
    .filter((seconds) => seconds >= 0 && seconds <= total)
    .sort((a, b) => a - b);
  return times.map((seconds) => ({ seconds, db: faded(seconds) }));
}

/** Level of a curve at a time, in dB; its ends are held. */
export function levelAt(curve: readonly GainPoint[], seconds: number): number {
  const next = curve.findIndex((point) => point.seconds > seconds);
  if (next === 0) return curve[0]!.db;
  if (next < 0) return curve.at(-1)?.db ?? quietest;
  const [a, b] = [curve[next - 1]!, curve[next]!];
  return a.db + ((b.db - a.db) * (seconds - a.seconds)) / (b.seconds - a.seconds);
}

/** A curve as amplitudes, `hz` a second, for a renderer. */
export function sampledCurve(curve: readonly GainPoint[], seconds: number, hz: number): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * hz) + 1);
  let next = 0;
  for (let index = 0; index < out.length; index++) {
    const time = index / hz;
    while (next < curve.length && curve[next]!.seconds <= time) next++;
    const before = curve[next - 1] ?? curve[0]!;
    const after = curve[next] ?? before;
    const share = after.seconds > before.seconds ? (time - before.seconds) / (after.seconds - before.seconds) : 0;
    out[index] = amplitude(before.db + (after.db - before.db) * Math.min(1, Math.max(0, share)));
  }
  return out;
}
