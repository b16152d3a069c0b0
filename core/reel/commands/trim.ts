import { decimal } from '#core/sentences';
import { framesToSeconds } from '#core/time';
import { sourceFrames, speedOf, type Clip, type Reel, type ReelItem } from '../types';
import { idsFrom, rippleWhole, swapped, withItems } from './change';
import { done, onClip, refuse, type Outcome, type Sources } from './edit';
import { linkedWith, type FoundClip } from './found';
import { framesLeft, hundredth, problemOf } from './room';

/** Moves one end; what follows moves too, or stays in place. */
export interface Trim {
  type: 'trim';
  clip: string;
  edge: 'in' | 'out';
  frames: number;
  inPlace?: boolean;
}
export const trim = onClip<Trim>({
  apply: trimClip,
  says: ({ edge, frames }, name, { rate }) =>
    `trimmed the ${edge === 'in' ? 'start' : 'end'} of “${name}” by ${decimal(framesToSeconds(Math.abs(frames), rate), 2)} s`,
});

export const trimmed = (clip: Clip, edge: 'in' | 'out', frames: number, photo: boolean): Clip =>
  edge === 'in'
    ? {
        ...clip,
        sourceIn: photo ? 0 : hundredth(clip.sourceIn + sourceFrames(clip, frames)),
        frames: clip.frames - frames,
      }
    : { ...clip, frames: clip.frames + frames };

/** Moves one end by `frames`: positive is later, for both ends. Linked pieces that end there too are trimmed with it. */
export function trimClip(reel: Reel, found: FoundClip, command: Trim, sources: Sources): Outcome<Trim> {
  const { edge } = command;
  const frames = Math.round(command.frames);
  const { clip } = found;
  const partners = linkedWith(reel, clip).filter(
    (each) => !each.track.locked && (edge === 'in' ? each.start === found.start : each.end === found.end),
  );
  const next = [found, ...partners].map((each) => ({
    ...each,
    next: trimmed(each.clip, edge, frames, sources.get(each.clip.media)?.photo ?? false),
  }));
  for (const each of next) {
    const source = sources.get(each.clip.media);
    const problem = problemOf(each.next, source, reel);
    if (!problem) continue;
    const room =
      !source || each.next.frames < 1
        ? 0
        : edge === 'in'
          ? -Math.floor((each.clip.sourceIn * 100) / (speedOf(each.clip) || 100))
          : framesLeft(each.clip, source, reel);
    const more = edge === 'out' && source && each.next.frames >= 1 ? ` ${Math.max(0, room)} more frames are left.` : '';
    return refuse(
      problem.replace(/;.*by \d+ frames?\.$/, `;${more}`),
      room !== 0 && Number.isFinite(room)
        ? { says: `Trim by ${Math.abs(room)} frames, all there is`, command: { ...command, frames: room } }
        : undefined,
    );
  }
  const change = edge === 'in' ? -frames : frames;
  if (change === 0) return done(reel);
  const newId = idsFrom(clip.id, reel);
  const own = new Set(next.map((each) => each.trackIndex));
  if (command.inPlace || found.trackIndex > 0) return trimInPlace(reel, next, edge, change, newId, command);
  const changed = withItems(reel, (track) =>
    next.reduce<readonly ReelItem[]>((items, each) => swapped(items, each.next), track.items),
  );
  const place = edge === 'in' ? found.start : change > 0 ? found.end : found.end + change;
  return done(rippleWhole(changed, place, change, own, newId));
}

/** What is cut off becomes a gap; what is added needs a gap, or the end of the track, beside it. Above the main track everything is trimmed like this at its end. */
function trimInPlace(
  reel: Reel,
  next: (FoundClip & { next: Clip })[],
  edge: 'in' | 'out',
  change: number,
  newId: () => string,
  command: Trim,
): Outcome<Trim> {
  const rows = new Map<number, ReelItem[]>();
  for (const { track, trackIndex, index, next: clip } of next) {
    const neighbour = track.items[edge === 'in' ? index - 1 : index + 1];
    if (change < 0) {
      const gap: ReelItem = { kind: 'gap', id: newId(), frames: -change };
      rows.set(trackIndex, track.items.toSpliced(index, 1, ...(edge === 'in' ? [gap, clip] : [clip, gap])));
      continue;
    }
    if (neighbour?.kind === 'gap' && neighbour.frames >= change)
      rows.set(
        trackIndex,
        swapped(track.items, clip).map((item) =>
          item.id === neighbour.id ? { ...item, frames: item.frames - change } : item,
        ),
      );
    else if (!neighbour && edge === 'out') rows.set(trackIndex, swapped(track.items, clip));
    else {
      const room = neighbour?.kind === 'gap' ? neighbour.frames : 0;
      const side = edge === 'in' ? 'before' : 'after';
      return refuse(
        `There ${room === 1 ? 'is one free frame' : `are ${room} free frames`} ${side} “${clip.name}”; in place it cannot get longer by ${change}.`,
        trimAlternative(room, edge, command, next[0]!.trackIndex),
      );
    }
  }
  return done(withItems(reel, (track, index) => rows.get(index) ?? track.items));
}
const trimAlternative = (room: number, edge: 'in' | 'out', command: Trim, trackIndex: number) =>
  room > 0
    ? { says: `Take the ${room} free frames`, command: { ...command, frames: edge === 'in' ? -room : room } }
    : trackIndex === 0
      ? { says: 'Let the rest move', command: { ...command, inPlace: false } }
      : undefined;
