import { useCallback, useEffect, useState } from 'react';
import type { TastesAnswer } from '#usecases/tastes';
import { ask, tell } from '../../ui/ask';

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
      const said = await tell(`/projects/${projectId}/tastes`, body);
      setProblem(said.problem);
      setStamp((now) => now + 1);
      return said.problem === null ? (said.id ?? null) : null;
    },
    [projectId],
  );
  return { ...answer, taste, problem, change };
}
export type Tastes = ReturnType<typeof useTastes>;
