import { useEffect, useRef, useState } from 'react';
import type { Footage } from '#core/moments';
import { decodeReading } from './readingCodec';

async function load(id: string, signal: AbortSignal): Promise<Footage> {
  const answer = await fetch(`/media/${id}/reading`, { signal });
  if (!answer.ok) throw new Error(await answer.text());
  return decodeReading(await answer.arrayBuffer(), id);
}

/** Requests at once; a browser opens no more connections to one server. */
const atOnce = 6;

/**
 * The readings of these items in their order, once all are here; null until then. While newer ones or others are on
 * their way the ones before stay, so that nothing on screen is lost. Only what was read anew is asked for again.
 * @param stamp what tells a reading from an earlier one of the same item, joined by commas in the order of the items
 * @param onRead hears of each as it comes; always the same function
 */
export function useReadings(ids: readonly string[], stamp = '', onRead?: (footage: Footage) => void): Footage[] | null {
  const key = ids.join();
  const [loaded, setLoaded] = useState<{ key: string; footage: Footage[] } | null>(null);
  const known = useRef(new Map<string, { stamp: string; footage: Footage }>());
  useEffect(() => {
    const stop = new AbortController();
    const wanted = key ? key.split(',') : [];
    const stamps = stamp.split(',');
    const stampOf = (index: number) => stamps[index] ?? '';
    const missing = wanted.flatMap((id, index) => (known.current.get(id)?.stamp === stampOf(index) ? [] : [index]));
    const work = async () => {
      for (let index = missing.shift(); index !== undefined; index = missing.shift()) {
        const footage = await load(wanted[index]!, stop.signal);
        known.current.set(wanted[index]!, { stamp: stampOf(index), footage });
        onRead?.(footage);
      }
    };
    Promise.all(Array.from({ length: atOnce }, work)).then(
      () => setLoaded({ key, footage: wanted.map((id) => known.current.get(id)!.footage) }),
      () => undefined,
    );
    return () => stop.abort();
  }, [key, stamp, onRead]);
  // Nothing is no reading that could stay while the first ones come.
  return loaded && (loaded.key !== '' || key === '') ? loaded.footage : null;
}
