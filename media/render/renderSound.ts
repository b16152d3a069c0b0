import { writeFile } from 'node:fs/promises';
import {
  cutFadeSeconds,
  highestPeak,
  musicCurve,
  planHeard,
  reelFrames,
  sampledCurve,
  soundRate,
  type Reel,
  type Segment,
} from '#core/reel';
import type { SoundChoice } from '#core/sound';
import { framesToSamples, framesToSeconds, type Range, type Rate } from '#core/time';
import { heardOf } from '../probe/heard';
import { inputArguments } from '../process';
import { runFfmpeg } from '../runFfmpeg';

/** Points a second of the gain curve that is multiplied with the music. */
const gainHz = 400;

export interface FileLoudness {
  integratedLufs: number | null;
  truePeakDb: number | null;
}

/** Collects the inputs of an ffmpeg call and their numbers. */
export class Inputs {
  readonly args: string[] = [];
  private count = 0;

  add(...args: string[]): number {
    this.args.push(...args);
    return this.count++;
  }
}

/** The music's level from a frame of the reel on, as a file for ffmpeg; null without music. */
export async function writeGain(reel: Reel, speech: readonly Range[], file: string, from = 0): Promise<string | null> {
  if (!reel.music) return null;
  const samples = sampledCurve(musicCurve(reel, speech), framesToSeconds(reelFrames(reel), reel.rate), gainHz);
  await writeFile(file, Buffer.from(samples.slice(Math.round(framesToSeconds(from, reel.rate) * gainHz)).buffer));
  return file;
}

/** A stretch of a reel in frames. */
export interface FrameRange {
  start: number;
  end: number;
}

/** What is heard of an input, as `heardOf` gives it. */
export type OpenedSound = ReturnType<typeof heardOf>;

export interface MusicInput {
  file: string;
  heard: SoundChoice;
  gain: string;
  durationSeconds: number;
}

/** Every track from a range of the reel, cut to what is heard of it. */
const heardIn = (reel: Reel, range: FrameRange): Segment[][] =>
  planHeard(reel)
    .map((track) =>
      track
        .filter((each) => each.startFrame < range.end && each.startFrame + each.frames > range.start)
        .map((each) => nearPart(each, range, reel.rate)),
    )
    .filter((track, index) => index === 0 || track.some((each) => each.gain > 0));

/** A piece is cut near a range when it reaches this much further, in seconds; so much of it is kept beyond the range. */
const [reachSeconds, keptSeconds] = [10, 1];

/** The part of a piece that lies near a range, so that nobody decodes two hours for a minute; fades stay whole. */
function nearPart(segment: Segment, range: FrameRange, rate: Rate): Segment {
  if (segment.cross || segment.media === null || segment.speed !== 1) return segment;
  const frames = (seconds: number) => Math.round((seconds * rate.num) / rate.den);
  const end = segment.startFrame + segment.frames;
  const head = range.start - frames(keptSeconds) - segment.startFrame;
  const tail = end - (range.end + frames(keptSeconds));
  const cutHead = head > frames(reachSeconds) && head >= (segment.fadeIn?.frames ?? 0) ? head : 0;
  const cutTail = tail > frames(reachSeconds) && tail >= (segment.fadeOut?.frames ?? 0) ? tail : 0;
  if (cutHead === 0 && cutTail === 0) return segment;
  const { fadeIn, fadeOut, ...rest } = segment;
  const [startFrame, stopFrame] = [segment.startFrame + cutHead, end - cutTail];
  return {
    ...rest,
    ...(fadeIn && cutHead === 0 ? { fadeIn } : {}),
    ...(fadeOut && cutTail === 0 ? { fadeOut } : {}),
    startFrame,
    frames: stopFrame - startFrame,
    samples: framesToSamples(stopFrame, rate, soundRate) - framesToSamples(startFrame, rate, soundRate),
    startSeconds: framesToSeconds(startFrame, rate),
    endSeconds: framesToSeconds(stopFrame, rate),
    into: segment.into + cutHead,
    sourceSeconds: segment.sourceSeconds + framesToSeconds(cutHead, rate),
  };
}

/** How many inputs a piece needs. */
const inputsOf = (segment: Segment): number =>
  segment.gain === 0 || segment.media === null ? 0 : segment.cross ? 2 : 1;

/**
 * Cuts a range into blocks, at beginnings of pieces, so that none opens many more than `most` inputs; ffmpeg holds a
 * decoder for each. The whole range when it needs no more.
 */
export function soundBlocks(reel: Reel, range: FrameRange, most: number): FrameRange[] {
  const begins = heardIn(reel, range)
    .flat()
    .filter((each) => inputsOf(each) > 0)
    .sort((a, b) => a.startFrame - b.startFrame);
  const blocks: FrameRange[] = [];
  let start = range.start;
  let count = 0;
  for (const segment of begins) {
    if (count + inputsOf(segment) > most && segment.startFrame > start) {
      blocks.push({ start, end: segment.startFrame });
      start = segment.startFrame;
      count = 0;
    }
    count += inputsOf(segment);
  }
  return [...blocks, { start, end: range.end }];
}

