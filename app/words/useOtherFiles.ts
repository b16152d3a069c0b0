import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { heardAs, type Word } from '#core/words';
import type { Spoken } from '#usecases/words';
import { ask } from '../ui/ask';
import { correctedWords, wordsDocument } from './wordsDocument';

/** Where the same was heard in other files of a project. */
export interface OtherFiles {
  /** How many places there are, and in how many files. */
  count(texts: readonly string[]): { places: number; files: number };
  /** Puts them right; a step of its own in each file, which can be undone. */
  correct(texts: readonly string[], text: string): Promise<void>;
}

/** The words of a project's other files, for what was misheard in them too. */
export function useOtherFiles(projectId: string, media: string): OtherFiles {
  const [spoken, setSpoken] = useState<Spoken['words'] | null>(null);
  useEffect(() => {
    const stop = new AbortController();
    ask(
      `/projects/${projectId}/spoken`,
      stop.signal,
      async (answer) => answer.ok && setSpoken(((await answer.json()) as Spoken).words),
    );
    return () => stop.abort();
  }, [projectId]);
  // What was corrected on this page counts at once.
  const own = correctedWords(projectId);
  const corrected = useSyncExternalStore(own.subscribe, own.state, own.state);
  const files = useMemo(() => {
    const known = new Map<string, readonly Word[]>(Object.entries(spoken ?? {}));
    for (const [id, words] of corrected) known.set(id, words);
    known.delete(media);
    return known;
  }, [spoken, corrected, media]);
  const placesIn = useCallback(
    (texts: readonly string[]) =>
      [...files].flatMap(([id, words]) => {
        const places = heardAs(words, texts);
        return places.length > 0 ? [{ id, places }] : [];
      }),
    [files],
  );
  return useMemo(
    () => ({
      count: (texts) => {
        const found = placesIn(texts);
        return { places: found.reduce((sum, { places }) => sum + places.length, 0), files: found.length };
      },
      correct: async (texts, text) => {
        for (const { id } of placesIn(texts)) {
          const document = wordsDocument(projectId, id);
          await document.need();
          // As they stand now: somebody else may have put them right since.
          const places = heardAs(document.state().transcript?.words ?? [], texts);
          if (places.length > 0) document.edit({ type: 'correctAll', places, count: texts.length, text });
        }
      },
    }),
    [placesIn, projectId],
  );
}
