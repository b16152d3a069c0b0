import { channelsOf, firstTrack, type SoundChoice } from '#core/sound';
import { framesPerSecond, type Range, type Rate } from '#core/time';
import { objectSide, plainCoding } from '#core/picture';
import { readingParts, type ReadingPart } from '#core/readings';
import { detectorSide } from '../nets/models';
import { heardOf } from '../probe/heard';
import { inputArguments } from '../process';
import type { Probe } from '../probe/probe';
import { longestSeconds } from '../startProgram';
import {
  asShown,
  asWhole,
  beforeInput,
  fromVideoLevels,
  jpegColours,
  markedColours,
  noLongerThan,
  streamOf,
} from '../probe/shown';

export interface ThumbSheets {
  /** Time of the first thumbnail; 0 unless only a part was read. */
  start?: number;
  hz: number;
  width: number;
  height: number;
  columns: number;
  rows: number;
}

/** What one decode of a file makes: small grey frames, colour frames, sound twice, thumbnails, and a proxy if wanted. */
export interface ReadPlan {
  args: string[];
  /** Rate of the grey frames: the file's own, halved until it is at most 30 a second. */
  rate: Rate;
  gray: { width: number; height: number };
  /** Frames out of which faces are cut for a closer look, `faceHz` a second. */
  colour: { width: number; height: number };
  /** The stretch of the file that is read. */
  range: Range;
  sheets: ThumbSheets;
  /** Whether nothing at all is to be decoded. */
  nothing: boolean;
}

/** What a proxy is called in the folder of its reading. */
export const proxyName = 'proxy.mp4';

/** Faces are looked for this many times a second, so an entry or exit is placed within a quarter of a second. */
export const faceHz = 2;
/** Objects may be looked for so often; see `measureFaces`. */
export const objectHz = 1;

/** Width of the frames that hold a square for the face net above a colour frame. */
export const facesWidth = (colour: { width: number }): number => Math.max(detectorSide, colour.width);

/** Sound is measured as it is up to stereo; more channels are mixed down. */
export const soundChannels = (info: Probe, sound: SoundChoice): 1 | 2 => channelsOf(info.soundTracks, sound);

const even = (value: number) => Math.max(2, Math.round(value / 2) * 2);
const lumaWidth = 320;
const colourSide = 960;
/** Width of a proxy at most. */
const proxySide = 1280;

/** A part of a longer reading: what it says is put together with other parts. */
export interface PartOfReading {
  /** Where it begins, in seconds of the file; what is decoded before only gives a run-up. */
  start: number;
  /** Where the thumbnail sheets of all parts begin. */
  sheetsFrom: number;
}

/** Sheets hold so many thumbnails. */
const sheetColumns = 10;
const sheetRows = 6;
/** Motion is measured against frames before, and a fade is seen from its beginning. In seconds. */
const runUp = 1;

/**
 * Where the decode of a part begins: early enough, and on a frame of all measurements that are not made of every frame, so
 * that parts fall on the same samples as the whole.
 */
export function runUpTo(info: Probe, start: number): number {
  const fps = framesPerSecond(analysisRate(info));
  const grid = everyFrames(fps).light * everyFrames(fps).noise;
  return (Math.max(0, Math.floor(((start - runUp) * fps) / grid)) * grid) / fps;
}

/** Frames from one measurement of light and of noise to the next. */
export const everyFrames = (fps: number): { light: number; noise: number } => ({
  light: Math.max(1, Math.round(fps / 10)),
  noise: Math.max(1, Math.round(fps / 2)),
});

