import { useCallback, useEffect, useRef, useState } from 'react';
import { ReelPlayer, type PlayPlan, type Surroundings } from './reelPlayer';
import { useLatest } from '../ui/useLatest';

/** The reel player in a component: its canvas, time and state. */
export function useReelPlayer(plan: PlayPlan, around: Surroundings) {
  const player = useRef<ReelPlayer | null>(null);
  const canvas = useRef<HTMLCanvasElement | null>(null);
  const backdrop = useRef<HTMLCanvasElement | null>(null);
  const size = useRef<[number, number] | null>(null);
  const now = useLatest(around);
  const [time, setTime] = useState(0);
  const [playing, setPlaying] = useState(false);

  useEffect(() => {
    const own = new ReelPlayer({
      sourceOf: (media) => now.current.sourceOf(media),
      tableOf: (leaf) => now.current.tableOf(leaf),
      viewOf: (leaf, frame) => now.current.viewOf(leaf, frame),
    });
    own.canvas = canvas.current;
    own.backdrop = backdrop.current;
    // The viewer may have said its size before the player was there.
    if (size.current) own.setSize(...size.current);
    own.onTime = setTime;
    own.onPlaying = setPlaying;
    player.current = own;
    return () => own.dispose();
  }, [now]);
  useEffect(() => player.current?.setPlan(plan), [plan]);
  /** For the canvas that shows it. */
  const screen = useCallback((element: HTMLCanvasElement | null) => {
    canvas.current = element;
    if (player.current) {
      player.current.canvas = element;
      if (size.current) player.current.setSize(...size.current);
      player.current.redraw();
    }
  }, []);

  /** For the canvas that shows what lies around the crop. */
  const surround = useCallback((element: HTMLCanvasElement | null) => {
    backdrop.current = element;
    if (player.current) {
      player.current.backdrop = element;
      player.current.redraw();
    }
  }, []);

  const rawMusic = useCallback(() => player.current?.rawMusic ?? null, []);
  const seek = useCallback((seconds: number) => player.current?.seek(seconds), []);
  const redraw = useCallback(() => player.current?.redraw(), []);
  const setSize = useCallback((width: number, height: number) => {
    size.current = [width, height];
    player.current?.setSize(width, height);
  }, []);

  return {
    screen,
    surround,
    time,
    playing,
    rawMusic,
    /** The time to the millisecond, while it plays; the state above follows a little later. */
    exact: () => player.current?.exactSeconds ?? 0,
    play: () => void player.current?.play(),
    pause: () => player.current?.pause(),
    seek,
    redraw,
    setSize,
  };
}
