import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import {
  cropParts,
  cropWithin,
  fullWidth,
  isFramed,
  standsStill,
  steadyViews,
  stillMoveAt,
  type Framing,
  type Size,
  type View,
} from '#core/framing';
import { changesNothing, lookTable, type ColourTable, type Look } from '#core/look';
import { writeCube } from '#core/formats';
import { plainCoding, type CameraPath } from '#core/picture';
import {
  clipsOf,
  logoBox,
  malformedAt,
  planHeard,
  planPictures,
  reelFrames,
  type OutputFormat,
  type Quality,
  type Reel,
  type Segment,
  leavesOf,
} from '#core/reel';
import { firstTrack, type SoundChoice } from '#core/sound';
import { framesToSeconds, type Range } from '#core/time';
import type { Word } from '#core/words';
import { container, pictureEncoder, soundEncoder } from './outputFormats';
import { MediaError, inputArguments, inputGuard } from '../process';
import { blackChain, crossChain, fpsOf, leafChain, type Leaf } from './renderPicture';
import {
  Inputs,
  filtersForLoudness,
  measureLoudness,
  rawSound,
  readLoudness,
  soundBlocks,
  soundGraph,
  type OpenedSound,
  writeGain,
  type FrameRange,
  type FileLoudness,
} from './renderSound';
import { captionFilter } from './renderCaptions';
import { drawTitles, titleGraph } from './renderTitles';
import { runFfmpeg } from '../runFfmpeg';
import {
  decodedFrom,
  fingerprint,
  stretchSeconds,
  stretchesOf,
  writeList,
  type Piece,
  type Stretch,
} from './stretches';
import { heardOf } from '../probe/heard';
import {
  asShown,
  beforeInput,
  fromVideoLevels,
  markedColours,
  streamOf,
  toVideoLevels,
  type LookedCoding,
} from '../probe/shown';
import { warpPiece, type WarpJob } from './warp';

export interface RenderSource {
  file: string;
  hasPicture: boolean;
  hasSound: boolean;
  photo: boolean;
  /** Of its picture, as it is shown. */
  width?: number;
  height?: number;
  durationSeconds?: number;
  /** What of its sound is heard; all of its first track when missing. */
  heard?: SoundChoice;
  /** How its pictures are coded; taken for plain where it is not known. */
  coding?: LookedCoding;
}

export interface RenderOptions {
  size: Size;
  format?: OutputFormat;
  quality?: Quality;
  /** Only these frames of the reel; all when missing. */
  range?: FrameRange;
  /** Where somebody speaks in the reel; the music sinks there. */
  speech?: readonly Range[];
  /** Tables that looks name. */
  tables?: ReadonlyMap<string, ColourTable>;
  /** How the camera of a source moved; needed for pieces that are steadied. */
  pathOf?(media: string): Promise<CameraPath | null>;
  /** Words of a source with their times in it; for captions. */
  wordsOf?(media: string): readonly Word[];
  /** A folder that keeps what is whole when it breaks off, so that the same call goes on there. */
  keepIn?: string;
  /** Another length of the stretches; for tests. */
  stretchSeconds?: number;
  signal?: AbortSignal;
  onProgress?(share: number): void;
}

/**
 * Renders a reel, or a range of it. The file appears whole or not at all; the same reel gives the same bytes. Films are
 * made in stretches; see `Stretch`.
 * @param sources by media id
 * @returns loudness and true peak of the finished file, as measured in it
 * @throws MediaError when footage is missing, the disk is full or ffmpeg fails; Cancelled
 */
