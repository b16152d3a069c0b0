import { spawn } from 'node:child_process';
import { mkdir, readdir } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { exposure, lookGrid, sharpness, type Gray } from '#core/picture';
import { fineColumns, fineHz, fineRows, lookColumns, lookHz, lookRows, type RawTraceName } from '#core/readings';
import type { Trace } from '#core/signal';
import type { Range } from '#core/time';
import { fixedBlocks, floatChunks } from './blocks';
import { measureCoarseFaces } from './measureFaces';
import { probe } from './probe';
import { Cancelled, closing, inputArguments } from './process';
import { planReading } from './readPlan';
import { detectorSide } from './vision';
import type { ReadResult } from './read';
import { VoiceDetector } from './voiceDetector';

/** Looks of the key frames are kept this many times a second; between key frames the last one is held. */
const hz = 1;
const facesEvery = 4;

/**
 * A first rough reading out of key frames and sound, in a few hundredths of the running time: light, focus, some
 * faces, speech and level. Of motion and camera it knows nothing; the whole reading that follows replaces it.
 */
export async function readCoarse(file: string, options: { folder: string; range?: Range; signal?: AbortSignal }): Promise<ReadResult | null> {
  const info = await probe(file);
  if (info.kind === 'photo') return null;
  await mkdir(options.folder, { recursive: true });
  const plan = planReading(file, info, options.folder, false, options.range);
  const { gray, range } = plan;
  const sheets = { ...plan.sheets, hz };
  const part = options.range ? ['-ss', range.start.toFixed(3), '-to', range.end.toFixed(3)] : [];
  const picture = info.kind === 'video';
  const filters: string[] = [];
  const maps: string[] = [];
  if (picture) {
    filters.push(
      `[0:v:0]fps=${hz}:start_time=0:round=up,split=3[a][b][c]`, `[a]scale=${gray.width}:${gray.height}:flags=area,format=gray[gray]`,
      `[b]fps=1/${facesEvery}:start_time=0:round=up,scale=${detectorSide}:${detectorSide}:force_original_aspect_ratio=decrease:flags=area,pad=${detectorSide}:${detectorSide}:-1:-1,format=rgb24[faces]`, `[c]scale=${sheets.width}:${sheets.height}:flags=area,tile=${sheets.columns}x${sheets.rows}[sheets]`,
    );
    maps.push('-map', '[gray]', '-f', 'rawvideo', 'pipe:3', '-map', '[faces]', '-f', 'rawvideo', 'pipe:4', '-map', '[sheets]', '-c:v', 'mjpeg', '-q:v', '6', '-pix_fmt', 'yuvj420p', '-strict', 'unofficial', '-f', 'image2', `${options.folder}/sheet-%04d.jpg`);
  }
  if (info.hasSound) {
    filters.push('[0:a:0]aresample=async=1:first_pts=0[s]');
    maps.push('-map', '[s]', '-ac', '1', '-ar', '16000', '-f', 'f32le', 'pipe:5');
  }
  const child = spawn('ffmpeg', ['-v', 'error', '-nostdin', '-y', '-threads', '7', '-skip_loop_filter:v', 'all', '-skip_frame:v', 'nokey', ...part, ...inputArguments(file), '-filter_complex', filters.join(';'), ...maps], { stdio: ['ignore', 'ignore', 'ignore', 'pipe', 'pipe', 'pipe'], signal: options.signal, killSignal: 'SIGKILL' });
  const ended = closing(child, options.signal);
  ended.catch(() => undefined);
  const [, , , grayPipe, facePipe, soundPipe] = child.stdio as unknown as Readable[];
  try {
    const [light, faces, sound] = await Promise.all([measureLight(grayPipe!, gray), measureCoarseFaces(facePipe!, plan, facesEvery), hear(soundPipe!)]);
    await ended;
    if (options.signal?.aborted) throw new Cancelled();
    if (!light.frames && !sound.length) return null;
    const traces = [...light.traces, ...sound].map((trace) => ({ ...trace, start: range.start }));
    const count = (await readdir(options.folder)).filter((name) => name.startsWith('sheet-')).length;
    return {
      probe: info, loudness: null, warnings: [], proxy: false, sheets: light.frames && count ? { ...sheets, count } : null,
      raw: {
        durationSeconds: info.durationSeconds, hasPicture: picture && light.frames > 0, hasSound: sound.length > 0, objects: [], faces: faces.map((sample) => ({ ...sample, time: sample.time + range.start })),
        look: light.look, fine: light.fine, ...(options.range ? { range } : {}), traces: new Map(traces.map((trace) => [trace.name as RawTraceName, trace])),
      },
    };
  } catch (error) {
    if (options.signal?.aborted) throw new Cancelled();
    throw error;
  } finally {
    child.kill('SIGKILL');
  }
}

async function measureLight(stream: Readable, { width, height }: { width: number; height: number }) {
  const names = ['frame.sharpness', 'light.mean', 'light.dark', 'light.bright', 'light.contrast'] as const;
  const values = names.map((): number[] => []);
  const look: number[] = [];
  const fine: number[] = [];
  let frames = 0;
  for await (const data of fixedBlocks(stream, width * height)) {
    const picture: Gray = { width, height, data };
    const light = exposure(picture);
    [sharpness(picture), light.mean, light.dark, light.bright, light.contrast].forEach((value, index) => values[index]!.push(value));
    const rough = [...lookGrid(picture, lookColumns, lookRows)];
    for (let copy = 0; copy < lookHz / hz; copy++) look.push(...rough);
    const finer = [...lookGrid(picture, fineColumns, fineRows)];
    for (let copy = 0; copy < fineHz / hz; copy++) fine.push(...finer);
    frames++;
  }
  return { frames, traces: names.map((name, index): Trace => ({ name, hz, start: 0, values: Float32Array.from(values[index]!) })), look: Float32Array.from(look), fine: Float32Array.from(fine) };
}

/** Voice and level; loudness is taken from the level, which is near enough for a first look. */
async function hear(stream: Readable): Promise<Trace[]> {
  let detector: VoiceDetector | null = null;
  const level: number[] = [];
  const peak: number[] = [];
  const hop = VoiceDetector.sampleRate / 50;
  let squares = 0, highest = 0, count = 0;
  for await (const samples of floatChunks(stream)) {
    detector ??= await VoiceDetector.load();
    for (const sample of samples) {
      squares += sample * sample;
      highest = Math.max(highest, Math.abs(sample));
      if (++count < hop) continue;
      level.push(Math.max(-90, 10 * Math.log10(squares / hop + 1e-12)));
      peak.push(Math.min(1, highest));
      squares = highest = count = 0;
    }
    await detector.push(samples);
  }
  await detector?.end();
  if (!detector) return [];
  const trace = (name: RawTraceName, rate: number, list: ArrayLike<number>): Trace => ({ name, hz: rate, start: 0, values: Float32Array.from(list) });
  return [trace('sound.voice', VoiceDetector.hz, detector.probabilities), trace('sound.level', 50, level), trace('sound.peak', 50, peak), trace('sound.loudness', 50, level)];
}
