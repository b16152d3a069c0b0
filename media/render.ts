import { mkdir, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { cropParts, cropWithin, fullWidth, isFramed, standsStill, steadyViews, stillMoveAt, type Size, type View } from '#core/framing';
import { changesNothing, lookTable, writeCube, type ColourTable } from '#core/look';
import type { CameraPath } from '#core/picture';
import { clipsOf, logoBox, planPictures, reelFrames, type Framing, type Look, type OutputFormat, type Quality, type Reel, type Segment } from '#core/reel';
import { framesToSeconds, type Range } from '#core/time';
import type { Word } from '#core/words';
import { formatArguments, soundEncoder } from './outputFormats';
import { MediaError, inputArguments } from './process';
import { blackChain, crossChain, fpsOf, leafChain, type Leaf } from './renderPicture';
import { Inputs, filtersForLoudness, measureLoudness, readLoudness, soundGraph, writeGain, type FrameRange, type MeasuredSound } from './renderSound';
import { captionFilter } from './renderCaptions';
import { drawTitles, titleGraph } from './renderTitles';
import { runFfmpeg } from './runFfmpeg';
import { warpPiece } from './warp';

export interface RenderSource {
  file: string;
  hasPicture: boolean;
  hasSound: boolean;
  photo: boolean;
  /** Of its picture, as it is shown. */
  width?: number;
  height?: number;
  durationSeconds?: number;
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
  signal?: AbortSignal;
  onProgress?(share: number): void;
}

/**
 * Renders a reel, or a range of it. The file appears whole or not at all; the same reel gives the same bytes.
 * @param sources by media id
 * @returns loudness and true peak of the finished file, as measured in it
 * @throws MediaError when footage is missing, the disk is full or ffmpeg fails; Cancelled
 */
export async function renderReel(reel: Reel, sources: ReadonlyMap<string, RenderSource>, output: string, options: RenderOptions): Promise<MeasuredSound> {
  const total = reelFrames(reel);
  if (total === 0) throw new MediaError('The reel is empty; there is nothing to render.');
  const asked = options.range ?? { start: 0, end: total };
  const format = options.format ?? 'mp4';
  const range = { start: Math.max(0, asked.start), end: Math.min(total, format === 'png' ? asked.start + 1 : asked.end) };
  if (range.end <= range.start) throw new MediaError('The range holds no frame of the reel.');
  await refuseMissing(reel, sources);
  const scratch = `${output}.parts`;
  const part = `${output}.part`;
  await mkdir(scratch, { recursive: true });
  try {
    const { signal } = options;
    const pictured = format !== 'wav';
    const leaves = pictured ? leavesOf(picturesIn(reel, range)) : [];
    const moving = leaves.filter((leaf) => movesView(leaf, sources, reel, options.size));
    const frames = range.end - range.start;
    const warpFrames = moving.reduce((sum, leaf) => sum + leaf.frames, 0);
    const share = (done: number) => options.onProgress?.(Math.min(0.999, done / (frames + 1.5 * warpFrames)));
    const ready = new Map<Segment, string>();
    let warped = 0;
    for (const [index, leaf] of moving.entries()) {
      const file = join(scratch, `view-${index}.mkv`);
      if (!(await warpLeaf(reel, leaf, sources.get(leaf.media!)!, options, file))) continue;
      ready.set(leaf, file);
      warped += leaf.frames;
      share(1.5 * warped);
    }
    const parts: Parts = {
      ready, tables: await writeTables(reel, leaves, options.tables ?? new Map(), scratch),
      titles: pictured ? await drawTitles(reel, options.size, (index) => join(scratch, `title-${index}.png`)) : new Map(),
      gain: format === 'gif' || format === 'png' ? null : await writeGain(reel, options.speech ?? [], join(scratch, 'gain'), range.start), loudness: '',
      captions: pictured ? await captionFilter(reel, options.wordsOf ?? (() => []), options.size, scratch, range.start) : null,
    };
    const silent = format === 'gif' || format === 'png';
    if (!silent) parts.loudness = await filtersForLoudness(reel.loudnessLufs, async (filters) => {
      if (!filters) return readLoudness(await runFfmpeg(soundArguments(reel, sources, parts.gain, range), signal));
      const tried = join(scratch, `sound.${format}`);
      await runFfmpeg(soundArguments(reel, sources, parts.gain, range, { filters, encoder: soundEncoder(format), output: tried }), signal);
      return measureLoudness(tried, signal);
    });
    await runFfmpeg(renderArguments(reel, sources, part, { size: options.size, format, quality: options.quality ?? 'good', range }, parts), signal, (seconds) => share(1.5 * warpFrames + (seconds * reel.rate.num) / reel.rate.den));
    await rename(part, output);
    return silent ? { integratedLufs: null, truePeakDb: null } : await measureLoudness(output, signal);
  } finally {
    await rm(part, { force: true });
    await rm(scratch, { recursive: true, force: true });
  }
}

async function refuseMissing(reel: Reel, sources: ReadonlyMap<string, RenderSource>): Promise<void> {
  const needed = [...clipsOf(reel).map((clip) => [clip.media, `footage of “${clip.name}”`, 'take the piece out']), ...(reel.music ? [[reel.music.media, `music “${reel.music.name}”`, 'take it out of the reel']] : []), ...(reel.logo ? [[reel.logo.media, 'logo', 'take it out of the reel']] : [])] as [string, string, string][];
  for (const [media, name, remedy] of needed) {
    const source = sources.get(media);
    if (!source || !(await stat(source.file).then((stats) => stats.size > 0, () => false))) throw new MediaError(`The ${name} is missing. Bring it in again or ${remedy}.`);
  }
}

/** What was made before the one ffmpeg call. */
interface Parts {
  /** Pieces seen through moving views. */
  ready: ReadonlyMap<Segment, string>;
  /** `.cube` files by look. */
  tables: ReadonlyMap<string, string>;
  titles: ReadonlyMap<string, string>;
  gain: string | null;
  loudness: string;
  /** The filter that sets captions. */
  captions: string | null;
}
const nothing: Parts = { ready: new Map(), tables: new Map(), titles: new Map(), gain: null, loudness: '', captions: null };

/** Plans are kept by reel and range, so that the same stretch is the same object wherever it is asked for. */
const planned = new WeakMap<Reel, Segment[]>();
function picturesIn(reel: Reel, { start, end }: FrameRange): Segment[] {
  const all = planned.get(reel) ?? planPictures(reel);
  planned.set(reel, all);
  return all.filter((segment) => segment.startFrame < end && segment.startFrame + segment.frames > start);
}
const leavesOf = (segments: readonly Segment[]): Segment[] => segments.flatMap((segment) => (segment.cross ? [segment.cross.from, segment.cross.to] : [segment])).filter((segment) => segment.media !== null);
const fitOf = (reel: Reel, leaf: Segment) => leaf.clip?.fit ?? reel.fit ?? 'bars';
/** The crop of a stretch, when it is cropped by one. */
function framingOf(reel: Reel, leaf: Segment, source: RenderSource | undefined, size: Size): Framing | null {
  const framing = leaf.clip?.framing;
  return source?.width && source.height && isFramed(framing, fitOf(reel, leaf), { width: source.width, height: source.height }, size) ? framing : null;
}
function movesView(leaf: Segment, sources: ReadonlyMap<string, RenderSource>, reel: Reel, size: Size): boolean {
  const source = sources.get(leaf.media!);
  if (source?.photo) return Boolean(leaf.clip?.move);
  const framing = framingOf(reel, leaf, source, size);
  const end = leaf.sourceSeconds + framesToSeconds(leaf.frames, reel.rate) * leaf.speed;
  return Boolean(leaf.clip?.steady) || (framing !== null && (framing.below !== undefined || !standsStill(framing, leaf.sourceSeconds, end)));
}
const lookOf = (reel: Reel, leaf: Segment): Look | null => {
  const look = leaf.clip?.look ?? reel.look;
  return look && !changesNothing(look) ? look : null;
};

async function writeTables(reel: Reel, leaves: readonly Segment[], tables: ReadonlyMap<string, ColourTable>, folder: string): Promise<Map<string, string>> {
  const files = new Map<string, string>();
  for (const leaf of leaves) {
    const look = lookOf(reel, leaf);
    const key = look && JSON.stringify(look);
    if (!look || !key || files.has(key)) continue;
    const lut = look.lut === undefined ? null : tables.get(look.lut);
    if (lut === undefined) throw new MediaError('A colour table that a look needs is missing. Bring it in again or choose another look.');
    const file = join(folder, `look-${files.size}.cube`);
    await writeFile(file, writeCube(lookTable(look, lut), 'look'));
    files.set(key, file);
  }
  return files;
}

/** Renders one piece through its moving views. False when there is nothing to be done for it. */
async function warpLeaf(reel: Reel, leaf: Segment, source: RenderSource, options: RenderOptions, file: string): Promise<boolean> {
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
    const run = { start: seconds(clip.sourceIn), end: seconds(clip.sourceIn + (clip.frames * (clip.speed ?? 100)) / 100) };
    return path ? steadyViews(path, run, clip.steady!, times, own.height / own.width) : null;
  };
  if (clip.move && source.photo) {
    views = Array.from({ length: leaf.frames }, (_, index) => stillMoveAt(clip.move!, clip.frames > 1 ? (leaf.into + index) / (clip.frames - 1) : 0, own, size));
    decoded = decodedFor(Math.min(...views.map((view) => view.width)));
  } else if (framing) {
    const steady = await steadied();
    const parts = times.map((time) => cropParts(framing, time, own, size));
    const through = (part: number) => parts.map((each, index) => (steady ? cropWithin(steady[index]!, each[part]!.view, own) : each[part]!.view));
    views = through(0);
    if (framing.below) below = through(1);
    decoded = decodedFor(Math.min(...views.map((view) => view.width)));
  } else {
    const steady = await steadied();
    if (!steady) return false;
    const scale = Math.min(1, Math.max(size.width / own.width, size.height / own.height));
    frame = { width: even(own.width * scale), height: even(own.height * scale) };
    decoded = frame;
    views = steady;
  }
  await warpPiece({ file: source.file, photo: source.photo, sourceSeconds: leaf.sourceSeconds, speed: leaf.speed, fps: fpsOf(reel.rate), source: decoded, frame, views, ...(below ? { below } : {}), blurBeyond: clip.steady?.edges === 'fill' }, file, options.signal);
  return true;
}

