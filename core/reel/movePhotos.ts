import { moveTowards, type Frame } from '#core/framing';
import type { Reel } from './types';

/**
 * A reel in which every photo that stands still moves slowly: towards its faces and away from them by turns, so that two
 * in a row differ. Common practice, no source.
 * @param facesOf boxes in shares of the photo; null for what is no photo
 */
export function movePhotos(reel: Reel, facesOf: (media: string) => readonly Frame[] | null): Reel {
  let count = 0;
  const tracks = reel.tracks.map((track) => ({
    ...track,
    items: track.items.map((item) => {
      const faces = item.kind === 'clip' && !item.move ? facesOf(item.media) : null;
      return faces ? { ...item, move: moveTowards(faces, count++ % 2 === 0) } : item;
    }),
  }));
  return { ...reel, tracks };
}