export async function renderReel(
  reel: Reel,
  sources: ReadonlyMap<string, RenderSource>,
  output: string,
  options: RenderOptions,
): Promise<FileLoudness> {
  const malformed = malformedAt(reel) ?? (Object.values(options.size).every(Number.isInteger) ? null : 'size');
  if (malformed !== null)
    throw new MediaError(
      `This reel holds something at “${malformed}” that does not belong there, and is not rendered. Go back to an earlier version of it.`,
    );
  const total = reelFrames(reel);
  if (total === 0) throw new MediaError('The reel is empty; there is nothing to render.');
  const asked = options.range ?? { start: 0, end: total };
  const format = options.format ?? 'mp4';
  const range = {
    start: Math.max(0, asked.start),
    end: Math.min(total, format === 'png' ? asked.start + 1 : asked.end),
  };
  if (range.end <= range.start) throw new MediaError('The range holds no frame of the reel.');
  await refuseMissing(reel, sources);
  const scratch = options.keepIn ?? `${output}.parts`;
  const part = `${output}.part`;
  await mkdir(scratch, { recursive: true });
  let finished = false;
  let measured: FileLoudness | null = null;
  try {
    const call: Call = { reel, sources, options, scratch, range };
    if (format === 'wav') measured = await renderSound(call, part, format);
    else if (format === 'gif' || format === 'png') await rename((await renderPictures(call, format))[0]!.file, part);
    else {
      const sound = join(scratch, `sound-${await soundName(call, format)}.${format}`);
      const [pictures] = await together(options.signal, [
        (signal) => renderPictures({ ...call, options: { ...options, signal } }, format),
        async (signal) => {
          if (!(await isThere(sound)))
            await whole(sound, async (half) => {
              measured = await renderSound({ ...call, options: { ...options, signal } }, half, format);
            });
        },
      ]);
      const list = join(scratch, 'list.ffconcat');
      await writeList(list, pictures, reel.rate);
      await runFfmpeg(
        [
          '-v',
          'error',
          '-nostdin',
          '-y',
          ...inputGuard,
          '-f',
          'concat',
          '-safe',
          '0',
          '-i',
          list,
          ...inputArguments(sound),
          '-map',
          '0:v:0',
          '-map',
          '1:a:0',
          '-c',
          'copy',
          ...container(format),
          ...plainly,
          part,
        ],
        options.signal,
      );
    }
    await rename(part, output);
    finished = true;
    return format === 'gif' || format === 'png'
      ? { integratedLufs: null, truePeakDb: null }
      : (measured ?? (await measureLoudness(output, options.signal)));
  } finally {
    await rm(part, { force: true });
    if (finished || !options.keepIn) await rm(scratch, { recursive: true, force: true });
  }
}

interface Call {
  reel: Reel;
  sources: ReadonlyMap<string, RenderSource>;
  options: RenderOptions;
  scratch: string;
  range: FrameRange;
}

/** Nothing in a file says when or by what it was made. */
const plainly = ['-map_metadata', '-1', '-fflags', '+bitexact', '-flags:v', '+bitexact', '-flags:a', '+bitexact'];
const isThere = (file: string): Promise<boolean> =>
  stat(file).then(
    (stats) => stats.size > 0,
    () => false,
  );
/** Two jobs side by side; when one fails the other is stopped, and has stopped when this throws. */
async function together<A, B>(
  signal: AbortSignal | undefined,
  [one, other]: [(signal: AbortSignal) => Promise<A>, (signal: AbortSignal) => Promise<B>],
): Promise<[A, B]> {
  const stop = new AbortController();
  const both = signal ? AbortSignal.any([signal, stop.signal]) : stop.signal;
  const first: { error?: unknown } = {};
  const kept = <T>(job: Promise<T>) =>
    job.catch((error: unknown) => {
      if (!('error' in first)) first.error = error;
      stop.abort();
      return undefined as T;
    });
  const ended = await Promise.all([kept(one(both)), kept(other(both))]);
  if ('error' in first) throw first.error;
  return ended;
}
/** Makes a file under another name, so that what bears its own is whole. */
async function whole(file: string, make: (half: string) => Promise<unknown>): Promise<void> {
  const half = `${file}.half`;
  try {
    await make(half);
    await rename(half, file);
  } finally {
    await rm(half, { force: true });
  }
}

