import { useEffect, useMemo, useState } from 'react';
import type { Framing } from '#core/framing';
import { framedParts, toFrame, type PartFootage, type WorkedOut } from '#core/variants';
import { fetchFramings } from '../player/fetchFramings';

type Parts = Pick<WorkedOut, 'format' | 'reels'>;

/** Parts whose pieces follow what matters where they fill another shape: in the middle at first, followed once that is known. */
export function useFramedParts(projectId: string, parts: Parts, footage: PartFootage): Parts {
  const [framings, setFramings] = useState<ReadonlyMap<string, Framing | null>>(new Map());
  const missing = useMemo(
    () => [...toFrame(parts, footage)].filter(([key]) => !framings.has(key)),
    [parts, footage, framings],
  );
  const { size } = parts.format;
  useEffect(() => {
    if (missing.length === 0) return;
    const stop = new AbortController();
    fetchFramings(
      projectId,
      missing.map(([, stretch]) => stretch),
      size,
      stop.signal,
    ).then(
      (came) => setFramings((now) => new Map([...now, ...missing.map(([key], index) => [key, came[index]!] as const)])),
      () => undefined,
    );
    return () => stop.abort();
  }, [projectId, missing, size]);
  return useMemo(() => framedParts(parts, footage, framings), [parts, footage, framings]);
}
