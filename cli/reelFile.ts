import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { basename, dirname, extname, isAbsolute, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { exportFormats, FormatError, readEdl, readOtio, relink, type SourceInfo } from '#core/formats';
import { clipsOf, settleTransitions, type Reel } from '#core/reel';
import { framesToSeconds, sourceStartOf, type Rate } from '#core/time';
import type { Word } from '#core/words';
import { MediaError } from '#media/process';
import { probe, type Probe } from '#media/probe/probe';

/** A source of a reel that was found on this machine. */
export interface FoundSource extends SourceInfo {
  path: string;
  probe: Probe;
}

export interface OpenedReel {
  reel: Reel;
  /** Everything that it names; of what was not found only the name and how much of it is used is known. */
  sources: SourceInfo[];
  found: Map<string, FoundSource>;
  /** What a reel cannot hold, in sentences. */
  left: string[];
}

/**
 * Opens a reel: OpenTimelineIO or CMX 3600. Its media are looked for where it says they are, and beside it.
 * @param rate that a list was made for; lists do not say it
 * @throws MediaError
 */
export async function openReelFile(file: string, rate: Rate): Promise<OpenedReel> {
  const text = await readFile(file, 'utf8').catch((error: unknown) => {
    throw new MediaError(`${file} cannot be read.`, { cause: error });
  });
  try {
    const isList = /\.edl$/i.test(file) || !text.trimStart().startsWith('{');
    const read = isList ? readEdl(text, rate, randomUUID) : readOtio(text, randomUUID);
    // By where they lie: two cameras give two files the same name.
    const foreign = {
      ...read,
      tracks: read.tracks.map((track) => ({
        ...track,
        items: track.items.map((item) =>
          item.kind === 'gap'
            ? item
            : { ...item, source: { ...item.source, name: pathOf(item.source.address) ?? item.source.name } },
        ),
      })),
    };
    const wanted = new Map<string, number>();
    for (const item of foreign.tracks.flatMap((track) => track.items))
      if (item.kind === 'clip')
        wanted.set(
          item.source.name,
          Math.max(wanted.get(item.source.name) ?? 0, item.sourceIn + item.frames * fastest),
        );
    if (foreign.music && !wanted.has(foreign.music.source.name)) wanted.set(foreign.music.source.name, 0);
    const found = new Map<string, FoundSource>();
    const sources: SourceInfo[] = [];
    for (const [name, lastFrame] of wanted) {
      const path = whereIs(name, dirname(resolve(file)));
      const info = path ? await probe(path).catch(() => null) : null;
      const known = sourceOf(name, info, framesToSeconds(lastFrame, foreign.rate));
      sources.push(known);
      if (path && info) found.set(known.id, { ...known, path, probe: info });
    }
    const { reel } = relink(foreign, sources);
    const settled = settleTransitions(reel, new Map(sources.map((source) => [source.id, source])));
    return { reel: settled.reel, sources, found, left: foreign.left };
  } catch (error) {
    if (error instanceof FormatError) throw new MediaError(`${file}: ${error.message}`, { cause: error });
    throw error;
  }
}

function sourceOf(name: string, info: Probe | null, usedSeconds: number): SourceInfo {
  if (!info) return { id: name, name, hash: null, durationSeconds: usedSeconds };
  return {
    id: name,
    name,
    hash: null,
    durationSeconds: info.durationSeconds,
    photo: info.kind === 'photo',
    soundOnly: info.kind === 'sound',
    start: sourceStartOf(info),
    reelName: info.reelName,
  };
}

/** Of a piece at its highest speed. */
const fastest = 4;

/** The path in an address of a file; null without one. */
function pathOf(address: string | undefined): string | null {
  if (!address) return null;
  try {
    return address.startsWith('file:') ? fileURLToPath(address) : decodeURI(address);
  } catch {
    return address;
  }
}

/** The file that a document means: where it says, from the document's folder on, or of that name beside it. */
const whereIs = (name: string, folder: string): string | null =>
  [isAbsolute(name) ? name : resolve(folder, name), join(folder, basename(name))].find((place) => existsSync(place)) ??
  null;

/** The path of a file as a document in a folder names it. */
export const addressFrom = (folder: string, path: string): string => relative(resolve(folder), path) || basename(path);

/**
 * A reel as text, in the format that the name of a file asks for.
 * @param words of a source; for captions
 * @throws MediaError when there is no such format
 */
export function reelAs(
  out: string,
  reel: Reel,
  sources: readonly SourceInfo[],
  words: (media: string) => readonly Word[] = () => [],
): string {
  const name = basename(out).toLowerCase();
  const [key, format] =
    Object.entries(exportFormats).find(([id, { ending }]) => name.endsWith(`.${ending ?? id}`)) ?? [];
  if (!format)
    throw new MediaError(
      `A reel can be written as ${Object.entries(exportFormats)
        .map(([id, { ending }]) => `.${ending ?? id}`)
        .join(', ')}; “${extname(out) || out}” is none of them.`,
    );
  if (format.withWords && clipsOf(reel).every((clip) => words(clip.media).length === 0))
    throw new MediaError(`Captions need words; give them with --words TEXT.srt to write ${key}.`);
  return format.write({ reel, sources, texts: { wordsOf: words } });
}