/** The pictures, stretch by stretch, or what is there of them from before. A GIF and a still are one stretch. */
async function renderPictures(
  { reel, sources, options, scratch, range }: Call,
  format: Exclude<OutputFormat, 'wav'>,
): Promise<{ file: string; range: FrameRange }[]> {
  const { signal, size } = options;
  const length =
    format === 'gif' || format === 'png'
      ? Infinity
      : Math.round(((options.stretchSeconds ?? stretchSeconds) * reel.rate.num) / reel.rate.den);
  const stretches = stretchesOf(planPictures(reel), range, reel.rate, length);
  const tables = await writeTables(
    reel,
    stretches.flatMap(({ pieces }) => filmed(pieces)),
    options.tables ?? new Map(),
    scratch,
  );
  const titles = await drawTitles(reel, size, (index) => join(scratch, `title-${index}.png`));
  const captions = await captionFilter(reel, options.wordsOf ?? (() => []), size, scratch);
  const planned = await Promise.all(
    stretches.map(async (stretch, index) => {
      const warps = new Map<Piece, { job: WarpJob; file: string }>();
      for (const leaf of filmed(stretch.pieces)) {
        const job = movesView(leaf, sources, reel, size)
          ? await warpJob(reel, leaf, sources.get(leaf.media!)!, options)
          : null;
        if (job) warps.set(leaf, { job, file: join(scratch, `view-${index}-${warps.size}.mkv`) });
      }
      const parts: Parts = {
        ready: new Map([...warps].map(([leaf, { file }]) => [leaf, file])),
        tables,
        titles,
        captions: captions?.from(stretch.range.start) ?? null,
      };
      const make = (output: string) =>
        pictureArguments(reel, sources, stretch, output, { size, format, quality: options.quality ?? 'good' }, parts);
      const used = filmed(stretch.pieces).flatMap((leaf) => sources.get(leaf.media!)?.file ?? []);
      const name = await fingerprint(
        [make(''), [...warps.values()].map(({ job }) => job)],
        [...tables.values(), ...titles.values(), ...(captions ? [captions.file] : [])],
        [...used, ...(reel.logo ? [sources.get(reel.logo.media)!.file] : [])],
      );
      const file = join(scratch, `picture-${name}.${format}`);
      return { file, range: stretch.range, warps: [...warps.values()], make, there: await isThere(file) };
    }),
  );
  const effort = (each: (typeof planned)[number]) =>
    each.range.end - each.range.start + warpEffort * each.warps.reduce((sum, { job }) => sum + job.views.length, 0);
  const all = planned.reduce((sum, each) => sum + effort(each), 0);
  let done = planned.reduce((sum, each) => sum + (each.there ? effort(each) : 0), 0);
  const share = () => options.onProgress?.(Math.min(0.999, done / all));
  if (done > 0) share();
  for (const each of planned) {
    if (each.there) continue;
    for (const { job, file } of each.warps) {
      await warpPiece(job, file, signal);
      done += warpEffort * job.views.length;
      share();
    }
    const before = done;
    await whole(each.file, (half) =>
      runFfmpeg(each.make(half), signal, (seconds) => {
        done = before + (seconds * reel.rate.num) / reel.rate.den;
        share();
      }),
    );
    done = before + each.range.end - each.range.start;
    for (const { file } of each.warps) await rm(file, { force: true });
  }
  return planned;
}
/** How much longer a frame takes that is seen through a moving view than one that is only encoded. */
const warpEffort = 1.5;

/** The sound, at the wished loudness, as it is encoded in the finished file. @returns what was measured in it */
async function renderSound(
  { reel, sources, options, scratch, range }: Call,
  output: string,
  format: OutputFormat,
): Promise<FileLoudness> {
  const { signal } = options;
  const gain = await writeGain(reel, options.speech ?? [], join(scratch, 'gain'), range.start);
  const mix = await mixBlocks({ reel, sources, options, scratch, range });
  const encode = (filters: string, file: string) =>
    runFfmpeg(soundArguments(reel, sources, gain, range, { filters, format, output: file }, mix), signal);
  // What the file holds now, so that the last try need not be made twice.
  const now = { filters: '', measured: { integratedLufs: null, truePeakDb: null } as FileLoudness };
  const heard = async (filters: string) => {
    await encode(filters, output);
    now.filters = filters;
    return (now.measured = await measureLoudness(output, signal));
  };
  const filters =
    (await filtersForLoudness(reel.loudnessLufs, async (tried) =>
      tried
        ? heard(tried)
        : readLoudness(await runFfmpeg(soundArguments(reel, sources, gain, range, undefined, mix), signal)),
    )) || 'anull';
  return now.filters === filters ? now.measured : heard(filters);
}

/** A piece of sound is an input of its own; one call opens about so many. */
const mostSounds = 60;

