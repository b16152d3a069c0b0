import { useEffect, useRef } from 'react';
import type { Footage } from '#core/moments';
import type { Segment } from '#core/reel';
import type { Item } from '#usecases/projects';
import { drawFrame, drawPhoto, onSheet } from '../drawing/sheets';
import { drawSound, soundHeight } from './drawSound';

/** Pixels of a canvas for each of the screen. */
const ratio = 2;

interface Drawn {
  segment: Segment;
  item: Item | null;
  reading: Footage | null;
  /** In pixels of the screen. */
  width: number;
  height: number;
}

/** The canvases of a piece: its pictures side by side, and its sound. */
export function usePieceDrawing({ segment, item, reading, width, height }: Drawn) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const sound = useRef<HTMLCanvasElement>(null);
  const sheets = item?.sheets ?? null;
  const photo = item?.probe?.kind === 'photo';
  // An edit makes all segments anew; what is drawn of them changes seldom.
  const { media, sourceSeconds } = segment;
  const sourceLength = (segment.endSeconds - segment.startSeconds) * segment.speed;
  useEffect(() => {
    const draw = () => {
      const context = canvas.current?.getContext('2d');
      if (!context || media === null || (!sheets && !photo)) return;
      canvas.current!.width = width * ratio;
      canvas.current!.height = height * ratio;
      context.setTransform(ratio, 0, 0, ratio, 0, 0);
      if (photo || !sheets) {
        // A narrow piece shows the middle of its picture.
        const wide = Math.min(width, (height * 16) / 9);
        for (let x = 0; x < width; x += wide) drawPhoto(context, media, x, 0, wide, height);
        return;
      }
      const each = Math.min(width, (height * sheets.width) / sheets.height);
      for (let x = 0; x < width; x += each) {
        const seconds = sourceSeconds + ((x + each * 0.3) / Math.max(width, each)) * sourceLength;
        drawFrame(context, media, sheets, seconds, x, 0, each, height);
      }
    };
    draw();
    return onSheet(draw);
  }, [media, sourceSeconds, sheets, photo, width, height, sourceLength]);
  const silent = segment.gain === 0;
  useEffect(() => {
    const context = sound.current?.getContext('2d');
    if (!context || !reading) return;
    sound.current!.width = width * ratio;
    sound.current!.height = soundHeight * ratio;
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    if (!silent) drawSound(context, width, reading, sourceSeconds, sourceLength);
  }, [reading, sourceSeconds, width, silent, sourceLength]);
  return { canvas, sound, hasPicture: Boolean(sheets) || photo };
}
