import { rename, rm, stat } from 'node:fs/promises';
import type { ReelTexts } from '#core/formats';
import type { Size } from '#core/framing';
import type { ColourTable } from '#core/look';
import type { CameraPath } from '#core/picture';
import { malformedAt, reelFrames, type OutputFormat, type Quality, type Reel } from '#core/reel';
import type { SoundChoice } from '#core/sound';
import { framesToSeconds, type Range } from '#core/time';
import { MediaError } from '../process';
import type { LookedCoding } from '../probe/shown';
import type { FrameRange } from './renderSound';
import { decodedFrom, type Piece } from './stretches';

export interface RenderSource {
  file: string;
  hasPicture: boolean;
  hasSound: boolean;
  photo: boolean;
  /** Of its picture, as it is shown. */
  width?: number;
  height?: number;
  durationSeconds?: number;
  /** What of its sound is heard; all of its first track when missing. */
  heard?: SoundChoice;
  /** How its pictures are coded; taken for plain where it is not known. */
  coding?: LookedCoding;
}

export interface RenderOptions {
  size: Size;
  format?: OutputFormat;
  quality?: Quality;
  /** Only these frames of the reel; all when missing. */
  range?: FrameRange;
  /** Where somebody speaks in the reel; the music sinks there. */
  speech?: readonly Range[];
  /** Tables that looks name. */
  tables?: ReadonlyMap<string, ColourTable>;
  /** How the camera of a source moved; needed for pieces that are steadied. */
  pathOf?(media: string): Promise<CameraPath | null>;
  /** For captions. */
  texts?: ReelTexts;
  /** A folder that keeps what is whole when it breaks off, so that the same call goes on there. */
  keepIn?: string;
  /** Where several make one film: who makes which stretch. */
  share?: StretchShare;
  /** Another length of the stretches; for tests. */
  stretchSeconds?: number;
  signal?: AbortSignal;
  onProgress?(share: number): void;
}

/** The stretches of a film that several make; each has a name that is the same for all who make it. */
export interface StretchShare {
  /** Tells that they are made, whoever asks. */
  made(names: readonly string[]): Promise<void>;
  /** Which of them somebody has made. */
  whichAreMade(names: readonly string[]): Promise<ReadonlySet<string>>;
  /** Takes the first that nobody has made or is making; null when there is none. It is one's own until it is made or `letGo`. */
  take(names: readonly string[]): Promise<string | null>;
  letGo(name: string): Promise<void>;
  /** Gives one that is made to whoever joins them. @param byHelper one that somebody else will join */
  give(name: string, file: string, byHelper: boolean): Promise<void>;
  /** Brings one that another has made into a file. @returns false when it is not to be had; it is nobody's then */
  fetch(name: string, to: string): Promise<boolean>;
  /** Aborts when the stretch that was taken is not wanted any more. */
  unwanted(name: string): AbortSignal;
}

export interface Call {
  reel: Reel;
  sources: ReadonlyMap<string, RenderSource>;
  options: RenderOptions;
  scratch: string;
  range: FrameRange;
}

/**
 * A call that can be made: the reel holds nothing that does not belong there, and the range has frames.
 * @throws MediaError
 */
export function checkedCall(
  reel: Reel,
  sources: ReadonlyMap<string, RenderSource>,
  options: RenderOptions,
  scratch: string,
): Call {
  const malformed = malformedAt(reel) ?? (Object.values(options.size).every(Number.isInteger) ? null : 'size');
  if (malformed !== null)
    throw new MediaError(
      `This reel holds something at “${malformed}” that does not belong there, and is not rendered. Go back to an earlier version of it.`,
    );
  const total = reelFrames(reel);
  if (total === 0) throw new MediaError('The reel is empty; there is nothing to render.');
  const asked = options.range ?? { start: 0, end: total };
  const range = {
    start: Math.max(0, asked.start),
    end: Math.min(total, options.format === 'png' ? asked.start + 1 : asked.end),
  };
  if (range.end <= range.start) throw new MediaError('The range holds no frame of the reel.');
  return { reel, sources, options, scratch, range };
}

/** Nothing in a file says when or by what it was made. */
export const plainly = [
  '-map_metadata',
  '-1',
  '-fflags',
  '+bitexact',
  '-flags:v',
  '+bitexact',
  '-flags:a',
  '+bitexact',
];
export const isThere = (file: string): Promise<boolean> =>
  stat(file).then(
    (stats) => stats.size > 0,
    () => false,
  );

/** Makes a file under another name, so that what bears its own is whole. @returns false when none was made */
export async function whole(file: string, make: (half: string) => Promise<unknown>): Promise<boolean> {
  const half = `${file}.half`;
  try {
    if ((await make(half)) === false) return false;
    await rename(half, file);
    return true;
  } finally {
    await rm(half, { force: true });
  }
}

/** The part of a source that a piece takes, with some to spare. */
export const taken = (piece: Piece, reel: Reel): string[] => [
  '-ss',
  Math.max(0, decodedFrom(piece, reel.rate) - 1e-4).toFixed(6),
  '-t',
  (framesToSeconds(piece.frames + (piece.lead ?? 0), reel.rate) * piece.speed + 0.5).toFixed(6),
];
