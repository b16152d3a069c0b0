import { useEffect, useMemo, useRef } from 'react';
import { sourcesFrom, type Reel } from '#core/reel';
import { framesToSeconds, rates } from '#core/time';
import type { Item } from '#usecases/projects';
import { useReelPlayer } from '../player/useReelPlayer';
import { useSurroundings } from '../player/useSurroundings';
import { usePlayable, useReelPlan } from '../reel/useReelPlan';

/** A combination as it would be made, played from its footage without a render. */
export function useVariantPlayer(projectId: string, reel: Reel | null, items: readonly Item[]) {
  const sources = useMemo(() => sourcesFrom(items), [items]);
  const { sourceOf, shapeOf } = usePlayable(items);
  const { plan } = useReelPlan(projectId, reel, sources, null, sourceOf);
  const redraw = useRef<() => void>(() => undefined);
  const { tableOf, viewOf } = useSurroundings(projectId, reel, shapeOf, () => redraw.current());
  const player = useReelPlayer(plan, { sourceOf, tableOf, viewOf });
  const redrawNow = player.redraw;
  useEffect(() => {
    redraw.current = redrawNow;
  }, [redrawNow]);
  return { player, step: framesToSeconds(1, reel?.rate ?? rates['25']) };
}
