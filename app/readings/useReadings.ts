import { useEffect, useRef, useState } from 'react';
import type { Footage } from '#core/moments';
import { decodeReadings } from './readingCodec';

/** Readings of these items, null for those that were not read yet; at most as many as go into one request. */
export async function fetchReadings(ids: readonly string[], signal?: AbortSignal): Promise<(Footage | null)[]> {
  const answer = await fetch(`/readings?of=${ids.join()}`, signal ? { signal } : {});
  if (!answer.ok) throw new Error(await answer.text());
  return decodeReadings(await answer.arrayBuffer(), ids);
}

/** Requests at once; a browser opens no more connections to one server. */
const atOnce = 6;
/** Readings in one request. */
const mostInOne = 32;

/** Parts of a list, as many as are asked for at once, or more when they would be too long. */
function parted<T>(list: readonly T[]): T[][] {
  const size = Math.max(1, Math.min(mostInOne, Math.ceil(list.length / atOnce)));
  return Array.from({ length: Math.ceil(list.length / size) }, (_, index) =>
    list.slice(index * size, (index + 1) * size),
  );
}

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
    const parts = parted(missing);
    const work = async () => {
      for (let part = parts.shift(); part; part = parts.shift()) {
        const found = await fetchReadings(
          part.map((index) => wanted[index]!),
          stop.signal,
        );
        for (const [at, footage] of found.entries()) {
          if (!footage) continue;
          known.current.set(footage.id, { stamp: stampOf(part[at]!), footage });
          onRead?.(footage);
        }
        if (found.includes(null)) throw new Error('Some of it has not been read yet.');
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
