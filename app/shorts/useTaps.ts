import { useEffect, useEffectEvent, useState } from 'react';
import { tappedTimes } from '#core/captions';
import { historyOf } from '../history/history';
import type { ReelDesk } from '../reel/useReelDesk';
import { millisecond } from './millisecond';

/** Two taps closer than this are one, in seconds. */
const shortestTap = 0.1;

/** Times of captions, tapped with T while the short plays. @param sourceAt second of the source at a second of the reel */
export function useTaps({ captions, player, segments, spoken, reel }: ReelDesk, sourceAt: (seconds: number) => number) {
  const [taps, setTaps] = useState<number[] | null>(null);
  const tap = () => {
    if (!taps) return;
    const at = player.exact();
    const isNext = taps.length === 0 || at > taps.at(-1)! + shortestTap;
    if (taps.length < captions.length && isNext) setTaps([...taps, at]);
  };
  const start = () => {
    setTaps([]);
    player.seek(0);
    player.play();
  };
  const leave = () => setTaps(null);
  const keep = () => {
    player.pause();
    const ranges = segments.map((each) => ({ start: each.startSeconds, end: each.endSeconds }));
    // Of several files, one step all the same.
    historyOf(reel!.projectId).together(() => {
      for (const { media, from, starts, end } of tappedTimes(captions, taps ?? [], ranges, sourceAt))
        spoken.edit(media, { type: 'retime', from, starts: starts.map(millisecond), end: millisecond(end) });
    });
    setTaps(null);
  };
  const onKey = useEffectEvent((event: KeyboardEvent) => {
    if (event.key.toLowerCase() === 't' && !(event.target instanceof HTMLInputElement)) {
      event.preventDefault();
      tap();
    } else if (event.key === 'Escape') leave();
  });
  const isTapping = taps !== null;
  useEffect(() => {
    if (!isTapping) return;
    const listen = (event: KeyboardEvent) => onKey(event);
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [isTapping]);
  return { count: taps?.length ?? null, tap, start, leave, keep };
}
export type Taps = ReturnType<typeof useTaps>;