/** The logo in its corner over all pictures. */
function logoGraph(reel: Reel, size: Size, inputs: Inputs, sources: ReadonlyMap<string, RenderSource>, under: string, frames: number): { graph: string[]; label: string } {
  const source = reel.logo && sources.get(reel.logo.media);
  if (!reel.logo || !source?.width || !source.height) return { graph: [], label: under };
  const box = logoBox(reel.logo, { width: source.width, height: source.height }, size);
  const input = inputs.add('-loop', '1', '-framerate', fpsOf(reel.rate), '-t', framesToSeconds(frames, reel.rate).toFixed(6), ...inputArguments(source.file));
  return { graph: [`[${input}:v:0]scale=${box.width}:${box.height}:flags=bicubic,format=rgba,colorchannelmixer=aa=${reel.logo.opacity}[logo]`, `[${under}][logo]overlay=x=${box.x}:y=${box.y}:eof_action=repeat[marked]`], label: 'marked' };
}

const hears = (segment: Segment, sources: ReadonlyMap<string, RenderSource>): RenderSource | null => {
  const source = segment.media === null ? null : sources.get(segment.media);
  return source && source.hasSound && !source.photo ? source : null;
};
function musicOf(reel: Reel, sources: ReadonlyMap<string, RenderSource>, gain: string | null) {
  const source = reel.music && sources.get(reel.music.media);
  return source && gain ? { file: source.file, gain, durationSeconds: source.durationSeconds ?? Infinity } : null;
}
/** Seconds of a source that a stretch takes, with some to spare. */
const taken = (segment: Segment, reel: Reel): string => (framesToSeconds(segment.frames, reel.rate) * segment.speed + 0.5).toFixed(6);
const soughtTo = (segment: Segment): string => Math.max(0, segment.sourceSeconds - 1e-4).toFixed(6);