/**
 * The tracks of a reel with many pieces, mixed block by block into one file of raw samples; null when one call can open
 * them all. Blocks that are whole stay for the next try.
 */
async function mixBlocks({ reel, sources, options, scratch, range }: Call): Promise<string | null> {
  const blocks = soundBlocks(reel, range, mostSounds);
  if (blocks.length === 1) return null;
  const file = join(scratch, 'mix.f32');
  await rm(file, { force: true });
  for (const block of blocks) {
    const inputs = new Inputs();
    const graph = soundGraph(
      { ...reel, music: undefined },
      inputs,
      (segment) => openSound(segment, reel, sources, inputs),
      null,
      block,
    );
    const make = (output: string) => [
      '-v',
      'error',
      '-nostdin',
      '-y',
      ...inputs.args,
      '-filter_complex',
      graph.join(';'),
      '-map',
      '[a]',
      ...rawSound,
      output,
    ];
    const used = planHeard(reel)
      .flat()
      .flatMap((segment) =>
        segment.startFrame < block.end && segment.startFrame + segment.frames > block.start
          ? (hears(segment, sources)?.file ?? [])
          : [],
      );
    const part = join(scratch, `mix-${await fingerprint(make(''), [], new Set(used))}.f32`);
    if (!(await isThere(part))) await whole(part, (half) => runFfmpeg(make(half), options.signal));
    await pipeline(createReadStream(part), createWriteStream(file, { flags: 'a' }));
  }
  return file;
}

/** A name for the sound that will be made. */
async function soundName({ reel, sources, options, range }: Call, format: OutputFormat): Promise<string> {
  const used = [
    ...planHeard(reel)
      .flat()
      .flatMap((segment) => hears(segment, sources)?.file ?? []),
    ...(reel.music ? [sources.get(reel.music.media)!.file] : []),
  ];
  return fingerprint(
    [
      soundArguments(reel, sources, null, range),
      reel.music ?? null,
      options.speech ?? [],
      reel.loudnessLufs ?? null,
      format,
    ],
    [],
    new Set(used),
  );
}

async function refuseMissing(reel: Reel, sources: ReadonlyMap<string, RenderSource>): Promise<void> {
  const needed = [
    ...clipsOf(reel).map((clip) => [clip.media, `footage of “${clip.name}”`, 'take the piece out']),
    ...(reel.music ? [[reel.music.media, `music “${reel.music.name}”`, 'take it out of the reel']] : []),
    ...(reel.logo ? [[reel.logo.media, 'logo', 'take it out of the reel']] : []),
  ] as [string, string, string][];
  for (const [media, name, remedy] of needed) {
    const source = sources.get(media);
    if (
      !source ||
      !(await stat(source.file).then(
        (stats) => stats.size > 0,
        () => false,
      ))
    )
      throw new MediaError(`The ${name} is missing. Bring it in again or ${remedy}.`);
  }
}

/** What was made before a stretch is encoded. */
interface Parts {
  /** Pieces seen through moving views. */
  ready: ReadonlyMap<Piece, string>;
  /** `.cube` files by look. */
  tables: ReadonlyMap<string, string>;
  titles: ReadonlyMap<string, string>;
  /** The filter that sets captions. */
  captions: string | null;
}

const filmed = (segments: readonly Piece[]): Piece[] =>
  segments.flatMap((segment) => leavesOf(segment)).filter((leaf) => leaf.media !== null);
const fitOf = (reel: Reel, leaf: Segment) => leaf.clip?.fit ?? reel.fit ?? 'bars';
/** The crop of a stretch, when it is cropped by one. */
function framingOf(reel: Reel, leaf: Segment, source: RenderSource | undefined, size: Size): Framing | null {
  const framing = leaf.clip?.framing;
  return source?.width &&
    source.height &&
    isFramed(framing, fitOf(reel, leaf), { width: source.width, height: source.height }, size)
    ? framing
    : null;
}
function movesView(leaf: Segment, sources: ReadonlyMap<string, RenderSource>, reel: Reel, size: Size): boolean {
  const source = sources.get(leaf.media!);
  if (source?.photo) return Boolean(leaf.clip?.move);
  const framing = framingOf(reel, leaf, source, size);
  const end = leaf.sourceSeconds + framesToSeconds(leaf.frames, reel.rate) * leaf.speed;
  return (
    Boolean(leaf.clip?.steady) ||
    (framing !== null && (framing.below !== undefined || !standsStill(framing, leaf.sourceSeconds, end)))
  );
}
const lookOf = (reel: Reel, leaf: Segment): Look | null => {
  const look = leaf.clip?.look ?? reel.look;
  return look && !changesNothing(look) ? look : null;
};

