import { overwriteAt } from '../items';
import type { Reel, ReelItem } from '../types';
import { idsFrom, withItems } from './change';
import { done, onClip, refuse, type Outcome } from './edit';
import { linkedWith, locate, type FoundClip } from './found';

/** To another place in the order of its track. */
export interface Move {
  type: 'move';
  clip: string;
  to: number;
}
export const move = onClip<Move>({ apply: moveClip, says: ({ to }, name) => `moved “${name}” to place ${to + 1}` });

/** A clip above or beside the main track, to another frame. */
export interface Place {
  type: 'place';
  clip: string;
  at: number;
}
export const place = onClip<Place>({ apply: placeClip, says: (_, name) => `put “${name}” elsewhere` });

/** To another place in the order; linked sounds follow their pictures. */
function moveClip(reel: Reel, found: FoundClip, { to }: Move): Outcome {
  const place = Math.max(0, Math.min(found.track.items.length - 1, Math.round(to)));
  const items = found.track.items.toSpliced(found.index, 1).toSpliced(place, 0, found.clip);
  return done(
    followLinks(
      reel,
      withItems(reel, (track, index) => (index === found.trackIndex ? items : track.items)),
    ),
  );
}

/** Puts linked sounds back to where they stood against their pictures, after pictures changed their order. */
function followLinks(before: Reel, after: Reel): Reel {
  const pairs = after.tracks.flatMap((track) =>
    track.kind === 'sound' && !track.locked
      ? track.items.flatMap((item) => (item.kind === 'clip' && item.link !== undefined ? [item] : []))
      : [],
  );
  const wanted = pairs.flatMap((sound) => {
    const picture = linkedWith(after, sound).find((each) => each.track.kind === 'picture');
    const was = picture && locate(before, picture.clip.id);
    const heard = locate(after, sound.id)!;
    return picture && was && picture.start !== was.start
      ? [{ ...heard, to: Math.max(0, heard.start + picture.start - was.start) }]
      : [];
  });
  if (wanted.length === 0) return after;
  const newId = idsFrom(wanted[0]!.clip.id, after);
  const emptied = withTracksKept(after, (items) =>
    items.map((item) =>
      wanted.some(({ clip }) => clip.id === item.id) ? { kind: 'gap', id: newId(), frames: item.frames } : item,
    ),
  );
  return withItems(emptied, (track, index) =>
    wanted
      .filter((each) => each.trackIndex === index)
      .sort((a, b) => a.to - b.to)
      .reduce((items, each) => overwriteAt(items, each.to, [each.clip], newId), track.items),
  );
}
const withTracksKept = (reel: Reel, change: (items: readonly ReelItem[]) => ReelItem[]): Reel => ({
  ...reel,
  tracks: reel.tracks.map((track) => ({ ...track, items: change(track.items) })),
});

/** A clip above or beside the main track goes to another frame, when there is room. */
function placeClip(reel: Reel, found: FoundClip, { at }: Place): Outcome {
  if (found.trackIndex === 0) return refuse('A piece of the main track is moved in its order.');
  const to = Math.max(0, Math.round(at));
  const newId = idsFrom(found.clip.id, reel);
  const others = found.track.items.toSpliced(found.index, 1, { kind: 'gap', id: newId(), frames: found.clip.frames });
  let from = 0;
  for (const item of others) {
    if (item.kind === 'clip' && from < to + found.clip.frames && from + item.frames > to)
      return refuse(`“${item.name}” stands there already.`);
    from += item.frames;
  }
  return done(
    withItems(reel, (track, index) =>
      index === found.trackIndex ? overwriteAt(others, to, [found.clip], newId) : track.items,
    ),
  );
}
