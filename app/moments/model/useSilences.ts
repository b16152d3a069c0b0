import { useEffect, useMemo, useState } from 'react';
import { markSilences, type Footage, type Silence } from '#core/moments';
import { silentRuns, suggestedSilenceThreshold } from '#core/sound';
import type { SilenceChoice } from '#usecases/moments';

interface Levels {
  hz: number;
  values: Float32Array;
  suggestedDb: number;
}

async function load(id: string, signal: AbortSignal): Promise<[string, Levels] | null> {
  const answer = await fetch(`/media/${id}/levels`, { signal });
  if (answer.status !== 200) return null;
  const values = new Float32Array(await answer.arrayBuffer());
  return [id, { values, hz: Number(answer.headers.get('X-Hz')) || 50, suggestedDb: suggestedSilenceThreshold(values) }];
}

/** Silent stretches of every file under the threshold, length and padding wanted; levels are fetched when they are first looked at. */
export function useSilences(footage: readonly Footage[], choice: SilenceChoice, wanted: boolean) {
  const [levels, setLevels] = useState<{ key: string; byId: Map<string, Levels> } | null>(null);
  const key = footage
    .map((each) => each.id)
    .sort()
    .join();
  const missing = wanted && levels?.key !== key;
  useEffect(() => {
    if (!missing) return;
    const stop = new AbortController();
    Promise.all(key.split(',').map((id) => load(id, stop.signal))).then(
      (all) => setLevels({ key, byId: new Map(all.filter((each) => each !== null)) }),
      () => undefined,
    );
    return () => stop.abort();
  }, [key, missing]);
  const byMedia = useMemo(() => {
    const found = new Map<string, Silence[]>();
    if (!wanted) return found;
    for (const file of footage) {
      const own = levels?.byId.get(file.id);
      if (!own || file.whole) continue;
      const runs = silentRuns(own.values, own.hz, {
        thresholdDb: choice.thresholdDb ?? own.suggestedDb,
        minSeconds: choice.minSeconds,
        padSeconds: choice.padSeconds,
      });
      found.set(
        file.id,
        markSilences(
          runs.map((run) => ({ ...run, end: Math.min(run.end, file.durationSeconds) })),
          choice.kept.filter((kept) => kept.media === file.id),
        ),
      );
    }
    return found;
  }, [footage, levels, choice, wanted]);
  const suggested = [...(levels?.byId.values() ?? [])].map((each) => each.suggestedDb).sort((a, b) => a - b);
  return { byMedia, loading: missing, suggestedDb: suggested[Math.floor(suggested.length / 2)] ?? null };
}
