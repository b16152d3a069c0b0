import { useEffect, useMemo, useState } from 'react';
import { snapKinds, type SnapKind } from '#core/reel';

const modesKey = 'bright-reel.edit-modes';

/** How edits behave on this screen; kept in the browser. */
export function useEditModes() {
  const [modes, setModes] = useState<{ snapping: boolean; snaps: SnapKind[]; inPlace: boolean }>({
    snapping: true,
    snaps: [...snapKinds],
    inPlace: false,
  });
  useEffect(() => {
    try {
      const kept = JSON.parse(localStorage.getItem(modesKey) ?? 'null') as typeof modes | null;
      if (kept) setModes((now) => ({ ...now, ...kept }));
    } catch {
      // Nothing is kept, or what is kept is no text of ours: the usual modes hold.
    }
  }, []);
  const change = (next: Partial<typeof modes>) =>
    setModes((now) => {
      const all = { ...now, ...next };
      try {
        localStorage.setItem(modesKey, JSON.stringify(all));
      } catch {
        // A browser that keeps nothing: they hold until the page is left.
      }
      return all;
    });
  const snaps = useMemo(() => new Set(modes.snaps), [modes.snaps]);
  return {
    snaps,
    snapping: modes.snapping,
    inPlace: modes.inPlace,
    setSnapping: (snapping: boolean) => change({ snapping }),
    setInPlace: (inPlace: boolean) => change({ inPlace }),
    setSnap: (kind: SnapKind, on: boolean) =>
      change({ snaps: on ? [...new Set([...modes.snaps, kind])] : modes.snaps.filter((each) => each !== kind) }),
  };
}