export function planReading(
  file: string,
  info: Probe,
  folder: string,
  proxy: boolean,
  wanted?: Range,
  parts: readonly ReadingPart[] = readingParts,
  sound: SoundChoice = firstTrack,
  part: PartOfReading | null = null,
): ReadPlan {
  const rate = analysisRate(info);
  const shape = info.height / Math.max(1, info.width);
  const gray =
    shape <= 1
      ? { width: lumaWidth, height: Math.max(64, even(lumaWidth * shape)) }
      : { width: Math.max(64, even(lumaWidth / shape)), height: lumaWidth };
  const range = wanted ?? { start: 0, end: info.durationSeconds };
  const colourScale = Math.min(1, colourSide / Math.max(info.width, info.height, 1));
  const colour = { width: even(info.width * colourScale), height: even(info.height * colourScale) };
  const hz = info.durationSeconds > 900 ? 1 : 2;
  const height = 90;
  const sheetsFrom = part?.sheetsFrom ?? range.start;
  const sheets = {
    ...(sheetsFrom > 0 ? { start: sheetsFrom } : {}),
    hz,
    height,
    width: Math.min(240, even(height / shape || 2)),
    columns: sheetColumns,
    rows: sheetRows,
  };
  const picture = info.kind !== 'sound' && parts.includes('picture');
  const faces = info.kind !== 'sound' && parts.includes('faces');
  const isHeard = info.hasSound && sound.length > 0;
  const heard = isHeard && parts.includes('sound');
  const coding = info.coding ?? plainCoding;
  const filters: string[] = [];
  const maps: string[] = [];
  const ways = [
    ...(picture ? ['[a]', '[c]'] : []),
    ...(faces ? ['[b]'] : []),
    ...(proxy && info.kind !== 'sound' ? ['[d]'] : []),
  ];
  if (ways.length)
    filters.push(
      `[0:${streamOf(coding)}]${asWhole(coding)}fps=${rate.num}/${rate.den}:start_time=0,${noLongerThan(secondsAtMost(info, wanted))}split=${ways.length}${ways.join('')}`,
    );
  // Each way changes colours by itself, after its pictures became fewer and smaller.
  const shown = (longest: number) => asShown(coding, { longest, whole: true, by: 'area' });
  if (picture) {
    const s = sheets;
    filters.push(
      `[a]${shown(lumaWidth)}scale=${gray.width}:${gray.height}:flags=area,format=gray[gray]`,
      `[c]${part ? `trim=start=${(part.start - range.start).toFixed(4)},setpts=PTS-STARTPTS,` : ''}fps=${s.hz}:start_time=0:round=up,${shown(colourSide)}scale=${s.width}:${s.height}:flags=area:${jpegColours},tile=${s.columns}x${s.rows}[sheets]`,
    );
    maps.push('-map', '[gray]', '-f', 'rawvideo', 'pipe:3');
  }
  if (faces) {
    filters.push(
      `[b]fps=${faceHz}:start_time=0:round=up,${shown(colourSide)}split=3[b1][b2][b3]`,
      ...squares('[b1]', '[b2]'),
      // Square and colour frame go through one pipe, one above the other: two pipes that are read in step stop for ever
      // as soon as ffmpeg has several frames for one of them, after a gap in the film for instance.
      `[faces]pad=${facesWidth(colour)}:ih:0:0[square]`,
      `[b3]scale=${colour.width}:${colour.height}:flags=area:${fromVideoLevels},format=rgb24,pad=${facesWidth(colour)}:ih:0:0[colour]`,
      '[square][colour]vstack=inputs=2[seen]',
    );
    maps.push('-map', '[seen]', '-f', 'rawvideo', 'pipe:4', '-map', '[objects]', '-f', 'rawvideo', 'pipe:7');
  }
  if (picture)
    maps.push(
      '-map',
      '[sheets]',
      '-c:v',
      'mjpeg',
      '-q:v',
      '5',
      '-pix_fmt',
      'yuvj420p',
      '-strict',
      'unofficial',
      '-f',
      'image2',
      ...(part
        ? ['-start_number', String(1 + Math.round(((part.start - part.sheetsFrom) * hz) / (sheetColumns * sheetRows)))]
        : []),
      `${folder}/sheet-%04d.jpg`,
    );
  const chosen = heardOf(0, sound, 'heard');
  const voices = [...(heard ? ['[s1]', '[s2]'] : []), ...(proxy && isHeard ? ['[s3]'] : [])];
  // A graph of its own: the pictures must not wait for a sound track that begins late, or holds nothing at all.
  const soundGraph = voices.length
    ? [
        '-filter_complex',
        [
          ...chosen.graph,
          `${chosen.label}aresample=async=1:first_pts=0,asplit=${voices.length}${voices.join('')}`,
        ].join(';'),
      ]
    : [];
  if (heard)
    maps.push(
      '-map',
      '[s1]',
      '-ac',
      '1',
      '-ar',
      '16000',
      '-f',
      'f32le',
      'pipe:5',
      '-map',
      '[s2]',
      '-ac',
      String(soundChannels(info, sound)),
      '-ar',
      '48000',
      '-f',
      'f32le',
      'pipe:6',
    );
  if (proxy) {
    if (info.kind !== 'sound')
      filters.push(
        `[d]${asShown(coding, { longest: proxySide * Math.max(1, shape), whole: true })}scale='trunc(min(${proxySide},iw)/2)*2':-2:flags=bicubic,setsar=1,format=yuv420p[proxy]`,
      );
    maps.push(
      ...(info.kind !== 'sound'
        ? ['-map', '[proxy]', '-c:v', 'libx264', '-preset', 'veryfast', '-crf', '24', '-g', '15', ...markedColours]
        : []),
      ...(isHeard ? ['-map', '[s3]', '-c:a', 'aac', '-b:a', '160k', '-ac', '2'] : []),
      '-max_muxing_queue_size',
      '1000000',
      '-movflags',
      '+faststart',
      `${folder}/${proxyName}`,
    );
  }
  const frames = info.kind === 'photo' ? ['-frames:v', '1'] : [];
  // Just before the frame, so that no rounding leaves it out.
  const before = part && range.start > 0 ? 0.25 / framesPerSecond(rate) : 0;
  const only = readOnly(info, wanted && { ...wanted, start: wanted.start - before });
  return {
    rate,
    gray,
    colour,
    range,
    sheets,
    nothing: maps.length === 0,
    args: [
      '-v',
      'error',
      '-nostdin',
      '-y',
      ...only,
      ...beforeInput(coding),
      ...inputArguments(file),
      ...(filters.length ? ['-filter_complex', filters.join(';')] : []),
      ...soundGraph,
      ...maps.flatMap((part) => (part === '-map' ? [...frames, part] : [part])),
    ],
  };
}

