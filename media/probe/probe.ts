import { open, stat } from 'node:fs/promises';
import { formatClock, framesPerSecond, nearestStandardRate, parseRate, type Rate } from '#core/time';
import { MediaError, capture, inputArguments, inputGuard, pointsElsewhere } from '../process';
import { readOrientation, turnsSides, type Orientation } from './upright';

type MediaKind = 'video' | 'sound' | 'photo';

export interface Probe {
  kind: MediaKind;
  durationSeconds: number;
  /** Nominal rate; 0/1 becomes null for sound and photos. */
  rate: Rate | null;
  variableRate: boolean;
  /** After rotation. */
  width: number;
  height: number;
  rotation: number;
  /** Of photos, as their EXIF says it. */
  orientation: Orientation;
  hasSound: boolean;
  channels: number;
  videoCodec: string | null;
  audioCodec: string | null;
  format: string;
  pixelFormat: string | null;
}

interface RawStream {
  codec_type: string;
  codec_name?: string;
  width?: number;
  height?: number;
  r_frame_rate?: string;
  avg_frame_rate?: string;
  pix_fmt?: string;
  duration?: string;
  nb_frames?: string;
  channels?: number;
  disposition?: { attached_pic?: number };
  side_data_list?: { rotation?: number }[];
}

const stillCodecs = new Set(['mjpeg', 'png', 'webp', 'gif', 'bmp', 'tiff', 'jpegls', 'heic']);

/**
 * What a file holds.
 * @throws MediaError with one plain sentence when it is empty, no media, or names other files.
 */
export async function probe(file: string): Promise<Probe> {
  const size = await stat(file).then(
    (stats) => stats.size,
    () => null,
  );
  if (size === null) throw new MediaError('The file is not there: it was moved, renamed or deleted.');
  if (size === 0) throw new MediaError('The file is empty. Copy it from the camera again.');
  const raw = await capture('ffprobe', [
    '-v',
    'error',
    '-of',
    'json',
    '-show_format',
    '-show_streams',
    ...inputArguments(file),
  ]).catch(async (error: Error) => {
    const picture = await unreadPhoto(file);
    if (picture) throw new MediaError(picture, { cause: error });
    const reason = explainOpenFailure(error.message);
    throw new MediaError(reason === endsEarly && !(await startsLikeMovie(file)) ? notMedia : reason, { cause: error });
  });
  const { format, streams = [] } = JSON.parse(raw.toString()) as {
    format: { format_name: string; duration?: string };
    streams: RawStream[];
  };
  const formatName = format.format_name;
  if (pointsElsewhere(formatName) || /^(tty|ansi|subviewer|srt|webvtt|ass)$/.test(formatName))
    throw new MediaError('This file only points to other files or holds text. Give the footage itself.');
  const unread = await unreadPhoto(file);
  if (unread) throw new MediaError(unread);
  const video = streams.find((stream) => stream.codec_type === 'video' && !stream.disposition?.attached_pic);
  const audio = streams.find((stream) => stream.codec_type === 'audio' && (stream.channels ?? 0) > 0);
  if (!video && !audio) throw new MediaError('There is neither picture nor sound in this file.');
  if (video && (!video.width || !video.height))
    throw new MediaError(
      'The file has a picture track, but no picture can be read from it. It may have been cut off while it was copied; copy it again.',
    );
  const duration = Number(format.duration ?? video?.duration ?? audio?.duration ?? 0) || 0;
  const problem = tooMuch(duration, size, video);
  if (problem) throw new MediaError(problem);
  const photo = Boolean(
    video &&
    !audio &&
    stillCodecs.has(video.codec_name ?? '') &&
    (/_pipe$|^(image2|jpeg|png|webp|bmp|tiff)/.test(formatName) || duration <= 0.05),
  );
  const rotation =
    (((video?.side_data_list?.find((data) => data.rotation !== undefined)?.rotation ?? 0) % 360) + 360) % 360;
  const orientation = photo ? await readOrientation(file) : 1;
  const turned = rotation === 90 || rotation === 270 || turnsSides(orientation);
  const average = readRate(video?.avg_frame_rate) ?? readRate(video?.r_frame_rate);
  const nominal = readRate(video?.r_frame_rate);
  const variableRate = Boolean(
    average && nominal && !photo && Math.abs(framesPerSecond(average) / framesPerSecond(nominal) - 1) > 0.005,
  );
  // A phone that lowers its rate in the dark still counts in its nominal one; frames are repeated where they are missing.
  const counted = variableRate && framesPerSecond(nominal!) <= 120 ? nominal : average;
  return {
    kind: photo ? 'photo' : video ? 'video' : 'sound',
    durationSeconds: photo ? 0 : duration,
    rate: video && !photo ? counted && nearestStandardRate(counted) : null,
    variableRate,
    width: (turned ? video?.height : video?.width) ?? 0,
    height: (turned ? video?.width : video?.height) ?? 0,
    rotation,
    orientation,
    hasSound: Boolean(audio),
    channels: audio?.channels ?? 0,
    videoCodec: video?.codec_name ?? null,
    audioCodec: audio?.codec_name ?? null,
    format: formatName,
    pixelFormat: video?.pix_fmt ?? null,
  };
}

