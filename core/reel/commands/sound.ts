import { isLevel } from '../level';
import type { Reel } from '../types';
import { changeClip, withValues } from './change';
import { onClip, refuse, type Outcome } from './edit';
import type { FoundClip } from './found';

/** Level of a clip's sound in dB, or whether it is heard at all. */
export interface Sound {
  type: 'sound';
  clip: string;
  levelDb?: number;
  muted?: boolean;
}
export const sound = onClip<Sound>({
  apply: setSound,
  says: ({ muted }, name) =>
    muted === undefined ? `set the level of “${name}”` : `${muted ? 'muted' : 'unmuted'} “${name}”`,
});

export interface SetFade {
  type: 'fade';
  clip: string;
  edge: 'in' | 'out';
  frames: number;
}
export const fade = onClip<SetFade>({ apply: setFade, says: (_, name) => `faded “${name}”` });

function setSound(
  reel: Reel,
  found: FoundClip,
  { levelDb = found.clip.levelDb ?? 0, muted = found.clip.muted ?? false }: Sound,
): Outcome {
  if (!isLevel(levelDb)) return refuse('A level lies between −60 and +12 dB.');
  return changeClip(reel, found.clip.id, (clip) =>
    withValues(clip, { levelDb: levelDb === 0 ? undefined : levelDb, muted: muted || undefined }),
  );
}

function setFade(reel: Reel, found: FoundClip, { edge, frames }: SetFade): Outcome<SetFade> {
  const length = Math.round(frames);
  const other = (edge === 'in' ? found.clip.fadeOut : found.clip.fadeIn) ?? 0;
  if (length < 0 || length + other > found.clip.frames)
    return refuse(`“${found.clip.name}” has ${found.clip.frames - other} frames for a fade.`, {
      says: 'Fade over all of them',
      command: { type: 'fade', clip: found.clip.id, edge, frames: found.clip.frames - other },
    });
  return changeClip(reel, found.clip.id, (clip) =>
    withValues(clip, { [edge === 'in' ? 'fadeIn' : 'fadeOut']: length || undefined }),
  );
}
