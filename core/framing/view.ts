import type { Frame, StillMove } from './types';

/** The part of a source picture that fills the frame: its middle in shares of the source's width and height, its width as a share of the source's, turned clockwise by `turn` radians. */
export interface View {
  x: number;
  y: number;
  width: number;
  turn: number;
}

/** Width and height in pixels. */
export interface Size {
  width: number;
  height: number;
}

/** Width, as a share of the source's, of the largest view of the frame's shape that lies inside the source. */
export const fullWidth = (source: Size, frame: Size): number =>
  Math.min(1, (source.height / source.width) * (frame.width / frame.height));

/** Slow at both ends, even between: a sine, common practice. */
const eased = (share: number): number => (1 - Math.cos(Math.PI * Math.min(1, Math.max(0, share)))) / 2;

/** The view that shows a part of a picture as large as it can while everything seen lies inside the picture. */
export function viewOf(part: Frame, source: Size, frame: Size): View {
  const most = fullWidth(source, frame);
  const width = Math.min(most, most * Math.max(part.width, part.height));
  const height = (width * source.width * frame.height) / (frame.width * source.height);
  const inside = (middle: number, extent: number) => Math.min(1 - extent / 2, Math.max(extent / 2, middle));
  return { x: inside(part.x + part.width / 2, width), y: inside(part.y + part.height / 2, height), width, turn: 0 };
}

/** A slow move at a share of its time, 0 to 1; sizes change evenly to the eye, by the same factor in the same time. */
export function stillMoveAt(move: StillMove, share: number, source: Size, frame: Size): View {
  const [a, b] = [viewOf(move.from, source, frame), viewOf(move.to, source, frame)];
  const at = eased(share);
  const width = a.width * (b.width / a.width) ** at;
  // The middle follows the size, so that the point that both views share stays where it is.
  const along = Math.abs(b.width - a.width) > 1e-6 ? (width - a.width) / (b.width - a.width) : at;
  return { x: a.x + (b.x - a.x) * along, y: a.y + (b.y - a.y) * along, width, turn: 0 };
}

/** Where a pixel of the frame lies in the source: `x = a·i + b·j + c`, `y = d·i + e·j + f`, pixels counted at their middles. */
export interface Affine {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}

/** The transform that shows a view of a source in a frame; both sizes in pixels. */
export function affineOf(view: View, source: Size, frame: Size): Affine {
  const scale = (view.width * source.width) / frame.width;
  const [cos, sin] = [Math.cos(view.turn) * scale, Math.sin(view.turn) * scale];
  const [mx, my] = [view.x * source.width, view.y * source.height];
  return {
    a: cos,
    b: -sin,
    c: mx - (cos * frame.width) / 2 + (sin * frame.height) / 2,
    d: sin,
    e: cos,
    f: my - (sin * frame.width) / 2 - (cos * frame.height) / 2,
  };
}

/** A slow move over a photo towards its faces; towards the middle when there are none. @param faces boxes in shares of the photo */
export function moveTowards(faces: readonly Frame[], inward: boolean): StillMove {
  const whole = { x: 0, y: 0, width: 1, height: 1 };
  if (faces.length === 0) {
    const near = { x: 0.08, y: 0.08, width: 0.84, height: 0.84 };
    return inward ? { from: whole, to: near } : { from: near, to: whole };
  }
  const [left, top] = [Math.min(...faces.map((face) => face.x)), Math.min(...faces.map((face) => face.y))];
  const [right, bottom] = [
    Math.max(...faces.map((face) => face.x + face.width)),
    Math.max(...faces.map((face) => face.y + face.height)),
  ];
  // Room around faces, but never closer than half of the photo: closer is soft and restless. Common practice, no source.
  const size = Math.min(1, Math.max(0.55, 2.2 * Math.max(right - left, bottom - top)));
  const at = (from: number, to: number) => Math.min(1 - size, Math.max(0, (from + to) / 2 - size / 2));
  const near = { x: at(left, right), y: at(top, bottom), width: size, height: size };
  return inward ? { from: whole, to: near } : { from: near, to: whole };
}
