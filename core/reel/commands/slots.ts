import { mainTrack, type Clip, type Gap, type Music, type Reel, type ReelItem } from '../types';
import { withItems } from './change';
import { done, refuse, type Edit, type Outcome, type Sources } from './edit';
import { isLocked } from './found';
import { setMusic } from './music';
import { problemOf } from './room';

/** The pieces of a montage as its slots stand now, and its music; what was done to a piece's look stays. */
export interface FollowSlots {
  type: 'slots';
  items: (Clip | Gap)[];
  music: Music;
}
export const slots: Edit<FollowSlots> = { apply: followSlots, says: () => 'followed the slots of the montage' };

/** What a slot says about its piece; all else about a clip was done in the reel, and stays. */
function dressed(clip: Clip, before: Clip | undefined): Clip {
  if (!before || before.media !== clip.media) return clip;
  const { sourceIn: _, frames: __, speed: ___, ...kept } = before;
  const next: Clip = {
    ...kept,
    sourceIn: clip.sourceIn,
    frames: clip.frames,
    ...(clip.speed === undefined ? {} : { speed: clip.speed }),
  };
  for (const fade of ['fadeIn', 'fadeOut'] as const) if ((next[fade] ?? 0) > next.frames) delete next[fade];
  return next;
}

/**
 * The main track as the slots of its montage stand now. Pieces that were put in by hand stay behind the slot they
 * followed; slots that are gone take their pieces with them.
 */
function followSlots(reel: Reel, { items, music }: FollowSlots, sources: Sources): Outcome {
  const main = mainTrack(reel);
  const locked = isLocked(main);
  if (locked) return refuse(locked);
  for (const item of items) {
    const problem = item.kind === 'clip' ? problemOf(item, sources.get(item.media), reel) : null;
    if (problem) return refuse(problem);
  }
  const before = new Map(main.items.flatMap((item) => (item.kind === 'clip' ? [[item.id, item] as const] : [])));
  const ids = new Set(items.map((item) => item.id));
  // What no slot made, by the item before it; null at the beginning.
  const byHand = new Map<string | null, ReelItem[]>();
  let after: string | null = null;
  for (const item of main.items) {
    if (item.kind === 'clip' && item.slot === undefined) byHand.set(after, [...(byHand.get(after) ?? []), item]);
    else if (ids.has(item.id)) after = item.id;
  }
  const next = [
    ...(byHand.get(null) ?? []),
    ...items.flatMap((item): ReelItem[] => [
      item.kind === 'clip' ? dressed(item, before.get(item.id)) : item,
      ...(byHand.get(item.id) ?? []),
    ]),
  ];
  const changed = withItems(reel, (track, index) => (index === 0 ? next : track.items));
  const now = { ...reel.music, ...music };
  return reel.music?.media === music.media &&
    reel.music.startSeconds === music.startSeconds &&
    reel.music.fadeOutSeconds === music.fadeOutSeconds
    ? done(changed)
    : setMusic(changed, now, sources);
}
