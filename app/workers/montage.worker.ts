import { gatherPieces, type Gathering, type MontagePiece } from '#core/montage';
import type { Footage } from '#core/moments';
import { newId } from '../newId';

/** Looks through the footage for pieces of a montage, away from the screen's thread. */
export interface GatherAsk {
  footage: Footage[];
  gathering: Gathering;
  slots: number;
  names: Record<string, string>;
}

self.onmessage = ({ data }: MessageEvent<GatherAsk>) => {
  const { footage, gathering, slots, names } = data;
  const pieces: MontagePiece[] = gatherPieces(footage, gathering, slots, (media) => names[media] ?? '', newId);
  (self as unknown as Worker).postMessage(pieces);
};
