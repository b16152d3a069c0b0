import { useCallback, useMemo } from 'react';
import { pieceFeatures, plainFeatures, type MontagePiece } from '#core/montage';
import { photoFootage, type Footage } from '#core/moments';
import type { Item } from '#usecases/projects';
import { useReadings } from '../readings/useReadings';

/** What was read of the footage that a montage can use, and what its pieces show by that. */
export function useMontageFootage(items: readonly Item[], ownPieces: readonly MontagePiece[], photoSeconds: number) {
  const usable = useMemo(
    () => items.filter((item) => item.probe && item.probe.kind !== 'sound' && !item.problem && item.readAt),
    [items],
  );
  const read = useReadings(
    usable.map((item) => item.id),
    usable.map((item) => String(Number(item.readAt))).join(),
  );
  const footage = useMemo(
    (): Footage[] | null =>
      read &&
      read.map((each) =>
        usable.find((item) => item.id === each.id)?.probe?.kind === 'photo' ? photoFootage(each, photoSeconds) : each,
      ),
    [read, usable, photoSeconds],
  );
  const features = useMemo(
    () =>
      new Map(
        ownPieces.map((piece) => [
          piece.id,
          footage
            ? pieceFeatures(piece, footage.find((each) => each.id === piece.media) ?? null)
            : plainFeatures(piece),
        ]),
      ),
    [ownPieces, footage],
  );
  const featuresOf = useCallback(
    (pieces: readonly MontagePiece[]) =>
      new Map(
        pieces.map((piece) => [
          piece.id,
          features.get(piece.id) ??
            (footage
              ? pieceFeatures(piece, footage.find((each) => each.id === piece.media) ?? null)
              : plainFeatures(piece)),
        ]),
      ),
    [features, footage],
  );
  return { usable, footage, features, featuresOf };
}