/** Of footage; longer files are cut into parts. */
export const longestSeconds = 12 * 3600;
/** Even a held picture in silence takes so many bytes for a second; common practice, no source. */
const fewestBytesASecond = 16;
const longestSide = 20_000;
const mostPixels = 300e6;

/** A sentence when a file claims more than can be read with the time and memory of one machine. */
function tooMuch(seconds: number, bytes: number, video: RawStream | undefined): string | null {
  if (seconds > longestSeconds)
    return `This file says that it is ${formatClock(seconds)} long; at most ${longestSeconds / 3600} hours can be read. Cut it into parts, or copy it again if that is not true.`;
  if (seconds > 60 && bytes / seconds < fewestBytesASecond)
    return `This file says that it is ${formatClock(seconds)} long, but it holds only ${bytes} bytes. It is damaged; copy it again.`;
  const { width = 0, height = 0 } = video ?? {};
  if (Math.max(width, height) > longestSide || width * height > mostPixels)
    return `Its picture of ${width} × ${height} pixels is too large; at most ${longestSide} on a side and ${mostPixels / 1e6} million in all can be read.`;
  return null;
}

/** Brands of ISO/IEC 23008-12 (HEIF) whose pictures are coded as HEVC. */
const heicBrands = /^(heic|heix|heim|heis|hevc|hevx|mif1|msf1)$/;
/** A sentence for photos of a kind that cannot be read yet. */
async function unreadPhoto(file: string): Promise<string | null> {
  const [box, brand] = await firstBox(file);
  return box === 'ftyp' && heicBrands.test(brand)
    ? 'This is a HEIC photo, as newer phones take them; these cannot be read yet. Export it as JPEG and bring that in.'
    : null;
}

function readRate(text: string | undefined): Rate | null {
  try {
    const rate = text ? parseRate(text) : null;
    return rate && framesPerSecond(rate) <= 1000 ? rate : null;
  } catch {
    return null;
  }
}

const notMedia = 'This is not a video, sound or picture file that can be read.';
const endsEarly =
  'The file stops before its end: its index is missing. It was probably cut off while it was copied or recorded; copy it again.';

/** Whether the first box is one that an ISO base media file (ISO/IEC 14496-12) begins with. */
const startsLikeMovie = async (file: string): Promise<boolean> =>
  /^(ftyp|moov|mdat|wide|free|skip|pnot|styp)$/.test((await firstBox(file))[0]);

/** Type of a file's first box, and the four letters behind it: of `ftyp` its major brand. */
async function firstBox(file: string): Promise<[type: string, brand: string]> {
  const handle = await open(file);
  try {
    const { buffer } = await handle.read(Buffer.alloc(12), 0, 12, 0);
    return [buffer.toString('latin1', 4, 8), buffer.toString('latin1', 8, 12)];
  } finally {
    await handle.close();
  }
}

/** One sentence for people out of what the decoder said. */
function explainOpenFailure(words: string): string {
  if (/moov atom not found/i.test(words)) return endsEarly;
  if (/protocol .* not on whitelist|not on whitelist/i.test(words))
    return 'This file only points to other files or addresses. Give the footage itself.';
  if (/Invalid data found|could not find codec|Invalid argument|End of file/i.test(words)) return notMedia;
  if (/Permission denied/i.test(words)) return 'The file may not be read. Change its permissions and try again.';
  return 'This file cannot be opened as video, sound or picture.';
}

/** Whether a browser plays and seeks the original well enough that no proxy is needed. */
export function playsInBrowser(info: Probe, keyFrameGapSeconds: number, bytesPerSecond: number): boolean {
  if (info.kind === 'photo') return /^(mjpeg|png|webp|gif)$/.test(info.videoCodec ?? '');
  const container = /mp4|mov|matroska|webm|mp3|wav|ogg|flac|aac/.test(info.format);
  const sound = !info.audioCodec || /^(aac|mp3|opus|vorbis|flac|pcm_s16le)$/.test(info.audioCodec);
  if (info.kind === 'sound') return container && sound;
  const picture = /^(h264|vp8|vp9|av1)$/.test(info.videoCodec ?? '') && /^yuvj?420p$/.test(info.pixelFormat ?? '');
  return (
    container &&
    sound &&
    picture &&
    Math.max(info.width, info.height) <= 1920 &&
    keyFrameGapSeconds <= 4.5 &&
    bytesPerSecond < 4e6 &&
    !/matroska/.test(info.videoCodec === 'h264' ? info.format : '')
  );
}

/** Longest gap between key frames in the first 20 s, in seconds. */
export async function keyFrameGap(file: string): Promise<number> {
  const raw = await capture('ffprobe', [
    '-v',
    'error',
    ...inputGuard,
    '-select_streams',
    'v:0',
    '-read_intervals',
    '%+20',
    '-show_entries',
    'packet=pts_time,flags',
    '-of',
    'csv=p=0',
    file,
  ]);
  let last = 0;
  let first = 0;
  let gap = 0;
  for (const line of raw.toString().split('\n')) {
    const [time, flags] = line.split(',');
    const seconds = Number(time);
    if (!Number.isFinite(seconds) || !flags) continue;
    if (flags.startsWith('K')) {
      gap = Math.max(gap, seconds - last);
      last = seconds;
    }
    first = Math.max(first, seconds);
  }
  return Math.max(gap, first - last);
}
