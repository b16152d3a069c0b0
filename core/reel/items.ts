import { itemsFrames, sourceFrames, type Clip, type ReelItem } from './types';

/**
 * Operations on the items of one track. Frames count from the track's beginning; nothing given is changed. `newId`
 * names what a cut makes new.
 */
export type NewId = () => string;

const without = <K extends keyof Clip>(clip: Clip, ...keys: K[]): Clip => {
  const rest = { ...clip };
  for (const key of keys) delete rest[key];
  return rest;
};

/** A clip cut in two: what belongs to one end stays there; a link is told apart, so that both halves can be linked again. */
export function halves(clip: Clip, into: number, id: string): [Clip, Clip] {
  const link = clip.link === undefined ? {} : { link: `${clip.link}/${into}` };
  const rest = {
    ...without(clip, 'into', 'fadeIn'),
    id,
    sourceIn: Math.round((clip.sourceIn + sourceFrames(clip, into)) * 100) / 100,
    frames: clip.frames - into,
    ...link,
  };
  return [{ ...without(clip, 'fadeOut'), frames: into }, rest];
}

/** The items before and after a frame; an item across it is cut in two, its first part keeps the id. */
export function cutAt(items: readonly ReelItem[], frame: number, newId: NewId): [ReelItem[], ReelItem[]] {
  let at = 0;
  for (const [index, item] of items.entries()) {
    if (frame <= at) return [items.slice(0, index), items.slice(index)];
    const into = frame - at;
    if (into < item.frames) {
      const [first, rest]: [ReelItem, ReelItem] =
        item.kind === 'clip'
          ? halves(item, into, newId())
          : [
              { ...item, frames: into },
              { ...item, id: newId(), frames: item.frames - into },
            ];
      return [
        [...items.slice(0, index), first],
        [rest, ...items.slice(index + 1)],
      ];
    }
    at += item.frames;
  }
  return [[...items], []];
}

/** Gaps that touch become one, and one at the end means nothing. */
export function tidy(items: readonly ReelItem[]): ReelItem[] {
  const out: ReelItem[] = [];
  for (const item of items) {
    const last = out.at(-1);
    if (item.frames < 1) continue;
    if (item.kind === 'gap' && last?.kind === 'gap')
      out[out.length - 1] = { ...last, frames: last.frames + item.frames };
    else out.push(item);
  }
  while (out.at(-1)?.kind === 'gap') out.pop();
  return out;
}

const padded = (items: readonly ReelItem[], frames: number, newId: NewId): ReelItem[] => {
  const missing = frames - itemsFrames(items);
  return missing > 0 ? [...items, { kind: 'gap', id: newId(), frames: missing }] : [...items];
};

/** Puts items in at a frame; what comes after moves back. Beyond the end a gap leads up to them. */
export function insertAt(
  items: readonly ReelItem[],
  frame: number,
  added: readonly ReelItem[],
  newId: NewId,
): ReelItem[] {
  const [before, after] = cutAt(items, frame, newId);
  return tidy([...padded(before, frame, newId), ...added, ...after]);
}

/** Puts items over what is there; nothing moves. */
export function overwriteAt(
  items: readonly ReelItem[],
  frame: number,
  added: readonly ReelItem[],
  newId: NewId,
): ReelItem[] {
  const [before, rest] = cutAt(items, frame, newId);
  const [, after] = cutAt(rest, itemsFrames(added), newId);
  return tidy([...padded(before, frame, newId), ...added, ...after]);
}

/** Takes a stretch out; what comes after moves up. */
export function takeOut(items: readonly ReelItem[], from: number, to: number, newId: NewId): ReelItem[] {
  const [before, rest] = cutAt(items, from, newId);
  const [, after] = cutAt(rest, to - from, newId);
  return tidy([...before, ...after]);
}

/** Whether no clip lies anywhere between two frames. */
export function isFree(items: readonly ReelItem[], from: number, to: number): boolean {
  let at = 0;
  for (const item of items) {
    if (item.kind === 'clip' && at < to && at + item.frames > from) return false;
    at += item.frames;
  }
  return true;
}
