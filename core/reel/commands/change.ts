import { insertAt, isFree, overwriteAt, takeOut, tidy, type NewId } from '../items';
import { itemsFrames, type Clip, type Reel, type ReelItem, type Track } from '../types';
import { done, type Outcome } from './edit';

/** Tracks with other items; those above and beside the main one go when nothing is left in them. */
export function withItems(reel: Reel, change: (track: Track, index: number) => readonly ReelItem[]): Reel {
  const tracks = reel.tracks
    .map((track, index) => ({ ...track, items: tidy(change(track, index)) }))
    .filter((track, index) => index === 0 || track.items.length > 0);
  return { ...reel, tracks };
}

/** Ids for what a cut makes, told from every id in the reel, and of what may come back to it. */
export function idsFrom(seed: string, reel: Reel): NewId {
  const taken = new Set([
    ...reel.tracks.flatMap((track) => track.items.map((item) => item.id)),
    ...(reel.moved ?? []).map(({ clip }) => clip.id),
  ]);
  let count = 0;
  return () => {
    let id: string;
    do id = `${seed}.${++count}`;
    while (taken.has(id));
    return id;
  };
}

const shifted = (frame: number, at: number, frames: number): number =>
  frames > 0 ? (frame >= at ? frame + frames : frame) : frame >= at - frames ? frame + frames : Math.min(frame, at);

/**
 * Opens room at a frame (`frames` > 0) or closes up a stretch that begins there (`frames` < 0): in every track that is
 * not locked, for markers and titles. What lies across is cut.
 * @param except tracks in which it was done already
 */
export function ripple(reel: Reel, at: number, frames: number, except: ReadonlySet<number>, newId: NewId): Reel {
  if (frames === 0) return reel;
  return withMoved(reel, at, frames, except, (items) => {
    if (frames < 0) return takeOut(items, at, at - frames, newId);
    return at >= itemsFrames(items) ? items : insertAt(items, at, [{ kind: 'gap', id: newId(), frames }], newId);
  });
}

/**
 * As `ripple`, but what lies across stays whole where it begins; only what follows it moves. A piece loses something of
 * its end when what follows comes up to it.
 */
export function rippleWhole(reel: Reel, at: number, frames: number, except: ReadonlySet<number>, newId: NewId): Reel {
  if (frames === 0) return reel;
  return withMoved(reel, at, frames, except, (items) => {
    const row: ReelItem[] = [];
    let [before, now] = [0, 0];
    for (const item of items) {
      const start = shifted(before, at, frames);
      before += item.frames;
      if (item.kind === 'gap') continue;
      const last = row.at(-1);
      if (start > now) row.push({ kind: 'gap', id: newId(), frames: start - now });
      else if (last && start < now) row[row.length - 1] = { ...last, frames: last.frames + start - now };
      row.push(item);
      now = start + item.frames;
    }
    return row;
  });
}

/** Moves markers and titles, and the items of every track that is not locked. */
function withMoved(
  reel: Reel,
  at: number,
  frames: number,
  except: ReadonlySet<number>,
  move: (items: readonly ReelItem[]) => readonly ReelItem[],
): Reel {
  const moved = withItems(reel, (track, index) =>
    except.has(index) || track.locked ? track.items : move(track.items),
  );
  return {
    ...moved,
    ...(reel.markers
      ? { markers: reel.markers.map((marker) => ({ ...marker, frame: shifted(marker.frame, at, frames) })) }
      : {}),
    ...(reel.titles
      ? { titles: reel.titles.map((title) => ({ ...title, frame: shifted(title.frame, at, frames) })) }
      : {}),
  };
}

/** The reel with one clip changed where it stands. */
export const changeClip = (reel: Reel, id: string, to: (clip: Clip) => Clip): Outcome =>
  done(
    withItems(reel, (track) => track.items.map((item) => (item.id === id && item.kind === 'clip' ? to(item) : item))),
  );

/** A clip with other values; undefined ones are left out of it. */
export function withValues(clip: Clip, values: { [K in keyof Clip]?: Clip[K] | undefined }): Clip {
  const next: Record<string, unknown> = { ...clip, ...values };
  for (const key of Object.keys(next)) if (next[key] === undefined) delete next[key];
  return next as unknown as Clip;
}

/** A row of items with one clip as it is now. */
export const swapped = (items: readonly ReelItem[], clip: Clip): ReelItem[] =>
  items.map((item) => (item.id === clip.id ? clip : item));

/** Puts a sound into the first track of that name in which its place is free, else into a new one. */
export function besideAt(reel: Reel, name: string, frame: number, clip: Clip, newId: () => string): Reel {
  const free = reel.tracks.findIndex(
    (track) =>
      track.kind === 'sound' &&
      track.name.startsWith(name) &&
      !track.locked &&
      isFree(track.items, frame, frame + clip.frames),
  );
  if (free >= 0)
    return withItems(reel, (track, index) =>
      index === free ? overwriteAt(track.items, frame, [clip], newId) : track.items,
    );
  const count = reel.tracks.filter((track) => track.kind === 'sound' && track.name.startsWith(name)).length;
  return {
    ...reel,
    tracks: [
      ...reel.tracks,
      { kind: 'sound', name: count ? `${name} ${count + 1}` : name, items: overwriteAt([], frame, [clip], newId) },
    ],
  };
}
