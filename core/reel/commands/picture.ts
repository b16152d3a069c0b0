import type { Framing, Steady, StillMove } from '#core/framing';
import type { Reel } from '../types';
import { changeClip, withValues } from './change';
import { done, onClip, refuse, type Edit, type Outcome, type Sources } from './edit';
import { locate, type FoundClip } from './found';

/** A slow move over a photo. */
export interface SetStillMove {
  type: 'stillMove';
  clip: string;
  move: StillMove | null;
}
export const stillMove = onClip<SetStillMove>({
  apply: setStillMove,
  says: (_, name) => `changed the move over “${name}”`,
});

export interface SetSteady {
  type: 'steady';
  clip: string;
  steady: Steady | null;
}
export const steady = onClip<SetSteady>({ apply: setSteady, says: (_, name) => `steadied “${name}”` });

/** Which part of its picture a clip shows in a frame of another shape; several at once when they were computed together. */
export interface SetFraming {
  type: 'framing';
  framings: { clip: string; framing: Framing | null }[];
}
export const framing: Edit<SetFraming> = { apply: setFraming, says: () => 'framed the picture' };

const isFrame = ({ x, y, width, height }: { x: number; y: number; width: number; height: number }) =>
  x >= 0 && y >= 0 && width >= 0.05 && height >= 0.05 && x + width <= 1.0001 && y + height <= 1.0001;

function setStillMove(reel: Reel, { clip }: FoundClip, { move }: SetStillMove, sources: Sources): Outcome {
  if (move && !sources.get(clip.media)?.photo) return refuse('Slow moves are for photos.');
  if (move && !(isFrame(move.from) && isFrame(move.to))) return refuse('A frame of the move lies outside the photo.');
  return changeClip(reel, clip.id, (own) => withValues(own, { move: move ?? undefined }));
}

function setSteady(reel: Reel, { clip }: FoundClip, { steady }: SetSteady, sources: Sources): Outcome {
  if (steady && sources.get(clip.media)?.photo) return refuse('A photo stands still already.');
  if (steady && ![steady.position, steady.rotation, steady.scale].every((value) => value >= 0 && value <= 1))
    return refuse('Strengths lie between 0 and 1.');
  return changeClip(reel, clip.id, (own) => withValues(own, { steady: steady ?? undefined }));
}

const isShare = (value: number) => value >= 0 && value <= 1;
/** The subjects and paths are what `core/framing` gives; here only their form is checked. */
function setFraming(reel: Reel, { framings }: SetFraming, sources: Sources): Outcome {
  let now = reel;
  for (const { clip, framing } of framings) {
    const found = locate(now, clip);
    if (!found) return refuse('This piece is not in the reel any more.');
    if (framing && sources.get(found.clip.media)?.photo) return refuse('A photo is framed by its move.');
    if (framing && !(framing.zoom >= 1 && framing.zoom <= 4)) return refuse('A crop comes closer by 1 to 4 times.');
    const points = framing ? [...framing.path, ...(framing.below ?? [])] : [];
    if (
      framing &&
      (framing.path.length === 0 ||
        points.some(([seconds, x, y]) => !(seconds >= 0) || !isShare(x) || !isShare(y)) ||
        framing.keys.some(({ x, y }) => !isShare(x) || !isShare(y)))
    )
      return refuse('The crop lies outside the picture.');
    const result = changeClip(now, clip, (own) => withValues(own, { framing: framing ?? undefined }));
    if (!result.ok) return result;
    now = result.reel;
  }
  return done(now);
}
