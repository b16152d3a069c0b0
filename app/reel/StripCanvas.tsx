import { useEffect, useRef } from 'react';
import type { Footage } from '#core/moments';
import type { Item } from '#usecases/projects';
import { drawFrame, drawPhoto, onSheet } from '../drawing/sheets';
import { useShade } from '../ui/shade';
import { useLatest } from '../ui/useLatest';
import { drawSound, soundHeight } from './drawSound';
import type { Laid } from './stripLayout';

/** Pixels of a canvas for each of the screen. */
const ratio = 2;
/** Corners of a piece, and the room between its pictures and its sound, in pixels of the screen. */
const corner = 4;
export const soundGap = 6;

interface StripCanvasProps {
  line: readonly Laid[];
  /** Of the pictures, in pixels of the screen. */
  height: number;
  itemOf(media: string): Item | null;
  readingOf(media: string | null): Footage | null;
}

/**
 * The pictures of a line's pieces, and their sound below. It is one canvas a line: a canvas is a layer of its own for
 * the browser, and hundreds of them took longer to lay out than all else.
 */
export function StripCanvas({ line, height, itemOf, readingOf }: StripCanvasProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const shade = useShade();
  const last = line.at(-1);
  const width = last ? Math.ceil(last.x + last.width) : 0;
  const whole = height + soundGap + soundHeight;
  // An edit makes all segments anew; what is drawn of them changes seldom.
  const drawn = line
    .map(({ segment: { media, gain }, x, width: wide, sourceSeconds, sourceLength }) =>
      [media, gain === 0, x, wide, sourceSeconds, sourceLength].join(),
    )
    .join(' ');
  const given = useLatest(line);
  useEffect(() => {
    const draw = () => {
      const context = canvas.current?.getContext('2d');
      if (!context) return;
      canvas.current!.width = width * ratio;
      canvas.current!.height = whole * ratio;
      for (const laid of given.current) {
        context.setTransform(ratio, 0, 0, ratio, laid.x * ratio, 0);
        drawPictures(context, laid, height, itemOf);
        const reading = laid.segment.gain > 0 ? readingOf(laid.segment.media) : null;
        if (!reading) continue;
        context.setTransform(ratio, 0, 0, ratio, laid.x * ratio, (height + soundGap) * ratio);
        drawSound(context, laid.width, reading, laid.sourceSeconds, laid.sourceLength);
      }
    };
    draw();
    return onSheet(draw);
  }, [drawn, width, whole, height, itemOf, readingOf, given, shade]);
  return (
    <canvas
      ref={canvas}
      className="pointer-events-none absolute left-0 top-0"
      style={{ width, height: whole }}
      aria-hidden
    />
  );
}

/** Pictures of a piece side by side, as many as there is room for. */
function drawPictures(
  context: CanvasRenderingContext2D,
  { segment: { media }, width, sourceSeconds, sourceLength }: Laid,
  height: number,
  itemOf: StripCanvasProps['itemOf'],
): void {
  const item = media === null ? null : itemOf(media);
  if (!item || !showsPicture(item)) return;
  context.save();
  context.beginPath();
  context.roundRect(0, 0, width, height, corner);
  context.clip();
  const { sheets } = item;
  if (item.probe?.kind === 'photo' || !sheets) {
    // A narrow piece shows the middle of its picture.
    const wide = Math.min(width, (height * 16) / 9);
    for (let x = 0; x < width; x += wide) drawPhoto(context, item.id, x, 0, wide, height);
  } else {
    const each = Math.min(width, (height * sheets.width) / sheets.height);
    for (let x = 0; x < width; x += each) {
      const seconds = sourceSeconds + ((x + each * 0.3) / Math.max(width, each)) * sourceLength;
      drawFrame(context, item.id, sheets, seconds, x, 0, each, height);
    }
  }
  context.restore();
}

/** Whether there are pictures to be drawn of it. */
export const showsPicture = (item: Item): boolean => item.sheets !== null || item.probe?.kind === 'photo';
