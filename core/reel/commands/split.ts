import { cutAt } from '../items';
import type { Reel, ReelItem } from '../types';
import { idsFrom, withItems } from './change';
import { done, onClip, refuse, type Outcome } from './edit';
import { linkedWith, type FoundClip } from './found';

/** Cuts a clip in two at frame `at` of it. */
export interface Split {
  type: 'split';
  clip: string;
  at: number;
  newId: string;
}
export const split = onClip<Split>({ apply: splitClip, says: (_, name) => `split “${name}”` });

function splitClip(reel: Reel, found: FoundClip, command: Split): Outcome {
  const at = Math.round(command.at);
  if (at < 1 || at >= found.clip.frames)
    return refuse('The cut lies at the edge of the piece; there is nothing to split.');
  const newId = idsFrom(found.clip.id, reel);
  const frame = found.start + at;
  const partners = new Set(
    linkedWith(reel, found.clip)
      .filter((each) => !each.track.locked && frame > each.start && frame < each.end)
      .map((each) => each.trackIndex),
  );
  // The second halves share a link of their own.
  const relink = (half: ReelItem): ReelItem =>
    half.kind === 'clip' && found.clip.link !== undefined ? { ...half, link: command.newId } : half;
  return done(
    withItems(reel, (track, index) => {
      if (index !== found.trackIndex && !partners.has(index)) return track.items;
      const [before, after] = cutAt(track.items, frame, index === found.trackIndex ? () => command.newId : newId);
      return [...before, ...after.slice(0, 1).map(relink), ...after.slice(1)];
    }),
  );
}
