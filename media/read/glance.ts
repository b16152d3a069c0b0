import { readFile, rm } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import sharp from 'sharp';
import { exposure, lookGrid, plainCoding, sharpness, type Gray } from '#core/picture';
import { glanceSteps, lookColumns, lookRows, readingOfGlances, type Glance, type RawReading } from '#core/readings';
import { firstTrack, type SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import { detectorSide } from '../nets/models';
import { FaceFinder, letterbox } from '../nets/vision';
import { VoiceDetector } from '../nets/voiceDetector';
import { heardOf } from '../probe/heard';
import type { Probe } from '../probe/probe';
import { asShown, fromVideoLevels, streamOf } from '../probe/shown';
import { capture } from '../capture';
import { Cancelled, inputArguments } from '../process';
import { planReading, type ThumbSheets } from './readPlan';

/** What is heard of a point; the voice detector needs the first part of it to find its feet. In seconds. */
const heardSeconds = 1.5;
const settlingHops = 6;
/** Where a file has no index the next key frame may be so far away. In seconds. */
const reachSeconds = 12;
/** Points that one ffmpeg looks at, and how many of them work at once. */
const groupSize = 8;
const groupsAtOnce = 2;
/** No seek takes so long. */
const patienceMilliseconds = 60_000;
const longestGlance = 960;

/** What has to be known of a file before points of it are looked at. */
export type GlancedFile = Pick<
  Probe,
  'kind' | 'durationSeconds' | 'rate' | 'width' | 'height' | 'coding' | 'hasSound' | 'soundTracks'
>;

/** What points of a file tell so far. */
export interface GlanceResult {
  raw: RawReading;
  sheets: (ThumbSheets & { count: number }) | null;
  heard: SoundChoice;
  /** Seconds from one point to the next. */
  partSeconds: number;
  /** Share of the points at which somebody speaks. */
  speechShare: number;
}

interface Looked extends Glance {
  thumb: Uint8Array | null;
}

/**
 * Looks at points spread over a file, each by a seek to the key frame before it, from coarse to fine: seconds after a file
 * of whatever length arrived it is known roughly what is where. After each step it tells what is known so far; its
 * thumbnail sheets lie in the folder then.
 * @param onStep may answer false: then that is enough
 */
export async function glance(
  file: string,
  info: GlancedFile,
  options: { folder: string; range?: Range | undefined; sound?: SoundChoice | undefined; signal?: AbortSignal },
  onStep: (result: GlanceResult, share: number) => Promise<boolean>,
): Promise<void> {
  const { folder, range } = options;
  const heard = options.sound ?? firstTrack;
  const plan = planReading(file, info as Probe, folder, false, range);
  const stretch = { start: plan.range.start, end: Math.min(plan.range.end, info.durationSeconds) };
  const steps = glanceSteps(stretch);
  const all = steps.reduce((sum, { points }) => sum + points.length, 0);
  const looked: Looked[] = [];
  const eyes = { finder: null as FaceFinder | null };
  for (const { partSeconds, points } of steps) {
    const groups = Array.from({ length: Math.ceil(points.length / groupSize) }, (_, group) =>
      points.slice(group * groupSize, (group + 1) * groupSize),
    );
    let next = 0;
    const work = async (worker: number) => {
      for (let own = next++; own < groups.length; own = next++)
        looked.push(...(await lookAt(file, info, groups[own]!, { ...options, heard, plan, eyes, name: `g${worker}` })));
    };
    await Promise.all(Array.from({ length: groupsAtOnce }, (_, worker) => work(worker)));
    looked.sort((a, b) => a.time - b.time);
    const raw = readingOfGlances(looked, { durationSeconds: info.durationSeconds, range, voiceHz: VoiceDetector.hz });
    if (!raw.hasPicture && !raw.hasSound) return;
    const sheets = await writeSheets(looked, { ...plan.sheets, hz: 1 / partSeconds }, stretch, folder);
    const voices = looked.flatMap((point) => (point.heard ? [point.heard.voice] : []));
    const speechShare = voices.filter((voice) => voice > 0.5).length / Math.max(1, voices.length);
    if (!(await onStep({ raw, sheets, heard, partSeconds, speechShare }, looked.length / all))) return;
  }
}

interface LookOptions {
  folder: string;
  heard: SoundChoice;
  plan: ReturnType<typeof planReading>;
  eyes: { finder: FaceFinder | null };
  /** Of the files it writes; no other group at work has it. */
  name: string;
  signal?: AbortSignal;
}

/** One ffmpeg with an input for each point; what it could not look at is missing. */
async function lookAt(
  file: string,
  info: GlancedFile,
  times: readonly number[],
  options: LookOptions,
): Promise<Looked[]> {
  const { plan, name, heard, folder } = options;
  const { gray, sheets } = plan;
  const coding = info.coding ?? plainCoding;
  const picture = info.kind === 'video';
  const hears = info.hasSound && heard.length > 0;
  const graph: string[] = [];
  const outputs: string[] = [];
  for (const index of times.keys()) {
    if (picture) {
      graph.push(
        `[${index}:${streamOf(coding)}]${asShown(coding, { longest: longestGlance, apart: true, by: 'area' })}trim=end_frame=1,split=3[a${index}][b${index}][c${index}]`,
        // A key frame lies before the point, and what lies before zero is dropped; where it lay is written down first.
        `[a${index}]scale=${gray.width}:${gray.height}:flags=area,signalstats,metadata=print:key=lavfi.signalstats.YAVG:file=${name}-time${index},format=gray,setpts=0[gray${index}]`,
        `[b${index}]scale=${detectorSide}:${detectorSide}:force_original_aspect_ratio=decrease:flags=area:${fromVideoLevels},format=rgb24,pad=${detectorSide}:${detectorSide}:-1:-1,setpts=0[square${index}]`,
        `[c${index}]scale=${sheets.width}:${sheets.height}:flags=area:${fromVideoLevels},format=rgb24,setpts=0[thumb${index}]`,
      );
      for (const part of ['gray', 'square', 'thumb'])
        outputs.push('-map', `[${part}${index}]`, '-frames:v', '1', '-f', 'rawvideo', `${name}-${part}${index}`);
    }
    if (hears) {
      const sound = heardOf(index, heard, `heard${index}-`);
      graph.push(...sound.graph, `${sound.label}asetpts=PTS-STARTPTS,atrim=duration=${heardSeconds}[sound${index}]`);
      outputs.push(
        '-map',
        `[sound${index}]`,
        '-ac',
        '1',
        '-ar',
        String(VoiceDetector.sampleRate),
        '-f',
        'f32le',
        `${name}-sound${index}`,
      );
    }
  }
  if (outputs.length === 0) return [];
  const inputs = times.flatMap((time) => [
    ...['-threads', '1', '-skip_frame:v', 'nokey', '-noautorotate', '-noaccurate_seek'],
    ...['-ss', time.toFixed(3), '-t', reachSeconds.toFixed(3)],
    ...inputArguments(resolve(file)),
  ]);
  const patience = AbortSignal.timeout(patienceMilliseconds);
  try {
    await capture(
      'ffmpeg',
      ['-v', 'error', '-nostdin', '-y', ...inputs, '-filter_complex', graph.join(';'), ...outputs],
      { signal: options.signal ? AbortSignal.any([options.signal, patience]) : patience, folder },
    );
  } catch (error) {
    // A damaged spot does not hide the others.
    if (options.signal?.aborted) throw new Cancelled();
    if (!(error instanceof Error)) throw error;
  }
  const made = async (part: string, index: number): Promise<Buffer | null> => {
    const path = join(folder, `${name}-${part}${index}`);
    const bytes = await readFile(path).catch(() => null);
    await rm(path, { force: true });
    return bytes;
  };
  const place = letterbox(info.width, info.height);
  const looked: Looked[] = [];
  const voices = hears ? await VoiceDetector.load() : null;
  for (const [index, time] of times.entries()) {
    const [grey, square, thumb, sound, lay] = await Promise.all(
      ['gray', 'square', 'thumb', 'sound', 'time'].map((part) => made(part, index)),
    );
    const before = Number(/pts_time:(-?[\d.]+)/.exec(lay?.toString() ?? '')?.[1] ?? 0);
    const isWhole = grey?.length === gray.width * gray.height && square?.length === detectorSide ** 2 * 3;
    const heardHere = voices && sound && sound.length >= 4 ? await hear(voices, sound) : null;
    if (isWhole) options.eyes.finder ??= await FaceFinder.load();
    looked.push({
      time: Math.max(plan.range.start, time + before),
      seen: isWhole ? { ...see({ ...gray, data: grey }), faces: await options.eyes.finder!.find(square, place) } : null,
      heard: heardHere,
      thumb: thumb?.length === sheets.width * sheets.height * 3 ? thumb : null,
    });
  }
  return looked;
}

const see = (picture: Gray) => ({
  sharpness: sharpness(picture),
  light: exposure(picture),
  look: Float32Array.from(lookGrid(picture, lookColumns, lookRows)),
});

async function hear(detector: VoiceDetector, bytes: Buffer): Promise<Glance['heard']> {
  const samples = new Float32Array(Uint8Array.from(bytes.subarray(0, bytes.length - (bytes.length % 4))).buffer);
  const from = detector.probabilities.length;
  await detector.push(samples);
  await detector.end();
  const all = detector.probabilities.slice(from);
  const settled = all.length > settlingHops ? all.slice(settlingHops) : all;
  let squares = 0;
  let peak = 0;
  for (const sample of samples) {
    squares += sample * sample;
    peak = Math.max(peak, Math.abs(sample));
  }
  return {
    voice: settled.reduce((sum, probability) => sum + probability, 0) / Math.max(1, settled.length),
    level: Math.max(-90, 10 * Math.log10(squares / Math.max(1, samples.length) + 1e-12)),
    peak: Math.min(1, peak),
  };
}

/** Thumbnails of all parts; a part without one has that of the part before it. */
async function writeSheets(
  looked: readonly Looked[],
  sheets: ThumbSheets,
  { start, end }: Range,
  folder: string,
): Promise<(ThumbSheets & { count: number }) | null> {
  const { width, height, columns, rows, hz } = sheets;
  const parts = Math.max(1, Math.round((end - start) * hz));
  const thumbs: (Uint8Array | null)[] = Array.from({ length: parts }, () => null);
  for (const { time, thumb } of looked)
    if (thumb) thumbs[Math.min(parts - 1, Math.max(0, Math.floor((time - start) * hz)))] = thumb;
  const first = thumbs.find((thumb) => thumb !== null);
  if (!first) return null;
  const count = Math.ceil(parts / (columns * rows));
  let last: Uint8Array = first;
  for (let sheet = 0; sheet < count; sheet++) {
    const pixels = Buffer.alloc(width * columns * height * rows * 3);
    for (let cell = 0; cell < columns * rows; cell++) {
      const index = sheet * columns * rows + cell;
      if (index >= parts) break;
      last = thumbs[index] ?? last;
      const [x, y] = [(cell % columns) * width, Math.floor(cell / columns) * height];
      for (let row = 0; row < height; row++)
        pixels.set(last.subarray(row * width * 3, (row + 1) * width * 3), ((y + row) * width * columns + x) * 3);
    }
    await sharp(pixels, { raw: { width: width * columns, height: height * rows, channels: 3 } })
      .jpeg({ quality: 70 })
      .toFile(join(folder, `sheet-${String(sheet + 1).padStart(4, '0')}.jpg`));
  }
  return { ...sheets, count };
}
