import { chooseForTarget, layGround, prepare, type Decision, type Footage, type Limits, type Mix } from '#core/moments';
import type { MontagePiece } from './types';

/** Pieces for a montage are short; a slot seldom lasts longer than eight seconds. Common practice, no source. */
const pieceLength = { minSeconds: 1.2, preferredSeconds: 3.5, maxSeconds: 9 };

export interface Gathering {
  mix: Mix;
  /** Shake is not a flaw here; steadiness is asked for when slots are filled. */
  limits: Limits;
  decisions: readonly Decision[];
}

/**
 * The best pieces of some footage for so many slots, in the order of the footage: what Moments would pick for about as
 * many pieces, with what was kept and dropped there. Photos come whole.
 * @param nameOf of a file
 */
export function gatherPieces(footage: readonly Footage[], { mix, limits, decisions }: Gathering, slots: number, nameOf: (media: string) => string, makeId: () => string): MontagePiece[] {
  if (footage.length === 0) return [];
  const settings = { mix, limits: { ...limits, shake: 1 }, piece: pieceLength };
  const grounds = footage.map((each) => layGround(prepare(each), settings, decisions));
  const whole = footage.reduce((sum, each) => sum + each.durationSeconds, 0);
  const target = Math.min(whole * 0.7, Math.max(12, slots) * pieceLength.preferredSeconds);
  const { moments } = chooseForTarget(grounds, mix, target, null);
  const at = new Map(footage.map((each, index) => [each.id, index]));
  return [...moments].sort((a, b) => at.get(a.media)! - at.get(b.media)! || a.start - b.start)
    .map(({ media, start, end }) => ({ id: makeId(), media, name: nameOf(media), start, end, ...(footage[at.get(media)!]!.whole ? { photo: true } : {}) }));
}
