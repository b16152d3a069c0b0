import type { Footage } from '#core/moments';
import type { Range } from '#core/time';

/** Simpler ways to choose, for comparison. */
export type Piece = Range & { media: string };

/** Pieces of four seconds, evenly over everything. */
export function evenly(footage: readonly Footage[], target: number): Piece[] {
  const whole = footage.reduce((sum, { durationSeconds }) => sum + durationSeconds, 0);
  const count = Math.floor(target / 4);
  return Array.from({ length: count }, (_, index): Piece => {
    let at = ((index + 0.5) * whole) / count;
    for (const { id, durationSeconds } of footage) {
      if (at < durationSeconds) {
        const start = Math.max(0, Math.min(durationSeconds - 4, at - 2));
        return { media: id, start, end: Math.min(durationSeconds, start + 4) };
      }
      at -= durationSeconds;
    }
    throw new Error('Beyond the end.');
  });
}

/** The loudest and most changing windows of four seconds. */
export function loudest(footage: readonly Footage[], target: number): Piece[] {
  const windows = footage.flatMap(({ id, durationSeconds, hz, traces }) =>
    Array.from({ length: Math.floor(durationSeconds / 4) }, (_, index) => {
      const mean = (values: Float32Array) =>
        values.subarray(index * 4 * hz, (index + 1) * 4 * hz).reduce((sum, value) => sum + value, 0) / (4 * hz);
      return {
        media: id,
        start: index * 4,
        end: index * 4 + 4,
        merit: (mean(traces.loudness) + 70) / 70 + mean(traces.motion),
      };
    }),
  );
  return windows.sort((a, b) => b.merit - a.merit).slice(0, Math.floor(target / 4));
}
