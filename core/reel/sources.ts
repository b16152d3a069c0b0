import { sourceStartOf, type Rate, type RecordingLabels } from '#core/time';
import type { Source } from './types';

/** An item of footage as far as a reel is concerned; without a probe it cannot be used. */
export interface ProbedItem {
  id: string;
  name: string;
  /** SHA-256 of its content. */
  hash: string;
  probe:
    | ({ durationSeconds: number; kind: 'video' | 'photo' | 'sound'; rate?: Rate | null } & Partial<RecordingLabels>)
    | null;
}

/** What edits, players, renders and documents must know of footage, by item: the one place that tells it. */
export function sourcesFrom(items: readonly ProbedItem[]): Map<string, Source & { hash: string }> {
  const sources = new Map<string, Source & { hash: string }>();
  for (const { id, name, hash, probe } of items)
    if (probe)
      sources.set(id, {
        id,
        name,
        hash,
        durationSeconds: probe.durationSeconds,
        photo: probe.kind === 'photo',
        soundOnly: probe.kind === 'sound',
        start: sourceStartOf(probe),
        reelName: probe.reelName ?? null,
      });
  return sources;
}
