import type { Framing } from '#core/framing';
import { piecesToFrame, type Reel, type StretchToFrame } from '#core/reel';
import type { PartFootage } from './parts';
import type { WorkedOut } from './set';

type Parts = Pick<WorkedOut, 'format' | 'reels'>;

const keyOf = (stretch: StretchToFrame, { width, height }: Reel['size']): string =>
  JSON.stringify([
    stretch.media,
    stretch.start,
    stretch.end,
    stretch.subject,
    stretch.zoom,
    stretch.keys,
    width,
    height,
  ]);

const pictureOf =
  ({ shapeOf }: PartFootage) =>
  (media: string) => {
    const shape = shapeOf(media);
    return shape && shape.width > 0 ? shape : null;
  };

/** What of the parts is to be framed for their format, each stretch once, by a key. */
export function toFrame({ format, reels }: Parts, footage: PartFootage): Map<string, StretchToFrame> {
  const pieces = [...reels.values()].flatMap((reel) => piecesToFrame(reel, pictureOf(footage)));
  return new Map(pieces.map(({ stretch }) => [keyOf(stretch, format.size), stretch]));
}

/** The parts with their pieces framed. @param framings by key, as far as they are known */
export function framedParts(
  { format, reels }: Parts,
  footage: PartFootage,
  framings: ReadonlyMap<string, Framing | null>,
): Parts {
  const framed = new Map<string, Reel>();
  for (const [id, reel] of reels) {
    const own = new Map(
      piecesToFrame(reel, pictureOf(footage)).flatMap(({ clip, stretch }) => {
        const framing = framings.get(keyOf(stretch, format.size));
        return framing ? [[clip, framing] as const] : [];
      }),
    );
    framed.set(id, own.size > 0 ? withFramings(reel, own) : reel);
  }
  return { format, reels: framed };
}

const withFramings = (reel: Reel, framings: ReadonlyMap<string, Framing>): Reel => ({
  ...reel,
  tracks: reel.tracks.map((track) => ({
    ...track,
    items: track.items.map((item) => {
      const framing = item.kind === 'clip' ? framings.get(item.id) : undefined;
      return framing ? { ...item, framing } : item;
    }),
  })),
});
