import { estimateOutput, reelFrames, type Quality, type Reel } from '#core/reel';
import { framesToSeconds } from '#core/time';
import type { Variant, WorkedOut } from './set';

/** What variants come to, together. */
export interface VariantsCost {
  count: number;
  /** How long they run. */
  seconds: number;
  /** As rendered files. */
  bytes: number;
  /** How long rendering them takes. */
  renderSeconds: number;
}

/** What one costs that has nothing in it; it is paid once a file, not once a part. */
const emptyReel = (reel: Reel): Reel => ({ ...reel, tracks: [{ kind: 'picture', name: 'Main', items: [] }] });

/** Length, size and time of variants, guessed from their parts. @param pace as `estimateOutput` has it */
export function variantsCost(
  variants: readonly Variant[],
  { reels, format: { size, rate } }: Pick<WorkedOut, 'reels' | 'format'>,
  { quality, pace }: { quality: Quality; pace: number },
): VariantsCost {
  const wanted = { format: 'mp4' as const, quality, size };
  const costs = new Map(
    [...reels].map(([id, reel]) => {
      const [own, empty] = [estimateOutput(reel, wanted, pace), estimateOutput(emptyReel(reel), wanted, pace)];
      return [
        id,
        {
          seconds: framesToSeconds(reelFrames(reel), rate),
          bytes: own.bytes - empty.bytes,
          renderSeconds: own.seconds - empty.seconds,
          empty,
        },
      ];
    }),
  );
  const total: VariantsCost = { count: variants.length, seconds: 0, bytes: 0, renderSeconds: 0 };
  for (const { parts } of variants) {
    for (const [index, { id }] of parts.entries()) {
      const { seconds, bytes, renderSeconds, empty } = costs.get(id)!;
      total.seconds += seconds;
      total.bytes += bytes + (index === 0 ? empty.bytes : 0);
      total.renderSeconds += renderSeconds + (index === 0 ? empty.seconds : 0);
    }
  }
  return total;
}
