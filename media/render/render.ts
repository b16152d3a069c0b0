import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { clipsOf, planHeard, reelFrames, type OutputFormat, type Reel, type Segment } from '#core/reel';
import { firstTrack } from '#core/sound';
import { heardOf } from '../probe/heard';
import { MediaError, inputArguments, inputGuard } from '../process';
import { runFfmpeg } from '../runFfmpeg';
import { container, soundEncoder } from './outputFormats';
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
import { renderPictures } from './renderPictures';
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
import { fingerprint, writeList } from './stretches';

export type { RenderOptions, RenderSource } from './renderCall';

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
  const scratch = options.keepIn ?? `${output}.parts`;
  const call = checkedCall(reel, sources, options, scratch);
  const format = options.format ?? 'mp4';
  await refuseMissing(reel, sources);
  const part = `${output}.part`;
  await mkdir(scratch, { recursive: true });
  let finished = false;
  let measured: FileLoudness | null = null;
  try {
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
