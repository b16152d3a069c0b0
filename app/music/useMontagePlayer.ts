import { useCallback, useMemo } from 'react';
import { montageReel, type Montage } from '#core/montage';
import { musicCurve, planHeard, planPictures, reelFormat, sourcesFrom, type Reel } from '#core/reel';
import type { Item } from '#usecases/projects';
import type { PlayPlan } from '../player/reelPlayer';
import { useReelPlayer } from '../player/useReelPlayer';
import { playedAddress } from '../player/playedAddress';

const nothing = () => null;

/** A montage as a reel, and a player over it. */
export function useMontagePlayer(montage: Montage, music: Item, musicSeconds: number, items: readonly Item[]) {
  const sources = useMemo(() => sourcesFrom(items), [items]);
  const reel = useMemo((): Reel => {
    const media = new Map(montage.pieces.map((piece) => [piece.id, piece.media]));
    const shapes = montage.slots.flatMap((slot) => {
      const probe = slot.piece && items.find((item) => item.id === media.get(slot.piece!.piece))?.probe;
      return probe
        ? [
            {
              rate: probe.rate,
              width: probe.kind === 'photo' ? 0 : probe.width,
              height: probe.height,
              seconds: slot.end - slot.start,
            },
          ]
        : [];
    });
    const { rate, size } = reelFormat(shapes);
    return montageReel(montage, 'montage', { media: music.id, name: music.name }, sources, rate, size);
  }, [montage, sources, items, music.id, music.name]);
  const plan = useMemo(
    (): PlayPlan => ({
      rate: reel.rate,
      reel,
      pictures: planPictures(reel),
      sounds: planHeard(reel),
      music: {
        address: playedAddress(music),
        startSeconds: montage.span.start,
        durationSeconds: musicSeconds,
        curve: musicCurve(reel, []),
      },
    }),
    [reel, music, montage.span.start, musicSeconds],
  );
  const sourceOf = useCallback(
    (media: string) => {
      const item = items.find((each) => each.id === media);
      return item?.probe ? { address: playedAddress(item), photo: item.probe.kind === 'photo' } : null;
    },
    [items],
  );
  const player = useReelPlayer(plan, { sourceOf, tableOf: nothing, viewOf: nothing });
  return { reel, player };
}
