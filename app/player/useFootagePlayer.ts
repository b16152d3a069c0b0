import { useCallback, useEffect, useRef, useState } from 'react';
import type { Range, StringOut } from '#core/time';
import { useLatest } from '../ui/useLatest';

/** A hover rests when the pointer stands still for so long; then the true frame is fetched. */
const restMilliseconds = 140;
export const fastest = 16;

/**
 * Plays footage end to end in one video element; time is the string's. When the string changes (another filter or
 * order), the playhead stays at its frame if that is still there.
 */
export function useFootagePlayer(
  string: StringOut,
  initial: number,
  isPhoto: (id: string) => boolean,
  addressOf: (id: string) => string,
) {
  const video = useRef<HTMLVideoElement | null>(null);
  /** For the element that shows it. */
  const screen = useCallback((element: HTMLVideoElement | null) => {
    video.current = element;
  }, []);
  const current = useRef<{ id: string | null; address: string | null; index: number; wanted: number | null }>({
    id: null,
    address: null,
    index: -1,
    wanted: null,
  });
  const [time, setTime] = useState(Math.min(initial, string.total));
  const [playing, setPlaying] = useState(false);
  const [rate, setRate] = useState(0);
  const [loop, setLoop] = useState<Range | null>(null);
  /** Where the pointer hovers, and whether the true frame of that place is there already. */
  const [hover, setHover] = useState<{ at: number; isSharp: boolean } | null>(null);
  const speed = useRef(0);
  const at = useLatest(time);
  const photos = useLatest(isPhoto);
  const addresses = useLatest(addressOf);

  const settle = (element: HTMLVideoElement) => {
    if (current.current.wanted === null) return;
    element.currentTime = current.current.wanted;
    current.current.wanted = null;
  };
  const show = useCallback(
    (wanted: number) => {
      const element = video.current;
      const place = string.locate(wanted);
      if (!element || !place) return;
      current.current.index = place.index;
      current.current.id = place.id;
      if (photos.current(place.id)) return element.pause();
      const address = addresses.current(place.id);
      if (current.current.address !== address) {
        current.current.address = address;
        element.src = address;
      }
      if (element.readyState === 0 || element.seeking) {
        current.current.wanted = place.seconds;
        if (element.readyState === 0) element.onloadedmetadata = () => settle(element);
        return;
      }
      current.current.wanted = null;
      element.currentTime = place.seconds;
    },
    [string, photos, addresses],
  );

  const seek = useCallback(
    (wanted: number) => {
      const held = Math.min(Math.max(0, wanted), string.total);
      setTime(held);
      setHover(null);
      show(held);
    },
    [show, string],
  );

  const resting = useRef(0);
  /** Shows what lies under the pointer without moving the playhead; null goes back to it. */
  const peek = useCallback(
    (wanted: number | null) => {
      clearTimeout(resting.current);
      setHover(wanted === null ? null : { at: wanted, isSharp: false });
      resting.current = window.setTimeout(() => show(wanted ?? at.current), wanted === null ? 0 : restMilliseconds);
    },
    [show, at],
  );

  const play = useCallback(
    (wanted = 1) => {
      const element = video.current;
      if (!element) return;
      speed.current = wanted;
      setRate(wanted);
      setHover(null);
      if (wanted < 0 || photos.current(current.current.id ?? '')) element.pause();
      else {
        element.playbackRate = wanted;
        void element.play().catch(() => undefined);
      }
      setPlaying(true);
    },
    [photos],
  );
  const pause = useCallback(() => {
    speed.current = 0;
    setRate(0);
    video.current?.pause();
    setPlaying(false);
  }, []);

  const before = useRef(string);
  useEffect(() => {
    const place = before.current === string ? null : before.current.locate(at.current);
    before.current = string;
    if (place) seek(string.timeOf(place.id, place.seconds) ?? 0);
    else show(at.current);
    setLoop(null);
    const element = video.current;
    const seeked = () => {
      if (!element) return;
      if (current.current.wanted === null) setHover((now) => now && { ...now, isSharp: true });
      settle(element);
    };
    element?.addEventListener('seeked', seeked);
    return () => element?.removeEventListener('seeked', seeked);
  }, [seek, show, string, at]);

  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    let last = performance.now();
    const tick = (now: number) => {
      const element = video.current!;
      const { index, id } = current.current;
      const item = string.items[index];
      if (!item) return pause();
      const end = string.offsets[index + 1]!;
      // Photos and running back have no clock of their own.
      const byHand = speed.current < 0 || photos.current(id ?? '');
      const position = byHand
        ? at.current + (speed.current * (now - last)) / 1000
        : string.offsets[index]! + element.currentTime - (item.start ?? 0);
      if (byHand) {
        if (!element.seeking && now - last > (speed.current < 0 ? 60 : 30)) {
          last = now;
          if (position <= 0) {
            seek(0);
            return pause();
          }
          if (position >= string.total - 0.02) return pause();
          seek(loop && position >= loop.end ? loop.start : position);
          if (speed.current > 0 && !photos.current(current.current.id ?? '')) play(speed.current);
        }
      } else if (loop && position >= loop.end - 0.01) seek(loop.start);
      else if (element.ended || position >= end - 0.02) {
        if (end >= string.total - 0.05) return pause();
        seek(end + 0.001);
        last = now;
        play(speed.current);
      } else if (!element.seeking && current.current.wanted === null && element.readyState > 1)
        setTime(Math.max(string.offsets[index]!, position));
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [playing, seek, pause, play, string, loop, at, photos]);

  return { screen, time, playing, rate, hover, seek, peek, play, pause, loop, setLoop, speed };
}

export type FootagePlayer = ReturnType<typeof useFootagePlayer>;