async function writeTables(
  reel: Reel,
  leaves: readonly Segment[],
  tables: ReadonlyMap<string, ColourTable>,
  folder: string,
): Promise<Map<string, string>> {
  const files = new Map<string, string>();
  for (const leaf of leaves) {
    const look = lookOf(reel, leaf);
    const key = look && JSON.stringify(look);
    if (!look || !key || files.has(key)) continue;
    const lut = look.lut === undefined ? null : tables.get(look.lut);
    if (lut === undefined)
      throw new MediaError('A colour table that a look needs is missing. Bring it in again or choose another look.');
    const file = join(folder, `look-${files.size}.cube`);
    await writeFile(file, writeCube(lookTable(look, lut), 'look'));
    files.set(key, file);
  }
  return files;
}

/** How one piece is seen through its moving views. Null when there is nothing to be done for it. */
async function warpJob(reel: Reel, leaf: Piece, source: RenderSource, options: RenderOptions): Promise<WarpJob | null> {
  const { size } = options;
  const clip = leaf.clip!;
  const own = { width: source.width ?? size.width, height: source.height ?? size.height };
  const even = (value: number) => Math.max(2, Math.round(value / 2) * 2);
  let views: View[];
  let below: View[] | undefined;
  let decoded: Size;
  let frame: Size = size;
  const framing = framingOf(reel, leaf, source, size);
  const seconds = (frames: number) => framesToSeconds(frames, reel.rate);
  const times = Array.from({ length: leaf.frames }, (_, index) => leaf.sourceSeconds + seconds(index) * leaf.speed);
  // Large enough that the closest view is not enlarged, unless the source itself is smaller.
  const decodedFor = (closest: number): Size => {
    const scale = Math.min(1, Math.max(size.width / (closest * own.width), fullWidth(own, size) * 0.01));
    return { width: even(own.width * scale), height: even(own.height * scale) };
  };
  const steadied = async (): Promise<View[] | null> => {
    const path = clip.steady ? await options.pathOf?.(clip.media) : null;
    const run = {
      start: seconds(clip.sourceIn),
      end: seconds(clip.sourceIn + (clip.frames * (clip.speed ?? 100)) / 100),
    };
    return path ? steadyViews(path, run, clip.steady!, times, own.height / own.width) : null;
  };
  if (clip.move && source.photo) {
    views = Array.from({ length: leaf.frames }, (_, index) =>
      stillMoveAt(clip.move!, clip.frames > 1 ? (leaf.into + index) / (clip.frames - 1) : 0, own, size),
    );
    decoded = decodedFor(Math.min(...views.map((view) => view.width)));
  } else if (framing) {
    const steady = await steadied();
    const parts = times.map((time) => cropParts(framing, time, own, size));
    const through = (part: number) =>
      parts.map((each, index) => (steady ? cropWithin(steady[index]!, each[part]!.view, own) : each[part]!.view));
    views = through(0);
    if (framing.below) below = through(1);
    decoded = decodedFor(Math.min(...views.map((view) => view.width)));
  } else {
    const steady = await steadied();
    if (!steady) return null;
    const scale = Math.min(1, Math.max(size.width / own.width, size.height / own.height));
    frame = { width: even(own.width * scale), height: even(own.height * scale) };
    decoded = frame;
    views = steady;
  }
  return {
    file: source.file,
    photo: source.photo,
    coding: source.coding ?? plainCoding,
    sourceSeconds: leaf.sourceSeconds,
    speed: leaf.speed,
    lead: leaf.lead ?? 0,
    fps: fpsOf(reel.rate),
    source: decoded,
    frame,
    views,
    ...(below ? { below } : {}),
    blurBeyond: clip.steady?.edges === 'fill',
  };
}

