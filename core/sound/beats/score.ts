/** A beat that is no further from a true one is right, in seconds; and so much of the beginning does not count (MIREX audio beat tracking; mir_eval.beat.f_measure). */
const within = 0.07,
  ignored = 5;

/**
 * F-measure of beats against the truth, 0 to 1, as MIREX and mir_eval define it: each true beat can be hit once.
 * @param found and `truth` in seconds, ascending
 */
export function beatScore(found: readonly number[], truth: readonly number[]): number {
  const [estimated, reference] = [found, truth].map((list) => list.filter((beat) => beat >= ignored)) as [
    number[],
    number[],
  ];
  let hits = 0,
    next = 0;
  for (const beat of reference) {
    while (next < estimated.length && estimated[next]! < beat - within) next++;
    if (next < estimated.length && Math.abs(estimated[next]! - beat) <= within) {
      hits++;
      next++;
    }
  }
  const precision = hits / Math.max(1, estimated.length),
    recall = hits / Math.max(1, reference.length);
  return precision + recall === 0 ? 0 : (2 * precision * recall) / (precision + recall);
}
