import { useMemo, useState } from 'react';
import type { ReelDesk } from './useReelDesk';

/** What both histories say of themselves. */
interface Steps {
  undo(): void;
  redo(): void;
}
interface Histories {
  live: Steps & Pick<ReelDesk['live'], 'lastEdit'> & { reel: { canUndo: boolean; canRedo: boolean } | null };
  spoken: Steps & Pick<ReelDesk['spoken'], 'lastChange' | 'canRedo'>;
}

/** One history for edits of a reel and corrections of its words: what was done last is taken back first, and done again last. */
export class OneHistory {
  private undone: ('words' | 'reel')[] = [];
  /** How both stood after the last step back or forth; another state means that something new was done since. */
  private stood = '';

  wordsWereLast({ live, spoken }: Histories): boolean {
    return spoken.lastChange() > live.lastEdit();
  }
  wordsAreNext(both: Histories): boolean {
    return both.spoken.canRedo() && this.undone.at(-1) === 'words' && this.state(both) === this.stood;
  }
  canRedo(both: Histories): boolean {
    return Boolean(both.live.reel?.canRedo) || this.wordsAreNext(both);
  }

  undo(both: Histories): void {
    if (this.state(both) !== this.stood) this.undone = [];
    const words = this.wordsWereLast(both);
    if (!words && !both.live.reel?.canUndo) return;
    (words ? both.spoken : both.live).undo();
    this.undone.push(words ? 'words' : 'reel');
    this.stood = this.state(both);
  }
  redo(both: Histories): void {
    const words = this.state(both) === this.stood && this.undone.pop() === 'words';
    (words ? both.spoken : both.live).redo();
    this.stood = this.state(both);
  }

  private state({ live, spoken }: Histories): string {
    return `${live.lastEdit()} ${spoken.lastChange()}`;
  }
}

export function useOneHistory({ live, spoken }: Pick<ReelDesk, 'live' | 'spoken'>) {
  const [one] = useState(() => new OneHistory());
  return useMemo(() => {
    const both = { live, spoken };
    return {
      undo: () => one.undo(both),
      redo: () => one.redo(both),
      canRedo: () => one.canRedo(both),
      wordsWereLast: () => one.wordsWereLast(both),
      wordsAreNext: () => one.wordsAreNext(both),
    };
  }, [one, live, spoken]);
}
