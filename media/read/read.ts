import { mkdir, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import {
  fineColumns,
  fineHz,
  fineRows,
  lookColumns,
  lookHz,
  lookRows,
  readingParts,
  type LoudnessSummary,
  type RawReading,
  type RawTraceName,
  type ReadingPart,
} from '#core/readings';
import { plainCoding, type FaceSample, type ObjectSample } from '#core/picture';
import type { Trace } from '#core/signal';
import { isFirstTrack, type HeardChannel, type SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import { measureFaces, measureObjects } from './measureFaces';
import { measureAside } from './measureAside';
import { measurePicture, type MeasuredPicture } from './measurePicture';
import { listenForBest } from './listen';
import { measureSound, measureVoice, type MeasuredSound } from './measureSound';
import { writeWorkingCopy } from '../probe/photoFile';
import { keyFrameGap, playsInBrowser, probe, type Probe } from '../probe/probe';
import { heardAlone } from '../probe/heard';
import { streamOf, withInputLook } from '../probe/shown';
import { capture } from '../capture';
import { Cancelled, MediaError, closing, inputArguments } from '../process';
import { longestSeconds, startProgram } from '../startProgram';
import { Watchdog } from '../watchdog';
import { planReading, proxyName, soundChannels, type PartOfReading, type ReadPlan, type ThumbSheets } from './readPlan';

export interface ReadResult {
  probe: Probe;
  raw: RawReading;
  loudness: LoudnessSummary | null;
  sheets: (ThumbSheets & { count: number }) | null;
  proxy: boolean;
  /** File in the folder that everything opens in place of the original; null where the original can be opened. */
  copy: string | null;
  /** What of its sound was heard. */
  heard: SoundChoice;
  /** What was heard in each channel where there was something to choose; null when it was not listened for. */
  listened: HeardChannel[] | null;
  /** Sentences about what could not be read. */
  warnings: string[];
  /** What reading it took, where that was noted. */
  tookSeconds?: number;
}

/** What was found before; the file is probed anew. */
type EarlierReading = Omit<ReadResult, 'probe' | 'copy' | 'heard' | 'listened'>;

export interface ReadOptions {
  /** For thumbnail sheets and the proxy; must exist or be creatable. */
  folder: string;
  /** Make a proxy when the browser cannot play the original well. */
  proxy?: boolean;
  /** What of its sound is heard; found out when missing. */
  sound?: SoundChoice;
  /** Only this stretch is decoded and read; times stay those of the file. */
  range?: Range;
  /** A `.cube` file that the colours of a film go through before anything is measured; see `LookedCoding`. */
  inputLook?: string;
  /** Only this is read of it, and put together with other parts by whoever asks; there is no proxy then. */
  part?: { parts: readonly ReadingPart[]; picture?: PartOfReading };
  /** What an earlier reader found in the same stretch, and the parts of it that have changed since: only those are read, the others are taken over. */
  renew?: {
    parts: readonly ReadingPart[];
    earlier: EarlierReading;
    /** Set when other sound of the same file is to be heard; with the proxy that was made for the former, if there is one. */
    otherSound?: { proxy: string | null };
  };
  signal?: AbortSignal;
  /** Share done, 0 to 1. */
  onProgress?(share: number): void;
}

/**
 * Reads a file once: one ffmpeg decode feeds motion, light, faces, speech, loudness, thumbnails and the proxy.
 * @throws MediaError with a plain sentence; Cancelled when the signal says so
 */
export async function readMedia(original: string, options: ReadOptions): Promise<ReadResult> {
  await mkdir(options.folder, { recursive: true });
  const { file, info, copy } = await opened(original, options);
  const listened = options.sound ? null : await listenForBest(file, info, options.signal);
  const heard = options.sound ?? listened!.choice;
  const range = options.range && info.kind !== 'photo' ? checkRange(options.range, info.durationSeconds) : undefined;
  const parts = options.renew?.parts ?? options.part?.parts ?? readingParts;
  const wantsProxy = Boolean(options.proxy) && copy === null && info.kind !== 'photo';
  const playsAsItIs = wantsProxy && (await playsAsIs(file, info));
  // A browser plays all of the first track. What is heard instead goes beside the pictures as they are, where that can be.
  const isOther = info.hasSound && !isFirstTrack(heard);
  const picturesStay =
    info.kind === 'video' &&
    (options.renew?.otherSound?.proxy ?? (playsAsItIs && info.videoCodec !== 'vp8' ? file : null));
  const needsProxy = wantsProxy && !options.renew?.earlier.proxy && !(playsAsItIs && !isOther) && !picturesStay;
  // A proxy begins at zero; one of a part alone would show every frame at a wrong time.
  const proxy = needsProxy && !range;
  const plan = planReading(file, info, options.folder, proxy, range, parts, heard, options.part?.picture);
  if (options.renew && plan.nothing)
    return takeOver(info, options.renew.earlier, [], nothingMeasured, {
      code: 0,
      words: '',
      proxy: false,
      copy,
      heard,
      listened: listened?.channels ?? null,
      unseen: false,
      plan,
      folder: options.folder,
    });
  const length = plan.range.end - plan.range.start;
  const child = startProgram<'words'>(
    'ffmpeg',
    plan.args,
    ['ignore', 'ignore', 'pipe', 'pipe', 'pipe', 'pipe', 'pipe', 'pipe'],
    { signal: options.signal, lengthSeconds: length },
  );
  const ended = closing(child, options.signal);
  ended.catch(() => undefined);
  let words = '';
  child.stderr.on('data', (chunk: Buffer) => (words = (words + chunk.toString()).slice(-4000)));
  const [, , , grayPipe, facePipe, voicePipe, soundPipe, objectPipe] = child.stdio as unknown as Readable[];
  const watchdog = new Watchdog([child]);
  for (const pipe of [grayPipe, facePipe, voicePipe, soundPipe, objectPipe]) watchdog.watch(pipe);
  const done = { picture: 0, sound: 0 };
  const bySound = info.kind === 'sound' || !parts.includes('picture');
  // A single picture is measured before a thread is there.
  const aside = new Set(info.kind === 'video' ? parts : []);
  const report = () => options.onProgress?.(Math.min(0.999, bySound ? done.sound : done.picture) || 0);
  try {
    const seen = (seconds: number) => {
      done.picture = seconds / length;
      report();
    };
    const [picture, faces, objects, voice, sound] = await Promise.all([
      aside.has('picture') ? measureAside('picture', grayPipe!, plan, seen) : measurePicture(grayPipe!, plan, seen),
      aside.has('faces') ? measureAside('faces', facePipe!, plan) : measureFaces(facePipe!, plan),
      aside.has('faces') ? measureAside('objects', objectPipe!, plan) : measureObjects(objectPipe!),
      measureVoice(voicePipe!),
      measureSound(soundPipe!, soundChannels(info, heard), (seconds) => {
        done.sound = seconds / length;
        if (bySound) report();
      }),
    ]);
    const [code] = await ended;
    if (options.signal?.aborted) throw new Cancelled();
    watchdog.check('Reading this file');
    const remade = wantsProxy && !range && picturesStay && (isOther || picturesStay !== file) && !plan.nothing;
    if (remade && (!options.renew || options.renew.otherSound))
      await putSound(picturesStay, file, heard, join(options.folder, proxyName), options.signal);
    const outcome = {
      code,
      words,
      proxy: proxy || Boolean(remade),
      copy,
      heard,
      listened: listened?.channels ?? null,
      unseen: needsProxy && !proxy,
      plan,
      folder: options.folder,
    };
    return options.renew
      ? takeOver(info, options.renew.earlier, parts, { picture, faces, objects, voice, sound }, outcome)
      : await finish(info, { picture, faces, objects, voice, sound }, outcome, options.part !== undefined);
  } catch (error) {
    if (options.signal?.aborted) throw new Cancelled();
    throw error;
  } finally {
    watchdog.stop();
    child.kill('SIGKILL');
  }
}

/** Whether a browser plays a file as it is, without a proxy. */
export async function playsAsIs(file: string, info: Probe): Promise<boolean> {
  const gap =
    info.kind === 'video' ? await keyFrameGap(file, streamOf(info.coding ?? plainCoding)).catch(() => Infinity) : 0;
  return playsInBrowser(info, gap, (await stat(file)).size / Math.max(1, info.durationSeconds));
}

/** Writes pictures as they are with what is heard of a file. */
export async function putSound(
  pictures: string,
  file: string,
  heard: SoundChoice,
  output: string,
  signal?: AbortSignal,
): Promise<void> {
  const sound = heard.length > 0 ? [...heardAlone(heard), '-c:a', 'aac', '-b:a', '160k', '-ac', '2'] : ['-an'];
  await capture(
    'ffmpeg',
    [
      ...['-v', 'error', '-nostdin', '-y'],
      ...inputArguments(file),
      ...inputArguments(pictures),
      ...['-map', '1:v:0', '-c:v', 'copy', ...sound, '-movflags', '+faststart', output],
    ],
    { signal, lengthSeconds: longestSeconds },
  );
}

/** What is decoded: the file itself, or its working copy, of which it is probed how its pictures are coded. */
async function opened(
  original: string,
  { folder, signal, inputLook }: ReadOptions,
): Promise<{ file: string; info: Probe; copy: string | null }> {
  const info = await probe(original);
  if (!info.copied)
    return { file: original, info: { ...info, coding: withInputLook(info.coding, inputLook) }, copy: null };
  const copy = await writeWorkingCopy(original, info.copied, folder, signal);
  const file = join(folder, copy);
  const { coding, width, height, pixelFormat } = await probe(file);
  return { file, info: { ...info, coding, width, height, pixelFormat }, copy };
}

/** @throws MediaError when nothing of the file lies in the range */
function checkRange({ start, end }: Range, duration: number): Range {
  const held = { start: Math.max(0, start), end: Math.min(duration, end) };
  if (!(held.end - held.start >= 0.1))
    throw new MediaError(
      `Nothing of this file lies between ${start} s and ${Number.isFinite(end) ? `${end} s` : 'its end'}; it is ${duration.toFixed(1)} s long.`,
    );
  return held;
}

interface Measured {
  picture: MeasuredPicture;
  faces: FaceSample[];
  objects: ObjectSample[];
  voice: Trace[];
  sound: MeasuredSound | null;
}

const nothingMeasured: Measured = {
  picture: { frames: 0, seconds: 0, traces: [], look: new Float32Array(), fine: new Float32Array() },
  faces: [],
  objects: [],
  voice: [],
  sound: null,
};

interface Outcome {
  code: number | null;
  words: string;
  proxy: boolean;
  copy: string | null;
  heard: SoundChoice;
  listened: HeardChannel[] | null;
  unseen: boolean;
  plan: ReadPlan;
  folder: string;
}

const partOf = (name: RawTraceName): ReadingPart => (name.startsWith('sound.') ? 'sound' : 'picture');
const later = <Sample extends { time: number }>(samples: Sample[], seconds: number) =>
  samples.map((sample) => ({ ...sample, time: sample.time + seconds }));

/** An earlier reading with the parts that were read anew in place of its own. */
function takeOver(
  info: Probe,
  earlier: EarlierReading,
  parts: readonly ReadingPart[],
  { picture, faces, objects, voice, sound }: Measured,
  run: Outcome,
): ReadResult {
  const { range, sheets } = run.plan;
  const anew = new Set(parts);
  if (anew.has('picture') && earlier.raw.hasPicture && picture.frames === 0)
    throw new MediaError('The picture of this file could not be decoded any more; its earlier reading stays.', {
      cause: new Error(run.words),
    });
  if (anew.has('sound') && earlier.raw.hasSound && !sound)
    throw new MediaError('The sound of this file could not be decoded any more; its earlier reading stays.', {
      cause: new Error(run.words),
    });
  const kept = [...earlier.raw.traces.values()].filter((trace) => !anew.has(partOf(trace.name as RawTraceName)));
  const fresh = [
    ...(anew.has('picture') ? picture.traces : []),
    ...(anew.has('sound') ? [...voice, ...(sound?.traces ?? [])] : []),
  ].map((trace) => fromStart(trace, range.start));
  const each = sheets.columns * sheets.rows;
  const looks = anew.has('picture')
    ? {
        look: padded(picture.look, range.start * lookHz, lookColumns * lookRows),
        fine: padded(picture.fine, range.start * fineHz, fineColumns * fineRows),
      }
    : {};
  return {
    ...earlier,
    probe: { ...info, durationSeconds: info.kind === 'photo' ? info.durationSeconds : earlier.raw.durationSeconds },
    ...(anew.has('sound') ? { loudness: sound?.loudness ?? null } : {}),
    proxy: earlier.proxy || (run.proxy && run.code === 0),
    copy: run.copy,
    heard: run.heard,
    listened: run.listened,
    ...(anew.has('picture') && earlier.sheets
      ? { sheets: { ...sheets, count: Math.ceil((picture.seconds * sheets.hz) / each - 1e-6) || 1 } }
      : {}),
    raw: {
      ...earlier.raw,
      ...looks,
      ...(anew.has('faces') ? { faces: later(faces, range.start), objects: later(objects, range.start) } : {}),
      traces: new Map([...kept, ...fresh].map((trace) => [trace.name as RawTraceName, trace])),
    },
  };
}

async function finish(
  info: Probe,
  { picture, faces, objects, voice, sound }: Measured,
  run: Outcome,
  isPart: boolean,
): Promise<ReadResult> {
  const hasPicture = info.kind !== 'sound' && picture.frames > 0;
  if (/No space left/i.test(run.words))
    throw new MediaError('The disk is full. Free some space, then read this file again.');
  if (!hasPicture && !sound && !isPart)
    throw new MediaError(
      'Nothing in this file could be decoded. It may be damaged, or of a kind that is not supported.',
      { cause: new Error(run.words) },
    );
  const { range, sheets } = run.plan;
  const whole = range.start === 0 && range.end >= info.durationSeconds;
  const read = info.kind === 'photo' ? 0 : hasPicture ? picture.seconds : (sound?.seconds ?? 0);
  const warnings: string[] = run.unseen
    ? ['The browser may not play this file as it is. Read the whole file once to look at it.']
    : [];
  const missing = range.end - range.start - read;
  const cutShort = info.kind !== 'photo' && missing > Math.max(0.5, info.durationSeconds * 0.02);
  if (cutShort)
    warnings.push(
      `Only the first ${read.toFixed(1)} s of ${(range.end - range.start).toFixed(1)} s could be read; the rest is missing or damaged.`,
    );
  const durationSeconds = whole || cutShort ? range.start + read : info.durationSeconds;
  const traces = [...(hasPicture ? picture.traces : []), ...voice, ...(sound?.traces ?? [])].map((each) =>
    fromStart(each, range.start),
  );
  const sheetFiles = (await readdir(run.folder)).filter((name) => name.startsWith('sheet-')).length;
  return {
    probe: { ...info, durationSeconds },
    loudness: sound?.loudness ?? null,
    warnings,
    proxy: run.proxy && run.code === 0,
    copy: run.copy,
    heard: run.heard,
    listened: run.listened,
    sheets: hasPicture && sheetFiles ? { ...sheets, count: sheetFiles } : null,
    raw: {
      durationSeconds: durationSeconds || 0.1,
      hasPicture,
      hasSound: Boolean(sound),
      faces: later(faces, range.start),
      objects: later(objects, range.start),
      look: padded(picture.look, range.start * lookHz, lookColumns * lookRows),
      fine: padded(picture.fine, range.start * fineHz, fineColumns * fineRows),
      ...(whole ? {} : { range: { start: range.start, end: Math.min(range.end, range.start + read) } }),
      traces: new Map(traces.map((trace) => [trace.name as RawTraceName, trace])),
    },
  };
}

/** Every trace begins with the file, also where only a part of it was read. */
const fromStart = (trace: Trace, seconds: number): Trace => ({
  ...trace,
  values: padded(trace.values, seconds * trace.hz, 1),
});

export function padded(values: Float32Array, samples: number, each: number): Float32Array {
  const before = Math.round(samples) * each;
  if (before === 0) return values;
  const out = new Float32Array(before + values.length);
  out.set(values, before);
  return out;
}
