import { useEffect, useState, useSyncExternalStore } from 'react';
import type { Name } from '#core/ask';
import { sourceStartOf, type SourceStart } from '#core/time';
import type { Footage } from '#core/moments';
import type { Item } from '#usecases/projects';
import type { Marker } from '#usecases/moments';
import type { Spoken } from '#usecases/words';
import type { useChoice } from './useChoice';
import { ask } from '../../ui/ask';
import { correctedWords } from '../../words/wordsDocument';

const startsOf = (items: readonly Item[]): Record<string, SourceStart> =>
  Object.fromEntries(
    items.flatMap(({ id, probe }) => {
      const start = probe && sourceStartOf(probe);
      return start ? [[id, start]] : [];
    }),
  );

const recordedOf = (items: readonly Item[]): Record<string, string> =>
  Object.fromEntries(items.flatMap(({ id, probe }) => (probe?.recordedAt ? [[id, probe.recordedAt]] : [])));

/** Files of a bin that were laid on a common clock. */
const clocksOf = (items: readonly Item[]) =>
  Object.fromEntries(
    items.flatMap(({ id, binId, syncOffset }) =>
      binId && syncOffset !== null ? [[id, { group: binId, offsetSeconds: syncOffset }]] : [],
    ),
  );

/** Files, and bins with what is in them. */
const namesOf = (items: readonly Item[], bins: readonly { id: string; name: string }[]): Name[] => [
  ...bins.map(({ id, name }): Name => ({
    what: 'bin',
    name,
    media: items.filter(({ binId }) => binId === id).map((item) => item.id),
  })),
  ...items.map(({ id, name }): Name => ({ what: 'file', name, media: [id] })),
];

/**
 * Requests in words, and what titles are made of: what was said and who is seen is fetched once the first choice is there,
 * or something is typed; every change of the text asks again.
 */
export function useAsk(
  projectId: string,
  choice: ReturnType<typeof useChoice>,
  footage: readonly Footage[],
  markers: readonly Marker[],
  items: readonly Item[],
  bins: readonly { id: string; name: string }[],
  text: string,
  knowledgeWanted: boolean,
  stamp: string,
) {
  const [spoken, setSpoken] = useState<Spoken | null>(null);
  const wanted = knowledgeWanted || text.trim() !== '';
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
  // What was corrected on this page is found at once.
  const document = correctedWords(projectId);
  const corrected = useSyncExternalStore(document.subscribe, document.state, document.state);
  const { tellWorld, find } = choice;
  useEffect(() => {
    if (spoken)
      tellWorld({
        people: spoken.people,
        words: { ...spoken.words, ...Object.fromEntries(corrected) },
        markers: markers.map(({ media, seconds, note }) => ({ media, seconds, note })),
        names: namesOf(items, bins),
        starts: startsOf(items),
        recorded: recordedOf(items),
        clocks: clocksOf(items),
      });
  }, [spoken, corrected, markers, items, bins, tellWorld]);
  useEffect(() => {
    // Without the words a request would be answered as if nobody had said anything.
    if (!wanted || !spoken) return;
    const timer = setTimeout(() => find(text), 120);
    return () => clearTimeout(timer);
  }, [text, wanted, spoken, corrected, markers, items, bins, footage, find]);
  return {
    people: spoken?.people ?? [],
    found: text.trim() && choice.found?.text === text ? choice.found : null,
    last: text.trim() ? choice.found : null,
  };
}
