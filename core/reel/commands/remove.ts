import type { Reel } from '../types';
import { idsFrom, ripple, withItems } from './change';
import { done, onClip, refuse, type Outcome } from './edit';
import { isLocked, linkedWith, type FoundClip } from './found';

/** Takes a clip out and closes the gap, in all tracks when it is in the main one; its linked sound goes with it. */
export interface Remove {
  type: 'remove';
  clip: string;
}
export const remove = onClip<Remove>({ apply: removeClip, says: (_, name) => `took out “${name}”` });

/** Takes a clip out, and its linked sound, and leaves a gap as long. */
export interface Lift {
  type: 'lift';
  clip: string;
}
export const lift = onClip<Lift>({ apply: liftClip, says: (_, name) => `lifted “${name}”` });

/** A clip and what is linked with it and not locked become gaps. */
function liftClip(reel: Reel, found: FoundClip): Outcome {
  const newId = idsFrom(found.clip.id, reel);
  const gone = [found, ...(found.track.kind === 'picture' ? linkedWith(reel, found.clip) : [])];
  const locked = gone.map(({ track }) => isLocked(track)).find(Boolean);
  if (locked) return refuse(locked);
  return done(
    withItems(reel, (track) =>
      track.items.map((item) =>
        gone.some(({ clip }) => clip.id === item.id) ? { kind: 'gap', id: newId(), frames: item.frames } : item,
      ),
    ),
  );
}

export function removeClip(reel: Reel, found: FoundClip): Outcome {
  const lifted = liftClip(reel, found);
  if (!lifted.ok || found.trackIndex > 0) return lifted;
  const items = found.track.items.toSpliced(found.index, 1);
  const own = withItems(lifted.reel, (track, index) => (index === 0 ? items : track.items));
  return done(ripple(own, found.start, -found.clip.frames, new Set([0]), idsFrom(found.clip.id, own)));
}
