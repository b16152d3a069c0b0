import { insertAt } from '../items';
import { itemsFrames, mainTrack, type Reel } from '../types';
import { idsFrom, ripple, withItems } from './change';
import { done, onClip, refuse, type Edit, type Outcome } from './edit';
import { isLocked, type FoundClip } from './found';
import { removeClip } from './remove';

/** Takes a clip out because it went to another reel; its place is remembered. */
export interface HandOver {
  type: 'handOver';
  clip: string;
}
export const handOver = onClip<HandOver>({
  apply: handOverClip,
  says: (_, name) => `moved “${name}” to another reel`,
});

/** Puts a clip that was handed over back to its place. */
export interface TakeBack {
  type: 'takeBack';
  clip: string;
}
export const takeBack: Edit<TakeBack> = {
  apply: (reel, { clip }) => takeBackClip(reel, clip),
  says: () => 'took a piece back from another reel',
};

function handOverClip(reel: Reel, found: FoundClip): Outcome {
  if (found.trackIndex !== 0) return refuse('Only pieces of the main track can be moved to another reel.');
  const { items } = found.track;
  const result = removeClip(reel, found);
  if (!result.ok) return result;
  const before = items.slice(found.index + 1).find((item) => item.kind === 'clip')?.id ?? null;
  // What was moved from just before this piece now stands before what follows it.
  const moved = (reel.moved ?? []).map((each) => (each.before === found.clip.id ? { ...each, before } : each));
  const { link: _, ...clip } = found.clip;
  return done({ ...result.reel, moved: [...moved, { clip, before }] });
}

function takeBackClip(reel: Reel, id: string): Outcome {
  const own = reel.moved?.find((each) => each.clip.id === id);
  if (!own) return refuse('This piece was not moved away, or it is back already.');
  const main = mainTrack(reel);
  const locked = isLocked(main);
  if (locked) return refuse(locked);
  const index = own.before === null ? -1 : main.items.findIndex((item) => item.id === own.before);
  const place = index < 0 ? itemsFrames(main.items) : itemsFrames(main.items.slice(0, index));
  const newId = idsFrom(id, reel);
  const back = ripple(
    withItems(reel, (track, at) => (at === 0 ? insertAt(track.items, place, [own.clip], newId) : track.items)),
    place,
    own.clip.frames,
    new Set([0]),
    newId,
  );
  return done({ ...back, moved: reel.moved!.filter((each) => each !== own) });
}