/** Headers are wrong about the length by a factor at times, in sound without an index for instance, but not by more than this. */
const longer = { factor: 4, seconds: 600 };
/**
 * Which stretch of a file ffmpeg reads. A frame that claims to lie days behind the end is not read: the rate filter would
 * fill the time before it.
 */
export const readOnly = (info: Probe, wanted?: Range): string[] =>
  wanted
    ? ['-ss', wanted.start.toFixed(3), '-to', wanted.end.toFixed(3)]
    : info.kind === 'photo'
      ? []
      : ['-t', secondsAtMost(info).toFixed(3)];
const secondsAtMost = ({ durationSeconds }: Probe, wanted?: Range): number =>
  wanted
    ? wanted.end - wanted.start
    : Math.min(longestSeconds, durationSeconds > 0 ? durationSeconds * longer.factor + longer.seconds : Infinity);

function analysisRate(info: Probe): Rate {
  const rate = info.rate ?? { num: 30, den: 1 };
  const fps = framesPerSecond(rate);
  if (fps < 1) return { num: 10, den: 1 };
  const divisor = Math.ceil(fps / 30.01);
  return { num: rate.num, den: rate.den * divisor };
}

/** Filters that make the squares the nets see: the picture with bars for faces, stretched for objects. */
const squares = (faces: string, objects: string): string[] => [
  `${faces}scale=${detectorSide}:${detectorSide}:force_original_aspect_ratio=decrease:flags=area:${fromVideoLevels},format=rgb24,pad=${detectorSide}:${detectorSide}:-1:-1[faces]`,
  `${objects}fps=${objectHz}:start_time=0:round=up,scale=${objectSide}:${objectSide}:flags=area:${fromVideoLevels},format=rgb24[objects]`,
];
