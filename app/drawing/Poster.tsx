import { Film, Music } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { useSeen } from './useSeen';
import { drawFrame, drawPhoto, onSheet, type Sheets } from './sheets';

interface PosterProps {
  media: string;
  sheets: Sheets | null;
  kind: 'video' | 'sound' | 'photo' | null;
  seconds: number;
  width?: number;
  height?: number;
  className?: string;
}

/** One frame of an item out of its thumbnail sheets, or the photo itself; drawn when it comes onto the screen. */
export function Poster({ media, sheets, kind, seconds, width = 96, height = 54, className = '' }: PosterProps) {
  const frame = useRef<HTMLSpanElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const seen = useSeen(frame);
  useEffect(() => {
    const draw = () => {
      const context = canvas.current?.getContext('2d');
      if (context && kind === 'photo') drawPhoto(context, media, 0, 0, canvas.current!.width, canvas.current!.height);
      else if (context && sheets)
        drawFrame(context, media, sheets, seconds, 0, 0, canvas.current!.width, canvas.current!.height);
    };
    draw();
    return onSheet(draw);
  }, [media, kind, sheets, seconds, width, height, seen]);
  if (!sheets && kind !== 'photo') {
    const Icon = kind === 'sound' ? Music : Film;
    return (
      <span
        ref={frame}
        className={`flex items-center justify-center rounded bg-line/50 text-muted ${className}`}
        style={{ width, height }}
      >
        <Icon size={18} aria-hidden />
      </span>
    );
  }
  return (
    <span ref={frame} className={`block overflow-hidden rounded ${className}`} style={{ width, height }} aria-hidden>
      {seen && (
        <canvas ref={canvas} width={width * 2} height={height * 2} style={{ width, height }} className="block" />
      )}
    </span>
  );
}
