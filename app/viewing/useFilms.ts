import { useCallback, useEffect, useRef, useState } from 'react';

/** Seconds by which two films that play side by side may be apart before one is put right. */
const mostApart = 0.08;

/** What of a film is shown beside its picture. */
const stateOf = (film: HTMLVideoElement) => ({
  seconds: film.currentTime,
  length: Number.isFinite(film.duration) ? film.duration : 0,
  isPlaying: !film.paused,
  isMuted: film.muted,
});

/** A browser that does not let a film play says so by leaving it paused. */
const play = (film: HTMLVideoElement) => void film.play().catch(() => undefined);

function goTo(film: HTMLVideoElement, seconds: number): void {
  film.currentTime = Math.max(0, Math.min(seconds, film.duration || seconds));
}

function turnSound(film: HTMLVideoElement): void {
  film.muted = !film.muted;
}

const told = ['timeupdate', 'pause', 'seeked', 'volumechange', 'durationchange', 'ended', 'error'] as const;

/**
 * Tells whenever a film is somewhere else; while it plays, at every picture of the screen.
 * @param goneOn seconds at which it begins, as the film before it stood there
 * @returns ends it
 */
function watch(film: HTMLVideoElement, goneOn: () => number, tell: () => void): () => void {
  let frame = 0;
  const each = () => {
    tell();
    frame = film.paused ? 0 : requestAnimationFrame(each);
  };
  const loaded = () => {
    if (goneOn() > 0 && film.currentTime === 0) goTo(film, goneOn());
    tell();
  };
  for (const name of told) film.addEventListener(name, tell);
  film.addEventListener('loadedmetadata', loaded);
  film.addEventListener('play', each);
  if (film.readyState >= HTMLMediaElement.HAVE_METADATA) loaded();
  return () => {
    cancelAnimationFrame(frame);
    for (const name of told) film.removeEventListener(name, tell);
    film.removeEventListener('loadedmetadata', loaded);
    film.removeEventListener('play', each);
  };
}

/** Lets another film go along with one. @returns ends it */
function goAlong(film: HTMLVideoElement, other: HTMLVideoElement): () => void {
  const follow = () => {
    if (Math.abs(other.currentTime - film.currentTime) > (film.paused ? 0.001 : mostApart))
      goTo(other, film.currentTime);
    if (film.paused) other.pause();
    else if (other.paused && !other.ended) play(other);
  };
  const events = ['play', 'pause', 'seeked', 'timeupdate'] as const;
  for (const name of events) film.addEventListener(name, follow);
  other.addEventListener('loadedmetadata', follow);
  return () => {
    for (const name of events) film.removeEventListener(name, follow);
    other.removeEventListener('loadedmetadata', follow);
  };
}

/** Plays the film of a version, and another one beside it in step, without its sound. */
export function useFilms() {
  const [film, setFilm] = useState<HTMLVideoElement | null>(null);
  const [other, setOther] = useState<HTMLVideoElement | null>(null);
  const [state, setState] = useState({ seconds: 0, length: 0, isPlaying: false, isMuted: false });
  /** Where the film was, so that another version goes on there. */
  const seconds = useRef(0);
  useEffect(
    () =>
      film
        ? watch(
            film,
            () => seconds.current,
            () => {
              if (film.readyState >= HTMLMediaElement.HAVE_METADATA) seconds.current = film.currentTime;
              setState(stateOf(film));
            },
          )
        : undefined,
    [film],
  );
  useEffect(() => (film && other ? goAlong(film, other) : undefined), [film, other]);
  const seek = useCallback((to: number) => film && goTo(film, to), [film]);
  const pause = useCallback(() => film?.pause(), [film]);
  const toggle = useCallback(() => film && (film.paused ? play(film) : film.pause()), [film]);
  const mute = useCallback(() => film && turnSound(film), [film]);
  return { ...state, film, setFilm, setOther, seek, pause, toggle, mute };
}
export type Films = ReturnType<typeof useFilms>;
