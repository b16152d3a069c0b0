import { useEffect, useState } from 'react';
import type { Footage } from '#core/moments';
import { decodeReading } from './readingCodec';

async function load(id: string, signal: AbortSignal): Promise<Footage> {
  const answer = await fetch(`/media/${id}/reading`, { signal });
  if (!answer.ok) throw new Error(await answer.text());
  return decodeReading(await answer.arrayBuffer(), id);
}

/**
 * The readings of these items in their order, once all are here; null until then. While newer ones or others are on
 * their way the ones before stay, so that nothing on screen is lost.
 * @param stamp changes when an item was read anew
 * @param onRead hears of each as it comes; always the same function
 */
export function useReadings(ids: readonly string[], stamp = '', onRead?: (footage: Footage) => void): Footage[] | null {
  const key = ids.join();
  const [loaded, setLoaded] = useState<{ key: string; footage: Footage[] } | null>(null);
  useEffect(() => {
    const stop = new AbortController();
    Promise.all(
      (key ? key.split(',') : []).map(async (id) => {
        const footage = await load(id, stop.signal);
        onRead?.(footage);
        return footage;
      }),
    ).then(
      (footage) => setLoaded({ key, footage }),
      () => undefined,
    );
    return () => stop.abort();
  }, [key, stamp, onRead]);
  return loaded?.footage ?? null;
}
