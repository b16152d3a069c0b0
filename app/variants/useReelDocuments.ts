import { useEffect, useState } from 'react';
import type { Reel } from '#core/reel';

const of = (list: readonly { id: string; document: Reel }[]) => new Map(list.map(({ id, document }) => [id, document]));

/**
 * Documents of reels by id: those that were loaded with the screen, and others as they are asked for.
 * @param loaded another list when the screen was loaded anew
 */
export function useReelDocuments(
  projectId: string,
  loaded: readonly { id: string; document: Reel }[],
  ids: readonly string[],
): ReadonlyMap<string, Reel> {
  const [known, setKnown] = useState(() => ({ loaded, documents: of(loaded) }));
  if (known.loaded !== loaded) setKnown({ loaded, documents: new Map([...known.documents, ...of(loaded)]) });
  const missing = ids.filter((id) => !known.documents.has(id)).join();
  useEffect(() => {
    if (!missing) return;
    const stop = new AbortController();
    const query = missing.split(',').map((id) => `of=${id}`);
    fetch(`/projects/${projectId}/variants/reels?${query.join('&')}`, { signal: stop.signal })
      .then(async (answer) => {
        if (!answer.ok) return;
        const came = (await answer.json()) as typeof loaded;
        setKnown((now) => ({ ...now, documents: new Map([...now.documents, ...of(came)]) }));
      })
      .catch(() => undefined);
    return () => stop.abort();
  }, [projectId, missing]);
  return known.documents;
}
