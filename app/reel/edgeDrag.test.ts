import { beforeEach, describe, expect, it } from 'vitest';
import { assembleReel, planSound, type SnapKind } from '#core/reel';
import { rates } from '#core/time';
import { testSources } from '../../core/reel/testEdits';
import type { DrawPoint } from '../hands/useDraw';
import type { Moving } from './CutFrames';
import { drawEdge, type EdgeDrag } from './edgeDrag';
import type { ReelDesk } from './useReelDesk';

let next = 0;
const pieces = [2, 10].map((from) => ({ media: 'a', start: from, end: from + 4, name: `from ${from}` }));
const reel = assembleReel('Pond', pieces, testSources, rates['25'], { width: 16, height: 16 }, () => 'AB'[next++]!);
const by = (byX: number, keys: Partial<DrawPoint> = {}): DrawPoint => ({
  byX,
  byY: 0,
  clientX: 100 + byX,
  clientY: 0,
  shiftKey: false,
  altKey: false,
  ...keys,
});

describe('drawing the edge of a piece', () => {
  let moved: Moving[] = [];
  let shown: (Moving | null)[] = [];
  let selected: string | null = null;
  let dragged: EdgeDrag | null = null;
  beforeEach(() => {
    [moved, shown, selected, dragged] = [[], [], null, null];
  });
  /** Two pixels a frame; the playhead at frame 130. */
  const open = (snaps: ReadonlySet<SnapKind> = new Set(), document: typeof reel | null = reel) => {
    const desk = { document, playFrame: 130, beats: [], setSelectedId: (id: string) => (selected = id) };
    const { id, frames } = planSound(reel)[1]!;
    return {
      desk: () => desk as unknown as ReelDesk,
      clip: id,
      frames,
      width: 200,
      runs: [],
      snaps: () => snaps,
      onDrag: (drag: EdgeDrag | null) => (dragged = drag),
      onMoving: (moving: Moving | null) => shown.push(moving),
      onMoved: (moving: Moving) => moved.push(moving),
    };
  };

  it('shows how far it is while it moves, and does it when it is let go', () => {
    const drawing = drawEdge('out', open())!;
    drawing.move(by(-20));
    expect(dragged).toEqual({ clip: 'B', edge: 'out', pixels: -20 });
    expect(shown.at(-1)).toMatchObject({ clip: 'B', what: 'out', frames: -10 });
    expect([moved, selected]).toEqual([[], 'B']);
    drawing.done(by(-20));
    expect(moved).toMatchObject([{ clip: 'B', what: 'out', frames: -10 }]);
    expect([dragged, shown.at(-1)]).toEqual([null, null]);
  });
  it('with Alt the cut before it moves', () => {
    const drawing = drawEdge('in', open())!;
    drawing.move(by(20, { altKey: true }));
    drawing.done(by(20));
    expect(moved).toMatchObject([{ what: 'roll', frames: 10 }]);
  });
  it('with Alt the cut behind it moves, seen from the piece before; where nothing follows, the piece is trimmed', () => {
    const piece = open();
    const first = drawEdge('out', { ...piece, clip: planSound(reel)[0]!.id })!;
    first.move(by(20, { altKey: true }));
    expect(dragged).toMatchObject({ clip: 'A', edge: 'out', pixels: 20 });
    first.done(by(20));
    const last = drawEdge('out', piece)!;
    last.move(by(-20, { altKey: true }));
    last.done(by(-20));
    expect(moved).toMatchObject([
      { clip: 'B', what: 'roll', frames: 10 },
      { clip: 'B', what: 'out', frames: -10 },
    ]);
  });
  it('lies on what is near, but not with Shift', () => {
    const drawing = drawEdge('in', open(new Set<SnapKind>(['playhead'])))!;
    drawing.move(by(2 * 28));
    expect(shown.at(-1)).toMatchObject({ frames: 30, snapped: 'playhead' });
    drawing.move(by(2 * 28, { shiftKey: true }));
    expect(shown.at(-1)).toMatchObject({ frames: 28, snapped: null });
  });
  it('left where it was, it changes nothing', () => {
    const drawing = drawEdge('out', open())!;
    drawing.move(by(-40));
    drawing.left();
    expect([moved, dragged, shown.at(-1)]).toEqual([[], null, null]);
  });
  it('is not begun in a reel that is not there, and not done without a frame of difference', () => {
    expect(drawEdge('out', open(new Set(), null))).toBeNull();
    const drawing = drawEdge('out', open())!;
    drawing.move(by(0.4));
    drawing.done(by(0.4));
    expect(moved).toEqual([]);
  });
});
