import { useEffect, useEffectEvent, useRef, useState } from 'react';
import type { Decision, Footage, Limits, Mix } from '#core/moments';
import type { Montage, MontagePiece } from '#core/montage';
import type { Item } from '#usecases/projects';
import { useLatest } from '../ui/useLatest';
import type { GatherAsk } from '../workers/montage.worker';

export interface Gather {
  mix: Mix;
  limits: Limits;
  photoSeconds: number;
  decisions: Decision[];
}

interface GatheringProps {
  montage: Montage;
  footage: readonly Footage[] | null;
  usable: readonly Item[];
  gather: Gather;
  /** Puts the pieces in; what is locked keeps its own. */
  onPieces(pieces: MontagePiece[]): void;
  onProblem(sentence: string): void;
}

/** The machine looks for pieces, in a worker: once, when there are none yet; and again when it is asked to. */
export function useGathering(props: GatheringProps) {
  const now = useLatest(props);
  const [gathering, setGathering] = useState(false);
  const { footage, montage } = props;
  const gatherNow = () => {
    const { footage: known, gather, usable, montage: before } = now.current;
    if (!known || known.length === 0) return;
    setGathering(true);
    const worker = new Worker(new URL('../workers/montage.worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = ({ data: pieces }: MessageEvent<MontagePiece[]>) => {
      worker.terminate();
      setGathering(false);
      if (pieces.length === 0)
        return now.current.onProblem(
          'No stretch of the footage is good enough by the limits on the Moments screen. Loosen them there, or take whole files.',
        );
      now.current.onPieces(pieces);
    };
    worker.onerror = () => {
      worker.terminate();
      setGathering(false);
      now.current.onProblem('Looking for pieces stopped unexpectedly. Try again.');
    };
    const ask: GatherAsk = {
      footage: [...known],
      gathering: { mix: gather.mix, limits: gather.limits, decisions: gather.decisions },
      slots: before.slots.length,
      names: Object.fromEntries(usable.map((item) => [item.id, item.name.replace(/\.\w+$/, '')])),
    };
    worker.postMessage(ask);
  };
  const begun = useRef(false);
  const begin = useEffectEvent(gatherNow);
  useEffect(() => {
    if (begun.current || !footage || montage.pieces.length > 0) return;
    begun.current = true;
    begin();
  }, [footage, montage.pieces.length]);
  return { gathering, gatherNow };
}
