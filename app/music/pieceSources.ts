import type { MontagePiece } from '#core/montage';
import { clipsOf, speedOf, type Reel } from '#core/reel';
import { framesToSeconds } from '#core/time';
import type { Item } from '#usecases/projects';
import { newId } from '../newId';

/** How long a photo stands at the most, in seconds. */
export const photoSeconds = 4;

const kindOf = (items: readonly Item[], media: string) => items.find((item) => item.id === media)?.probe?.kind;

/** The pieces of a reel that can be seen, as pieces of a montage. */
export function piecesOfReel({ rate, ...reel }: Reel, items: readonly Item[]): MontagePiece[] {
  return clipsOf({ rate, ...reel })
    .filter((clip) => kindOf(items, clip.media) !== 'sound')
    .map((clip) => {
      const piece = { id: newId(), media: clip.media, name: clip.name };
      const start = framesToSeconds(clip.sourceIn, rate);
      if (kindOf(items, clip.media) === 'photo') return { ...piece, start, end: photoSeconds, photo: true };
      return { ...piece, start, end: start + framesToSeconds((clip.frames * speedOf(clip)) / 100, rate) };
    });
}

/** Every file that was read and can be seen, whole or between its default in and out. */
export function piecesOfFiles(items: readonly Item[]): MontagePiece[] {
  return items.flatMap((item): MontagePiece[] => {
    const { probe } = item;
    if (!probe || probe.kind === 'sound' || item.problem) return [];
    const piece = {
      id: newId(),
      media: item.id,
      name: item.name.replace(/\.\w+$/, ''),
      start: item.defaultIn ?? 0,
    };
    if (probe.kind === 'photo') return [{ ...piece, end: photoSeconds, photo: true }];
    return [{ ...piece, end: item.defaultOut ?? probe.durationSeconds }];
  });
}
