import { useCallback, useMemo, useRef, useState } from 'react';
import type { Word } from '#core/words';

export interface Transcript {
  words: Word[];
  version: number;
  source: string | null;
}

type Change = { intent: string } & Record<string, string>;

/** The words of footage that a reel shows as captions: fetched once each, changed one after the other. */
export function useSpoken() {
  const [words, setWords] = useState<ReadonlyMap<string, Transcript>>(new Map());
  const [problem, setProblem] = useState<string | null>(null);
  const asked = useRef(new Set<string>());
  const latest = useRef(words);
  const queue = useRef(Promise.resolve());

  const load = useCallback(async (media: string): Promise<Transcript | null> => {
    const answer = await fetch(`/media/${media}/words`).catch(() => null);
    if (!answer?.ok) return null;
    // An answer that breaks off is none; a fault here would end the queue of changes below.
    const transcript = (await answer.json().catch(() => null)) as Transcript | null;
    if (!transcript) return null;
    const { words: own, version, source } = transcript;
    const loaded = { words: own, version, source };
    latest.current = new Map([...latest.current, [media, loaded]]);
    setWords(latest.current);
    return loaded;
  }, []);

  const need = useCallback(
    (ids: readonly string[]) => {
      for (const id of ids)
        if (!asked.current.has(id)) {
          asked.current.add(id);
          void load(id);
        }
    },
    [load],
  );

  /** What stood there before each change of this visit, so that it can be taken back; and what was taken back, so that it can be done again. */
  const before = useRef<{ media: string; words: Word[]; at: number }[]>([]);
  const after = useRef<{ media: string; words: Word[] }[]>([]);

  /** Changes the words of a file on the version that is known here; what the server refuses is said. */
  const change = useCallback(
    (media: string, values: Change, back = false) => {
      queue.current = queue.current.then(async () => {
        const known = latest.current.get(media);
        if (known && !back) {
          before.current.push({ media, words: known.words, at: Date.now() });
          after.current = [];
        }
        const form = new FormData();
        for (const [name, value] of Object.entries({ ...values, version: String(known?.version ?? 0) }))
          form.set(name, value);
        const answer = await fetch(`/media/${media}/words`, { method: 'POST', body: form }).catch(() => null);
        const body = answer ? ((await answer.json().catch(() => null)) as { problem?: string | null } | null) : null;
        setProblem(answer ? (body?.problem ?? null) : 'The server does not answer. Do that again in a moment.');
        await load(media);
      });
    },
    [load],
  );

  const put = useCallback(
    (media: string, own: readonly Word[]) =>
      change(media, { intent: 'put', text: JSON.stringify({ words: own }) }, true),
    [change],
  );
  const undo = useCallback(() => {
    const last = before.current.pop();
    if (!last) return;
    after.current.push({ media: last.media, words: latest.current.get(last.media)?.words ?? [] });
    put(last.media, last.words);
  }, [put]);
  const redo = useCallback(() => {
    const next = after.current.pop();
    if (!next) return;
    before.current.push({ media: next.media, words: latest.current.get(next.media)?.words ?? [], at: Date.now() });
    put(next.media, next.words);
  }, [put]);
  const lastChange = useCallback(() => before.current.at(-1)?.at ?? 0, []);

  return useMemo(
    () => ({
      words,
      need,
      change,
      undo,
      redo,
      canRedo: () => after.current.length > 0,
      lastChange,
      problem,
      forget: () => setProblem(null),
      reload: load,
    }),
    [words, need, change, undo, redo, lastChange, problem, load],
  );
}
