import { useEffect } from 'react';
import { useFetcher } from 'react-router';
import type { ViewedComment, ViewingData, ViewingLine } from '#usecases/viewings';
import { afterSaving } from '../history/saveQueue';
import { useAsked } from '../ui/useAsked';

/** How often is asked what others said, and how far a film is that is being made, in milliseconds. */
const askEvery = { usually: 10_000, whileMade: 1_500 };
const noComments: ViewedComment[] = [];

/** What others are shown of a reel, and what they said. */
export interface ReelViewing {
  /** Undefined before it is known; null while nobody was shown the reel. */
  viewing: ViewingLine | null | undefined;
  comments: ViewedComment[];
  problem: string | null;
  isBusy: boolean;
  send(fields: Record<string, string>): void;
}

/** @param head the revision of the reel; where comments are follows it */
export function useViewing(projectId: string, reelId: string, head: number): ReelViewing {
  const address = `/projects/${projectId}/reels/${reelId}/viewing`;
  const { data, askAgain } = useAsked<ViewingData>(address, head);
  const sent = useFetcher<{ problem: string | null }>();
  const viewing = data?.viewing;
  const isMade = viewing?.versions.some(({ state }) => state === 'making') ?? false;
  const isShown = Boolean(viewing);
  useEffect(() => {
    if (!isShown) return;
    const timer = setInterval(
      () => document.visibilityState === 'visible' && askAgain(),
      isMade ? askEvery.whileMade : askEvery.usually,
    );
    return () => clearInterval(timer);
  }, [isShown, isMade, askAgain]);
  return {
    viewing,
    comments: viewing?.comments ?? noComments,
    problem: sent.data?.problem ?? null,
    isBusy: sent.state !== 'idle',
    // What is shown is the reel as it is saved: first everything that waits.
    send: (fields) => void afterSaving(() => void sent.submit(fields, { method: 'post', action: address })),
  };
}
