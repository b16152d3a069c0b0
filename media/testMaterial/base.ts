import { execFileSync } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ffmpeg, realPicture } from '../testMedia';

/** What is true of a piece of material, as `./bright-reel analyze` tells it of `media`; what is left out is not asked. */
export interface MediaTruth {
  width?: number;
  height?: number;
  rotation?: number;
  pixelAspect?: string;
  interlaced?: boolean;
  hdr?: 'pq' | 'hlg' | null;
  startTimecode?: string | null;
  reelName?: string | null;
  recordedAt?: string | null;
  soundTracks?: { channels: number }[];
  frameRate?: number;
  codec?: string;
}

/** One made file, and what is true of it. */
export interface MadeFile {
  name: string;
  /** File name in the folder; made by `make`. */
  file: string;
  make(place: MadeIn): void | Promise<void>;
  truth: MediaTruth;
  /** Length in seconds, where it is a film or sound. */
  seconds?: number;
  /** A picture without loss that shows what is to be seen 0.52 s in; null where no picture is compared. */
  looks: 'base' | 'moving' | 'grey' | null;
  /** A `.cube` file in the folder that it is seen through. */
  inputLook?: string;
  /** How far brightness may be off, of 255; HDR is rolled off. */
  brightness?: number;
  /** Structural similarity at the least. */
  alike?: number;
}

/** A folder with what material is made from. */
export interface MadeIn {
  at(name: string): string;
}

/** Size of the pictures that material is made from. */
export const baseSize = { width: 480, height: 270 };

/** Makes the pictures and films without loss from which all material is made: a real picture of Debian's opencv-doc. */
export function makeBase({ at }: MadeIn): void {
  const { width, height } = baseSize;
  ffmpeg(
    '-i',
    realPicture('fruits.jpg'),
    '-vf',
    `crop=512:288:0:120,scale=${width}:${height}:flags=lanczos,format=rgb24`,
    at('base.png'),
  );
  ffmpeg('-i', at('base.png'), '-vf', 'format=gray', at('grey.png'));
  // Two seconds at fifty a second, moving two pixels from frame to frame.
  ffmpeg(
    ...['-loop', '1', '-framerate', '50', '-t', '2', '-i', at('base.png')],
    ...['-vf', `scroll=horizontal=${2 / width}`, '-c:v', 'ffv1', '-pix_fmt', 'gbrp', at('moving.mkv')],
  );
  ffmpeg('-ss', '0.52', '-i', at('moving.mkv'), '-frames:v', '1', at('moving.png'));
}

/** A still film of the base picture, as input arguments. */
export const stillFilm = ({ at }: MadeIn, seconds = 1.5, rate = '25'): string[] => [
  ...['-loop', '1', '-framerate', rate, '-t', String(seconds), '-i', at('base.png')],
];
/** Into BT.709 at video levels, as films of that size are by what is said of them. */
export const to709 = 'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p';
export const tagged709 = [
  '-colorspace',
  'bt709',
  '-color_primaries',
  'bt709',
  '-color_trc',
  'bt709',
  '-color_range',
  'tv',
];
export const x264 = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '10'];
export const sine = (seconds = 1.5): string[] => ['-f', 'lavfi', '-i', `sine=440:d=${seconds}`];

/** A program of Debian's beside ffmpeg. */
export function runTool(program: string, ...args: string[]): void {
  execFileSync(program, args, { stdio: ['ignore', 'ignore', 'pipe'] });
}
export const hasRealPictures = (): boolean => existsSync(realPicture('fruits.jpg'));
export const placeIn = (folder: string): MadeIn => ({ at: (name) => join(folder, name) });
