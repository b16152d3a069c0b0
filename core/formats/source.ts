import type { Clip, Gap, Music, Reel, Track } from '#core/reel';
import { framesAtTimecode, framesToSeconds, type Rate, type SourceStart } from '#core/time';

/** What a document says about a source besides its frames. */
export interface SourceInfo {
  /** By media id. */
  id: string;
  name: string;
  /** Content hash; finds the file again wherever it lies. */
  hash: string | null;
  durationSeconds: number;
  photo?: boolean;
  soundOnly?: boolean;
  /** Where it begins by the camera's or recorder's count. */
  start?: SourceStart | null;
  /** Of the tape or card it was on. */
  reelName?: string | null;
}

/** A piece that a document names; whose media is not known until it is looked for. */
interface ForeignClip extends Omit<Clip, 'media'> {
  source: {
    name: string;
    hash: string | null;
    /** Where the document says that it lies. */
    address?: string;
    /** Of a list that tells places by timecode: tape, label, and how many frames behind it the piece begins. */
    label?: { tape: string; code: string; after: number };
  };
}
/** A piece of a document that came from elsewhere, or a gap. */
export type ForeignItem = ForeignClip | Gap;

/** A reel as a document tells it, before its sources were found. */
export interface ForeignReel extends Omit<Reel, 'tracks' | 'moved' | 'music'> {
  tracks: (Omit<Track, 'items'> & { items: ForeignItem[] })[];
  rate: Rate;
  music?: Omit<Music, 'media'> & { source: ForeignClip['source'] };
  /** What the document held that a reel cannot, one sentence each. */
  left: string[];
}

/** A document that cannot be read; the message is a sentence for people and says where. */
export class FormatError extends Error {
  override name = 'FormatError';
}

const plain = (name: string) => name.trim().toLowerCase();
const stem = (name: string) => plain(name).replace(/\.[a-z0-9]{2,4}$/, '');

/** Finds the source that a document means: by content, then by file name, then by name without its ending. */
function findSource(wanted: ForeignClip['source'], sources: readonly SourceInfo[]): SourceInfo | null {
  return (
    sources.find((source) => source.hash !== null && source.hash === wanted.hash) ??
    sources.find((source) => plain(source.name) === plain(wanted.name)) ??
    sources.find((source) => stem(source.name) === stem(wanted.name)) ??
    null
  );
}

/** Frames from the first of a source at which a piece begins that tells its place by a label; null where the label lies outside. */
function placeByLabel(
  { label }: ForeignClip['source'],
  { start, durationSeconds }: SourceInfo,
  rate: Rate,
): number | null {
  const frames = label && start ? framesAtTimecode(start, label.code, rate) : null;
  return frames !== null && frames >= 0 && framesToSeconds(frames, rate) <= durationSeconds
    ? frames + label!.after
    : null;
}

/** Finds the source by the tape and the timecode, as lists without file names tell it. */
const findByTape = (wanted: ForeignClip['source'], sources: readonly SourceInfo[], rate: Rate): SourceInfo | null =>
  sources.find(
    (source) =>
      source.reelName &&
      source.reelName.toUpperCase() === wanted.label?.tape.toUpperCase() &&
      placeByLabel(wanted, source, rate) !== null,
  ) ?? null;

/**
 * Puts found sources under a foreign reel. Pieces whose source is not there become gaps as long, so that everything else
 * stays in place; their names are given back.
 * @param chosen media ids that a person chose, by the document's name
 */
export function relink(
  foreign: ForeignReel,
  sources: readonly SourceInfo[],
  chosen: Readonly<Record<string, string>> = {},
): { reel: Reel; missing: string[] } {
  const missing = new Set<string>();
  const tracks = foreign.tracks.map((track) => ({
    ...track,
    items: track.items.map((item): Clip | Gap => {
      if (item.kind === 'gap') return item;
      const { source: wanted, ...clip } = item;
      const found =
        sources.find((each) => each.id === chosen[wanted.name]) ??
        findSource(wanted, sources) ??
        findByTape(wanted, sources, foreign.rate);
      // Lists that count from the first frame of each file are read as well: their labels lie outside of the camera's.
      if (found)
        return { ...clip, sourceIn: placeByLabel(wanted, found, foreign.rate) ?? clip.sourceIn, media: found.id };
      missing.add(wanted.name);
      return { kind: 'gap', id: clip.id, frames: clip.frames };
    }),
  }));
  const { left: _, music: wanted, ...reel } = foreign;
  if (!wanted) return { reel: { ...reel, tracks }, missing: [...missing] };
  const { source, ...music } = wanted;
  const song = sources.find((each) => each.id === chosen[source.name]) ?? findSource(source, sources);
  if (!song) missing.add(source.name);
  return { reel: { ...reel, tracks, ...(song ? { music: { ...music, media: song.id } } : {}) }, missing: [...missing] };
}
