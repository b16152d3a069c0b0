import type { Fit } from '#core/framing';
import type { Look } from '#core/look';
import type { Reel } from '../types';
import { changeClip, withValues } from './change';
import { done, ownPiece, refuse, type Edit, type Outcome } from './edit';

/** Of one clip, or of all that have none of their own. */
export interface SetLook {
  type: 'look';
  clip: string | null;
  look: Look | null;
}
export const look: Edit<SetLook> = {
  apply: onClipOrReel(setLook),
  says: ({ clip }, name) => (clip === null ? 'changed the look of the reel' : `changed the look of “${name}”`),
};

/** How a picture of another shape fills the frame: of one clip, or of all that have none of their own. */
export interface SetFit {
  type: 'fit';
  clip: string | null;
  fit: Fit | null;
}
export const fit: Edit<SetFit> = {
  apply: onClipOrReel(setFit),
  says: ({ clip }, name) =>
    clip === null ? 'changed how pictures fill the frame' : `changed how “${name}” fills the frame`,
};

function onClipOrReel<C extends { clip: string | null }>(set: (reel: Reel, command: C) => Outcome) {
  return (reel: Reel, command: C): Outcome => {
    const found = command.clip === null ? null : ownPiece(reel, command.clip);
    return found && 'ok' in found ? found : set(reel, command);
  };
}

export const plainLook: Look = { exposure: 0, contrast: 0, saturation: 0, temperature: 0 };
const inRange = (value: number): boolean => value >= -1 && value <= 1;

function setLook(reel: Reel, { clip, look }: SetLook): Outcome {
  if (look && ![look.exposure, look.contrast, look.saturation, look.temperature].every(inRange))
    return refuse('Every number of a look lies between −1 and 1.');
  if (clip !== null) return changeClip(reel, clip, (own) => withValues(own, { look: look ?? undefined }));
  const { look: _, ...rest } = reel;
  return done(look ? { ...rest, look } : rest);
}

function setFit(reel: Reel, { clip, fit }: SetFit): Outcome {
  if (clip !== null) return changeClip(reel, clip, (own) => withValues(own, { fit: fit ?? undefined }));
  const { fit: _, ...rest } = reel;
  return done(fit ? { ...rest, fit } : rest);
}
