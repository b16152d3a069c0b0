import { halves } from '../items';
import { sourceFrames, speedOf, type Clip, type Reel, type ReelItem } from '../types';
import { idsFrom, rippleWhole, swapped, withItems } from './change';
import { done, onClip, refuse, type Outcome, type Sources } from './edit';
import { linkedWith, type FoundClip } from './found';
import { hundredth, problemOf } from './room';

/** 25 to 400 per cent, or 0 for a held frame. The piece gets shorter or longer, or keeps its length and shows more or less. */
export interface Speed {
  type: 'speed';
  clip: string;
  percent: number;
  keepLength?: boolean;
}
export const speed = onClip<Speed>({
  apply: setSpeed,
  says: ({ percent }, name) => (percent === 0 ? `held “${name}”` : `set “${name}” to ${percent} %`),
});

/** Holds the frame `at` of a clip for so many frames, between its two halves. */
export interface Hold {
  type: 'hold';
  clip: string;
  at: number;
  frames: number;
  newId: string;
}
export const hold = onClip<Hold>({ apply: holdFrame, says: (_, name) => `held a frame of “${name}”` });

function setSpeed(reel: Reel, found: FoundClip, { percent, keepLength }: Speed, sources: Sources): Outcome<Speed> {
  if (percent !== 0 && !(percent >= 25 && percent <= 400))
    return refuse('Speed goes from 25 to 400 per cent; 0 holds the first frame.');
  const { clip } = found;
  if (sources.get(clip.media)?.photo) return refuse('A photo has no speed; give it another length instead.');
  const linked = linkedWith(reel, clip).filter((each) => !each.track.locked);
  if (percent === 0 && linked.length > 0) return refuse('A held frame has no sound. Unlink the sound first.');
  const newId = idsFrom(clip.id, reel);
  const change = (each: Clip): Clip => {
    const kept = keepLength || percent === 0 || speedOf(each) === 0;
    const { speed: _, ...plain } = each;
    return {
      ...plain,
      sourceIn: each.sourceIn,
      frames: kept ? each.frames : Math.max(1, Math.round((sourceFrames(each, each.frames) * 100) / percent)),
      ...(percent === 100 ? {} : { speed: percent }),
    };
  };
  const next = [found, ...linked].map((each) => ({ ...each, next: change(each.clip) }));
  for (const each of next) {
    const problem = problemOf(each.next, sources.get(each.next.media), reel);
    if (problem)
      return refuse(
        problem,
        keepLength
          ? { says: 'Let the piece change its length', command: { type: 'speed', clip: clip.id, percent } }
          : undefined,
      );
  }
  const difference = next[0]!.next.frames - clip.frames;
  if (found.trackIndex > 0 && difference > 0) {
    const after = found.track.items[found.index + 1];
    if (after && !(after.kind === 'gap' && after.frames >= difference))
      return refuse(`There is no room after “${clip.name}” for ${difference} more frames.`);
  }
  const changed = withItems(reel, (track, index) => {
    const items = next.reduce<readonly ReelItem[]>((row, each) => swapped(row, each.next), track.items);
    if (index === 0 || index !== found.trackIndex || difference === 0) return items;
    const gap = items[found.index + 1];
    if (difference < 0) return items.toSpliced(found.index + 1, 0, { kind: 'gap', id: newId(), frames: -difference });
    return gap
      ? items.map((item) => (item.id === gap.id ? { ...item, frames: item.frames - difference } : item))
      : items;
  });
  if (found.trackIndex > 0) return done(changed);
  return done(
    rippleWhole(
      changed,
      difference > 0 ? found.end : found.end + difference,
      difference,
      new Set(next.map((each) => each.trackIndex)),
      newId,
    ),
  );
}

/** A held frame between the two halves of a clip; silent. */
function holdFrame(reel: Reel, found: FoundClip, command: Hold): Outcome {
  const at = Math.round(command.at);
  const frames = Math.round(command.frames);
  if (found.trackIndex > 0) return refuse('Frames are held in the main track.');
  if (frames < 1) return refuse('A held frame lasts at least one frame.');
  if (at < 0 || at >= found.clip.frames) return refuse('This frame is not in the piece.');
  const newId = idsFrom(found.clip.id, reel);
  const { into: _, fadeIn: __, fadeOut, link: ___, ...plain } = found.clip;
  const held: Clip = {
    ...plain,
    id: command.newId,
    sourceIn: hundredth(found.clip.sourceIn + sourceFrames(found.clip, at)),
    frames,
    speed: 0,
    muted: true,
  };
  // Held after its last frame, the piece is not cut.
  const whole = at === found.clip.frames - 1;
  const parts: ReelItem[] =
    at === 0
      ? [held, found.clip]
      : whole
        ? [{ ...found.clip }, { ...held, ...(fadeOut ? { fadeOut } : {}) }]
        : halves(found.clip, at, newId()).toSpliced(1, 0, held);
  if (whole && at > 0) delete (parts[0] as Clip).fadeOut;
  const changed = withItems(reel, (track, index) =>
    index === 0 ? track.items.toSpliced(found.index, 1, ...parts) : track.items,
  );
  const place = found.start + (at === 0 ? 0 : whole ? found.clip.frames : at);
  return done(rippleWhole(changed, place, frames, new Set([0]), newId));
}
