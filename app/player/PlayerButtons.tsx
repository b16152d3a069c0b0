import { Grid2x2, Maximize, Pause, Play, SkipBack, SkipForward, Smartphone } from 'lucide-react';
import { useEffect, useState, type RefObject } from 'react';
import { PictureWindowButton } from '../pictureWindow/PictureWindowButton';
import { IconButton } from '../ui/controls';
import type { useReelPlayer } from './useReelPlayer';

/** Whether an element is what the whole screen shows. */
export function useFullScreen(frame: RefObject<HTMLElement | null>): boolean {
  const [full, setFull] = useState(false);
  useEffect(() => {
    const onFull = () => setFull(document.fullscreenElement === frame.current && frame.current !== null);
    document.addEventListener('fullscreenchange', onFull);
    return () => document.removeEventListener('fullscreenchange', onFull);
  }, [frame]);
  return full;
}

interface PlayerButtonsProps {
  player: Pick<ReturnType<typeof useReelPlayer>, 'playing' | 'play' | 'pause'>;
  /** What the outer buttons step by: "Piece", "Short". */
  steps: string;
  size: { width: number; height: number };
  /** Whether safe areas lie over the picture. */
  areas: boolean;
  onAreas(shown: boolean): void;
  /** What the full screen shows. */
  frame: RefObject<HTMLElement | null>;
  onPrevious(): void;
  onNext(): void;
}

/** Play, step, safe areas, full screen: below the picture of a reel. */
export function PlayerButtons({ player, steps, size, areas, onAreas, frame, onPrevious, onNext }: PlayerButtonsProps) {
  const upright = size.height > size.width;
  return (
    <>
      <IconButton label={`${steps} before`} command="previous" onClick={onPrevious}>
        <SkipBack size={15} />
      </IconButton>
      <IconButton
        label={player.playing ? 'Pause' : 'Play'}
        command="play"
        onClick={() => (player.playing ? player.pause() : player.play())}
      >
        {player.playing ? <Pause size={16} /> : <Play size={16} />}
      </IconButton>
      <IconButton label={`${steps} after`} command="next" onClick={onNext}>
        <SkipForward size={15} />
      </IconButton>
      <IconButton
        label={upright ? 'What phone players cover' : 'Safe areas'}
        aria-pressed={areas}
        className={areas ? 'bg-line' : ''}
        onClick={() => onAreas(!areas)}
      >
        {upright ? <Smartphone size={15} /> : <Grid2x2 size={15} />}
      </IconButton>
      <PictureWindowButton />
      <IconButton
        label="Picture on the full screen"
        command="fullScreen"
        data-fullscreen
        onClick={() =>
          void (document.fullscreenElement ? document.exitFullscreen() : frame.current?.requestFullscreen())
        }
      >
        <Maximize size={15} />
      </IconButton>
    </>
  );
}
