import { locate, snapTrim, type SnapKind } from '#core/reel';
import type { Run } from '#core/readings';
import type { Drawing } from '../hands/useDraw';
import type { Moving } from './CutFrames';
import type { ReelDesk } from './useReelDesk';

type Edge = 'in' | 'out';

/** An edge that is being drawn, and how far. */
export interface EdgeDrag {
  clip: string;
  edge: Edge;
  pixels: number;
}

/** Edges are drawn to what lies nearer than this, in pixels. */
const snapPixels = 8;

interface Dragging {
  /** The desk as it is now. */
  desk(): Pick<ReelDesk, 'document' | 'playFrame' | 'beats' | 'setSelectedId'>;
  clip: string;
  frames: number;
  /** Of the piece, in pixels. */
  width: number;
  runs: readonly Run[];
  /** What edges are drawn to; with Shift to nothing. */
  snaps(): ReadonlySet<SnapKind>;
  onDrag(drag: EdgeDrag | null): void;
  onMoving(moving: Moving | null): void;
  onMoved(moving: Moving): void;
}

/** The piece that begins at a cut, at the beginning or the end of another; null where no other piece stands there. */
function cutAt({ track, index }: NonNullable<ReturnType<typeof locate>>, side: Edge): string | null {
  const [before, after] = [
    track.items[side === 'in' ? index - 1 : index],
    track.items[side === 'in' ? index : index + 1],
  ];
  return before?.kind === 'clip' && after?.kind === 'clip' ? after.id : null;
}

/** Drawing an edge of a piece: it follows the pointer, and is moved when that is let go. */
export function drawEdge(
  side: Edge,
  { desk, clip, frames, width, runs, snaps, onDrag, onMoving, onMoved }: Dragging,
): Drawing | null {
  const { document, playFrame, beats, setSelectedId } = desk();
  const found = document && locate(document, clip);
  if (!document || !found) return null;
  setSelectedId(clip);
  const perFrame = width / frames;
  const reach = Math.max(1, Math.round(snapPixels / perFrame));
  let moving: Moving | null = null;
  const left = () => {
    onDrag(null);
    onMoving(null);
  };
  return {
    move({ byX, altKey, shiftKey }) {
      const wanted = Math.round(byX / perFrame);
      // With Alt the cut itself moves, at whichever side, and both sides of it are seen.
      const roll = altKey ? cutAt(found, side) : null;
      const near = shiftKey ? new Set<SnapKind>() : snaps();
      const snapped = roll
        ? { frames: wanted, kind: null }
        : snapTrim(document, found, side, wanted, { playhead: playFrame, beats, runs }, near, reach);
      moving = { clip: roll ?? clip, what: roll ? 'roll' : side, frames: snapped.frames, snapped: snapped.kind };
      onDrag({ clip, edge: side, pixels: snapped.frames * perFrame });
      onMoving(moving);
    },
    done() {
      left();
      if (moving && moving.frames !== 0) onMoved(moving);
    },
    left,
  };
}
