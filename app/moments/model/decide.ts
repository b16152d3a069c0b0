import type { Decision } from '#core/moments';
import { overlap, type Range } from '#core/time';

/**
 * What a keep or drop of a range changes: what was decided inside it before gives way; the same verdict again takes it
 * back.
 * @returns entries of the log
 */
export function decideRange(
  decisions: readonly Decision[],
  media: string,
  { start, end }: Range,
  verdict: Decision['verdict'],
  newId: string,
): [string, Decision | null][] {
  const touched = decisions.filter((each) => each.media === media && overlap(each, { start, end }) > 0.01);
  const again = touched.some(
    (each) => each.verdict === verdict && Math.abs(each.start - start) < 0.06 && Math.abs(each.end - end) < 0.06,
  );
  return [
    ...touched.map((each): [string, null] => [`decision:${each.id}`, null]),
    ...(again ? [] : [[`decision:${newId}`, { id: newId, media, start, end, verdict }] satisfies [string, Decision]]),
  ];
}
