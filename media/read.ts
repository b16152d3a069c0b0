import { spawn } from 'node:child_process';
import { mkdir, readdir, stat } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { MotionEstimator, exposure, lookGrid, sharpness, type FaceSample, type Gray } from '#core/picture';
import { lookColumns, lookHz, lookRows, type RawReading, type RawTraceName } from '#core/readings';
import type { Trace } from '#core/signal';
import { LoudnessMeter } from '#core/sound';
import { framesPerSecond } from '#core/time';
import { fixedBlocks, floatChunks } from './blocks';
import { letterbox, detectorSide } from './faceDetector';
import { FacePool } from './facePool';
import { keyFrameGap, playsInBrowser, probe, type Probe } from './probe';
import { Cancelled, MediaError, closing } from './process';
import { faceHz, planReading, type ReadPlan, type ThumbSheets } from './readPlan';
import { VoiceDetector } from './voiceDetector';

export interface ReadResult {
  probe: Probe;
  raw: RawReading;
  integratedLufs: number | null;
  sheets: (ThumbSheets & { count: number }) | null;
  proxy: boolean;
  /** Sentences about what could not be read. */
  warnings: string[];
}

export interface ReadOptions {
  /** For thumbnail sheets and the proxy; must exist or be creatable. */
  folder: string;
  /** Make a proxy when the browser cannot play the original well. */
  proxy?: boolean;
  signal?: AbortSignal;
  /** Share done, 0 to 1. */
  onProgress?(share: number): void;
}

/**
 * Reads a file once: one ffmpeg decode feeds motion, light, faces, speech, loudness, thumbnails and the proxy.
 * @throws MediaError with a plain sentence; Cancelled when the signal says so
 */
export async function readMedia(file: string, options: ReadOptions): Promise<ReadResult> {
  const info = await probe(file);
  await mkdir(options.folder, { recursive: true });
  const size = (await stat(file)).size;
  const gap = info.kind === 'video' ? await keyFrameGap(file).catch(() => Infinity) : 0;
  const proxy = Boolean(options.proxy) && info.kind !== 'photo' && !playsInBrowser(info, gap, size / Math.max(1, info.durationSeconds));
  const plan = planReading(file, info, options.folder, proxy);
  const child = spawn('ffmpeg', plan.args, { stdio: ['ignore', 'ignore', 'pipe', 'pipe', 'pipe', 'pipe', 'pipe'], signal: options.signal, killSignal: 'SIGKILL' });
  const ended = closing(child, options.signal);
  ended.catch(() => undefined);
  let words = '';
  child.stderr!.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-4000)));
  const [, , , grayPipe, facePipe, voicePipe, soundPipe] = child.stdio as unknown as Readable[];
  const faces = info.kind === 'sound' ? null : new FacePool();
  const done = { picture: 0, sound: 0 };
  const report = () => options.onProgress?.(Math.min(0.999, info.kind === 'sound' ? done.sound : done.picture) || 0);
  try {
    const [picture, found, voice, sound] = await Promise.all([
      measurePicture(grayPipe!, plan, (seconds) => { done.picture = seconds / info.durationSeconds; report(); }),
      faces ? measureFaces(facePipe!, info, faces) : drain(facePipe!).then(() => []),
      measureVoice(voicePipe!),
      measureSound(soundPipe!, (seconds) => { done.sound = seconds / info.durationSeconds; if (info.kind === 'sound') report(); }),
    ]);
    const [code] = await ended;
    if (options.signal?.aborted) throw new Cancelled();
    return await finish(info, { picture, found, voice, sound }, { code, words, proxy, plan, folder: options.folder });
  } catch (error) {
    if (options.signal?.aborted) throw new Cancelled();
    throw error;
  } finally {
    faces?.close();
    child.kill('SIGKILL');
  }
}

const drain = async (stream: Readable) => { for await (const _ of stream) void _; };

type Picture = Awaited<ReturnType<typeof measurePicture>>;

async function measurePicture(stream: Readable, plan: ReadPlan, onProgress: (seconds: number) => void) {
  const fps = framesPerSecond(plan.rate);
  const { width, height } = plan.gray;
  const names = ['camera.dx', 'camera.dy', 'camera.rotation', 'camera.zoom', 'camera.confidence', 'things.amount', 'things.share', 'things.x', 'frame.unmatched', 'frame.change'] as const;
  const slow = ['frame.sharpness', 'light.mean', 'light.dark', 'light.bright', 'light.contrast'] as const;
  const values = Object.fromEntries([...names, ...slow].map((name) => [name, [] as number[]])) as Record<(typeof names)[number] | (typeof slow)[number], number[]>;
  const estimator = new MotionEstimator();
  const look: number[] = [];
  const every = Math.max(1, Math.round(fps / 10));
  let frames = 0;
  for await (const data of fixedBlocks(stream, width * height)) {
    const picture: Gray = { width, height, data };
    const motion = estimator.next(picture);
    values['camera.dx'].push(motion.dx);
    values['camera.dy'].push(motion.dy);
    values['camera.rotation'].push(motion.rotation);
    values['camera.zoom'].push(motion.zoom);
    values['camera.confidence'].push(motion.confidence);
    values['things.amount'].push(motion.things);
    values['things.share'].push(motion.thingsShare);
    values['things.x'].push(motion.thingsX);
    values['frame.unmatched'].push(motion.unmatched);
    values['frame.change'].push(frames === 0 ? 255 : motion.change);
    if (frames % every === 0) {
      const light = exposure(picture);
      values['frame.sharpness'].push(sharpness(picture));
      values['light.mean'].push(light.mean);
      values['light.dark'].push(light.dark);
      values['light.bright'].push(light.bright);
      values['light.contrast'].push(light.contrast);
    }
    while (look.length / (lookColumns * lookRows) <= (frames / fps) * lookHz) look.push(...lookGrid(picture, lookColumns, lookRows));
    if (++frames % 30 === 0) onProgress(frames / fps);
  }
  const traces = [...names, ...slow].map((name): Trace => ({ name, hz: slow.includes(name as never) ? fps / every : fps, start: 0, values: Float32Array.from(values[name]) }));
  return { frames, seconds: frames / fps, traces, look: Float32Array.from(look) };
}

