import { sourceFrames, type Clip, type Reel } from '../types';
import { withItems } from './change';
import { done, onClip, refuse, type Outcome, type Sources } from './edit';
import { linkedWith, type FoundClip } from './found';
import { hundredth, lastFrame, problemOf } from './room';
import { trimmed } from './trim';

/** Moves the cut at the beginning of a clip: the one before gets longer, this one shorter, or the other way round. */
export interface Roll {
  type: 'roll';
  clip: string;
  frames: number;
}
export const roll = onClip<Roll>({ apply: rollCut, says: (_, name) => `rolled the cut before “${name}”` });

/** Shows another stretch of the source in the same place; positive is later in the source. */
export interface Slip {
  type: 'slip';
  clip: string;
  frames: number;
}
export const slip = onClip<Slip>({ apply: slipClip, says: (_, name) => `slipped “${name}”` });

/** Moves the cut before a clip; the reel stays as long as it is. Linked sounds cut at the same place go with it. */
export function rollCut(reel: Reel, found: FoundClip, command: Roll, sources: Sources): Outcome {
  const frames = Math.round(command.frames);
  const before = found.track.items[found.index - 1];
  if (before?.kind !== 'clip')
    return refuse('There is no cut before this piece that could be moved: nothing stands directly before it.');
  const cuts: { a: Clip; b: Clip }[] = [{ a: before, b: found.clip }];
  for (const partner of linkedWith(reel, found.clip)) {
    const left = partner.track.items[partner.index - 1];
    if (
      partner.start === found.start &&
      !partner.track.locked &&
      left?.kind === 'clip' &&
      left.link !== undefined &&
      left.link === before.link
    )
      cuts.push({ a: left, b: partner.clip });
  }
  const next = new Map<string, Clip>();
  for (const { a, b } of cuts) {
    const later = trimmed(a, 'out', frames, sources.get(a.media)?.photo ?? false);
    const rest = trimmed(b, 'in', frames, sources.get(b.media)?.photo ?? false);
    const problem = problemOf(later, sources.get(a.media), reel) ?? problemOf(rest, sources.get(b.media), reel);
    if (problem) return refuse(problem);
    next.set(a.id, later).set(b.id, rest);
  }
  return done(withItems(reel, (track) => track.items.map((item) => next.get(item.id) ?? item)));
}

/** Another stretch of the source in the same place; a sound slips by hundredths of a frame. */
function slipClip(reel: Reel, found: FoundClip, command: Slip, sources: Sources): Outcome<Slip> {
  const frames = found.track.kind === 'sound' ? hundredth(command.frames) : Math.round(command.frames);
  const source = sources.get(found.clip.media);
  if (source?.photo) return refuse('A photo is the same at every time; there is nothing to slip.');
  const partners =
    found.track.kind === 'picture'
      ? linkedWith(reel, found.clip).filter((each) => !each.track.locked && each.clip.media === found.clip.media)
      : [];
  const next = new Map<string, Clip>();
  for (const { clip } of [found, ...partners]) {
    const moved = { ...clip, sourceIn: hundredth(clip.sourceIn + frames) };
    const problem = problemOf(moved, sources.get(clip.media), reel);
    if (problem) {
      const room = !source
        ? 0
        : frames < 0
          ? -clip.sourceIn
          : Math.floor(lastFrame(source, reel) - clip.sourceIn - sourceFrames(clip, clip.frames));
      return refuse(
        problem,
        room !== 0
          ? { says: `Slip by ${Math.abs(room)} frames, all there is`, command: { ...command, frames: room } }
          : undefined,
      );
    }
    next.set(clip.id, moved);
  }
  return done(withItems(reel, (track) => track.items.map((item) => next.get(item.id) ?? item)));
}
