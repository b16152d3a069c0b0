import { mkdtemp } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { captionDefaults } from '#core/captions';
import {
  clipsOf,
  lineCounts,
  outputFormats,
  qualities,
  shapeOf,
  sizeOf,
  speechInReel,
  type OutputFormat,
  type Quality,
  type Reel,
} from '#core/reel';
import { cameraPath, derive, runsOf, type RawReading } from '#core/readings';
import type { Rate } from '#core/time';
import { MediaError } from '#media/process';
import { writeWorkingCopy } from '#media/probe/photoFile';
import { probe as probeFile } from '#media/probe/probe';
import { listenForBest } from '#media/read/listen';
import { renderReel, type RenderSource } from '#media/render/render';
import { readFiles, withFolder } from './footage';
import { openReelFile, type FoundSource } from './reelFile';
import { textOf } from './texts';

interface RenderWanted {
  rate: Rate;
  /** Lines of the shorter side; those of the reel when missing. */
  lines: string | undefined;
  quality: string | undefined;
  /** A text with times of the whole edit's only source; for captions. */
  words?: string | undefined;
  cache?: string;
  onProgress?(share: number): void;
}

/**
 * Renders a reel that lies in a document. What it needs to know of its footage besides is read: how the camera moved, for
 * pieces that are steadied, and where somebody speaks, for music that gives way.
 * @returns sentences about what the document holds and the file does not
 * @throws MediaError
 */
export async function renderReelFile(file: string, out: string, wanted: RenderWanted): Promise<string[]> {
  const format = extname(out).slice(1).toLowerCase() as OutputFormat;
  if (!outputFormats.includes(format))
    throw new MediaError(
      `A reel is rendered as ${outputFormats.map((each) => `.${each}`).join(', ')}; “${extname(out)}” is none of them.`,
    );
  const quality = (wanted.quality ?? 'good') as Quality;
  if (!qualities.includes(quality)) throw new MediaError(`--quality is ${qualities.join(', ')}.`);
  const { reel, found, left, sources } = await openReelFile(file, wanted.rate);
  const missing = sources.filter(({ id }) => !found.has(id)).map(({ name }) => name);
  if (missing.length > 0)
    throw new MediaError(
      `${file} needs ${missing.map((name) => `“${name}”`).join(', ')}, which ${missing.length === 1 ? 'is' : 'are'} not where it says, nor beside it.`,
    );
  const size = sizeFor(reel, wanted.lines);
  const words = wanted.words === undefined ? null : await textOf(wanted.words);
  const readings = await readingsFor(reel, found, wanted);
  await withFolder(async (folder) => {
    const renderSources = new Map<string, RenderSource>();
    for (const [id, source] of found) renderSources.set(id, await asSource(source, folder));
    await renderReel(words ? { ...reel, captions: reel.captions ?? captionDefaults } : reel, renderSources, out, {
      size,
      ...(words ? { texts: { wordsOf: () => words } } : {}),
      format,
      quality,
      speech: reel.music ? speechInReel(reel, (media) => runsIn(readings.get(media))) : [],
      pathOf: async (media) => {
        const raw = readings.get(media);
        return raw
          ? cameraPath(
              raw,
              runsOf(derive(raw).runs, 'scene')
                .slice(1)
                .map((scene) => scene.start),
            )
          : null;
      },
      ...(wanted.onProgress ? { onProgress: wanted.onProgress } : {}),
    });
  });
  return reel.captions && !words
    ? [...left, 'The captions are not set: they need words, which --words TEXT.srt gives.']
    : left;
}

const runsIn = (raw: RawReading | undefined) => (raw ? derive(raw).runs : []);

/** @param folder for the working copies of photos that ffmpeg cannot open */
async function asSource({ path, probe: original }: FoundSource, folder: string): Promise<RenderSource> {
  let [file, probe] = [path, original];
  if (original.copied) {
    const own = await mkdtemp(join(folder, 'copy-'));
    file = join(own, await writeWorkingCopy(path, original.copied, own));
    const { coding, width, height } = await probeFile(file);
    probe = { ...original, coding, width, height };
  }
  return {
    file,
    hasPicture: probe.kind !== 'sound',
    hasSound: probe.hasSound,
    photo: probe.kind === 'photo',
    width: probe.width,
    height: probe.height,
    durationSeconds: probe.durationSeconds,
    ...(probe.coding ? { coding: probe.coding } : {}),
    ...(probe.hasSound ? { heard: (await listenForBest(path, probe)).choice } : {}),
  };
}

/** Only of footage of which more than its pictures and sound is needed. */
async function readingsFor(
  reel: Reel,
  found: ReadonlyMap<string, FoundSource>,
  { cache }: RenderWanted,
): Promise<Map<string, RawReading>> {
  const needed = new Set(clipsOf(reel).flatMap((clip) => (reel.music || clip.steady ? [clip.media] : [])));
  const readings = new Map<string, RawReading>();
  for (const media of needed) {
    const source = found.get(media);
    if (!source || source.probe.kind === 'photo') continue;
    const [read] = await readFiles([source.path], cache === undefined ? {} : { cache });
    readings.set(media, read!.raw);
  }
  return readings;
}

function sizeFor(reel: Reel, lines: string | undefined): Reel['size'] {
  if (lines === undefined) return reel.size;
  const count = Number(lines);
  if (!Number.isInteger(count) || count < 120 || count > 2160 || count % 2)
    throw new MediaError(`--lines is an even number of 120 to 2160, such as ${lineCounts.join(', ')}.`);
  const shape = shapeOf(reel.size);
  if (shape) return sizeOf(shape, count);
  const scale = count / Math.min(reel.size.width, reel.size.height);
  const even = (value: number) => Math.round((value * scale) / 2) * 2;
  return { width: even(reel.size.width), height: even(reel.size.height) };
}
