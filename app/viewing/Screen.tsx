import { Maximize2, Pause, Play, Volume2, VolumeX } from 'lucide-react';
import { Slider } from 'radix-ui';
import { useEffect } from 'react';
import { formatClock } from '#core/time';
import type { LinkComment, LinkVersion } from '#usecases/viewingLink';
import { IconButton } from '../ui/controls';
import type { Films } from './useFilms';
import { linkWords } from './words';

const filmOf = (path: string, { id, file }: LinkVersion) => `${path}/film/${id}?file=${file}`;

interface ScreenProps {
  path: string;
  version: LinkVersion;
  /** A version beside it. */
  beside: LinkVersion | null;
  films: Films;
  comments: readonly LinkComment[];
  /** The comment that was chosen. */
  chosen: string | null;
  onChoose(comment: LinkComment): void;
}

/** The film of a version, its controls, and what was said of it at its place. */
export function Screen({ path, version, beside, films, comments, chosen, onChoose }: ScreenProps) {
  usePlayKeys(films);
  return (
    <section aria-label={linkWords.version(version.number)}>
      <div className={`flex justify-center gap-2 bg-black ${beside ? 'max-sm:flex-col' : ''}`}>
        <Picture
          key={version.file}
          path={path}
          version={version}
          onFilm={films.setFilm}
          onPress={films.toggle}
          isNamed={beside !== null}
        />
        {beside && (
          <Picture
            key={beside.file}
            path={path}
            version={beside}
            onFilm={films.setOther}
            onPress={films.toggle}
            isNamed
            muted
          />
        )}
      </div>
      {version.state === 'ready' && <Controls films={films} comments={comments} chosen={chosen} onChoose={onChoose} />}
    </section>
  );
}

interface PictureProps {
  path: string;
  version: LinkVersion;
  muted?: boolean;
  /** Whether its number stands in it, where two are to be told apart. */
  isNamed: boolean;
  onFilm(film: HTMLVideoElement | null): void;
  onPress(): void;
}

function Picture({ path, version, muted = false, isNamed, onFilm, onPress }: PictureProps) {
  const { state, size, number, progress } = version;
  const shape = size ? size.width / size.height : 16 / 9;
  return (
    <figure
      className="relative min-w-0 flex-1"
      style={{ aspectRatio: shape, maxWidth: `calc(min(62vh, 62svh) * ${shape})` }}
    >
      {state === 'ready' ? (
        <video
          ref={onFilm}
          src={filmOf(path, version)}
          aria-label={linkWords.version(number)}
          playsInline
          muted={muted}
          preload="metadata"
          onClick={onPress}
          className="h-full w-full"
        />
      ) : (
        <p role="status" className="flex h-full items-center justify-center p-6 text-center text-base text-muted">
          {state === 'making' ? linkWords.states.making(progress) : linkWords.states[state]}
        </p>
      )}
      {isNamed && (
        <figcaption className="absolute left-2 top-2 rounded bg-ground/80 px-2 py-0.5 text-xs">
          {linkWords.version(number)}
        </figcaption>
      )}
    </figure>
  );
}

function Controls({
  films,
  comments,
  chosen,
  onChoose,
}: Pick<ScreenProps, 'films' | 'comments' | 'chosen' | 'onChoose'>) {
  const { seconds, length, isPlaying, isMuted, film } = films;
  const clock = formatClock(seconds, true);
  const full = () => void film?.requestFullscreen?.().catch(() => undefined);
  return (
    <div className="mx-auto max-w-5xl px-3 pt-4">
      <div className="relative h-3" aria-hidden={comments.length === 0}>
        {length > 0 &&
          comments.map((comment) => (
            <button
              key={comment.id}
              type="button"
              title={`${comment.author}: ${comment.text}`}
              aria-label={`${formatClock(comment.seconds, true)}, ${comment.author}: ${comment.text}`}
              onClick={() => onChoose(comment)}
              className={`absolute bottom-0 h-3 w-3 -translate-x-1/2 rounded-full rounded-bl-none border pointer-coarse:h-5 pointer-coarse:w-5 ${comment.isDone ? 'border-muted bg-ground' : 'border-ground bg-text'} ${comment.id === chosen ? 'outline outline-2 outline-lampline' : ''}`}
              style={{ left: `${Math.min(100, (comment.seconds / length) * 100)}%` }}
            />
          ))}
      </div>
      <Slider.Root
        className="relative flex h-5 touch-none items-center pointer-coarse:h-11"
        value={[seconds]}
        max={length || 1}
        step={0.04}
        onValueChange={([next]) => films.seek(next!)}
      >
        <Slider.Track className="relative h-1.5 grow rounded bg-line">
          <Slider.Range className="absolute h-full rounded bg-lamp" />
        </Slider.Track>
        <Slider.Thumb
          aria-label={linkWords.place}
          aria-valuetext={clock}
          className="block h-4 w-4 rounded-full border-2 border-ground bg-lamp"
        />
      </Slider.Root>
      <div className="mt-1 flex items-center gap-2">
        <IconButton
          label={isPlaying ? linkWords.pause : linkWords.play}
          keys="Space"
          onClick={films.toggle}
          className="!h-11 !w-11"
        >
          {isPlaying ? <Pause size={20} /> : <Play size={20} />}
        </IconButton>
        <span className="tabular">
          {clock} <span className="text-muted">/ {formatClock(length, true)}</span>
        </span>
        <span className="ml-auto" />
        <IconButton label={isMuted ? linkWords.unmute : linkWords.mute} onClick={films.mute} className="!h-11 !w-11">
          {isMuted ? <VolumeX size={18} /> : <Volume2 size={18} />}
        </IconButton>
        {typeof film?.requestFullscreen === 'function' && (
          <IconButton label={linkWords.full} onClick={full} className="!h-11 !w-11">
            <Maximize2 size={18} />
          </IconButton>
        )}
      </div>
    </div>
  );
}

/** Space plays; arrows go by a second, with Shift by a frame of common films. Not while somebody writes or holds a control. */
function usePlayKeys({ toggle, seek, film }: Films) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const on = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey || on.closest('input, textarea, select, [role=slider]'))
        return;
      if (event.key === ' ' && !on.closest('button, a, summary')) toggle();
      else if (event.key === 'ArrowLeft' || event.key === 'ArrowRight')
        seek((film?.currentTime ?? 0) + (event.key === 'ArrowLeft' ? -1 : 1) * (event.shiftKey ? 0.04 : 1));
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [toggle, seek, film]);
}
