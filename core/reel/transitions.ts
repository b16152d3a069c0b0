import { framesBefore, framesLeft } from './commands/room';
import { isCross, type Clip, type Reel, type ReelItem, type Source, type TransitionKind } from './types';

/** Frames of a transition before the cut; the rest lies after it. */
export const beforeCut = (frames: number): number => Math.floor(frames / 2);

/**
 * How long a transition into an item can be: half of it takes the footage beyond the end of the piece before, half
 * what lies before the beginning of this one; each piece keeps half of itself for the transition at its other end.
 * Dips show nothing beyond the cut and only need the pieces themselves.
 */
export function handleFrames(
  items: readonly ReelItem[],
  index: number,
  kind: TransitionKind,
  sources: ReadonlyMap<string, Source>,
  reel: Pick<Reel, 'rate'>,
): number {
  const [a, b] = [items[index - 1], items[index]];
  if (a?.kind !== 'clip' || b?.kind !== 'clip') return 0;
  const room = (clip: Clip, other: Clip | undefined) =>
    clip.frames - (other?.into ? Math.ceil(other.into.frames / 2) : 0) - 1;
  // At its other ends each piece may have a transition already.
  const before = room(a, a.into ? a : undefined);
  const next = items[index + 1];
  const after = room(b, next?.kind === 'clip' && next.into ? next : undefined);
  const limits = [before * 2, after * 2];
  if (isCross(kind)) {
    const [from, to] = [sources.get(a.media), sources.get(b.media)];
    if (!from || !to) return 0;
    const beyond = framesLeft(a, from, reel);
    const earlier = framesBefore(b, to);
    // Of n frames, ceil(n / 2) lie after the cut, floor(n / 2) before it.
    limits.push(beyond * 2, earlier * 2 + 1);
  }
  return Math.max(0, Math.min(...limits));
}

/** Shortens or takes away transitions that no longer fit after an edit, and says so. */
export function settleTransitions(
  reel: Reel,
  sources: ReadonlyMap<string, Source>,
): { reel: Reel; note: string | null } {
  const notes: string[] = [];
  let changed = false;
  const tracks = reel.tracks.map((track) => {
    if (!track.items.some((item) => item.kind === 'clip' && item.into)) return track;
    const items = [...track.items];
    for (const [index, item] of track.items.entries()) {
      if (item.kind !== 'clip' || !item.into) continue;
      const room = handleFrames(items, index, item.into.kind, sources, reel);
      if (item.into.frames <= room) continue;
      changed = true;
      const { into, ...plain } = item;
      items[index] = room >= 2 ? { ...item, into: { ...into, frames: room } } : plain;
      notes.push(
        room >= 2
          ? `The transition into “${item.name}” has ${room} frames now: there is no more footage beyond the cut.`
          : `The transition into “${item.name}” became a cut: there is no footage beyond it.`,
      );
    }
    return { ...track, items };
  });
  return changed
    ? {
        reel: { ...reel, tracks },
        note:
          notes.length > 2
            ? `${notes.length} transitions became shorter or cuts: there is no footage beyond them.`
            : notes.join(' '),
      }
    : { reel, note: null };
}
