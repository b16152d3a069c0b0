/** In pixels of the screen. */
export interface Room {
  /** Of the place, without its right column. */
  width: number;
  height: number;
  /** What head, pieces and proposals take of the height. */
  taken: number;
  /** Of the right column. */
  column: number;
}

/** Of the buttons below a picture. */
const buttons = 36;
/** The picture goes below where it gets so much larger, and comes back where it is not larger any more: it does not jump about. */
const worthIt = 1.25;

/** How much of a picture of a size is seen in a frame. */
const seenArea = ({ width, height }: { width: number; height: number }, size: { width: number; height: number }) => {
  const scale = Math.min(width / size.width, height / size.height);
  return Math.max(0, size.width * scale) * Math.max(0, size.height * scale);
};

/**
 * Whether the picture is larger below the pieces of a short reel than beside them.
 * @param size of the picture, in whatever unit
 * @param isThere whether it is there now
 */
export function fitsBelow(
  { width, height, taken, column }: Room,
  size: { width: number; height: number },
  isThere: boolean,
): boolean {
  const below = seenArea({ width, height: Math.max(0, height - taken - buttons) }, size);
  const beside = seenArea({ width: column, height: (column * 9) / 16 }, size);
  return below > beside * (isThere ? 1 : worthIt);
}
