import { mergeOrder, mergeValues, sameValue, type Three } from '#core/merge';
import { settleTransitions } from './transitions';
import { partLinks } from './commands/links';
import { problemOf } from './commands/room';
import {
  clipsOf,
  mainTrack,
  startOf,
  itemsFrames,
  type Clip,
  type Reel,
  type ReelItem,
  type Source,
  type Track,
} from './types';

/** What comes of two reels that go back to the same one, or a sentence why they do not fit together. */
export type MergedReel = { ok: true; reel: Reel } | { ok: false; reason: string };

/** Fields that say together which stretch of its footage a piece shows; half of one and half of another is none. */
type Stretch = 'media' | 'sourceIn' | 'frames' | 'speed';

/** Thrown inside only. */
class Clash extends Error {
  constructor(what: string) {
    super(`${what} was changed in another window meanwhile, so this was left out. It is shown as it stands there.`);
  }
}

/**
 * Two changes of the same reel made one: what was done to it here, done to what another window made of it meanwhile.
 * Pieces are known by their ids: in which order they stand in the main track, which stretch a piece shows, and each of
 * its other properties are merged apart. What lies over or beside the main track, markers and titles stay with the piece
 * of the main track at which they stand, however that moves.
 * (Three-way merge; Khanna, Kunal & Pierce 2007, "A Formal Investigation of Diff3".)
 * @param base the reel that both began with
 * @param mine what an edit made of it here
 * @param theirs as it stands now
 */
export function mergeReels(base: Reel, mine: Reel, theirs: Reel, sources: ReadonlyMap<string, Source>): MergedReel {
  if (sameValue(base, mine)) return { ok: true, reel: theirs };
  if (sameValue(base, theirs) || sameValue(mine, theirs)) return { ok: true, reel: mine };
  try {
    const merged = partLinks(theirs, merge({ base, mine, theirs }));
    const faulty = (reel: Reel) =>
      clipsOf(reel).filter((clip) => problemOf(clip, sources.get(clip.media), reel) !== null);
    const before = new Set([...faulty(mine), ...faulty(theirs)].map(({ id }) => id));
    const fresh = faulty(merged).find(({ id }) => !before.has(id));
    if (fresh) throw new Clash(nameOf(fresh));
    return { ok: true, reel: settleTransitions(merged, sources).reel };
  } catch (error) {
    if (error instanceof Clash) return { ok: false, reason: error.message };
    throw error;
  }
}

const nameOf = (clip: Clip): string => `“${clip.name}”`;
/** How fields of a reel are called. */
const called: Partial<Record<keyof Reel, string>> = {
  name: 'Its name',
  size: 'Its picture size',
  moved: 'What was moved to another reel',
  music: 'The music',
  loudnessLufs: 'The loudness',
  markers: 'A marker',
  titles: 'A title',
  theme: 'The theme',
  look: 'The look of the whole reel',
  fit: 'How pictures fill the frame',
  captions: 'The look of the captions',
  logo: 'The logo',
};

function merge(reels: Three<Reel>): Reel {
  const { base, mine, theirs } = reels;
  // At another rate every number of frames is another one.
  if (!sameValue(base.rate, mine.rate) || !sameValue(base.rate, theirs.rate)) throw new Clash('The rate of the reel');
  const merged: Record<string, unknown> = {};
  for (const field of new Set([...Object.keys(theirs), ...Object.keys(mine)]) as Set<keyof Reel>) {
    if (field === 'tracks') continue;
    const stands = field === 'markers' || field === 'titles';
    const of = (reel: Reel) => (stands ? (reel[field]?.map(({ frame: _, ...rest }) => rest) ?? []) : reel[field]);
    const own = mergeValues({ base: of(base), mine: of(mine), theirs: of(theirs) });
    if ('clash' in own) throw new Clash(called[field] ?? 'The reel');
    if (own.value !== undefined) merged[field] = own.value;
  }
  const tracks = new TrackMerge(reels).tracks();
  const places = new Places(reels, tracks[0]!);
  for (const field of ['markers', 'titles'] as const) {
    const list = merged[field] as { id: string }[] | undefined;
    if (!list) continue;
    const frame = (reel: Reel, id: string) => reel[field]?.find((each) => each.id === id)?.frame;
    merged[field] = list
      .map((each) => ({
        ...each,
        frame: places.merged({
          base: frame(base, each.id),
          mine: frame(mine, each.id),
          theirs: frame(theirs, each.id),
        }),
      }))
      .sort((a, b) => a.frame - b.frame);
  }
  return { ...(merged as Omit<Reel, 'tracks'>), tracks };
}

/** Where frames of both sides are in the reel that comes of them. */
class Places {
  /** @param main track of the reel that comes of both */
  constructor(
    private readonly reels: Three<Reel>,
    private readonly main: Track,
  ) {}

