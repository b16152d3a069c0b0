import type { Range } from '#core/time';
import { spread } from '#core/words';
import type { CaptionLine } from './types';

/** Words in a row of one file's transcript that get new times; in seconds of that file. */
export interface Retiming {
  media: string;
  /** Index of the first of them. */
  from: number;
  starts: number[];
  end: number;
}

/** A caption stands so long at least, in seconds. */
const shortest = 0.3;

/**
 * New times of words out of taps, one where each caption begins: its words share the time up to the next tap, the last
 * one's the time that they took before. Words stay in the pieces in which they are said, and before the first caption
 * that was not tapped; those that do not follow one another in their recording come apart.
 * @param taps in seconds of the reel, rising
 * @param pieces of the reel, in its seconds
 * @param sourceAt the second of the footage that is shown at a second of the reel
 */
export function tappedTimes(
  lines: readonly CaptionLine[],
  taps: readonly number[],
  pieces: readonly Range[],
  sourceAt: (seconds: number) => number,
): Retiming[] {
  const runs: Retiming[] = [];
  let last: { media: string; index: number; start: number } | null = null;
  const untapped = lines[taps.length]?.words[0]?.start ?? Infinity;
  for (const [index, line] of lines.slice(0, taps.length).entries()) {
    const [first, final] = [line.words[0]!, line.words.at(-1)!];
    const room = {
      start: pieceAt(pieces, first.start).start,
      end: Math.min(untapped, pieceAt(pieces, final.start).end),
    };
    const tap = Math.max(room.start, Math.min(taps[index]!, room.end - shortest));
    const end = Math.max(tap + shortest, Math.min(room.end, taps[index + 1] ?? tap + final.end - first.start));
    for (const [at, { start, end: until }] of spread(
      line.words.map((word) => word.text),
      tap,
      end,
    ).entries()) {
      const word = line.words[at]!;
      const begins = sourceAt(start);
      // A hair before its end, so that a word that ends with its piece ends there in the source too.
      const ends = Math.max(begins + 0.02, sourceAt(until - 1e-4));
      const run = runs.at(-1);
      if (run && last && last.media === word.media && last.index + 1 === word.index && begins > last.start) {
        run.starts.push(begins);
        run.end = ends;
      } else runs.push({ media: word.media, from: word.index, starts: [begins], end: ends });
      last = { media: word.media, index: word.index, start: begins };
    }
  }
  return runs;
}

const pieceAt = (pieces: readonly Range[], seconds: number): Range =>
  pieces.find((piece) => seconds < piece.end - 1e-6) ?? { start: 0, end: Infinity };
