import type { CommandOf, EditResult } from '../command';
import { mainTrack, type Clip, type Reel, type ReelItem } from '../types';
import { setMusic } from './dress';
import { done, isLocked, problemOf, refuse, withItems, type Sources } from './shared';

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
export function followSlots(reel: Reel, { items, music }: CommandOf<'slots'>, sources: Sources): EditResult {
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
    : setMusic(changed, { type: 'music', music: now }, sources);
}
