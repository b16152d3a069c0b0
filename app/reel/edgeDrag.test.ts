// @vitest-environment jsdom
import type { PointerEvent as ReactPointerEvent } from 'react';
import { beforeEach, describe, expect, it } from 'vitest';
import { assembleReel, planSound, type SnapKind } from '#core/reel';
import { rates } from '#core/time';
import { testSources } from '../../core/reel/testEdits';
import type { Moving } from './CutFrames';
import { beginEdgeDrag, type EdgeDrag } from './edgeDrag';
import type { ReelDesk } from './useReelDesk';

let next = 0;
const pieces = [2, 10].map((from) => ({ media: 'a', start: from, end: from + 4, name: `from ${from}` }));
const reel = assembleReel('Pond', pieces, testSources, rates['25'], { width: 16, height: 16 }, () => 'AB'[next++]!);

describe('drawing the edge of a piece', () => {
  let target: HTMLSpanElement;
  let moved: Moving[] = [];
  let shown: (Moving | null)[] = [];
  let selected: string | null = null;
  let dragged: EdgeDrag | null = null;
  beforeEach(() => {
    [moved, shown, selected, dragged] = [[], [], null, null];
    target = document.createElement('span');
    target.setPointerCapture = () => undefined;
    document.body.append(target);
  });
  /** Two pixels a frame; the playhead at frame 130. */
  const open = (snaps: ReadonlySet<SnapKind> = new Set()) => {
    const desk = { document: reel, playFrame: 130, beats: [], setSelectedId: (id: string) => (selected = id) };
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
  const press = (piece: ReturnType<typeof open>, edge: 'in' | 'out', button = 0) =>
    beginEdgeDrag(
      edge,
      {
        button,
        clientX: 100,
        pointerId: 1,
        currentTarget: target,
        preventDefault: () => undefined,
        stopPropagation: () => undefined,
      } as unknown as ReactPointerEvent<HTMLSpanElement>,
      piece,
    );
  const pointer = (kind: string, clientX: number, keys: MouseEventInit = {}) =>
    void target.dispatchEvent(new MouseEvent(kind, { clientX, ...keys }));

  it('shows how far it is while it moves, and does it when it is let go', () => {
    press(open(), 'out');
    pointer('pointermove', 80);
    expect(dragged).toEqual({ clip: 'B', edge: 'out', pixels: -20 });
    expect(shown.at(-1)).toMatchObject({ clip: 'B', what: 'out', frames: -10 });
    expect([moved, selected]).toEqual([[], 'B']);
    pointer('pointerup', 80);
    expect(moved).toMatchObject([{ clip: 'B', what: 'out', frames: -10 }]);
    expect([dragged, shown.at(-1)]).toEqual([null, null]);
  });
  it('with Alt the cut before it moves', () => {
    press(open(), 'in');
    pointer('pointermove', 120, { altKey: true });
    pointer('pointerup', 120);
    expect(moved).toMatchObject([{ what: 'roll', frames: 10 }]);
  });
  it('with Alt the cut behind it moves, seen from the piece before; where nothing follows, the piece is trimmed', () => {
    const piece = open();
    press({ ...piece, clip: planSound(reel)[0]!.id }, 'out');
    pointer('pointermove', 120, { altKey: true });
    expect(dragged).toMatchObject({ clip: 'A', edge: 'out', pixels: 20 });
    pointer('pointerup', 120);
    press(piece, 'out');
    pointer('pointermove', 80, { altKey: true });
    pointer('pointerup', 80);
    expect(moved).toMatchObject([
      { clip: 'B', what: 'roll', frames: 10 },
      { clip: 'B', what: 'out', frames: -10 },
    ]);
  });
  it('lies on what is near, but not with Shift', () => {
    const snaps = new Set<SnapKind>(['playhead']);
    press(open(snaps), 'in');
    pointer('pointermove', 100 + 2 * 28);
    expect(shown.at(-1)).toMatchObject({ frames: 30, snapped: 'playhead' });
    pointer('pointermove', 100 + 2 * 28, { shiftKey: true });
    expect(shown.at(-1)).toMatchObject({ frames: 28, snapped: null });
    pointer('pointerup', 0);
  });
  it('Escape leaves all as it was', () => {
    const piece = open();
    press(piece, 'out');
    pointer('pointermove', 60);
    window.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape' }));
    pointer('pointerup', 60);
    expect([moved, dragged]).toEqual([[], null]);
  });
  it('nothing is done by another button, or without moving', () => {
    const piece = open();
    press(piece, 'out', 2);
    pointer('pointermove', 60);
    expect(dragged).toBeNull();
    press(piece, 'out');
    pointer('pointerup', 100);
    expect(moved).toEqual([]);
  });
});
