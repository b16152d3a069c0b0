import { once } from 'node:events';
import { rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import exifr from 'exifr';
import sharp, { type Metadata, type Sharp } from 'sharp';
import { degreesOf, isMirrored, isOrientation, turnsSides, type Orientation } from '#core/picture';
import { nearestStandardRate, type Rate } from '#core/time';
import { capture } from '../capture';
import { Cancelled, MediaError, closing } from '../process';
import { startProgram } from '../startProgram';
import { boxContents, firstBox } from './boxes';
import { markedColours, toVideoLevels } from './shown';

/** Brands of still pictures in ISO base media files: HEIF (ISO/IEC 23008-12) and AVIF. */
const stillBrands = new Set(['heic', 'heix', 'heim', 'heis', 'mif1', 'avif', 'miaf']);
/** Of series of pictures; these are films to ffmpeg. */
const seriesBrands = new Set(['hevc', 'hevx', 'msf1', 'avis']);

/** Whether a file is a photo as newer phones take them. */
export async function isHeif(file: string): Promise<boolean> {
  const { type, brands } = await firstBox(file);
  return type === 'ftyp' && !seriesBrands.has(brands[0]!) && stillBrands.has(brands[0]!);
}

/** A photo whose pictures programs get from a working copy, or may get from the file itself. */
export interface PhotoFacts {
  width: number;
  height: number;
  /** As an orientation of the coded picture; 1 for a working copy. */
  orientation: Orientation;
  codec: string;
  /** A working copy is needed: programs differ in what they make of the file, or cannot open it. */
  needsCopy: boolean;
  /** Pictures of an animation. */
  pages: number;
  /** How long each of them is shown, in milliseconds. */
  delays: number[];
}

const limits = { limitInputPixels: 300e6, failOn: 'error' } as const;

/** What a photo holds; null when it is none that can be read here. */
export async function photoFacts(file: string): Promise<PhotoFacts | null> {
  if (await isHeif(file)) return heifFacts(file);
  const info = await sharp(file, { ...limits, animated: true })
    .metadata()
    .catch(() => null);
  if (!info?.width || !info.height || !info.format) return null;
  const orientation = isOrientation(info.orientation) ? info.orientation : 1;
  const pages = info.format === 'webp' ? (info.pages ?? 1) : 1;
  const height = info.pageHeight ?? info.height;
  return {
    width: turnsSides(orientation) ? height : info.width,
    height: turnsSides(orientation) ? info.width : height,
    orientation,
    codec: info.format,
    needsCopy: pages > 1 || !isPlainPhoto(info),
    pages,
    delays: info.delay ?? [],
  };
}

/** Whether every program shows the same: eight bits, and colours of sRGB. */
const isPlainPhoto = ({ format, space, depth, icc }: Metadata): boolean =>
  /^(jpeg|png|webp)$/.test(format) &&
  /^(srgb|b-w|rgb)$/.test(space) &&
  depth === 'uchar' &&
  (!icc || icc.toString('latin1').replaceAll('\0', '').includes('sRGB'));

async function heifFacts(file: string): Promise<PhotoFacts | null> {
  const info = await sharp(file, limits)
    .metadata()
    .catch(() => null);
  if (!info?.width || !info.height) return null;
  const turned = turnsSides(await exifOfUnturned(file, info));
  return {
    width: turned ? info.height : info.width,
    height: turned ? info.width : info.height,
    orientation: 1,
    codec: info.compression === 'av1' ? 'avif' : 'heic',
    needsCopy: true,
    pages: 1,
    delays: [],
  };
}

/**
 * HEIF turns its pictures by properties of its own (`irot`, `imir`), and EXIF counts for nothing then. Some programs write
 * none of them and leave it to EXIF.
 */
async function exifOfUnturned(file: string, { exif }: Metadata): Promise<Orientation> {
  const [properties] = await boxContents(file, 'meta/iprp/ipco', 1e6);
  if (!exif || (properties && /irot|imir/.test(properties.toString('latin1')))) return 1;
  const value: unknown = await exifr.orientation(exif).catch(() => undefined);
  return isOrientation(value) ? value : 1;
}

/** What a working copy is called in the folder of its reading. */
const copyNames = { opaque: 'photo.jpg', seeThrough: 'photo.png', film: 'film.mp4' } as const;

/**
 * Writes what everything else opens in place of a photo: upright, in sRGB, eight bits. JPEG, or PNG where it can be seen
 * through; animations become a film.
 * @returns name of the file in the folder
 * @throws MediaError, Cancelled
 */
export async function writeWorkingCopy(
  file: string,
  facts: PhotoFacts,
  folder: string,
  signal?: AbortSignal,
): Promise<string> {
  if (signal?.aborted) throw new Cancelled();
  try {
    if (facts.pages > 1) return await copyAnimation(file, facts, folder, signal);
    return (await isHeif(file)) ? await copyHeif(file, folder, signal) : await copyPicture(file, folder, null);
  } catch (error) {
    if (signal?.aborted) throw new Cancelled();
    if (error instanceof MediaError) throw error;
    throw new MediaError(
      /no space left/i.test(String((error as Error).message))
        ? 'The disk is full. Free some space, then read this file again.'
        : 'This photo cannot be decoded. It may be damaged; copy it from the phone or camera again.',
      { cause: error },
    );
  }
}

/** @param orientation of the picture as it is coded; null for what its own EXIF says */
async function copyPicture(file: string, folder: string, orientation: Orientation | null): Promise<string> {
  const { hasAlpha } = await sharp(file, limits).metadata();
  const upright = orientation === null ? sharp(file, limits).rotate() : await turned(file, orientation);
  // Into sRGB by the profile that the photo carries; without one it is taken for sRGB.
  const colour = upright.toColourspace('srgb');
  const name = hasAlpha ? copyNames.seeThrough : copyNames.opaque;
  const part = join(folder, `${name}.part`);
  await (
    hasAlpha ? colour.png({ compressionLevel: 3 }) : colour.jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
  ).toFile(part);
  await rename(part, join(folder, name));
  return name;
}

/** A picture brought upright by a value that is not its own EXIF's. */
async function turned(file: string, orientation: Orientation): Promise<Sharp> {
  const mirrored = isMirrored(orientation);
  const source = mirrored
    ? await sharp(file, limits).flop().keepIccProfile().tiff({ compression: 'none' }).toBuffer()
    : file;
  const angle = degreesOf(orientation);
  // An angle of nothing stands for “as its EXIF says”.
  return angle ? sharp(source, limits).rotate(angle) : sharp(source, limits);
}

/** HEVC in HEIF is decoded by Debian's libheif; the decoder that sharp brings has none. */
async function copyHeif(file: string, folder: string, signal?: AbortSignal): Promise<string> {
  const info = await sharp(file, limits).metadata();
  const orientation = await exifOfUnturned(file, info);
  if (info.compression === 'av1') return copyPicture(file, folder, orientation);
  const decoded = join(folder, info.hasAlpha ? 'decoded.png' : 'decoded.jpg');
  try {
    await capture('heif-convert', ['--quiet', '-q', '98', file, decoded], { signal });
    return await copyPicture(decoded, folder, orientation);
  } finally {
    await rm(decoded, { force: true });
  }
}

/** Shorter times are a mistake of whoever made it, and shown as a tenth of a second everywhere. Common practice, no source. */
const shortestMs = 20;
const usualMs = 100;
/** Bytes of pictures that are held at once. */
const heldBytes = 128e6;

/** An animation as a film at the rate of its shortest picture; every picture stands as long as it should. */
async function copyAnimation(file: string, facts: PhotoFacts, folder: string, signal?: AbortSignal): Promise<string> {
  const { width, height, pages } = facts;
  const { delays, rate } = animationRate(facts);
  const out = join(folder, copyNames.film);
  const child = startProgram<'in'>(
    'ffmpeg',
    [
      ...['-v', 'error', '-y', '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-s', `${width}x${height}`],
      ...['-r', `${rate.num}/${rate.den}`, '-i', 'pipe:0'],
      ...['-vf', `pad=ceil(iw/2)*2:ceil(ih/2)*2,scale=${toVideoLevels},format=yuv420p`, ...markedColours],
      ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '14', '-g', '15', '-movflags', '+faststart', out],
    ],
    ['pipe', 'ignore', 'ignore'],
    { signal },
  );
  const ended = closing(child, signal);
  ended.catch(() => undefined);
  child.stdin.on('error', () => undefined);
  const atOnce = Math.max(1, Math.floor(heldBytes / (width * height * 4)));
  let ms = 0;
  let frames = 0;
  for (let first = 0; first < pages; first += atOnce) {
    const count = Math.min(atOnce, pages - first);
    const pixels = await sharp(file, { ...limits, page: first, pages: count })
      .flatten({ background: '#000' })
      .toColourspace('srgb')
      .raw()
      .toBuffer();
    const each = width * height * 3;
    for (let index = 0; index < count; index++) {
      ms += delays[first + index]!;
      for (const until = Math.round((ms / 1000) * (rate.num / rate.den)); frames < until; frames++)
        if (!child.stdin.write(pixels.subarray(index * each, (index + 1) * each)))
          await Promise.race([once(child.stdin, 'drain'), ended]);
    }
  }
  child.stdin.end();
  const [code] = await ended;
  if (code !== 0) throw new Error(`ffmpeg ended with ${code}`);
  return copyNames.film;
}

/** Of an animation: how long each picture stands, in milliseconds, and the rate at which all of them can be shown. */
export function animationRate({ pages, delays }: Pick<PhotoFacts, 'pages' | 'delays'>): {
  delays: number[];
  rate: Rate;
} {
  const shown = Array.from({ length: pages }, (_, page) => {
    const delay = delays[page] ?? usualMs;
    return delay < shortestMs ? usualMs : delay;
  });
  const shortest = shown.reduce((least, delay) => Math.min(least, delay), usualMs);
  return { delays: shown, rate: nearestStandardRate({ num: 1000, den: shortest }) };
}

/** The EXIF of a photo, where the library that reads it does not find it in the file itself. */
export const exifOf = async (file: string): Promise<Buffer | string> =>
  (await isHeif(file))
    ? ((
        await sharp(file, limits)
          .metadata()
          .catch(() => null)
      )?.exif ?? file)
    : file;
