import { useEffect, useRef } from 'react';
import type { PlayableSource } from '../player/reelPlayer';

/** The true frame of a source at a time, not a thumbnail. */
export function ExactFrame({
  label,
  source,
  seconds,
  plain = false,
}: {
  label: string;
  source: PlayableSource | null;
  seconds: number;
  plain?: boolean;
}) {
  const video = useRef<HTMLVideoElement>(null);
  useEffect(() => {
    const element = video.current;
    if (!element) return;
    const go = () => void (element.currentTime = Math.max(0, seconds) + 0.001);
    if (element.readyState > 0) go();
    element.addEventListener('loadedmetadata', go);
    return () => element.removeEventListener('loadedmetadata', go);
  }, [seconds, source?.address]);
  return (
    <figure className={plain ? 'relative' : ''}>
      <div className={`aspect-video overflow-hidden bg-black ${plain ? '' : 'rounded'}`}>
        {source?.photo && <img src={source.address} alt="" className="h-full w-full object-contain" />}
        {source && !source.photo && (
          <video ref={video} src={source.address} muted playsInline preload="auto" className="h-full w-full" />
        )}
        {!source && <span className="flex h-full items-center justify-center text-xs text-muted">missing</span>}
      </div>
      <figcaption
        className={
          plain ? 'absolute left-2 top-2 rounded bg-black/70 px-1.5 text-xs leading-5' : 'mt-0.5 text-xs text-muted'
        }
      >
        {label}
      </figcaption>
    </figure>
  );
}
