import { createHash } from 'node:crypto';
import { readFile, stat, writeFile } from 'node:fs/promises';
import type { Segment } from '#core/reel';
import { framesToSeconds, type Rate } from '#core/time';
import type { FrameRange } from './renderSound';

/**
 * A segment, or a later part of one. Of a later part some frames before it are decoded and dropped, so that sources of
 * another rate fall on the same frames as in one go.
 */
export interface Piece extends Segment {
  lead?: number;
}

/** What one ffmpeg call encodes; a render that was broken off goes on behind the last stretch that is whole. */
export interface Stretch {
  range: FrameRange;
  pieces: Piece[];
}

/** Length of a stretch: what a crash costs at most, against a key frame and a start of ffmpeg each time. */
export const stretchSeconds = 30;
/** Pieces of a stretch at most: each is an input of its own, with a decoder that takes memory. */
const mostPieces = 60;
const leadFrames = 2;

const endOf = ({ startFrame, frames }: Segment): number => startFrame + frames;

/**
 * Cuts the pictures of a range into stretches, never inside a transition or a fade. Always in the same places, so that
 * the same reel gives the same bytes whether it was broken off or not.
 * @param length of a stretch, in frames; the last may be half as long again
 */
export function stretchesOf(pictures: readonly Segment[], range: FrameRange, rate: Rate, length: number): Stretch[] {
  const rest: Piece[] = pictures.filter((segment) => segment.startFrame < range.end && endOf(segment) > range.start);
  const stretches: Stretch[] = [];
  let { start } = range;
  while (rest.length > 0) {
    // Where pieces are many the stretch ends with the last that it may hold.
    const crowded = rest.length > mostPieces && Number.isFinite(length) ? rest[mostPieces]!.startFrame : Infinity;
    const due = Math.min(start + length, crowded);
    const over =
      range.end - start > 1.5 * length || crowded < Infinity ? rest.findIndex((segment) => endOf(segment) > due) : -1;
    const segment = rest[over];
    const inside = segment && mayBeCut(segment, due, length / 8);
    const end = !segment ? range.end : segment.startFrame === due || inside ? due : Math.min(range.end, endOf(segment));
    const pieces = rest.splice(0, segment ? over + (segment.startFrame < end ? 1 : 0) : rest.length);
    if (inside) {
      pieces.splice(-1, 1, firstPart(segment, end, rate));
      rest.unshift(lastPart(segment, end, rate));
    }
    stretches.push({ range: { start, end }, pieces });
    start = end;
  }
  return stretches;
}

/** Not close before its end either: a source may have fewer pictures than its length says, and the last one is then held. */
const mayBeCut = (segment: Segment, at: number, margin: number): boolean =>
  !segment.cross &&
  at > segment.startFrame + (segment.fadeIn?.frames ?? 0) &&
  at < endOf(segment) - Math.max(margin, segment.fadeOut?.frames ?? 0);

function firstPart(segment: Piece, at: number, rate: Rate): Piece {
  const { fadeOut: _, ...rest } = segment;
  return { ...rest, frames: at - segment.startFrame, endSeconds: framesToSeconds(at, rate) };
}

function lastPart(segment: Piece, at: number, rate: Rate): Piece {
  const { fadeIn: _, ...rest } = segment;
  const done = at - segment.startFrame;
  return {
    ...rest,
    startFrame: at,
    frames: segment.frames - done,
    startSeconds: framesToSeconds(at, rate),
    into: segment.into + done,
    sourceSeconds: segment.sourceSeconds + framesToSeconds(done, rate) * segment.speed,
    lead: Math.min(leadFrames, done),
  };
}

/** The source second from which a piece is decoded, its dropped frames with it. */
export const decodedFrom = (piece: Piece, rate: Rate): number =>
  piece.sourceSeconds - framesToSeconds(piece.lead ?? 0, rate) * piece.speed;

/** A name for what a call will make: its arguments, and the content of the small files they name. */
export async function fingerprint(
  call: unknown,
  contents: Iterable<string> = [],
  sources: Iterable<string> = [],
): Promise<string> {
  const hash = createHash('sha256').update(JSON.stringify(call));
  for (const file of contents) hash.update(await readFile(file));
  for (const file of sources) {
    const { size, mtimeMs } = await stat(file);
    hash.update(`${file} ${size} ${mtimeMs}`);
  }
  return hash.digest('hex').slice(0, 24);
}

/** Writes the list from which ffmpeg joins stretches. Lengths are differences of rounded times, so that their sum never drifts. */
export async function writeList(
  file: string,
  stretches: readonly { file: string; range: FrameRange }[],
  rate: Rate,
): Promise<void> {
  const first = stretches[0]!.range.start;
  const at = (frame: number) => Math.round(framesToSeconds(frame - first, rate) * 1e6);
  await writeFile(
    file,
    [
      'ffconcat version 1.0',
      ...stretches.flatMap((each) => [
        `file '${each.file.replaceAll("'", "'\\''")}'`,
        `duration ${((at(each.range.end) - at(each.range.start)) / 1e6).toFixed(6)}`,
      ]),
    ].join('\n'),
  );
}