/** How large pictures must be that fill a frame when a share of their width is shown; nothing where they are not larger. */
function longestNeeded({ width, height }: RenderSource, size: Size, share: number): { longest?: number } {
  if (!width || !height) return {};
  const scale = Math.max(size.width / width, size.height / height) / share;
  return scale < 1 ? { longest: Math.ceil(Math.max(width, height) * scale) } : {};
}

/** The logo in its corner over all pictures. */
function logoGraph(
  reel: Reel,
  size: Size,
  inputs: Inputs,
  sources: ReadonlyMap<string, RenderSource>,
  under: string,
  frames: number,
): { graph: string[]; label: string } {
  const source = reel.logo && sources.get(reel.logo.media);
  if (!reel.logo || !source?.width || !source.height) return { graph: [], label: under };
  const box = logoBox(reel.logo, { width: source.width, height: source.height }, size);
  const input = inputs.add(
    '-loop',
    '1',
    '-framerate',
    fpsOf(reel.rate),
    '-t',
    framesToSeconds(frames, reel.rate).toFixed(6),
    ...beforeInput(source.coding ?? plainCoding),
    ...inputArguments(source.file),
  );
  const coding = source.coding ?? plainCoding;
  return {
    graph: [
      `[${input}:${streamOf(coding)}]${asShown(coding, { seeThrough: true })}scale=${box.width}:${box.height}:flags=bicubic,format=rgba,colorchannelmixer=aa=${reel.logo.opacity},scale=${toVideoLevels},format=yuva420p[logo]`,
      `[${under}][logo]overlay=x=${box.x}:y=${box.y}:eof_action=repeat[marked]`,
    ],
    label: 'marked',
  };
}

const hears = (segment: Segment, sources: ReadonlyMap<string, RenderSource>): RenderSource | null => {
  const source = segment.media === null ? null : sources.get(segment.media);
  return source && source.hasSound && !source.photo && source.heard?.length !== 0 ? source : null;
};
function musicOf(reel: Reel, sources: ReadonlyMap<string, RenderSource>, gain: string | null) {
  const source = reel.music && sources.get(reel.music.media);
  return source && gain && source.heard?.length !== 0
    ? {
        file: source.file,
        heard: source.heard ?? firstTrack,
        gain,
        durationSeconds: source.durationSeconds ?? Infinity,
      }
    : null;
}
/** The part of a source that a piece takes, with some to spare. */
const taken = (piece: Piece, reel: Reel): string[] => [
  '-ss',
  Math.max(0, decodedFrom(piece, reel.rate) - 1e-4).toFixed(6),
  '-t',
  (framesToSeconds(piece.frames + (piece.lead ?? 0), reel.rate) * piece.speed + 0.5).toFixed(6),
];

const openSound = (
  segment: Segment,
  reel: Reel,
  sources: ReadonlyMap<string, RenderSource>,
  inputs: Inputs,
): OpenedSound | null => {
  const source = hears(segment, sources);
  if (!source) return null;
  const input = inputs.add(...taken(segment, reel), '-vn', ...inputArguments(source.file));
  return heardOf(input, source.heard ?? firstTrack, `heard${input}`);
};

/** Only the sound of a reel: into a measurement of its loudness, or encoded into a file. */
export function soundArguments(
  reel: Reel,
  sources: ReadonlyMap<string, RenderSource>,
  gain: string | null,
  range: FrameRange = { start: 0, end: reelFrames(reel) },
  into?: { filters: string; format: OutputFormat; output: string },
  mix: string | null = null,
): string[] {
  const inputs = new Inputs();
  const graph = soundGraph(
    reel,
    inputs,
    (segment) => openSound(segment, reel, sources, inputs),
    musicOf(reel, sources, gain),
    range,
    mix,
  );
  const ends = into
    ? ['-map', '[out]', ...soundEncoder(into.format), ...plainly, into.output]
    : ['-map', '[out]', '-f', 'null', '-'];
  return [
    '-hide_banner',
    '-nostdin',
    '-nostats',
    '-y',
    ...inputs.args,
    '-filter_complex',
    `${graph.join(';')};[a]${into?.filters ?? 'ebur128=peak=true:framelog=verbose'}[out]`,
    ...ends,
  ];
}

