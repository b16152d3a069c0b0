import { isSameShape, type Framing, type Size } from '#core/framing';
import { framesToSeconds } from '#core/time';
import { pictureTracks, type Clip, type Reel } from './types';

/** A stretch of a source that is to be framed, in seconds, and how. */
export interface StretchToFrame extends Pick<Framing, 'subject' | 'zoom' | 'keys'> {
  media: string;
  start: number;
  end: number;
}

/**
 * The pieces of a reel that fill a frame of another shape than their pictures have: what is to be framed so that the
 * crop follows what matters. What was chosen by hand goes along.
 * @param pictureOf size of a film as shown; null for photos, sounds and what is not there
 */
export const piecesToFrame = (
  reel: Reel,
  pictureOf: (media: string) => Size | null,
): { clip: string; stretch: StretchToFrame }[] =>
  pictureTracks(reel)
    .flatMap(({ items }) => items)
    .flatMap((item) => {
      if (item.kind !== 'clip' || (item.fit ?? reel.fit) !== 'fill') return [];
      const picture = pictureOf(item.media);
      return picture && !isSameShape(picture, reel.size) ? [{ clip: item.id, stretch: stretchOf(item, reel) }] : [];
    });

function stretchOf({ media, sourceIn, frames, speed = 100, framing }: Clip, { rate }: Reel): StretchToFrame {
  return {
    media,
    start: framesToSeconds(sourceIn, rate),
    end: framesToSeconds(sourceIn + Math.max(1, (frames * speed) / 100), rate),
    subject: framing?.subject ?? 'auto',
    zoom: framing?.zoom ?? 1,
    keys: framing?.keys ?? [],
  };
}
