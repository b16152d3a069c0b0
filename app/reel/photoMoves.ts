import { moveTowards } from '#core/framing';
import type { Frame, StillMove } from '#core/reel';

/** A slow move over a photo of the project, towards the faces that were read in it. */
export async function moveTowardsFaces(media: string, inward: boolean): Promise<StillMove> {
  const answer = await fetch(`/media/${media}/faces`).catch(() => null);
  return moveTowards(answer?.ok ? ((await answer.json()) as Frame[]) : [], inward);
}