const stereo = 'aformat=sample_fmts=fltp:channel_layouts=stereo';

/**
 * The sound of a reel's tracks as filters: of every track every piece with its level, speed and fades.
 * @param open opens a piece's sound; null for silence
 * @returns the labels of the tracks
 */
function tracksGraph(
  reel: Reel,
  open: (segment: Segment) => OpenedSound | null,
  range: FrameRange,
): { graph: string[]; labels: string[] } {
  const graph: string[] = [];
  const samplesTo = (frame: number) => framesToSamples(frame, reel.rate, soundRate);
  const total = samplesTo(range.end) - samplesTo(range.start);
  const tracks = heardIn(reel, range);
  for (const [at, track] of tracks.entries()) {
    const chain = (segment: Segment, label: string) =>
      graph.push(...pieceSound(segment.gain === 0 ? null : open(segment), label, segment));
    for (const [index, segment] of track.entries()) {
      const label = `a${at}_${index}`;
      if (!segment.cross) {
        chain(segment, label);
        continue;
      }
      // Equal power, so that the middle of a crossing is as loud as its ends.
      const fade = (of: Segment, kind: 'in' | 'out') => {
        graph.push(
          ...pieceSound(
            of.gain === 0 ? null : open(of),
            `${label}${kind}p`,
            of,
            `afade=t=${kind}:ss=0:ns=${segment.samples}:curve=qsin`,
          ),
        );
        return `[${label}${kind}p]`;
      };
      graph.push(
        `${fade(segment.cross.from, 'out')}${fade(segment.cross.to, 'in')}amix=inputs=2:duration=first:normalize=0,apad=whole_len=${segment.samples},atrim=end_sample=${segment.samples},asetpts=PTS-STARTPTS[${label}]`,
      );
    }
    const late = samplesTo(range.start) - samplesTo(track[0]!.startFrame);
    graph.push(
      `${track.map((_, index) => `[a${at}_${index}]`).join('')}concat=n=${track.length}:v=0:a=1,atrim=start_sample=${late}:end_sample=${late + total},asetpts=PTS-STARTPTS[track${at}]`,
    );
  }
  return { graph, labels: tracks.map((_, index) => `[track${index}]`) };
}

/**
 * The sound of a reel as filters that end in [a]: its tracks, and the music beneath, multiplied with its gain curve.
 * @param open opens a piece's sound; null for silence
 * @param mix raw samples of the tracks, when they were mixed before; see `soundBlocks`
 */
export function soundGraph(
  reel: Reel,
  inputs: Inputs,
  open: (segment: Segment) => OpenedSound | null,
  music: MusicInput | null,
  range: FrameRange,
  mix: string | null = null,
): string[] {
  const samplesTo = (frame: number) => framesToSamples(frame, reel.rate, soundRate);
  const total = samplesTo(range.end) - samplesTo(range.start);
  const exact = `apad=whole_len=${total},atrim=end_sample=${total},asetpts=PTS-STARTPTS`;
  const { graph, labels } = mix
    ? { graph: [`[${inputs.add(...rawSound, '-i', mix)}:a:0]${stereo},${exact}[track0]`], labels: ['[track0]'] }
    : tracksGraph(reel, open, range);
  if (reel.music && music) {
    const begins = reel.music.startSeconds + framesToSeconds(range.start, reel.rate);
    const song = inputs.add(
      '-stream_loop',
      '-1',
      '-ss',
      (begins < music.durationSeconds ? begins : begins % music.durationSeconds).toFixed(6),
      '-t',
      (total / soundRate + 1).toFixed(6),
      '-vn',
      ...inputArguments(music.file),
    );
    const gain = inputs.add('-f', 'f32le', '-ar', String(gainHz), '-ac', '1', '-i', music.gain);
    const heard = heardOf(song, music.heard, 'tracks');
    graph.push(
      ...heard.graph,
      `${heard.label}aresample=${soundRate},${stereo},${exact}[song]`,
      `[${gain}:a:0]aresample=${soundRate},pan=stereo|c0=c0|c1=c0,${stereo},${exact}[gain]`,
      '[song][gain]amultiply[music]',
    );
    labels.push('[music]');
  }
  graph.push(
    labels.length > 1
      ? `${labels.join('')}amix=inputs=${labels.length}:duration=first:normalize=0[a]`
      : `${labels[0]}anull[a]`,
  );
  return graph;
}

/** How a mix lies in its file: stereo samples as 32-bit floats, nothing else. */
export const rawSound = ['-f', 'f32le', '-ar', String(soundRate), '-ac', '2'];

/** Slower than half needs two of ffmpeg's filters in a row. */
const tempo = (speed: number): string =>
  speed === 1 ? '' : speed < 0.5 ? `,atempo=0.5,atempo=${(speed / 0.5).toFixed(6)}` : `,atempo=${speed.toFixed(6)}`;

