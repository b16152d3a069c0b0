import { existsSync, mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { writeCube } from '#core/formats';
import { standardRangeTable } from '#core/look';
import { shownSize, squaredSize, type PictureCoding } from '#core/picture';
import { escaped } from '../process';
import { turns } from './orientation';

/** How pictures are coded, and what is made of it. */
export interface LookedCoding extends PictureCoding {
  /** A `.cube` file of this machine that colours go through in place of what the file says of them. */
  inputLook?: string;
}

/** With an input look, if there is one; photos have none. */
export const withInputLook = <Coding extends PictureCoding | null>(
  coding: Coding,
  inputLook: string | null | undefined,
): Coding | LookedCoding => (coding && inputLook && !coding.still ? { ...coding, inputLook } : coding);

/** Without its input look. */
export function asFilmed({ inputLook: _, ...coding }: LookedCoding): PictureCoding {
  return coding;
}

/**
 * Options before an input with pictures. ffmpeg turns films by itself as their display matrix says; whether it turns
 * photos by their EXIF differs between its versions, so that it may not.
 */
export const beforeInput = ({ still }: PictureCoding): readonly string[] => (still ? ['-noautorotate'] : []);

/** Which stream of a file has the pictures, as ffmpeg and ffprobe want it told. */
export const streamOf = ({ stream }: PictureCoding): string => (stream < 0 ? 'v:0' : String(stream));

const hasSquarePixels = ({ pixelAspect }: PictureCoding): boolean => pixelAspect.num === pixelAspect.den;
const isWide = ({ hdr, wideGamut }: PictureCoding): boolean => hdr !== null || wideGamut;
const isUsualColour = (coding: LookedCoding): boolean =>
  coding.inputLook === undefined && !isWide(coding) && coding.matrix === 'bt709' && !coding.fullRange && !coding.alpha;

/** Whether pictures are shown as meant by a program that minds orientation and nothing else. */
export const isPlainlyCoded = (coding: LookedCoding): boolean =>
  hasSquarePixels(coding) && coding.fields === null && !isWide(coding) && coding.inputLook === undefined;

interface ShownOptions {
  /** Longest side that is needed, in pixels; larger pictures may become smaller while their colours are changed. */
  longest?: number;
  /** Packets that were copied out of their file: pictures do not follow one another, so that of two fields one is taken, and their display matrix is lost. */
  apart?: boolean;
  /** What can be seen through stays so, and colours stay as they are. */
  seeThrough?: boolean;
  /** Frames were made whole by `asWhole` before. */
  whole?: boolean;
  /** How pictures become smaller. */
  by?: 'area' | 'bicubic';
}

/** Filters, each with a comma behind it, that make whole frames of interlaced ones; a part of what `asShown` does. */
export const asWhole = (coding: PictureCoding): string =>
  wholeFrames(coding, false)
    .map((part) => `${part},`)
    .join('');

/**
 * Filters, each with a comma behind it, that show coded pictures as they are meant: whole (bwdif of interlaced ones),
 * upright, with square pixels, in the colours of BT.709 at video levels, over black. An input look is given the colours
 * as they are coded. Empty for plain ones. With `beforeInput` before the input.
 */
export function asShown(
  coding: LookedCoding,
  { longest, apart = false, seeThrough, whole = false, by = 'bicubic' }: ShownOptions = {},
): string {
  const turnedHere = coding.still || apart;
  const square = turnedHere ? squaredSize(coding) : shownSize(coding);
  const isSmaller = longest !== undefined && longest < Math.max(square.width, square.height);
  const scale = isSmaller ? longest / Math.max(square.width, square.height) : 1;
  const even = (value: number) => Math.max(2, Math.round((value * scale) / 2) * 2);
  const usual = seeThrough === true || isUsualColour(coding);
  const parts: string[] = whole ? [] : wholeFrames(coding, apart);
  const size =
    !usual && isSmaller
      ? `${even(square.width)}:${even(square.height)}:`
      : hasSquarePixels(coding)
        ? ''
        : `${square.width}:${square.height}:`;
  if (size || !usual) parts.push(...(usual ? [`scale=${size}flags=${by}`] : colours(coding, size, by)));
  if (size) parts.push('setsar=1');
  return parts.map((part) => `${part},`).join('') + (turnedHere ? turns[coding.orientation] : '');
}

/** Of interlaced pictures, which ffmpeg may have turned already. */
function wholeFrames({ fields, width, height, orientation }: PictureCoding, apart: boolean): string[] {
  if (!fields) return [];
  if (apart) return [`field=type=top,scale=${width}:${height}:flags=bicubic`];
  // A film that lies on its side has its lines upright; none was ever seen that is interlaced as well.
  if (orientation >= 5) return [];
  const topFirst = (fields === 'top') !== (orientation === 3 || orientation === 4);
  return [`bwdif=mode=send_frame:parity=${topFirst ? 'tff' : 'bff'}:deint=all`];
}

/** What brings colours to BT.709 at video levels, and pictures to a size if one is given. */
function colours(coding: LookedCoding, size: string, by: string): string[] {
  const exact = `flags=${by}+accurate_rnd+full_chroma_int`;
  const from =
    coding.matrix === 'rgb' ? '' : `:in_color_matrix=${coding.matrix}:in_range=${coding.fullRange ? 'pc' : 'tv'}`;
  const to = 'out_color_matrix=bt709:out_range=tv';
  if (isWide(coding) || coding.inputLook !== undefined)
    return [
      `scale=${size}${exact}${from}`,
      'format=gbrp10le',
      `lut3d=file=${escaped(coding.inputLook ?? toneTable(coding))}:interp=tetrahedral`,
      `scale=${exact}:${to}`,
      'format=yuv420p',
    ];
  if (coding.alpha)
    return [
      `scale=${size}${exact}${from}`,
      'format=gbrap',
      'premultiply=inplace=1',
      'format=gbrp',
      `scale=${exact}:${to}`,
      'format=yuv420p',
    ];
  // ffmpeg's own scaler takes six times as long for it. It wants even sides, which photos need not have.
  if (!coding.still && coding.matrix in zscaleMatrices && (coding.width | coding.height) % 2 === 0) {
    const changed = `zscale=matrixin=${zscaleMatrices[coding.matrix]}:rangein=${coding.fullRange ? 'full' : 'limited'}:matrix=709:range=limited`;
    const scaled = size ? [`scale=${size}flags=${by}`] : [];
    const isEven = size.split(':').every((side) => Number(side) % 2 === 0);
    return [...(isEven ? [...scaled, changed] : [changed, ...scaled]), 'format=yuv420p'];
  }
  return [`scale=${size}${exact}${from}:${to}`, 'format=yuv420p'];
}

/** Matrices as ffmpeg's `zscale` names them. */
const zscaleMatrices: Partial<Record<PictureCoding['matrix'], string>> = {
  bt601: '170m',
  bt709: '709',
  bt2020: '2020_ncl',
};

/** The `.cube` file that brings wide colours to the usual ones; made once on a machine. */
function toneTable({ hdr, wideGamut, peakNits }: PictureCoding): string {
  const folder = join(tmpdir(), `bright-reel-tables-${process.getuid?.() ?? 0}`);
  const file = join(folder, `${hdr ?? 'usual'}-${wideGamut ? '2020' : '709'}-${peakNits}-1.cube`);
  if (existsSync(file)) return file;
  mkdirSync(folder, { recursive: true });
  const part = `${file}.${process.pid}`;
  writeFileSync(part, writeCube(standardRangeTable({ hdr, wideGamut, peakNits }), 'to standard range'));
  renameSync(part, file);
  return file;
}

/**
 * Behind `fps`, where only a stretch is taken: when nothing follows in the stretch, but long after it, ffmpeg repeats the
 * last picture up to there, and holds all of it in memory. A second more than was asked is let through.
 */
export const noLongerThan = (seconds: number): string => `trim=end=${(seconds + 1).toFixed(3)},`;

/** What a conversion of such pictures to RGB has to know, as options of ffmpeg's `scale`. */
export const fromVideoLevels = 'in_color_matrix=bt709:in_range=tv';
/** What a conversion of RGB to such pictures has to know. */
export const toVideoLevels = 'out_color_matrix=bt709:out_range=tv';
/** Such pictures as JFIF has them. */
export const jpegColours = 'in_color_matrix=bt709:in_range=tv:out_color_matrix=bt601:out_range=pc';
/** How files with such pictures are marked. */
export const markedColours = [
  ...['-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709', '-color_range', 'tv'],
] as const;
