import { useEffect } from 'react';
import { usePictureWindowWidth } from '../pictureWindow/pictureWindow';
import { useColumnWidth } from '../ui/useColumnWidth';
import type { useReelPlayer } from './useReelPlayer';

/** Pixels of the longer side that are drawn: more than the frame is wide, and at most so many, as on the full screen. */
const drawnPerPixel = 1.28,
  mostDrawn = 1280;

/**
 * Draws a reel as sharp as it is seen: in the column, in a box of its own, on the full screen, in a window of its own.
 * @param own width of its box, in pixels, where it does not lie in the column
 */
export function useDrawnSize(
  { setSize }: Pick<ReturnType<typeof useReelPlayer>, 'setSize'>,
  size: { width: number; height: number },
  full: boolean,
  own?: number,
): void {
  const column = useColumnWidth();
  const beside = usePictureWindowWidth();
  const wanted = full ? mostDrawn : Math.min(mostDrawn, Math.max((own ?? column) * drawnPerPixel, beside));
  const scale = Math.min(1, wanted / Math.max(size.width, size.height));
  const [width, height] = [Math.round(size.width * scale), Math.round(size.height * scale)];
  useEffect(() => setSize(width, height), [setSize, width, height]);
}
