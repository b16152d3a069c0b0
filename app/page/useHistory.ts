import { useCallback, useMemo, useRef } from 'react';

type Place = 'page' | 'reel';

/** What was done last, on the page or in the reel below it, is taken back first. */
export function useHistory() {
  const past = useRef<Place[]>([]);
  const future = useRef<Place[]>([]);
  const did = useCallback((where: Place) => {
    past.current.push(where);
    future.current = [];
  }, []);
  const didPage = useCallback(() => did('page'), [did]);
  const didReel = useCallback(() => did('reel'), [did]);
  /** @param usual where to look when nothing was done since the screen was opened */
  const step = useCallback((direction: 'undo' | 'redo', usual: Place, steps: Record<Place, () => boolean>) => {
    const [from, to] = direction === 'undo' ? [past.current, future.current] : [future.current, past.current];
    const where = from.pop() ?? usual;
    if (steps[where]()) to.push(where);
  }, []);
  return useMemo(() => ({ didPage, didReel, step }), [didPage, didReel, step]);
}
