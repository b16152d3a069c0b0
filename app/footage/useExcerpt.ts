import { useCallback, useEffect, useRef, useState } from 'react';
import { writeSoundChoice, type SoundPick } from '#core/sound';

/** So much of a track is played at once, as the server gives it. In seconds. */
export const excerptSeconds = 15;

/**
 * Plays some seconds of a track or channel of an item. All are heard at the same place, so that they can be compared; what was
 * heard to its end goes on when it is asked for again.
 * @param start where it begins, in seconds
 */
export function useExcerpt(media: string, durationSeconds: number, start: number) {
  const audio = useRef<HTMLAudioElement | null>(null);
  const [at, setAt] = useState(start);
  const [playing, setPlaying] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const stop = useCallback(() => {
    audio.current?.pause();
    audio.current = null;
    setPlaying(null);
  }, []);
  useEffect(() => () => audio.current?.pause(), []);
  const play = useCallback(
    (pick: SoundPick) => {
      const sound = writeSoundChoice([pick]);
      audio.current?.pause();
      const element = new Audio(`/media/${media}/excerpt?sound=${encodeURIComponent(sound)}&from=${at.toFixed(2)}`);
      audio.current = element;
      setProblem(null);
      setPlaying(sound);
      const mine = () => audio.current === element;
      element.onended = () => {
        if (!mine()) return;
        setAt((now) => (now + excerptSeconds < durationSeconds - 1 ? now + excerptSeconds : 0));
        setPlaying(null);
      };
      const failed = () => {
        if (!mine()) return;
        setPlaying(null);
        setProblem('This cannot be played just now.');
      };
      element.onerror = failed;
      element.play().catch(failed);
    },
    [media, at, durationSeconds],
  );
  return { at, setAt, playing, problem, play, stop };
}