async function measureFaces(stream: Readable, info: Probe, pool: FacePool): Promise<FaceSample[]> {
  const picture = letterbox(info.width, info.height);
  const samples: Promise<FaceSample>[] = [];
  for await (const rgb of fixedBlocks(stream, detectorSide * detectorSide * 3)) {
    const time = samples.length / faceHz;
    const sample = pool.detect(rgb.slice(), picture).then((boxes) => ({ time, boxes }));
    sample.catch(() => undefined);
    samples.push(sample);
    const waitFor = samples[samples.length - 8];
    if (waitFor) await waitFor;
  }
  return Promise.all(samples);
}

async function measureVoice(stream: Readable): Promise<Trace | null> {
  let detector: VoiceDetector | null = null;
  for await (const samples of floatChunks(stream)) {
    detector ??= await VoiceDetector.load();
    await detector.push(samples);
  }
  await detector?.end();
  return detector && { name: 'sound.voice', hz: VoiceDetector.hz, start: 0, values: Float32Array.from(detector.probabilities) };
}

/** Level (RMS, dBFS) and peak 50 times a second, loudness 10 times. */
async function measureSound(stream: Readable, onProgress: (seconds: number) => void) {
  const meter = new LoudnessMeter(2);
  const level: number[] = [];
  const peak: number[] = [];
  const hop = 960;
  let squares = 0;
  let highest = 0;
  let count = 0;
  let seconds = 0;
  for await (const samples of floatChunks(stream)) {
    meter.push(samples);
    for (let at = 0; at < samples.length; at += 2) {
      const left = samples[at]!;
      const right = samples[at + 1]!;
      squares += (left * left + right * right) / 2;
      highest = Math.max(highest, Math.abs(left), Math.abs(right));
      if (++count < hop) continue;
      level.push(Math.max(-90, 10 * Math.log10(squares / hop + 1e-12)));
      peak.push(Math.min(1, highest));
      squares = highest = count = 0;
    }
    seconds += samples.length / 96000;
    onProgress(seconds);
  }
  if (seconds === 0) return null;
  const trace = (name: RawTraceName, hz: number, values: ArrayLike<number>): Trace => ({ name, hz, start: 0, values: Float32Array.from(values) });
  const integrated = meter.integrated();
  return {
    seconds, integratedLufs: Number.isFinite(integrated) ? integrated : null,
    traces: [trace('sound.level', 50, level), trace('sound.peak', 50, peak), trace('sound.loudness', 10, meter.momentary())],
  };
}

interface Measured {
  picture: Picture;
  found: FaceSample[];
  voice: Trace | null;
  sound: Awaited<ReturnType<typeof measureSound>>;
}

async function finish(info: Probe, { picture, found, voice, sound }: Measured, run: { code: number | null; words: string; proxy: boolean; plan: ReadPlan; folder: string }): Promise<ReadResult> {
  const hasPicture = info.kind !== 'sound' && picture.frames > 0;
  if (!hasPicture && !sound) {
    if (/No space left/i.test(run.words)) throw new MediaError('The disk is full. Free some space, then read this file again.');
    throw new MediaError('Nothing in this file could be decoded. It may be damaged, or of a kind that is not supported.', { cause: new Error(run.words) });
  }
  if (/No space left/i.test(run.words)) throw new MediaError('The disk is full. Free some space, then read this file again.');
  const durationSeconds = info.kind === 'photo' ? 0 : Math.max(hasPicture ? picture.seconds : 0, hasPicture ? 0 : (sound?.seconds ?? 0));
  const warnings: string[] = [];
  const missing = info.durationSeconds - durationSeconds;
  if (info.kind !== 'photo' && missing > Math.max(0.5, info.durationSeconds * 0.02))
    warnings.push(`Only the first ${durationSeconds.toFixed(1)} s of ${info.durationSeconds.toFixed(1)} s could be read; the rest is missing or damaged.`);
  const traces = [...(hasPicture ? picture.traces : []), ...(voice ? [voice] : []), ...(sound?.traces ?? [])];
  const sheetFiles = (await readdir(run.folder)).filter((name) => name.startsWith('sheet-')).length;
  return {
    probe: { ...info, durationSeconds }, integratedLufs: sound?.integratedLufs ?? null, warnings,
    proxy: run.proxy && run.code === 0, sheets: hasPicture && sheetFiles ? { ...run.plan.sheets, count: sheetFiles } : null,
    raw: {
      durationSeconds: durationSeconds || 0.1, hasPicture, hasSound: Boolean(sound), faces: found, look: picture.look,
      traces: new Map(traces.map((trace) => [trace.name as RawTraceName, trace])),
    },
  };
}
