import { counted } from '#core/sentences';
import { framesPerSecond } from '#core/time';
import { handleFrames } from '../transitions';
import { isCross, mainTrack, type Reel, type ReelItem, type Transition } from '../types';
import { changeClip, withItems, withValues } from './change';
import { onClip, refuse, type Edit, type Outcome, type Sources } from './edit';
import type { FoundClip } from './found';

/** How the piece before goes over into this one. */
export interface SetTransition {
  type: 'transition';
  clip: string;
  into: Transition | null;
}
export const transition = onClip<SetTransition>({
  apply: setTransition,
  says: ({ into }, name) => (into ? `put a transition before “${name}”` : `made a cut before “${name}”`),
});

/** The same at every cut of the main track, as long as the footage beyond each allows. */
export interface SetTransitions {
  type: 'transitions';
  into: Transition | null;
}
export const transitions: Edit<SetTransitions> = {
  apply: (reel, { into }, sources) => setTransitions(reel, into, sources),
  says: ({ into }) => (into ? 'put a transition at every cut' : 'made every transition a cut'),
};

/** Beyond this a transition is a picture of its own. Common practice, no source. */
const longestTransitionSeconds = 10;

function setTransition(
  reel: Reel,
  found: FoundClip,
  { into }: SetTransition,
  sources: Sources,
): Outcome<SetTransition> {
  if (!into) return changeClip(reel, found.clip.id, (clip) => withValues(clip, { into: undefined }));
  const frames = Math.round(into.frames);
  if (frames < 2 || frames > longestTransitionSeconds * framesPerSecond(reel.rate))
    return refuse(`A transition lasts 2 frames to ${longestTransitionSeconds} seconds.`);
  if (isCross(into.kind) && found.track.items[found.index - 1]?.kind !== 'clip')
    return refuse('A transition needs a piece directly before this one.');
  const room = handleFrames(found.track.items, found.index, into.kind, sources, reel);
  if (frames > room) {
    const instead =
      room >= 2
        ? {
            says: `Take ${room} frames`,
            command: { type: 'transition' as const, clip: found.clip.id, into: { kind: into.kind, frames: room } },
          }
        : undefined;
    return refuse(
      `The footage beyond this cut is enough for ${counted(room, 'frame')} of it, not for ${frames}.`,
      instead,
    );
  }
  return changeClip(reel, found.clip.id, (clip) => ({ ...clip, into: { kind: into.kind, frames } }));
}

/** Shorter, or not at all, where there is not enough footage. */
export function setTransitions(reel: Reel, into: Transition | null, sources: Sources): Outcome & { ok: true } {
  let short = 0;
  let none = 0;
  let items = mainTrack(reel).items.map((item): ReelItem =>
    item.kind === 'clip' ? withValues(item, { into: undefined }) : item,
  );
  if (into)
    for (let index = 1; index < items.length; index++) {
      const item = items[index]!;
      if (item.kind !== 'clip' || items[index - 1]!.kind !== 'clip') continue;
      const frames = Math.min(Math.round(into.frames), handleFrames(items, index, into.kind, sources, reel));
      if (frames < 2) none++;
      else {
        if (frames < into.frames) short++;
        items = items.with(index, { ...item, into: { kind: into.kind, frames } });
      }
    }
  const parts = [short && `${short} became shorter`, none && `${counted(none, 'stays a cut', 'stay cuts')}`].filter(
    Boolean,
  );
  return {
    ok: true,
    reel: withItems(reel, (track, index) => (index === 0 ? items : track.items)),
    ...(parts.length ? { note: `${parts.join(' and ')}: not enough footage beyond the cut.` } : {}),
  };
}
