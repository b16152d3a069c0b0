import { counted } from '#core/sentences';
import type { Fitted } from '#core/reel';
import { formatClock } from '#core/time';

/** What was done to fit a reel to its music, and what could not be done. */
export function fittedWords({
  lengthened,
  shortened,
  moved,
  stayed,
  shortSeconds,
  added = 0,
}: Fitted & { added?: number }): string {
  const pieces = (count: number) => `${counted(count, 'piece')}`;
  const done = [
    ...(added ? [`${pieces(added)} picked to fill it`] : []),
    ...(lengthened ? [`${pieces(lengthened)} made longer`] : []),
    ...(shortened ? [`${pieces(shortened)} beyond the end of the music taken out or trimmed`] : []),
    ...(moved ? [`${counted(moved, 'cut')} moved onto beats`] : []),
    ...(stayed ? [`${stayed} left, where a word would be cut or the footage ends`] : []),
  ].join(', ');
  const rest =
    shortSeconds > 0.5
      ? ` The music still lasts ${formatClock(shortSeconds)} longer: the pieces have no more to show, and ${added ? 'no others reach the limits' : 'there are no others'}. Add some.`
      : ' The reel ends with the music.';
  return `${done ? `${done[0]!.toUpperCase()}${done.slice(1)}.` : ''}${rest}`.trim();
}
