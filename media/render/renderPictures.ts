import { mkdir, rm, writeFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
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
import { plainCoding } from '#core/picture';
import { leavesOf, logoBox, planPictures, type OutputFormat, type Quality, type Reel, type Segment } from '#core/reel';
import { framesToSeconds } from '#core/time';
import { Cancelled, MediaError, escaped, inputArguments } from '../process';
import { asShown, beforeInput, fromVideoLevels, markedColours, streamOf, toVideoLevels } from '../probe/shown';
import { runFfmpeg } from '../runFfmpeg';
import { pictureEncoder } from './outputFormats';
import { captionFilter } from './renderCaptions';
import {
  checkedCall,
  isThere,
  plainly,
  taken,
  whole,
  type Call,
  type RenderOptions,
  type RenderSource,
} from './renderCall';
import { blackChain, crossChain, fpsOf, leafChain, type Leaf } from './renderPicture';
import { Inputs, type FrameRange } from './renderSound';
import { drawTitles, titleGraph } from './renderTitles';
import { fingerprint, stretchSeconds, stretchesOf, type Piece, type Stretch } from './stretches';
import { warpPiece, type WarpJob } from './warp';

type PictureFormat = Exclude<OutputFormat, 'wav'>;

/** A stretch, with all that is needed to make it wherever its sources lie. */
interface PlannedStretch {
  range: FrameRange;
  /** The same wherever the same stretch is planned. */
  name: string;
  /** How long it takes, in frames that are only encoded. */
  effort: number;
  /** Media of its pictures. */
  media: readonly string[];
  /** @param onEffort hears how much of its effort is done */
  make(
    sources: ReadonlyMap<string, RenderSource>,
    output: string,
    signal: AbortSignal | undefined,
    onEffort: (done: number) => void,
  ): Promise<void>;
}

async function planStretches(call: Call, format: PictureFormat): Promise<PlannedStretch[]> {
  const { reel, options, scratch, range } = call;
  const { size, quality = 'good' } = options;
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
  const captions = await captionFilter(reel, options.texts ?? { wordsOf: () => [] }, size, scratch);
  const contents = [...tables.values(), ...titles.values(), ...(captions ? [captions.file] : [])];
  // What is the same on every machine: sources by what they are, not by where they lie.
  const anywhere = new Map(
    [...call.sources].map(([media, source]) => [media, { ...source, file: `${media}${extname(source.file)}` }]),
  );
  const bare = (argument: string) => argument.replaceAll(scratch, '').replaceAll(escaped(scratch), '');
  return Promise.all(
    stretches.map(async (stretch, index) => {
      const warps = new Map<Piece, { job: WarpJob; file: string }>();
      for (const leaf of filmed(stretch.pieces)) {
        const job = movesView(leaf, anywhere, reel, size)
          ? await warpJob(reel, leaf, anywhere.get(leaf.media!)!, options)
          : null;
        if (job) warps.set(leaf, { job, file: join(scratch, `view-${index}-${warps.size}.mkv`) });
      }
      const parts: Parts = {
        ready: new Map([...warps].map(([leaf, { file }]) => [leaf, file])),
        tables,
        titles,
        captions: captions?.from(stretch.range.start) ?? null,
      };
      const argumentsFor = (sources: ReadonlyMap<string, RenderSource>, output: string) =>
        pictureArguments(reel, sources, stretch, output, { size, format, quality }, parts);
      const jobs = [...warps.values()].map(({ job }) => job);
      const warping = warpEffort * jobs.reduce((sum, { views }) => sum + views.length, 0);
      return {
        range: stretch.range,
        name: await fingerprint([argumentsFor(anywhere, '').map(bare), jobs], contents),
        effort: stretch.range.end - stretch.range.start + warping,
        media: [...filmed(stretch.pieces).map((leaf) => leaf.media!), ...(reel.logo ? [reel.logo.media] : [])].filter(
          (media) => call.sources.has(media),
        ),
        make: async (sources, output, signal, onEffort) => {
          let done = 0;
          for (const [leaf, { job, file }] of warps) {
            await warpPiece({ ...job, file: sources.get(leaf.media!)!.file }, file, signal);
            onEffort((done += warpEffort * job.views.length));
          }
          await runFfmpeg(argumentsFor(sources, output), signal, (seconds) =>
            onEffort(done + (seconds * reel.rate.num) / reel.rate.den),
          );
          for (const { file } of warps.values()) await rm(file, { force: true });
        },
      };
    }),
  );
}

/** The pictures, stretch by stretch, or what is there of them from before. A GIF and a still are one stretch. */
export async function renderPictures(
  call: Call,
  format: PictureFormat,
): Promise<{ file: string; range: FrameRange }[]> {
  const { sources, options, scratch } = call;
  const { signal } = options;
  const planned = await Promise.all(
    (await planStretches(call, format)).map(async (stretch) => {
      const used = stretch.media.map((media) => sources.get(media)!.file);
      const file = join(scratch, `picture-${await fingerprint(stretch.name, [], used)}.${format}`);
      return { stretch, file, range: stretch.range, there: await isThere(file) };
    }),
  );
  const share = planned.length > 1 ? options.share : undefined;
  const all = planned.reduce((sum, { stretch }) => sum + stretch.effort, 0);
  let done = 0;
  const left = new Map<string, (typeof planned)[number]>();
  const report = (more = 0) => options.onProgress?.(Math.min(0.999, (done + more) / all));
  const have = (each: (typeof planned)[number]) => {
    left.delete(each.stretch.name);
    done += each.stretch.effort;
    report();
  };
  for (const each of planned)
    if (each.there) done += each.stretch.effort;
    else left.set(each.stretch.name, each);
  if (done > 0) report();
  await share?.made(planned.filter(({ there }) => there).map(({ stretch }) => stretch.name));
  while (left.size > 0) {
    // What others have made meanwhile comes first.
    for (const name of (await share?.whichAreMade([...left.keys()])) ?? []) {
      const { file } = left.get(name)!;
      if (await whole(file, (half) => share!.fetch(name, half))) have(left.get(name)!);
    }
    const name = share ? await share.take([...left.keys()]) : [...left.keys()][0];
    const own = left.get(name ?? '');
    if (!own) {
      if (left.size > 0) await pause(waitMilliseconds, signal);
      continue;
    }
    try {
      await whole(own.file, (half) => own.stretch.make(sources, half, signal, report));
    } catch (error) {
      await share?.letGo(own.stretch.name);
      throw error;
    }
    await share?.give(own.stretch.name, own.file, false);
    have(own);
  }
  return planned;
}

/** So long one waits before it is looked again whether others are done. */
const waitMilliseconds = 300;
const pause = async (milliseconds: number, signal: AbortSignal | undefined): Promise<void> => {
  await sleep(milliseconds, undefined, { signal }).catch(() => undefined);
  if (signal?.aborted) throw new Cancelled();
};

/**
 * Makes stretches of a film that another renders, as many as nobody else is making, while it is asked to go on.
 * @param sources as whoever renders it has them; their files need not be here
 * @param open gives the file of a source, here
 * @param goesOn asked before every stretch
 * @returns how many were made
 * @throws MediaError, Cancelled
 */
export async function helpRender(
  reel: Reel,
  sources: ReadonlyMap<string, RenderSource>,
  options: RenderOptions & Required<Pick<RenderOptions, 'share' | 'keepIn'>>,
  open: <T>(media: readonly string[], work: (files: ReadonlyMap<string, string>) => Promise<T>) => Promise<T>,
  goesOn: () => Promise<boolean>,
): Promise<number> {
  const { share, signal, format = 'mp4', keepIn } = options;
  if (format === 'wav') return 0;
  await mkdir(keepIn, { recursive: true });
  let made = 0;
  try {
    const planned = new Map(
      (await planStretches(checkedCall(reel, sources, options, keepIn), format)).map((each) => [each.name, each]),
    );
    while (planned.size > 1 && !signal?.aborted && (await goesOn())) {
      const name = await share.take([...planned.keys()]);
      const stretch = planned.get(name ?? '');
      if (!stretch) break;
      const file = join(keepIn, `${stretch.name}.${format}`);
      const unwanted = share.unwanted(stretch.name);
      try {
        await open(stretch.media, async (files) => {
          const here = new Map(
            stretch.media.map((media) => [media, { ...sources.get(media)!, file: files.get(media)! }]),
          );
          const either = signal ? AbortSignal.any([signal, unwanted]) : unwanted;
          await stretch.make(here, file, either, () => undefined);
        });
      } catch (error) {
        if (unwanted.aborted) break;
        await share.letGo(stretch.name);
        throw error;
      }
      await share.give(stretch.name, file, true);
      made++;
    }
  } finally {
    await rm(keepIn, { recursive: true, force: true });
  }
  return made;
}

/** How much longer a frame takes that is seen through a moving view than one that is only encoded. */
const warpEffort = 1.5;

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
