import { chooseForTarget, layGround, prepare, type Decision, type Footage, type Limits, type Mix } from '#core/moments';
import type { MontagePiece } from './types';

/** Pieces for a montage are short; a slot seldom lasts longer than eight seconds. Common practice, no source. */
const pieceLength = { minSeconds: 1.2, preferredSeconds: 3.5, maxSeconds: 9 };

/** At most so much of the pieces comes from one file, where others have enough. */
const largestShare = 0.35;

/** What pieces are gathered by. */
export interface Gathering {
  mix: Mix;
  /** Shake is not a flaw here; steadiness is asked for when slots are filled. */
  limits: Limits;
  decisions: readonly Decision[];
}

/**
 * The best pieces of some footage for so many slots, in the order of the footage: what Moments would pick in each file,
 * with what was kept and dropped there. Photos come whole.
 * @param nameOf of a file
 */
export function gatherPieces(
  footage: readonly Footage[],
  { mix, limits, decisions }: Gathering,
  slots: number,
  nameOf: (media: string) => string,
  makeId: () => string,
): MontagePiece[] {
  if (footage.length === 0) return [];
  // Camera sound is not heard in a montage, so talk counts for nothing.
  const settings = { mix: { ...mix, talk: 0 }, limits: { ...limits, shake: 1 }, piece: pieceLength };
  const target = Math.max(12, slots) * pieceLength.preferredSeconds;
  const whole = footage.reduce((sum, each) => sum + each.durationSeconds, 0);
  const moments = footage.flatMap((each) => {
    const { durationSeconds } = each;
    // One long recording among short ones is not to be everything.
    const share = Math.max(target / footage.length, target * Math.min(largestShare, durationSeconds / whole));
    const most = each.whole ? durationSeconds : Math.min(durationSeconds * 0.8, share);
    return chooseForTarget([layGround(prepare(each), settings, decisions)], Math.max(most, pieceLength.minSeconds))
      .moments;
  });
  const at = new Map(footage.map((each, index) => [each.id, index]));
  return [...moments]
    .sort((a, b) => at.get(a.media)! - at.get(b.media)! || a.start - b.start)
    .map(({ media, start, end }) => ({
      id: makeId(),
      media,
      name: nameOf(media),
      start,
      end,
      ...(footage[at.get(media)!]!.whole ? { photo: true } : {}),
    }));
}
