import { stat } from 'node:fs/promises';
import { isMirrored, shownSize } from '#core/picture';
import type { SoundTrack } from '#core/sound';
import {
  formatClock,
  framesPerSecond,
  nearestStandardRate,
  parseRate,
  type Rate,
  type RecordingLabels,
} from '#core/time';
import { capture } from '../capture';
import { MediaError, inputArguments, inputGuard, pointsElsewhere } from '../process';
import { firstBox } from './boxes';
import { codingOf, settleFields, type PictureStream } from './coding';
import { readOrientation, takenAt } from './orientation';
import { animationRate, exifOf, isHeif, photoFacts, type PhotoFacts } from './photoFile';
import { isPlainlyCoded, type LookedCoding } from './shown';
import { longestSeconds } from '../startProgram';
import { recordingLabels, type Tags } from './startTime';

type MediaKind = 'video' | 'sound' | 'photo';

export interface Probe extends RecordingLabels {
  kind: MediaKind;
  durationSeconds: number;
  /** Nominal rate; null for sound and photos. */
  rate: Rate | null;
  variableRate: boolean;
  /** As shown: upright, with square pixels. */
  width: number;
  height: number;
  /** How the pictures are coded; null for sound. Of a working copy when one is needed. */
  coding: LookedCoding | null;
  /** Of photos that are opened from a working copy, as are animations that ffmpeg cannot open; see `writeWorkingCopy`. */
  copied: PhotoFacts | null;
  hasSound: boolean;
  soundTracks: SoundTrack[];
  /** Of the first track of sound. */
  channels: number;
  videoCodec: string | null;
  audioCodec: string | null;
  format: string;
  pixelFormat: string | null;
  /** Whether sound and pictures begin together, as players that know no edit lists need it. */
  beginsTogether: boolean;
}

interface RawStream extends PictureStream {
  codec_type: string;
  avg_frame_rate?: string;
  duration?: string;
  start_time?: string;
  channels?: number;
  channel_layout?: string;
  sample_rate?: string;
  tags?: Tags;
  disposition?: { attached_pic?: number };
}

interface RawProbe {
  format: { format_name: string; duration?: string; tags?: Tags };
  streams?: RawStream[];
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
  if (await isHeif(file)) return probePhoto(file, await readFacts(file));
  const raw = await capture('ffprobe', [
    '-v',
    'error',
    '-of',
    'json',
    '-show_format',
    '-show_streams',
    ...inputArguments(file),
  ]).catch(async (error: Error) => {
    const reason = explainOpenFailure(error.message);
    throw new MediaError(reason === endsEarly && !(await startsLikeMovie(file)) ? notMedia : reason, { cause: error });
  });
  return read(file, size, JSON.parse(raw.toString()) as RawProbe);
}

async function read(file: string, size: number, { format, streams = [] }: RawProbe): Promise<Probe> {
  const formatName = format.format_name;
  if (pointsElsewhere(formatName) || /^(tty|ansi|subviewer|srt|webvtt|ass)$/.test(formatName))
    throw new MediaError('This file only points to other files or holds text. Give the footage itself.');
  const video = streams.find((stream) => stream.codec_type === 'video' && !stream.disposition?.attached_pic);
  const sounds = streams.filter((stream) => stream.codec_type === 'audio' && (stream.channels ?? 0) > 0);
  const audio = sounds[0];
  if (!video && !audio) throw new MediaError('There is neither picture nor sound in this file.');
  const animated = video?.codec_name === 'webp' ? await photoFacts(file) : null;
  if (animated && animated.pages > 1) return probePhoto(file, animated);
  if (video && (!video.width || !video.height))
    throw new MediaError(
      'The file has a picture track, but no picture can be read from it. It may have been cut off while it was copied; copy it again.',
    );
  const duration = Number(format.duration ?? video?.duration ?? audio?.duration ?? 0) || 0;
  const problem = tooMuch(duration, size, video) ?? tooMany(streams.length, duration, readRate(video?.avg_frame_rate));
  if (problem) throw new MediaError(problem);
  const photo = Boolean(
    video &&
    !audio &&
    stillCodecs.has(video.codec_name ?? '') &&
    (/_pipe$|^(image2|jpeg|png|webp|bmp|tiff)/.test(formatName) || duration <= 0.05),
  );
  const facts = photo ? await photoFacts(file) : null;
  if (facts?.needsCopy) return probePhoto(file, facts);
  const average = readRate(video?.avg_frame_rate) ?? readRate(video?.r_frame_rate);
  const nominal = readRate(video?.r_frame_rate);
  const variableRate = Boolean(
    average && nominal && !photo && Math.abs(framesPerSecond(average) / framesPerSecond(nominal) - 1) > 0.005,
  );
  // A phone that lowers its rate in the dark still counts in its nominal one; frames are repeated where they are missing.
  const counted = variableRate && framesPerSecond(nominal!) <= 120 ? nominal : average;
  const rate = video && !photo ? counted && nearestStandardRate(counted) : null;
  const coding = video ? codingOf(video, photo) : null;
  if (coding && photo) coding.orientation = await readOrientation(file);
  if (coding && rate && !photo)
    coding.fields = await settleFields(
      file,
      coding,
      duration,
      framesPerSecond(rate),
      video?.field_order === 'progressive',
    );
  const labels = photo
    ? { ...noLabels, recordedAt: await takenAt(file) }
    : await recordingLabels(
        file,
        [...streams.map((stream) => stream.tags ?? {}), format.tags ?? {}, ...(await gopTags(file, video))],
        rate,
        audio ? Number(audio.sample_rate) || null : null,
        /mp4|mov/.test(formatName),
      );
  return {
    kind: photo ? 'photo' : video ? 'video' : 'sound',
    durationSeconds: photo ? 0 : duration,
    rate,
    variableRate,
    ...(coding ? shownSize(coding) : { width: 0, height: 0 }),
    coding,
    copied: null,
    hasSound: Boolean(audio),
    soundTracks: sounds.map(soundTrack),
    channels: audio?.channels ?? 0,
    videoCodec: video?.codec_name ?? null,
    audioCodec: audio?.codec_name ?? null,
    format: formatName,
    pixelFormat: video?.pix_fmt ?? null,
    ...labels,
    beginsTogether: !video || !audio || Math.abs(startOf(video) - startOf(audio)) < 0.1,
  };
}

