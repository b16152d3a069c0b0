import { useEffect } from 'react';
import { useNavigate, type useFetcher } from 'react-router';

/** An answer that may say which place to open next. */
export interface GoingAnswer {
  goTo?: string | null;
}

/**
 * Opens the place that a fetcher's answer names, once what changed is loaded. Not left to a redirect: the router drops a
 * fetcher's redirect whenever anything is revalidated between asking and answer, and running work is, all the time.
 */
export function useGoTo({ state, data }: Pick<ReturnType<typeof useFetcher<GoingAnswer>>, 'state' | 'data'>): void {
  const navigate = useNavigate();
  const answer = state === 'idle' ? data : undefined;
  useEffect(() => {
    if (answer?.goTo) void navigate(answer.goTo);
  }, [answer, navigate]);
}
