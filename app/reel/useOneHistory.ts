import { useMemo, useRef } from 'react';
import type { ReelDesk } from './useReelDesk';

/** One history for edits of a reel and corrections of its words: what was done last is taken back first, and done again last. */
export function useOneHistory({ live, spoken }: Pick<ReelDesk, 'live' | 'spoken'>) {
  const undone = useRef<('words' | 'reel')[]>([]);
  /** How both stood after the last step back or forth; another state means that something new was done since. */
  const stood = useRef('');
  return useMemo(() => {
    const state = () => `${live.lastEdit()} ${spoken.lastChange()}`;
    const wordsAreNext = () => spoken.canRedo() && undone.current.at(-1) === 'words' && state() === stood.current;
    const wordsWereLast = () => spoken.lastChange() > live.lastEdit();
    return {
      undo() {
        if (state() !== stood.current) undone.current = [];
        const kind = wordsWereLast() ? 'words' : 'reel';
        if (kind === 'reel' && !live.reel?.canUndo) return;
        (kind === 'words' ? spoken : live).undo();
        undone.current.push(kind);
        stood.current = state();
      },
      redo() {
        const kind = state() === stood.current ? (undone.current.pop() ?? 'reel') : 'reel';
        (kind === 'words' ? spoken : live).redo();
        stood.current = state();
      },
      canRedo: () => Boolean(live.reel?.canRedo) || wordsAreNext(),
      wordsWereLast, wordsAreNext,
    };
  }, [live, spoken]);
}
