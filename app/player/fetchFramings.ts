import type { Framing } from '#core/framing';
import type { Reel, StretchToFrame } from '#core/reel';

/** Stretches of footage framed for a shape, in order; null where there is nothing to follow. Throws while the server is away. */
export async function fetchFramings(
  projectId: string,
  stretches: readonly StretchToFrame[],
  { width, height }: Reel['size'],
  signal?: AbortSignal,
): Promise<(Framing | null)[]> {
  const answer = await fetch(`/projects/${projectId}/framings`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ width, height, stretches }),
    ...(signal ? { signal } : {}),
  });
  const body = (await answer.json()) as { problem: string | null; framings?: (Framing | null)[] };
  if (!body.framings) throw new Error(body.problem ?? 'The pictures could not be framed.');
  return body.framings;
}