  /** @param at frames of the same thing on each side; undefined where it is not */
  merged({ base, mine, theirs }: Three<number | undefined>): number {
    if (theirs === undefined) return this.placed(this.reels.mine, mine ?? 0);
    if (mine === undefined) return this.placed(this.reels.theirs, theirs);
    const [was, here, there] = [
      base === undefined ? null : pieceAt(this.reels.base, base),
      pieceAt(this.reels.mine, mine),
      pieceAt(this.reels.theirs, theirs),
    ];
    if (sameValue(here, was) || sameValue(here, there)) return this.placed(this.reels.theirs, theirs);
    if (sameValue(there, was)) return this.placed(this.reels.mine, mine);
    return Math.max(0, mine + theirs - (base ?? theirs));
  }

  private placed(side: Reel, frame: number): number {
    const piece = pieceAt(side, frame);
    const start = piece ? startOf(this.main, piece.clip) : -1;
    if (piece && start >= 0) return start + piece.into;
    // Behind the end it stays as far behind it.
    const end = itemsFrames(mainTrack(side).items);
    return frame >= end ? frame - end + itemsFrames(this.main.items) : frame;
  }
}

/** The piece of the main track at a frame; null over a gap, and behind the end. */
function pieceAt(reel: Reel, frame: number): { clip: string; into: number } | null {
  let start = 0;
  for (const item of mainTrack(reel).items) {
    if (frame < start + item.frames) return item.kind === 'clip' ? { clip: item.id, into: frame - start } : null;
    start += item.frames;
  }
  return null;
}

/** A piece, its track by number among the pairs, where it begins, and how long the gap before it is. */
interface Spot {
  clip: Clip;
  track: number;
  start: number;
  gap: number;
}

class TrackMerge {
  private readonly pairs: Three<Track | undefined>[];
  private readonly spots: Three<ReadonlyMap<string, Spot>>;
  /** Pieces of the reel that comes of both, and the tracks in which they stand. */
  private readonly clips = new Map<string, { clip: Clip; track: number }>();

  constructor(private readonly reels: Three<Reel>) {
    this.pairs = pairTracks(reels);
    const spots = (side: keyof Three) => this.spotsOf(side);
    this.spots = { base: spots('base'), mine: spots('mine'), theirs: spots('theirs') };
    for (const id of new Set(
      Object.values(this.spots).flatMap((side: ReadonlyMap<string, Spot>) => [...side.keys()]),
    )) {
      const own = this.mergeSpot(this.of(id));
      if (own) this.clips.set(id, own);
    }
  }

  tracks(): Track[] {
    const main = this.mainTrack();
    const places = new Places(this.reels, main);
    const others = this.pairs.slice(1).map((pair, index) => this.otherTrack(pair, index + 1, places));
    return [main, ...others.filter(({ items }) => items.length > 0)];
  }

  private of(id: string): Three<Spot | undefined> {
    const { base, mine, theirs } = this.spots;
    return { base: base.get(id), mine: mine.get(id), theirs: theirs.get(id) };
  }

  private spotsOf(side: keyof Three): ReadonlyMap<string, Spot> {
    const spots = new Map<string, Spot>();
    for (const [number, pair] of this.pairs.entries()) {
      let [start, gap] = [0, 0];
      for (const item of pair[side]?.items ?? []) {
        if (item.kind === 'gap') gap += item.frames;
        else {
          spots.set(item.id, { clip: item, track: number, start: start + gap, gap });
          [start, gap] = [start + gap + item.frames, 0];
        }
      }
    }
    return spots;
  }

  /** @returns null for a piece that is gone */
  private mergeSpot({ base, mine, theirs }: Three<Spot | undefined>): { clip: Clip; track: number } | null {
    if (!mine || !theirs) {
      const left = mine ?? theirs;
      // In neither, or new on one side.
      if (!left || !base) return left ?? null;
      // Taken out on one side: it may only have been moved along on the other.
      if (!sameValue(left.clip, base.clip) || left.track !== base.track) throw new Clash(nameOf(base.clip));
      return null;
    }
    if (!base) {
      if (!sameValue(mine.clip, theirs.clip)) throw new Clash(nameOf(theirs.clip));
      return theirs;
    }
    const shown = mergeValues({
      base: stretchOf(base.clip),
      mine: stretchOf(mine.clip),
      theirs: stretchOf(theirs.clip),
    });
    const rest = mergeValues({ base: restOf(base.clip), mine: restOf(mine.clip), theirs: restOf(theirs.clip) });
    const track = mergeValues({ base: base.track, mine: mine.track, theirs: theirs.track });
    if ('clash' in shown || 'clash' in rest || 'clash' in track) throw new Clash(nameOf(theirs.clip));
    const clip = { ...(rest.value as Omit<Clip, Stretch>), ...(shown.value as [Pick<Clip, Stretch>])[0] };
    return { clip, track: track.value as number };
  }

