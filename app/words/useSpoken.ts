import { useCallback, useMemo, useState, useSyncExternalStore } from 'react';
import type { WordsCommand } from '#core/words';
import { wordsDocument, type ShownTranscript, type WordsDocument } from './wordsDocument';

/** What several documents show, as one snapshot that is new only when one of them is. */
function snapshotOf(documents: readonly WordsDocument[], media: readonly string[]) {
  let states: ReturnType<WordsDocument['state']>[] = [];
  let shown = { words: new Map<string, ShownTranscript>(), problem: null as string | null };
  return () => {
    const now = documents.map((document) => document.state());
    if (now.length === states.length && now.every((state, index) => state === states[index])) return shown;
    states = now;
    const known = now.flatMap(({ transcript }, index) => (transcript ? [[media[index]!, transcript] as const] : []));
    shown = { words: new Map(known), problem: now.find(({ problem }) => problem)?.problem ?? null };
    return shown;
  };
}

/** The words of footage that a reel shows as captions, each file's loaded once. */
export function useSpoken(projectId: string) {
  const [media, setMedia] = useState<readonly string[]>([]);
  const documents = useMemo(() => media.map((id) => wordsDocument(projectId, id)), [media, projectId]);
  const subscribe = useCallback(
    (listener: () => void) => {
      const stops = documents.map((document) => document.subscribe(listener));
      for (const document of documents) void document.need();
      return () => stops.forEach((stop) => stop());
    },
    [documents],
  );
  const snapshot = useMemo(() => snapshotOf(documents, media), [documents, media]);
  const { words, problem } = useSyncExternalStore(subscribe, snapshot, snapshot);

  const need = useCallback(
    (ids: readonly string[]) =>
      setMedia((now) => (ids.every((id) => now.includes(id)) ? now : [...new Set([...now, ...ids])])),
    [],
  );
  return useMemo(
    () => ({
      words,
      problem,
      need,
      edit: (id: string, command: WordsCommand) => wordsDocument(projectId, id).edit(command),
      reload: (id: string) => wordsDocument(projectId, id).reload(),
      forget: () => documents.forEach((document) => document.forgetProblem()),
    }),
    [words, problem, need, projectId, documents],
  );
}
