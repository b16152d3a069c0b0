import { useEffect, useState } from 'react';
import type { Marker } from '#usecases/moments';
import type { Spoken } from '#usecases/words';
import type { useChoice } from './useChoice';
import { ask } from '../../ui/ask';

/** Requests in words: what the worker must know for them is fetched when the first is typed; every change of the text asks again. */
export function useAsk(
  projectId: string,
  choice: ReturnType<typeof useChoice>,
  markers: readonly Marker[],
  text: string,
  peopleWanted: boolean,
  stamp: string,
) {
  const [spoken, setSpoken] = useState<Spoken | null>(null);
  const wanted = text.trim() !== '' || peopleWanted;
  useEffect(() => {
    if (!wanted) return;
    const stop = new AbortController();
    ask(
      `/projects/${projectId}/spoken`,
      stop.signal,
      async (answer) => answer.ok && setSpoken((await answer.json()) as Spoken),
    );
    return () => stop.abort();
  }, [projectId, wanted, stamp]);
  const { tellWorld, find } = choice;
  useEffect(() => {
    if (spoken)
      tellWorld({
        people: spoken.people,
        words: spoken.words,
        markers: markers.map(({ media, seconds, note }) => ({ media, seconds, note })),
      });
  }, [spoken, markers, tellWorld]);
  useEffect(() => {
    if (!wanted || !spoken) return;
    const timer = setTimeout(() => find(text), 120);
    return () => clearTimeout(timer);
  }, [text, wanted, spoken, markers, find]);
  return {
    people: spoken?.people ?? [],
    found: text.trim() && choice.found?.text === text ? choice.found : null,
    last: text.trim() ? choice.found : null,
  };
}
