import { fitLogistic } from '#core/moments';
import { shortParts, type Short } from './types';

/** What somebody said of a short. */
export type Thumb = 'up' | 'down';

/** How far thumbs can move a short, in points. */
const reach = 30;

/**
 * Shorts in the order that thumbs suggest: what was praised comes first, what was not wanted goes last, and the rest
 * follows what they have in common, by logistic regression on the parts of their scores. Without thumbs, by score.
 */
export function rankShorts<S extends Pick<Short, 'id' | 'score' | 'parts'>>(
  shorts: readonly S[],
  thumbs: ReadonlyMap<string, Thumb>,
): S[] {
  const judged = shorts.filter((short) => thumbs.has(short.id));
  const most = Object.fromEntries(
    shortParts.map((part) => [part, Math.max(1, ...shorts.map((short) => short.parts[part]))]),
  );
  const features = (short: S) => shortParts.map((part) => short.parts[part] / most[part]!);
  const mean = shortParts.map(
    (_, index) => shorts.reduce((sum, short) => sum + features(short)[index]!, 0) / Math.max(1, shorts.length),
  );
  const centred = (short: S) => features(short).map((value, index) => value - mean[index]!);
  // With thumbs of one kind only, the middle of all is what they are set against.
  const rows = judged.map(centred),
    labels = judged.map((short) => thumbs.get(short.id) === 'up');
  const model =
    judged.length > 0 ? fitLogistic([...rows, shortParts.map(() => 0)], [...labels, !labels[0]], 0.5) : null;
  const liking = (short: S): number =>
    model ? Math.tanh(centred(short).reduce((sum, value, index) => sum + value * model.weights[index]!, 0)) : 0;
  const place = (short: S) => (thumbs.get(short.id) === 'up' ? 2 : thumbs.get(short.id) === 'down' ? 0 : 1);
  return [...shorts].sort((a, b) => place(b) - place(a) || b.score + reach * liking(b) - (a.score + reach * liking(a)));
}