/** Exactly `samples` samples with its fades, at least a short one at both cuts; silence where the source has none. */
function pieceSound(
  opened: OpenedSound | null,
  label: string,
  { samples, frames, gain, speed, fadeIn, fadeOut }: Segment,
  instead?: string,
): string[] {
  const short = Math.min(Math.round(cutFadeSeconds * soundRate), samples >> 1);
  const source =
    opened !== null
      ? `${opened.label}aresample=${soundRate}:async=1:first_pts=0,aformat=sample_fmts=fltp:channel_layouts=stereo${tempo(speed)},apad=whole_len=${samples}`
      : `anullsrc=r=${soundRate}:cl=stereo,aformat=sample_fmts=fltp`;
  const level = opened !== null && gain !== 1 ? `,volume=${gain.toFixed(6)}` : '';
  const long = (length: number | undefined) =>
    length === undefined ? short : Math.max(1, Math.round((length / frames) * samples));
  const fades =
    instead ??
    `afade=t=in:ss=0:ns=${long(fadeIn?.frames)},afade=t=out:ss=${samples - long(fadeOut?.frames)}:ns=${long(fadeOut?.frames)}`;
  return [
    ...(opened?.graph ?? []),
    `${source},atrim=end_sample=${samples},asetpts=PTS-STARTPTS${level},${fades}[${label}]`,
  ];
}

/** Integrated loudness and true peak of what ffmpeg's `ebur128` heard (EBU R 128), out of its log. */
export function readLoudness(log: string): FileLoudness {
  const last = (pattern: RegExp) => {
    const found = [...log.matchAll(pattern)].at(-1)?.[1];
    return found === undefined || found.includes('inf') ? null : Number(found);
  };
  const integratedLufs = last(/I:\s+(-?[\d.]+|-inf) LUFS/g);
  return {
    integratedLufs: integratedLufs !== null && integratedLufs <= -70 ? null : integratedLufs,
    truePeakDb: last(/Peak:\s+(-?[\d.]+|-inf) dBFS/g),
  };
}

/** Loudness of a finished file. */
export async function measureLoudness(file: string, signal?: AbortSignal): Promise<FileLoudness> {
  return readLoudness(
    await runFfmpeg(
      [
        '-hide_banner',
        '-nostdin',
        '-nostats',
        ...inputArguments(file),
        '-vn',
        '-af',
        'ebur128=peak=true:framelog=verbose',
        '-f',
        'null',
        '-',
      ],
      signal,
    ),
  );
}

/** Half a decibel in hand at first: encoders add a little to peaks, of loud material up to three. */
const firstCeiling = highestPeak - 0.5;
const encodersAdd = 3;

/**
 * Filters that bring a mix to a loudness: one gain for all, and only where that would push peaks over the ceiling a
 * limiter, four times oversampled so that it sees what lies between the samples. Empty when there is nothing to do.
 * @param target in LUFS; undefined leaves the level alone
 * @param moreDb what a limiter took away before, and is given back
 * @param ceiling of true peaks before the encoder, in dBTP
 */
export function loudnessFilters(
  target: number | undefined,
  measured: FileLoudness,
  moreDb = 0,
  ceiling = firstCeiling,
): string {
  if (measured.integratedLufs === null) return '';
  const gain = target === undefined ? 0 : target - measured.integratedLufs + moreDb;
  const over = (measured.truePeakDb ?? -Infinity) + gain > ceiling;
  return [
    ...(gain === 0 ? [] : [`volume=${gain.toFixed(3)}dB`]),
    ...(over
      ? [
          `aresample=${soundRate * 4}`,
          `alimiter=limit=${(10 ** (ceiling / 20)).toFixed(4)}:attack=1:release=60:level=0`,
          `aresample=${soundRate}`,
        ]
      : []),
  ].join(',');
}

/** Off the target by less than this is good enough, in LU. */
const closeEnough = 0.2;

/**
 * The filters for a target, tried on the sound as it will be in the file: what a limiter takes of the loudness is made
 * up for, and by what the encoder adds to peaks the limiter begins earlier.
 * @param target in LUFS; undefined only keeps peaks under the bound
 * @param measure loudness behind these filters: of the mix itself for none, else of the encoded sound
 */
export async function filtersForLoudness(
  target: number | undefined,
  measure: (filters: string) => Promise<FileLoudness>,
): Promise<string> {
  const plain = await measure('');
  let filters = loudnessFilters(target, plain);
  let [moreDb, ceiling] = [0, firstCeiling];
  const loudest =
    (plain.truePeakDb ?? -Infinity) +
    (target === undefined || plain.integratedLufs === null ? 0 : target - plain.integratedLufs);
  for (let round = 0; round < 6 && plain.integratedLufs !== null && loudest > highestPeak - encodersAdd; round++) {
    const { integratedLufs, truePeakDb } = await measure(filters || 'anull');
    const over = (truePeakDb ?? -Infinity) - highestPeak;
    const off =
      target === undefined || integratedLufs === null || !filters.includes('alimiter') ? 0 : target - integratedLufs;
    if (over <= 0 && Math.abs(off) < closeEnough) break;
    if (over > 0) ceiling -= over + 0.1;
    if (Math.abs(off) >= closeEnough) moreDb += off;
    filters = loudnessFilters(target, plain, moreDb, ceiling);
  }
  return filters;
}
