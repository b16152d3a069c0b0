import type { Segment } from '#core/reel';
import type { EdgeDrag } from './edgeDrag';

/** Least width of a piece, the room between two, and the width of one that went to another reel, in pixels. */
export const narrowest = 14,
  between = 2,
  movedWidth = 56;

/** A piece as it lies in its line. */
export interface Laid {
  segment: Segment;
  /** In pixels, from the start of the line. */
  x: number;
  width: number;
  /** What of the source lies in that width. */
  sourceSeconds: number;
  sourceLength: number;
}

/** Whole pieces per line, at least one. */
export function wrap(segments: readonly Segment[], secondsPerLine: number): number[][] {
  const lines: number[][] = [];
  let left = 0;
  for (const [index, segment] of segments.entries()) {
    const length = segment.endSeconds - segment.startSeconds;
    if (lines.length === 0 || length > left + 1e-9) {
      lines.push([]);
      left = secondsPerLine;
    }
    lines.at(-1)!.push(index);
    left -= length;
  }
  return lines;
}

interface LineRules {
  widthOf(segment: Segment): number;
  /** How many pieces that went to another reel are shown before a piece. */
  movedBefore(id: string): number;
  /** The edge that is being drawn. */
  drag: EdgeDrag | null;
}

/** The pieces of a line side by side; one whose edge is being drawn is as wide as it would be. */
export function layLine(line: readonly Segment[], { widthOf, movedBefore, drag }: LineRules): Laid[] {
  let x = 0;
  return line.map((segment) => {
    x += movedBefore(segment.id) * (movedWidth + between);
    const usual = widthOf(segment);
    const dragged = drag?.clip === segment.id ? drag : null;
    const width = dragged ? Math.max(6, usual + (dragged.edge === 'out' ? dragged.pixels : -dragged.pixels)) : usual;
    const length = (segment.endSeconds - segment.startSeconds) * segment.speed;
    const shift = dragged?.edge === 'in' ? (dragged.pixels / usual) * length : 0;
    const laid = {
      segment,
      x,
      width,
      sourceSeconds: segment.sourceSeconds + shift,
      sourceLength: (length * width) / usual,
    };
    x += width + between;
    return laid;
  });
}

/** Where a time of a line lies in it, in pixels. */
export function placeIn(line: readonly Laid[]): (time: number) => number {
  return (time) => {
    for (const { segment, x, width } of line) {
      if (time < segment.endSeconds)
        return x + (Math.max(0, time - segment.startSeconds) / (segment.endSeconds - segment.startSeconds)) * width;
    }
    const last = line.at(-1);
    return last ? last.x + last.width : 0;
  };
}