/** MPEG-1 and 2 carry timecode in groups of pictures, which only a decoder sees. */
async function gopTags(file: string, video: RawStream | undefined): Promise<Tags[]> {
  if (!video || !/^mpeg[12]video$/.test(video.codec_name ?? '') || video.tags?.timecode) return [];
  const said = await capture('ffprobe', [
    ...['-v', 'error', ...inputGuard, '-select_streams', String(video.index), '-read_intervals', '%+#2'],
    ...['-show_frames', file],
  ]).then(
    (out) => /^TAG:timecode=(.*)$/m.exec(out.toString())?.[1] ?? '',
    () => '',
  );
  // An encoder that was told none writes one of nothing.
  return said && !/^00:00:00[:;]00/.test(said) ? [{ timecode: said }] : [];
}

const noLabels: RecordingLabels = { startTimecode: null, startSeconds: null, reelName: null, recordedAt: null };
const startOf = ({ start_time: start }: RawStream): number => Number(start ?? 0) || 0;

const soundTrack = (stream: RawStream): SoundTrack => {
  const { language, title, handler_name: handler } = stream.tags ?? {};
  return {
    channels: stream.channels ?? 0,
    layout: stream.channel_layout ?? null,
    codec: stream.codec_name ?? '',
    sampleRate: Number(stream.sample_rate) || 0,
    language: language && language !== 'und' ? language.slice(0, 16) : null,
    // Programs that write files call every track a handler of sound.
    title: (title ?? (handler && !/handler/i.test(handler) ? handler : null))?.slice(0, 64) ?? null,
  };
};

async function readFacts(file: string): Promise<PhotoFacts> {
  const facts = await photoFacts(file);
  if (facts) return facts;
  throw new MediaError('This photo cannot be read. It may have been cut off while it was copied; copy it again.');
}

/** A photo or an animation that is opened from a working copy. */
async function probePhoto(file: string, facts: PhotoFacts): Promise<Probe> {
  const { width, height, codec, pages } = facts;
  const problem = tooMuch(0, 1, { width, height });
  if (problem) throw new MediaError(problem);
  const film = pages > 1 ? animationRate(facts) : null;
  return {
    kind: film ? 'video' : 'photo',
    durationSeconds: film ? film.delays.reduce((sum, delay) => sum + delay, 0) / 1000 : 0,
    rate: film?.rate ?? null,
    variableRate: false,
    width,
    height,
    coding: null,
    copied: facts,
    hasSound: false,
    soundTracks: [],
    channels: 0,
    videoCodec: codec,
    audioCodec: null,
    format: codec,
    pixelFormat: null,
    ...noLabels,
    recordedAt: await takenAt(await exifOf(file)),
    beginsTogether: true,
  };
}

/** Even a held picture in silence takes so many bytes for a second; common practice, no source. */
const fewestBytesASecond = 16;
const longestSide = 20_000;
const mostPixels = 300e6;

/** A sentence when a file claims more than can be read with the time and memory of one machine. */
function tooMuch(
  seconds: number,
  bytes: number,
  video: { width?: number; height?: number } | undefined,
): string | null {
  if (seconds > longestSeconds)
    return `This file says that it is ${formatClock(seconds)} long; at most ${longestSeconds / 3600} hours can be read. Cut it into parts, or copy it again if that is not true.`;
  if (seconds > 60 && bytes / seconds < fewestBytesASecond)
    return `This file says that it is ${formatClock(seconds)} long, but it holds only ${bytes} bytes. It is damaged; copy it again.`;
  const { width = 0, height = 0 } = video ?? {};
  if (Math.max(width, height) > longestSide || width * height > mostPixels)
    return `Its picture of ${width} × ${height} pixels is too large; at most ${longestSide} on a side and ${mostPixels / 1e6} million in all can be read.`;
  return null;
}

/** Recorders for conferences write 64 tracks of sound; subtitles and data come beside them. Common practice, no source. */
const mostTracks = 128;
/** Twelve hours at 60 pictures a second, and as many that are shorter and faster. */
const mostFrames = 12 * 3600 * 60;

/** A sentence when a file holds more of something than can be meant. */
function tooMany(tracks: number, seconds: number, rate: Rate | null): string | null {
  if (tracks > mostTracks)
    return `This file says that it holds ${tracks} tracks; at most ${mostTracks} can be read. Leave out those that are not needed, or copy it again if that is not true.`;
  const frames = rate ? seconds * framesPerSecond(rate) : 0;
  return frames > mostFrames
    ? `This file says that it holds ${Math.round(frames)} pictures; at most ${mostFrames} can be read. Cut it into parts, or copy it again if that is not true.`
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
  /^(ftyp|moov|mdat|wide|free|skip|pnot|styp)$/.test((await firstBox(file)).type);

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
  // Browsers turn films by quarters and mirror none.
  if (info.coding && !(isPlainlyCoded(info.coding) && !isMirrored(info.coding.orientation) && info.beginsTogether))
    return false;
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
export async function keyFrameGap(file: string, stream: string): Promise<number> {
  const raw = await capture('ffprobe', [
    '-v',
    'error',
    ...inputGuard,
    '-select_streams',
    stream,
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
