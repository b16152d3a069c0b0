import type { Framing, PathPoint } from './types';
import { fullWidth, type Size, type View } from './view';

/** Where a path is at a second of the source; of two points at one second the later counts. */
export function pathAt(path: readonly PathPoint[], seconds: number): { x: number; y: number } {
  const first = path[0];
  if (!first) return { x: 0.5, y: 0.5 };
  let [low, high] = [0, path.length - 1];
  if (seconds <= first[0] && (path[1]?.[0] ?? Infinity) > first[0]) return { x: first[1], y: first[2] };
  // The last point that is not later.
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (path[middle]![0] <= seconds) low = middle;
    else high = middle - 1;
  }
  const [from, to] = [path[low]!, path[low + 1]];
  if (!to) return { x: from[1], y: from[2] };
  const share = Math.max(0, (seconds - from[0]) / (to[0] - from[0]));
  return { x: from[1] + (to[1] - from[1]) * share, y: from[2] + (to[2] - from[2]) * share };
}

/** Width of a crop as a share of the source's. */
export const cropWidth = (source: Size, frame: Size, zoom: number): number =>
  fullWidth(source, frame) / Math.max(1, zoom);
const cropHeight = (width: number, source: Size, frame: Size): number =>
  (width * source.width * frame.height) / (frame.width * source.height);

const inside = (middle: number, extent: number): number => Math.min(1 - extent / 2, Math.max(extent / 2, middle));

/** The view of a source through a crop with this middle; never beyond its edges. */
export function cropView(middle: { x: number; y: number }, zoom: number, source: Size, frame: Size): View {
  const width = cropWidth(source, frame, zoom);
  return { x: inside(middle.x, width), y: inside(middle.y, cropHeight(width, source, frame)), width, turn: 0 };
}

/** A frame's part: all of it, or its upper and lower half. */
export interface CropPart {
  view: View;
  /** In shares of the frame. */
  top: number;
  height: number;
}

/** What of a source fills a frame at a second: one view, or two over one another. */
export function cropParts(framing: Framing, seconds: number, source: Size, frame: Size): CropPart[] {
  if (!framing.below)
    return [{ view: cropView(pathAt(framing.path, seconds), framing.zoom, source, frame), top: 0, height: 1 }];
  const half = { width: frame.width, height: frame.height / 2 };
  return [framing.path, framing.below].map((path, index) => ({
    view: cropView(pathAt(path, seconds), framing.zoom, source, half),
    top: index / 2,
    height: 0.5,
  }));
}

/** Whether a crop stands still over a stretch of its source. */
export const standsStill = (framing: Framing, from: number, to: number): boolean =>
  [framing.path, ...(framing.below ? [framing.below] : [])].every((path) => {
    const start = pathAt(path, from);
    return (
      path.every(([seconds, x, y]) => seconds <= from || seconds >= to || (x === start.x && y === start.y)) &&
      pathAt(path, to - 1e-6).x === start.x &&
      pathAt(path, to - 1e-6).y === start.y
    );
  });

/** A crop seen through another view, a steadied one for instance: the crop lies inside what that view shows. */
export function cropWithin(outer: View, crop: View, source: Size): View {
  // In pixels of the source, so that turning keeps its proportions.
  const [right, down] = [(crop.x - 0.5) * source.width * outer.width, (crop.y - 0.5) * source.height * outer.width];
  const [cos, sin] = [Math.cos(outer.turn), Math.sin(outer.turn)];
  return {
    x: outer.x + (right * cos - down * sin) / source.width,
    y: outer.y + (right * sin + down * cos) / source.height,
    width: crop.width * outer.width,
    turn: outer.turn + crop.turn,
  };
}

/** By this share two shapes may differ and still fill one another: a row of pixels in 250. */
const shapeTolerance = 0.004;
/** Whether a picture has the shape of a frame, as nearly as pixels allow. */
export const isSameShape = (picture: Size, frame: Size): boolean =>
  Math.abs(picture.width / picture.height / (frame.width / frame.height) - 1) < shapeTolerance;

/** Which part of the picture a piece shows of a source, when it is framed at all: it fills a frame of another shape, or comes closer. */
export const isFramed = (framing: Framing | undefined, fit: string, source: Size, frame: Size): framing is Framing =>
  framing !== undefined &&
  fit === 'fill' &&
  (framing.zoom > 1 || framing.below !== undefined || !isSameShape(source, frame));
