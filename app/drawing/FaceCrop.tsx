import { useEffect, useRef } from 'react';

interface FaceCropProps {
  /** Of the film or photo; see `playedAddress`. */
  address: string;
  photo: boolean;
  time: number;
  box: { x: number; y: number; width: number; height: number };
}

/** A face out of the true frame: the picture enlarged and shifted so that the face fills a square. */
export function FaceCrop({ address, photo, time, box }: FaceCropProps) {
  const frame = useRef<HTMLDivElement>(null);
  const video = useRef<HTMLVideoElement>(null);
  const place = (element: HTMLElement, width: number, height: number) => {
    if (!width || !height || !frame.current) return;
    const side = frame.current.clientWidth;
    const reach = Math.max(box.width * width, box.height * height) * 1.9;
    const scale = side / reach;
    element.style.width = `${width * scale}px`;
    element.style.height = `${height * scale}px`;
    element.style.left = `${side / 2 - (box.x + box.width / 2) * width * scale}px`;
    element.style.top = `${side / 2 - (box.y + box.height / 2) * height * scale}px`;
  };
  useEffect(() => {
    const element = video.current;
    if (!element) return;
    const ready = () => {
      place(element, element.videoWidth, element.videoHeight);
      element.currentTime = time;
    };
    if (element.readyState > 0) ready();
    element.addEventListener('loadedmetadata', ready);
    return () => element.removeEventListener('loadedmetadata', ready);
  });
  return (
    <div ref={frame} className="relative aspect-square w-full overflow-hidden rounded bg-black">
      {photo ? (
        <img
          src={address}
          alt=""
          className="absolute max-w-none"
          onLoad={(event) =>
            place(event.currentTarget, event.currentTarget.naturalWidth, event.currentTarget.naturalHeight)
          }
        />
      ) : (
        <video
          ref={video}
          src={address}
          muted
          playsInline
          preload="metadata"
          className="absolute max-w-none"
          aria-hidden
        />
      )}
    </div>
  );
}