/** The whole ffmpeg command for the pictures of a stretch: one input a piece, sought to its start, one graph, one encode. */
function pictureArguments(
  reel: Reel,
  sources: ReadonlyMap<string, RenderSource>,
  { pieces, range }: Stretch,
  output: string,
  { size, format, quality }: { size: Size; format: Exclude<OutputFormat, 'wav'>; quality: Quality },
  parts: Parts,
): string[] {
  const inputs = new Inputs();
  const graph: string[] = [];
  const frames = range.end - range.start;
  const options = { rate: reel.rate, size };
  const open = (piece: Piece, source: RenderSource): number => {
    const from = source.photo
      ? [
          '-loop',
          '1',
          '-framerate',
          fpsOf(reel.rate),
          '-t',
          (framesToSeconds(piece.frames + (piece.lead ?? 0), reel.rate) + 0.2).toFixed(6),
        ]
      : taken(piece, reel);
    return inputs.add(
      ...from,
      '-threads',
      '2',
      ...beforeInput(source.coding ?? plainCoding),
      ...inputArguments(source.file),
    );
  };
  const picture = (piece: Piece, label: string) => {
    const source = piece.media === null ? null : sources.get(piece.media)!;
    if (!source?.hasPicture) return void graph.push(blackChain(label, piece.frames, options));
    const file = parts.ready.get(piece);
    const input = file ? inputs.add(...inputArguments(file)) : open(piece, source);
    const look = lookOf(reel, piece);
    const framing = framingOf(reel, piece, source, size);
    const view =
      !file && framing
        ? cropParts(framing, piece.sourceSeconds, { width: source.width!, height: source.height! }, size)[0]!.view
        : null;
    const leaf: Leaf = {
      piece,
      input,
      shape:
        file && (piece.clip?.move || framing)
          ? size.width / size.height
          : source.width && source.height
            ? source.width / source.height
            : null,
      fit: fitOf(reel, piece),
      view,
      source: { width: source.width ?? size.width, height: source.height ?? size.height },
      table: look ? (parts.tables.get(JSON.stringify(look)) ?? null) : null,
      ready: file !== undefined,
      shown: file ? '' : asShown(source.coding ?? plainCoding, longestNeeded(source, size, view?.width ?? 1)),
      stream: file ? 'v:0' : streamOf(source.coding ?? plainCoding),
    };
    graph.push(...leafChain(leaf, label, options));
  };
  for (const [index, piece] of pieces.entries()) {
    if (!piece.cross) picture(piece, `v${index}`);
    else {
      picture(piece.cross.from, `v${index}f`);
      picture(piece.cross.to, `v${index}t`);
      graph.push(crossChain(`v${index}f`, `v${index}t`, `v${index}`, piece, reel.rate));
    }
  }
  const early = range.start - pieces[0]!.startFrame;
  const cut =
    early > 0 || pieces.reduce((sum, piece) => sum + piece.frames, 0) > frames
      ? `,trim=start_frame=${early}:end_frame=${early + frames},setpts=PTS-STARTPTS`
      : '';
  graph.push(`${pieces.map((_, index) => `[v${index}]`).join('')}concat=n=${pieces.length}:v=1:a=0${cut}[v]`);
  const titled = titleGraph(reel, size, inputs, parts.titles, range.start, frames);
  const logo = logoGraph(reel, size, inputs, sources, titled.label, frames);
  const last =
    format === 'gif'
      ? `scale=${fromVideoLevels},format=rgb24,fps=12,split[ga][gb];[ga]palettegen=stats_mode=diff[gp];[gb][gp]paletteuse=dither=bayer:bayer_scale=4`
      : format === 'png'
        ? `scale=${fromVideoLevels},format=rgb24`
        : 'null';
  graph.push(
    ...titled.graph,
    ...logo.graph,
    `[${logo.label}]${parts.captions ? `${parts.captions},` : ''}${last}[seen]`,
  );
  return [
    '-v',
    'error',
    '-nostdin',
    '-y',
    '-progress',
    'pipe:1',
    ...inputs.args,
    '-filter_complex',
    graph.join(';'),
    '-map',
    '[seen]',
    ...pictureEncoder(format, quality, fpsOf(reel.rate)),
    ...(format === 'mp4' || format === 'webm' ? markedColours : []),
    ...plainly,
    output,
  ];
}
