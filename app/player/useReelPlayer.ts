import { useEffect, useRef, useState } from 'react';
import type { Segment } from '#core/reel';
import { ReelPlayer, type PlayableSource } from './reelPlayer';

/** The reel player in a component: its elements, time and state. */
export function useReelPlayer(segments: Segment[], sourceOf: (media: string) => PlayableSource | null) {
  const first = useRef<HTMLVideoElement>(null);
  const second = useRef<HTMLVideoElement>(null);
  const photo = useRef<HTMLImageElement>(null);
  const player = useRef<ReelPlayer | null>(null);
  const sources = useRef(sourceOf);
  sources.current = sourceOf;
  const [time, setTime] = useState(0);
  const [playing, setPlaying] = useState(false);

  useEffect(() => {
    const own = new ReelPlayer([first.current!, second.current!], photo.current!, [], (media) => sources.current(media));
    own.onTime = setTime;
    own.onPlaying = setPlaying;
    player.current = own;
    return () => own.dispose();
  }, []);
  useEffect(() => player.current?.setSegments(segments), [segments]);

  return {
    elements: { first, second, photo }, time, playing,
    play: () => void player.current?.play(), pause: () => player.current?.pause(), seek: (seconds: number) => player.current?.seek(seconds),
  };
}
