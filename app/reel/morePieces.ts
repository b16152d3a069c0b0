import { clipsOf, stretchShown, type Reel, type WantedPiece } from '#core/reel';

/**
 * Moments of a project that a reel does not show yet, for so many seconds.
 * @param quiet only those in which nobody speaks, the best first
 * @returns none where the server is away
 */
export async function morePieces(
  projectId: string,
  reel: Reel,
  seconds: number,
  quiet = false,
): Promise<WantedPiece[]> {
  const used = clipsOf(reel).map((clip) => ({ media: clip.media, ...stretchShown(clip, reel.rate) }));
  const answer = await fetch(`/projects/${projectId}/more-pieces`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ seconds, used, ...(quiet ? { quiet } : {}) }),
  }).catch(() => null);
  return answer?.ok ? ((await answer.json()) as { pieces: WantedPiece[] }).pieces : [];
}