  private mainTrack(): Track {
    const pair = this.pairs[0]!;
    const order = (track: Track | undefined) => clipsIn(track).map(({ id }) => id);
    const wanted = mergeOrder(order(pair.base), order(pair.mine), order(pair.theirs));
    if ('clash' in wanted) throw new Clash(nameOf(this.of(wanted.clash).theirs!.clip));
    let end = 0;
    const placed = wanted.order
      .map((id) => this.clips.get(id))
      .filter((own) => own?.track === 0)
      .map((own) => {
        const { base, mine, theirs } = this.of(own!.clip.id);
        const gap = mine && theirs ? mine.gap + theirs.gap - (base?.gap ?? theirs.gap) : (mine ?? theirs)!.gap;
        if (gap < 0) throw new Clash(nameOf(own!.clip));
        const start = end + gap;
        end = start + own!.clip.frames;
        return { clip: own!.clip, start };
      });
    return { ...this.head(pair), items: this.row(placed) };
  }

  private otherTrack(pair: Three<Track | undefined>, number: number, places: Places): Track {
    const isLocked = pair.mine?.locked || pair.theirs?.locked;
    const placed = [...this.clips.values()]
      .filter(({ track }) => track === number)
      .map(({ clip }) => ({ clip, start: this.startOf(clip, isLocked ? null : places) }))
      .sort((a, b) => a.start - b.start);
    return { ...this.head(pair), items: this.row(placed) };
  }

  /** @param places null in a track in which nothing moves */
  private startOf(clip: Clip, places: Places | null): number {
    const { base, mine, theirs } = this.of(clip.id);
    const starts = { base: base?.start, mine: mine?.start, theirs: theirs?.start };
    if (places) return places.merged(starts);
    const merged = mergeValues(mine && theirs ? starts : { ...starts, base: mine ? theirs?.start : mine });
    if ('clash' in merged) throw new Clash(nameOf(clip));
    return (merged.value ?? mine?.start ?? theirs?.start ?? 0) as number;
  }

  /** Pieces at their places, with gaps between them. */
  private row(placed: readonly { clip: Clip; start: number }[]): ReelItem[] {
    const items: ReelItem[] = [];
    let end = 0;
    for (const { clip, start } of placed) {
      if (start < end) throw new Clash(nameOf(clip));
      // A piece is before one gap only.
      if (start > end) items.push({ kind: 'gap', id: `${clip.id}~gap`, frames: start - end });
      items.push(clip);
      end = start + clip.frames;
    }
    return items;
  }

  private head({ base, mine, theirs }: Three<Track | undefined>): Omit<Track, 'items'> {
    const [some, of] = [(theirs ?? mine)!, ({ items: _, ...rest }: Track) => rest];
    const merged = mergeValues({ base: of(base ?? some), mine: of(mine ?? some), theirs: of(theirs ?? some) });
    if ('clash' in merged) throw new Clash(`The track “${some.name}”`);
    return merged.value as Omit<Track, 'items'>;
  }
}

const clipsIn = (track: Track | undefined): Clip[] => (track?.items ?? []).filter((item) => item.kind === 'clip');
/** In a list, so that it is taken whole. */
const stretchOf = ({ media, sourceIn, frames, speed }: Clip): [Pick<Clip, Stretch>] => [
  { media, sourceIn, frames, ...(speed === undefined ? {} : { speed }) },
];
const restOf = ({ media: _, sourceIn: __, frames: ___, speed: ____, ...rest }: Clip) => rest;

/**
 * Tracks that are one on all sides, the main one first. They have no ids: where their number stayed, they are the same in
 * order; where a side has more or fewer, those of the same kind and name are.
 */
function pairTracks({ base, mine, theirs }: Three<Reel>): Three<Track | undefined>[] {
  const [here, there] = [places(base, mine), places(base, theirs)];
  const pairs: Three<Track | undefined>[] = base.tracks.map((track, index) => ({
    base: track,
    mine: mine.tracks[here.indexOf(index)],
    theirs: theirs.tracks[there.indexOf(index)],
  }));
  const fresh = (tracks: readonly Track[], at: readonly number[]) => tracks.filter((_, index) => at[index] === -1);
  pairs.push(...fresh(theirs.tracks, there).map((track) => ({ base: undefined, mine: undefined, theirs: track })));
  pairs.push(...fresh(mine.tracks, here).map((track) => ({ base: undefined, mine: track, theirs: undefined })));
  const isSound = (pair: Three<Track | undefined>) => (pair.mine ?? pair.theirs ?? pair.base)!.kind === 'sound';
  return [...pairs.filter((pair) => !isSound(pair)), ...pairs.filter(isSound)];
}

/** For each track of a side the number of the one in the base that it is; −1 for a new one. */
function places(base: Reel, side: Reel): number[] {
  if (side.tracks.length === base.tracks.length) return side.tracks.map((_, index) => index);
  let next = 0;
  return side.tracks.map((track) => {
    const index = base.tracks.findIndex(
      (each, at) => at >= next && each.kind === track.kind && each.name === track.name,
    );
    if (index >= 0) next = index + 1;
    return index;
  });
}
