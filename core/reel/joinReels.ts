import { framesPerSecond, secondsToFrames } from '#core/time';
import { tidy } from './items';
import {
  itemsFrames,
  reelFrames,
  type Clip,
  type Gap,
  type Music,
  type Reel,
  type ReelItem,
  type Source,
  type Title,
  type Track,
} from './types';

/** A part with the frame of the whole at which it begins. */
interface Placed {
  reel: Reel;
  start: number;
  frames: number;
}

/** Which music lies under what is joined: of each part under that part, of the first under the whole, none, or other music. */
export type JoinedMusic = 'each' | 'first' | 'none' | Music;

/**
 * One reel out of several, one after the other: every track with its sound, and titles. The first gives shape, rate and
 * theme, the first that has captions or a logo gives those.
 * @param reels at the same rate
 * @param sources of the music, by media id; music of a part that is not there is left out
 */
export function joinReels(
  name: string,
  reels: readonly Reel[],
  makeId: () => string,
  sources: ReadonlyMap<string, Source> = new Map(),
  wanted: JoinedMusic = 'each',
): Reel {
  const first = reels[0]!;
  let start = 0;
  const parts = reels.map((reel): Placed => {
    const placed = { reel, start, frames: reelFrames(reel) };
    start += placed.frames;
    return placed;
  });
  const joined = lanesOf(parts, makeId);
  const pieces = wanted === 'each' ? parts.flatMap((part) => musicPieces(part, sources, makeId)) : [];
  const under = wanted === 'first' ? first.music : typeof wanted === 'object' ? wanted : undefined;
  const captions = reels.find((reel) => reel.captions)?.captions;
  const logo = reels.find((reel) => reel.logo)?.logo;
  const titles = parts.flatMap(({ reel, start: from }) =>
    (reel.titles ?? []).map((title): Title => ({ ...title, id: makeId(), frame: title.frame + from })),
  );
  const { markers: _, titles: __, moved: ___, music: ____, look: _____, fit: ______, ...rest } = first;
  return {
    ...rest,
    name,
    tracks: [
      ...joined,
      ...(pieces.length ? [{ kind: 'sound' as const, name: 'Music', items: inOrder(pieces, makeId) }] : []),
    ],
    ...(titles.length ? { titles } : {}),
    ...(under ? { music: under } : {}),
    ...(captions ? { captions } : {}),
    ...(logo ? { logo } : {}),
  };
}

/** Tracks of the parts laid end to end: the main ones in one, then the first above each, and so on; sounds likewise. */
function lanesOf(parts: readonly Placed[], makeId: () => string): Track[] {
  const fresh = parts.map(({ reel, start, frames }) => ({ tracks: freshTracks(reel, makeId), start, frames }));
  const lanes = (kind: Track['kind']): Track[] => {
    const own = fresh.map(({ tracks, ...place }) => ({
      ...place,
      tracks: tracks.filter((track) => track.kind === kind),
    }));
    const most = Math.max(0, ...own.map(({ tracks }) => tracks.length));
    return Array.from({ length: most }, (_, index) => {
      const items: ReelItem[] = [];
      for (const { tracks, start, frames } of own) {
        pad(items, start, makeId);
        items.push(...(tracks[index]?.items ?? []));
        // The main track holds every part as long as the part is, so that the next begins where its other tracks do.
        if (kind === 'picture' && index === 0) pad(items, start + frames, makeId);
      }
      const name = own.flatMap(({ tracks }) => tracks[index] ?? [])[0]!.name;
      return { kind, name, items: tidy(items) };
    });
  };
  return [...lanes('picture'), ...lanes('sound').filter((track) => track.items.length > 0)];
}

function pad(items: ReelItem[], frame: number, makeId: () => string): void {
  const frames = frame - itemsFrames(items);
  if (frames > 0) items.push({ kind: 'gap', id: makeId(), frames });
}

/** Tracks of a part under ids of their own: the same reel may stand in a variant twice. */
function freshTracks(reel: Reel, makeId: () => string): Track[] {
  const links = new Map<string, string>();
  const linkOf = (link: string) => {
    if (!links.has(link)) links.set(link, makeId());
    return links.get(link)!;
  };
  return reel.tracks.map((track) => ({
    kind: track.kind,
    name: track.name,
    items: track.items.map((item) =>
      item.kind === 'gap' ? { ...item, id: makeId() } : alone(item, track, reel, makeId(), linkOf),
    ),
  }));
}

/** A clip with what its reel and its track said about it, since the whole says it only once. */
function alone(clip: Clip, track: Track, reel: Reel, id: string, linkOf: (link: string) => string): Clip {
  const { slot: _, link, ...own } = clip;
  const look = clip.look ?? reel.look;
  const fit = clip.fit ?? reel.fit;
  const levelDb = (clip.levelDb ?? 0) + (track.levelDb ?? 0);
  return {
    ...own,
    id,
    ...(link === undefined ? {} : { link: linkOf(link) }),
    ...(look && track.kind === 'picture' ? { look } : {}),
    ...(fit && track.kind === 'picture' ? { fit } : {}),
    ...(levelDb !== 0 || clip.levelDb !== undefined ? { levelDb } : {}),
    ...(clip.muted || track.muted ? { muted: true } : {}),
  };
}

/** The music of a part as pieces of sound, from the part's first frame to its last; it begins anew when it is shorter. */
function musicPieces(
  { reel, start, frames }: Placed,
  sources: ReadonlyMap<string, Source>,
  makeId: () => string,
): { clip: Clip; at: number }[] {
  const { music } = reel;
  const source = music && sources.get(music.media);
  if (!music || !source || frames === 0) return [];
  const whole = Math.floor(source.durationSeconds * framesPerSecond(reel.rate) + 1e-6);
  const pieces: { clip: Clip; at: number }[] = [];
  let from = Math.min(secondsToFrames(music.startSeconds, reel.rate), Math.max(0, whole - 1));
  for (let at = 0; at < frames && whole > from; from = 0) {
    const length = Math.min(frames - at, whole - from);
    const clip: Clip = {
      kind: 'clip',
      id: makeId(),
      media: music.media,
      name: music.name,
      sourceIn: from,
      frames: length,
      levelDb: music.levelDb,
    };
    if (at === 0 && music.fadeInSeconds > 0)
      clip.fadeIn = Math.min(length, secondsToFrames(music.fadeInSeconds, reel.rate));
    if (at + length === frames && music.fadeOutSeconds > 0)
      clip.fadeOut = Math.min(length - (clip.fadeIn ?? 0), secondsToFrames(music.fadeOutSeconds, reel.rate));
    pieces.push({ clip, at: start + at });
    at += length;
  }
  return pieces;
}

/** Pieces at their frames, with gaps between. */
function inOrder(pieces: readonly { clip: Clip; at: number }[], makeId: () => string): (Clip | Gap)[] {
  const items: ReelItem[] = [];
  for (const { clip, at } of pieces) {
    pad(items, at, makeId);
    items.push(clip);
  }
  return items;
}