/** Only the sound of a reel: into a measurement of its loudness, or encoded into a file as the render will encode it. */
export function soundArguments(reel: Reel, sources: ReadonlyMap<string, RenderSource>, gain: string | null, range: FrameRange = { start: 0, end: reelFrames(reel) }, into?: { filters: string; encoder: readonly string[]; output: string }): string[] {
  const inputs = new Inputs();
  const graph = soundGraph(reel, inputs, (segment) => {
    const source = hears(segment, sources);
    return source && inputs.add('-ss', soughtTo(segment), '-t', taken(segment, reel), '-vn', ...inputArguments(source.file));
  }, musicOf(reel, sources, gain), range);
  const ends = into ? ['-map', '[out]', ...into.encoder, into.output] : ['-map', '[out]', '-f', 'null', '-'];
  return ['-hide_banner', '-nostdin', '-nostats', '-y', ...inputs.args, '-filter_complex', `${graph.join(';')};[a]${into?.filters ?? 'ebur128=peak=true:framelog=verbose'}[out]`, ...ends];
}

/** The whole ffmpeg command for a reel: one input per stretch of picture or sound, sought to its start, one graph, one encode. */
export function renderArguments(reel: Reel, sources: ReadonlyMap<string, RenderSource>, output: string, { size, format = 'mp4', quality = 'good', range = { start: 0, end: reelFrames(reel) } }: Pick<RenderOptions, 'size' | 'format' | 'quality' | 'range'>, parts: Parts = nothing): string[] {
  const inputs = new Inputs();
  const graph: string[] = [];
  const frames = range.end - range.start;
  const options = { rate: reel.rate, size };
  const opened = new Map<string, number>();
  const key = ({ id, media, startFrame, frames: length, speed }: Segment) => `${id} ${media} ${startFrame} ${length} ${speed}`;
  const open = (segment: Segment, source: RenderSource): number => {
    const from = source.photo ? ['-loop', '1', '-framerate', fpsOf(reel.rate), '-t', (framesToSeconds(segment.frames, reel.rate) + 0.2).toFixed(6)] : ['-ss', soughtTo(segment), '-t', taken(segment, reel)];
    return inputs.add(...from, '-threads', '2', ...inputArguments(source.file));
  };
  const picture = (segment: Segment, label: string) => {
    const source = segment.media === null ? null : sources.get(segment.media)!;
    const file = parts.ready.get(segment);
    if (!source?.hasPicture) return void graph.push(blackChain(label, segment.frames, options));
    const input = file ? inputs.add(...inputArguments(file)) : open(segment, source);
    if (!file) opened.set(key(segment), input);
    const look = lookOf(reel, segment);
    const framing = framingOf(reel, segment, source, size);
    const leaf: Leaf = { segment, input, shape: file && (segment.clip?.move || framing) ? size.width / size.height : source.width && source.height ? source.width / source.height : null, fit: fitOf(reel, segment), view: !file && framing ? cropParts(framing, segment.sourceSeconds, { width: source.width!, height: source.height! }, size)[0]!.view : null, source: { width: source.width ?? size.width, height: source.height ?? size.height }, table: look ? (parts.tables.get(JSON.stringify(look)) ?? null) : null, ready: file !== undefined };
    graph.push(...leafChain(leaf, label, options));
  };
  if (format !== 'wav') {
    const pictures = picturesIn(reel, range);
    for (const [index, segment] of pictures.entries()) {
      if (!segment.cross) picture(segment, `v${index}`);
      else {
        picture(segment.cross.from, `v${index}f`);
        picture(segment.cross.to, `v${index}t`);
        graph.push(crossChain(`v${index}f`, `v${index}t`, `v${index}`, segment, reel.rate));
      }
    }
    const early = range.start - pictures[0]!.startFrame;
    const cut = early > 0 || pictures.reduce((sum, segment) => sum + segment.frames, 0) > frames ? `,trim=start_frame=${early}:end_frame=${early + frames},setpts=PTS-STARTPTS` : '';
    graph.push(`${pictures.map((_, index) => `[v${index}]`).join('')}concat=n=${pictures.length}:v=1:a=0${cut}[v]`);
    const titled = titleGraph(reel, size, inputs, parts.titles, range.start, frames);
    graph.push(...titled.graph);
    const last = format === 'gif' ? 'fps=12,split[ga][gb];[ga]palettegen=stats_mode=diff[gp];[gb][gp]paletteuse=dither=bayer:bayer_scale=4' : 'null';
    const logo = logoGraph(reel, size, inputs, sources, titled.label, frames);
    graph.push(...logo.graph, `[${logo.label}]${parts.captions ? `${parts.captions},` : ''}${last}[seen]`);
  }
  // Where picture and sound are of one stretch, one input gives both.
  if (format !== 'gif' && format !== 'png') {
    graph.push(...soundGraph(reel, inputs, (segment) => {
      const source = hears(segment, sources);
      return source && (opened.get(key(segment)) ?? open(segment, source));
    }, musicOf(reel, sources, parts.gain), range));
    graph.push(`[a]${parts.loudness || 'anull'}[out]`);
  }
  return ['-v', 'error', '-nostdin', '-y', '-progress', 'pipe:1', ...inputs.args, '-filter_complex', graph.join(';'), ...formatArguments(format, quality, fpsOf(reel.rate)), '-map_metadata', '-1', '-fflags', '+bitexact', '-flags:v', '+bitexact', '-flags:a', '+bitexact', output];
}
