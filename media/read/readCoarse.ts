import { mkdir, readdir } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { exposure, lookGrid, plainCoding, sharpness, type Gray } from '#core/picture';
import { fineColumns, fineHz, fineRows, lookColumns, lookHz, lookRows, type RawTraceName } from '#core/readings';
import type { Trace } from '#core/signal';
import { firstTrack, type SoundChoice } from '#core/sound';
import { framesPerSecond, type Range } from '#core/time';
import { fixedBlocks, floatChunks } from './blocks';
import { measureCoarseFaces } from './measureFaces';
import { heardAlone } from '../probe/heard';
import { probe, type Probe } from '../probe/probe';
import { Cancelled, closing, inputArguments } from '../process';
import { startProgram } from '../startProgram';
import { planReading, readOnly } from './readPlan';
import { asShown, fromVideoLevels, jpegColours, streamOf, withInputLook } from '../probe/shown';
import { Watchdog } from '../watchdog';
import { detectorSide } from '../nets/models';
import { padded, type ReadResult } from './read';
import { VoiceDetector } from '../nets/voiceDetector';

/** Seconds from one looked-at key frame to the next; decoding them is most of the work, so large pictures are looked at more seldom. */
const stepOf = (info: Probe): number => (info.width * info.height > 1.1e6 ? 4 : 2);
/** Faces are looked for in steps of so many seconds. */
const faceSeconds = 4;
/** Key frames need not be larger where their colours are changed. */
const longestRough = 960;
/** Keeps key frames so far apart, and none of the packets between them; a program of ffmpeg's `noise` bitstream filter. */
const keyFramesOnly = (packets: number) => `noise=drop='if(key*gte(n+1,ld(0)),0*st(0,n+1+${packets}),1)'`;

/**
 * A first rough reading out of key frames and sound, in a few hundredths of the running time: light, focus, some
 * faces, speech and level. Of motion and camera it knows nothing; the whole reading that follows replaces it.
 */
export async function readCoarse(
  file: string,
  options: {
    folder: string;
    range?: Range;
    sound?: SoundChoice;
    inputLook?: string;
    signal?: AbortSignal;
    onProgress?(share: number): void;
  },
): Promise<ReadResult | null> {
  const info = await probe(file);
  if (info.kind === 'photo' || info.copied) return null;
  await mkdir(options.folder, { recursive: true });
  const plan = planReading(file, info, options.folder, false, options.range);
  const { gray, range } = plan;
  const heard = options.sound ?? firstTrack;
  const coding = withInputLook(info.coding ?? plainCoding, options.inputLook);
  const step = stepOf(info);
  const sheets = { ...plan.sheets, hz: 1 / step };
  const part = readOnly(info, options.range);
  const picture = info.kind === 'video';
  const quiet = ['-v', 'error', '-nostdin', '-y'];
  const start = (args: string[], stdio: ('ignore' | 'pipe')[]) => {
    const child = startProgram<'in' | 'out'>('ffmpeg', [...quiet, ...args], stdio, { signal: options.signal });
    const ended = closing(child, options.signal);
    ended.catch(() => undefined);
    return { child, ended, pipes: child.stdio as unknown as Readable[] };
  };
  const packets = start(
    [
      ...part,
      ...inputArguments(file),
      ...(picture
        ? [
            '-map',
            `0:${streamOf(coding)}`,
            '-c:v',
            'copy',
            '-bsf:v',
            keyFramesOnly(Math.round((step - 0.1) * (info.rate ? framesPerSecond(info.rate) : 30))),
            '-f',
            'nut',
            'pipe:1',
          ]
        : []),
      ...(info.hasSound && heard.length > 0
        ? [...heardAlone(heard), '-ac', '1', '-ar', '16000', '-f', 'f32le', 'pipe:3']
        : []),
    ],
    ['ignore', 'pipe', 'ignore', 'pipe'],
  );
  const filters = [
    `[0:v:0]${asShown(coding, { longest: longestRough, apart: true, by: 'area' })}fps=1/${step}:start_time=0:round=up,split=3[a][b][c]`,
    `[a]scale=${gray.width}:${gray.height}:flags=area,format=gray[gray]`,
    `[b]fps=1/${faceSeconds}:start_time=0:round=up,scale=${detectorSide}:${detectorSide}:force_original_aspect_ratio=decrease:flags=area:${fromVideoLevels},format=rgb24,pad=${detectorSide}:${detectorSide}:-1:-1[faces]`,
    `[c]scale=${sheets.width}:${sheets.height}:flags=area:${jpegColours},tile=${sheets.columns}x${sheets.rows}[sheets]`,
  ];
  const pictures = picture
    ? start(
        [
          '-skip_loop_filter:v',
          'all',
          '-f',
          'nut',
          '-i',
          'pipe:0',
          '-filter_complex',
          filters.join(';'),
          '-map',
          '[gray]',
          '-f',
          'rawvideo',
          'pipe:3',
          '-map',
          '[faces]',
          '-f',
          'rawvideo',
          'pipe:4',
          '-map',
          '[sheets]',
          '-c:v',
          'mjpeg',
          '-q:v',
          '6',
          '-pix_fmt',
          'yuvj420p',
          '-strict',
          'unofficial',
          '-f',
          'image2',
          `${options.folder}/sheet-%04d.jpg`,
        ],
        ['pipe', 'ignore', 'ignore', 'pipe', 'pipe'],
      )
    : null;
  const watchdog = new Watchdog([packets.child, ...(pictures ? [pictures.child] : [])]);
  for (const pipe of [packets.pipes[1], packets.pipes[3], pictures?.pipes[3], pictures?.pipes[4]]) watchdog.watch(pipe);
  const length = range.end - range.start;
  const done = { picture: picture ? 0 : Infinity, sound: info.hasSound && heard.length > 0 ? 0 : Infinity };
  const report = (part: keyof typeof done, seconds: number) => {
    done[part] = seconds;
    options.onProgress?.(Math.min(1, Math.min(done.picture, done.sound) / length));
  };
  if (pictures) packets.pipes[1]!.pipe(pictures.child.stdin).on('error', () => undefined);
  try {
    const [light, faces, sound] = await Promise.all([
      measureLight(pictures?.pipes[3] ?? Readable.from([]), gray, step, (seconds) => report('picture', seconds)),
      measureCoarseFaces(pictures?.pipes[4] ?? Readable.from([]), plan, faceSeconds),
      hear(packets.pipes[3] ?? Readable.from([]), (seconds) => report('sound', seconds)),
    ]);
    await Promise.all([packets.ended, pictures?.ended]);
    if (options.signal?.aborted) throw new Cancelled();
    watchdog.check('The first look at this file');
    if (!light.frames && !sound.length) return null;
    const traces = [...light.traces, ...sound].map((trace) => ({ ...trace, start: range.start }));
    const count = (await readdir(options.folder)).filter((name) => name.startsWith('sheet-')).length;
    return {
      probe: info,
      loudness: null,
      warnings: [],
      proxy: false,
      copy: null,
      heard,
      listened: null,
      sheets: light.frames && count ? { ...sheets, count } : null,
      raw: {
        durationSeconds: info.durationSeconds,
        hasPicture: picture && light.frames > 0,
        hasSound: sound.length > 0,
        objects: [],
        faces: faces.map((sample) => ({ ...sample, time: sample.time + range.start })),
        look: padded(light.look, range.start * lookHz, lookColumns * lookRows),
        fine: padded(light.fine, range.start * fineHz, fineColumns * fineRows),
        ...(options.range ? { range } : {}),
        traces: new Map(traces.map((trace) => [trace.name as RawTraceName, trace])),
      },
    };
  } catch (error) {
    if (options.signal?.aborted) throw new Cancelled();
    throw error;
  } finally {
    watchdog.stop();
    packets.child.kill('SIGKILL');
    pictures?.child.kill('SIGKILL');
  }
}

