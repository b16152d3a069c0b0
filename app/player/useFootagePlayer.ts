import { useCallback, useEffect, useRef, useState } from 'react';
import type { StringOut } from '#core/time';

/** Plays footage end to end in one video element; time is the string's. */
export function useFootagePlayer(string: StringOut, initial: number) {
  const video = useRef<HTMLVideoElement>(null);
  const current = useRef<{ index: number; wanted: number | null }>({ index: -1, wanted: null });
  const [time, setTime] = useState(Math.min(initial, string.total));
  const [playing, setPlaying] = useState(false);
  const [loop, setLoop] = useState<{ start: number; end: number } | null>(null);
  const speed = useRef(0);

  const show = useCallback((at: number) => {
    const element = video.current;
    const place = string.locate(at);
    if (!element || !place) return;
    if (current.current.index !== place.index) {
      current.current.index = place.index;
      element.src = `/media/${place.id}`;
    }
    if (element.readyState === 0 || element.seeking) {
      current.current.wanted = place.seconds;
      if (element.readyState === 0) element.onloadedmetadata = () => settle(element);
      return;
    }
    current.current.wanted = null;
    element.currentTime = place.seconds;
  }, [string]);

  const settle = (element: HTMLVideoElement) => {
    if (current.current.wanted === null) return;
    element.currentTime = current.current.wanted;
    current.current.wanted = null;
  };

  const seek = useCallback((at: number) => {
    const held = Math.min(Math.max(0, at), string.total);
    setTime(held);
    show(held);
  }, [show, string]);

  const play = useCallback((rate = 1) => {
    const element = video.current;
    if (!element) return;
    speed.current = rate;
    if (rate < 0) element.pause();
    else {
      element.playbackRate = Math.min(8, rate);
      void element.play().catch(() => undefined);
    }
    setPlaying(true);
  }, []);
  const pause = useCallback(() => {
    speed.current = 0;
    video.current?.pause();
    setPlaying(false);
  }, []);

  useEffect(() => {
    show(time);
    const element = video.current;
    const seeked = () => element && settle(element);
    element?.addEventListener('seeked', seeked);
    return () => element?.removeEventListener('seeked', seeked);
    // Only at the start and when the string changes; seeking does the rest.
  }, [show]);

  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    let last = performance.now();
    const tick = (now: number) => {
      const element = video.current!;
      const offset = string.offsets[current.current.index] ?? 0;
      let at = offset + element.currentTime;
      if (speed.current < 0) {
        at = offset + element.currentTime + (speed.current * (now - last)) / 1000;
        if (!element.seeking && now - last > 60) {
          last = now;
          seek(at);
        }
      } else if (element.ended || at >= string.offsets[current.current.index + 1]! - 0.02) {
        const next = string.offsets[current.current.index + 1]!;
        if (next >= string.total - 0.05) return pause();
        seek(next + 0.001);
        void element.play().catch(() => undefined);
        element.playbackRate = Math.min(8, speed.current);
      } else if (!element.seeking && current.current.wanted === null && element.readyState > 1) {
        if (loop && at >= loop.end) seek(loop.start);
        else setTime(at);
      }
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [playing, seek, pause, string, loop]);

  return { video, time, playing, seek, show, play, pause, loop, setLoop, speed };
}
