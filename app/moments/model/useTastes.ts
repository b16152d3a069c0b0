import { useCallback, useEffect, useState } from 'react';
import type { TastesAnswer } from '#usecases/tastes';
import { ask } from '../../ui/ask';

const nothing: TastesAnswer = { tastes: [], others: [], projects: 0 };

/**
 * Tastes that there are, and what was decided elsewhere by the one that this project learns by.
 * @param taste its id; null where only this project counts
 * @param wanted whether anybody looks at them
 */
export function useTastes(projectId: string, taste: string | null, wanted: boolean) {
  const [answer, setAnswer] = useState<TastesAnswer>(nothing);
  const [problem, setProblem] = useState<string | null>(null);
  const [stamp, setStamp] = useState(0);
  useEffect(() => {
    if (!wanted) return;
    const stop = new AbortController();
    ask(
      `/projects/${projectId}/tastes${taste ? `?taste=${taste}` : ''}`,
      stop.signal,
      async (found) => found.ok && setAnswer((await found.json()) as TastesAnswer),
    );
    return () => stop.abort();
  }, [projectId, taste, wanted, stamp]);
  /** @returns the id of the taste that was changed or made; null when nothing was */
  const change = useCallback(
    async (body: object): Promise<string | null> => {
      const answered = await fetch(`/projects/${projectId}/tastes`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      }).catch(() => null);
      const said = ((await answered?.json().catch(() => null)) ?? {
        problem: 'The server does not answer. Try again in a moment.',
        id: null,
      }) as { problem: string | null; id: string | null };
      setProblem(said.problem);
      setStamp((now) => now + 1);
      return said.problem === null ? said.id : null;
    },
    [projectId],
  );
  return { ...answer, taste, problem, change };
}
export type Tastes = ReturnType<typeof useTastes>;