async function measureLight(
  stream: Readable,
  { width, height }: { width: number; height: number },
  step: number,
  onProgress: (seconds: number) => void,
) {
  const names = ['frame.sharpness', 'light.mean', 'light.dark', 'light.bright', 'light.contrast'] as const;
  const values = names.map((): number[] => []);
  const look: number[] = [];
  const fine: number[] = [];
  let frames = 0;
  for await (const data of fixedBlocks(stream, width * height)) {
    const picture: Gray = { width, height, data };
    const light = exposure(picture);
    [sharpness(picture), light.mean, light.dark, light.bright, light.contrast].forEach((value, index) =>
      values[index]!.push(value),
    );
    const rough = [...lookGrid(picture, lookColumns, lookRows)];
    for (let copy = 0; copy < lookHz * step; copy++) look.push(...rough);
    const finer = [...lookGrid(picture, fineColumns, fineRows)];
    for (let copy = 0; copy < fineHz * step; copy++) fine.push(...finer);
    frames++;
    onProgress(frames * step);
  }
  return {
    frames,
    traces: names.map((name, index): Trace => ({
      name,
      hz: 1 / step,
      start: 0,
      values: Float32Array.from(values[index]!),
    })),
    look: Float32Array.from(look),
    fine: Float32Array.from(fine),
  };
}

/** Voice and level; loudness is taken from the level, which is near enough for a first look. */
async function hear(stream: Readable, onProgress: (seconds: number) => void): Promise<Trace[]> {
  let detector: VoiceDetector | null = null;
  const level: number[] = [];
  const peak: number[] = [];
  const hop = VoiceDetector.sampleRate / 50;
  let squares = 0,
    highest = 0,
    count = 0;
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
    onProgress(detector.probabilities.length / VoiceDetector.hz);
  }
  await detector?.end();
  // It may end before the pictures do.
  onProgress(Infinity);
  if (!detector) return [];
  const trace = (name: RawTraceName, rate: number, list: ArrayLike<number>): Trace => ({
    name,
    hz: rate,
    start: 0,
    values: Float32Array.from(list),
  });
  return [
    trace('sound.voice', VoiceDetector.hz, detector.probabilities),
    trace('sound.level', 50, level),
    trace('sound.peak', 50, peak),
    trace('sound.loudness', 50, level),
  ];
}
