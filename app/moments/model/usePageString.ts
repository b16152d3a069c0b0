import { useMemo } from 'react';
import type { Hit } from '#core/ask';
import { layOut, type Decision, type FilterName, type Footage, type Moment } from '#core/moments';
import { StringOut, type Range } from '#core/time';
import type { Marker } from '#usecases/moments';

/** The string-out that the page shows: all footage, or the stretches that a filter leaves. */
export function usePageString(
  footage: readonly Footage[],
  whole: StringOut,
  filter: FilterName,
  moments: readonly Moment[],
  decisions: readonly Decision[],
  markers: readonly Marker[],
  person: readonly (Range & { media: string })[] | undefined,
  hits: readonly Hit[],
): StringOut {
  // Moments change with every move of a slider; only one filter is about them.
  const kept = filter === 'kept' ? moments : null;
  return useMemo(() => {
    if (filter === 'all') return whole;
    const byFile = <T extends { media: string }>(list: readonly T[]) =>
      new Map(footage.map((each) => [each.id, list.filter((one) => one.media === each.id)]));
    return new StringOut(
      layOut(footage, filter, {
        moments: kept ?? [],
        decisions,
        markers: new Map([...byFile(markers)].map(([id, own]) => [id, own.map((marker) => marker.seconds)])),
        person: byFile(person ?? []),
        found: byFile(hits),
      }),
    );
  }, [footage, whole, filter, kept, decisions, markers, person, hits]);
}
