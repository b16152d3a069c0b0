import { describe, expect, it } from 'vitest';
import { applyCommand, mainTrack, planSegments, reelFrames, type Reel, type Source } from '#core/reel';
import type { BeatGrid, Section } from '#core/sound';
import { framesPerSecond, rates } from '#core/time';
import {
  addMark,
  defaultFilling,
  fillNote,
  fillSlots,
  followGrid,
  frameAt,
  joinSlot,
  montageItems,
  montageReel,
  moveEdge,
  montagePut,
  moveMark,
  othersFor,
  quantiseMarks,
  refit,
  removeMark,
  slotsByPattern,
  spanOf,
  splitSlot,
  tapOffset,
  tidyMarks,
  type Filling,
  type Heard,
  type Montage,
  type MontagePiece,
  type Slot,
} from '.';
import { defaultPattern } from './types';
import { edgesEvery, everyFor, spacedEdges } from './slots';
import { placePiece } from './fill';
import type { PieceFeatures } from './features';

let ids = 0;
const newId = () => `id${++ids}`;
/** Two beats a second from 0 on, bars of four; sixteen seconds. */
const grid: BeatGrid = {
  beats: Array.from({ length: 33 }, (_, index) => index * 0.5),
  bar: 4,
  starts: [0, 4, 8, 12, 16, 20, 24, 28, 32],
};
const section = (start: number, end: number, energy: number): Section => ({
  start,
  end,
  energy,
  name: 'verse',
  letter: 'A',
});
const hearing = {
  sections: [section(0, 8, 0.3), section(8, 16, 1)],
  tempo: 120,
  hits: [{ seconds: 14, strength: 0.9 }],
  lastHit: 14,
  drops: [8],
  energy: Array.from({ length: 161 }, (_, index) => (index < 80 ? 0.3 : 1)),
  durationSeconds: 16,
};
const heard: Heard = { ...hearing, grid };
const plain: Montage = {
  schema: 'BrightReel.Montage.1',
  grid,
  marks: [],
  span: { start: 0, end: 16, fadeSeconds: 0 },
  pattern: { ...defaultPattern, followEnergy: false },
  filling: { ...defaultFilling, start: 'in' },
  pieces: [],
  slots: [],
};
const slotsOf = (montage: Montage): Slot[] => {
  const result = slotsByPattern(montage, hearing, newId);
  if (!result.ok) throw new Error(result.reason);
  return result.slots;
};
const starts = (slots: readonly Slot[]) => slots.map((slot) => slot.start);
const piece = (id: string, seconds = 6, media = id): MontagePiece => ({
  id,
  media,
  name: id,
  start: 1,
  end: 1 + seconds,
});
const features = (action: number, more: Partial<PieceFeatures> = {}): PieceFeatures => ({
  action,
  peak: { seconds: 4, strength: action },
  size: 'wide',
  direction: null,
  look: null,
  shaky: 0,
  whip: false,
  quality: 0.5,
  ...more,
});

describe('slots by a pattern, worked by hand', () => {
  it('every two beats; painted parts otherwise; by bar', () => {
    expect(starts(slotsOf(plain))).toEqual(Array.from({ length: 16 }, (_, index) => index));
    const painted = slotsOf({ ...plain, pattern: { ...plain.pattern, painted: { 1: 8 } } });
    expect(starts(painted)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 12]);
    expect(painted.at(-1)!.end).toBe(16);
    expect(starts(slotsOf({ ...plain, pattern: { ...plain.pattern, every: 'bar' } }))).toEqual([
      0, 2, 4, 6, 8, 10, 12, 14,
    ]);
  });
  it('“every two beats, three for the last” gives what it says', () => {
    // Seven beats: two, two and three of them.
    const short = { ...plain, span: { start: 0, end: 3.5, fadeSeconds: 0 } };
    const slots = slotsOf(short);
    expect(starts(slots)).toEqual([0, 1, 2, 3]);
    const joined = joinSlot(slots, slots[2]!.id);
    expect(joined.ok && joined.slots.map((slot) => (slot.end - slot.start) / 0.5)).toEqual([2, 2, 3]);
  });
  it('three beats go over the bars, and begin anew with each part', () => {
    expect(starts(slotsOf({ ...plain, pattern: { ...plain.pattern, every: 3 } }))).toEqual([
      0, 1.5, 3, 4.5, 6, 7.5, 8, 9.5, 11, 12.5, 14, 15.5,
    ]);
  });
  it('follows the energy: calm four beats, full every beat; slower counts at fast tempi', () => {
    const slots = slotsOf({ ...plain, pattern: { ...plain.pattern, followEnergy: true } });
    expect(starts(slots).slice(0, 6)).toEqual([0, 2, 4, 6, 8, 8.5]);
    expect([everyFor(0, 100), everyFor(0.3, 100), everyFor(0.7, 100), everyFor(1, 100), everyFor(1, 180)]).toEqual([
      8, 4, 2, 1, 2,
    ]);
  });
  it('eleven marks make eleven pieces when the first is at the start', () => {
    const marks = Array.from({ length: 11 }, (_, index) => index * 1.37);
    const slots = slotsOf({ ...plain, marks, pattern: { ...plain.pattern, every: 'marks' } });
    expect(slots).toHaveLength(11);
    expect(starts(slots)).toEqual(marks);
  });
  it('never shorter than the shortest, and longer ones are parted on a beat', () => {
    expect(spacedEdges([0, 0.2, 1, 1.1, 3.9], 4, grid, { shortest: 0.3, longest: 9 }, new Set())).toEqual([0, 1]);
    expect(spacedEdges([0, 0.9, 1, 3], 4, grid, { shortest: 0.3, longest: 9 }, new Set([1]))).toEqual([0, 1, 3]);
    expect(spacedEdges([0], 7, grid, { shortest: 0.3, longest: 3 }, new Set())).toEqual([0, 2.5, 4.5]);
  });
  it('ends at the last stroke when asked, and takes a stretch of the music', () => {
    expect(slotsOf({ ...plain, pattern: { ...plain.pattern, end: 'hit' } }).at(-1)!.end).toBe(14);
    const part = slotsOf({ ...plain, span: { start: 4, end: 9, fadeSeconds: 1 } });
    expect([part[0]!.start, part.at(-1)!.end]).toEqual([4, 9]);
    expect(
      spanOf(
        3.8,
        9.1,
        hearing,
        grid.starts.map((index) => grid.beats[index]!),
      ),
    ).toEqual({ start: 4, end: 9.1, fadeSeconds: 2 });
    expect(spanOf(9, 0.1, hearing, [])).toMatchObject({ start: 0, end: 9 });
  });
  it('says what is missing', () => {
    const reason = (montage: Montage) => {
      const result = slotsByPattern(montage, hearing, newId);
      return result.ok ? null : result.reason;
    };
    expect(reason({ ...plain, grid: { ...grid, beats: [], starts: [] } })).toMatch(/No beats are known/);
    expect(reason({ ...plain, pattern: { ...plain.pattern, every: 'marks' } })).toMatch(/There are no marks yet/);
    expect(reason({ ...plain, span: { start: 5, end: 5.1, fadeSeconds: 0 } })).toMatch(
      /shorter than the shortest slot/,
    );
    expect(edgesEvery(grid, 4, 1.1, 6, [])).toEqual([2, 4]);
  });
  it('slots whose edges stay keep what fills them', () => {
    const slots = slotsOf(plain).map((slot, index) =>
      index === 3 ? { ...slot, piece: { piece: 'p', sourceStart: 2 } } : slot,
    );
    const denser = slotsOf({ ...plain, slots, pattern: { ...plain.pattern, painted: { 1: 1 } } });
    expect(denser.find((slot) => slot.start === 3)).toMatchObject({ id: slots[3]!.id, piece: { piece: 'p' } });
  });
});

describe('slots by hand', () => {
  const three: Slot[] = [
    { id: 'a', start: 0, end: 1, piece: { piece: 'p', sourceStart: 0 } },
    { id: 'b', start: 1, end: 2 },
    { id: 'c', start: 2, end: 3 },
  ];
  it('split, join, moved edges stay between their neighbours', () => {
    expect(splitSlot(three, 'a', 0.4, 'n')).toMatchObject({
      ok: true,
      slots: [{ id: 'a', end: 0.4, piece: { piece: 'p' } }, { id: 'n', start: 0.4, end: 1 }, { id: 'b' }, { id: 'c' }],
    });
    expect(splitSlot(three, 'a', 0.05, 'n').ok).toBe(false);
    expect(joinSlot(three, 'a')).toMatchObject({ ok: true, slots: [{ id: 'a', end: 2 }, { id: 'c' }] });
    expect(joinSlot(three, 'c').ok).toBe(false);
    expect(moveEdge(three, 'b', 1.3)).toMatchObject({ ok: true, slots: [{ end: 1.3 }, { start: 1.3 }, {}] });
    expect(moveEdge(three, 'b', 9)).toMatchObject({ ok: true, slots: [{ end: 1.9 }, { start: 1.9 }, {}] });
    expect(moveEdge(three, 'a', 1)).toMatchObject({ ok: false });
  });
  it('edges on beats follow the beats, others stay', () => {
    const later = { ...grid, beats: grid.beats.map((beat) => beat + 0.04) };
    const moved = followGrid(
      [
        { id: 'a', start: 0, end: 1 },
        { id: 'b', start: 1, end: 2.2 },
        { id: 'c', start: 2.2, end: 3 },
      ],
      grid,
      later,
    );
    expect(moved).toEqual([
      { id: 'a', start: 0, end: 1.04 },
      { id: 'b', start: 1.04, end: 2.2 },
      { id: 'c', start: 2.2, end: 3 },
    ]);
  });
});

describe('marks', () => {
  it('are kept in order, apart, and drawn to beats', () => {
    expect(tidyMarks([3, 1, 1.03, -2])).toEqual([1, 3]);
    expect(addMark([1, 3], 2)).toEqual([1, 2, 3]);
    expect(removeMark([1, 2], 2)).toEqual([1]);
    expect(moveMark([1, 2, 3], 1, 2.5)).toEqual([2, 2.5, 3]);
    expect(quantiseMarks([0.48, 1.26, 1.3], grid)).toEqual([0.5, 1.5]);
    expect(quantiseMarks([0.48, 1.26], grid, true)).toEqual([0.5, 1.25]);
    expect(quantiseMarks([0.7], { ...grid, beats: [] })).toEqual([0.7]);
  });
  it('a steady delay of the taps is measured; taps that mean something else say nothing', () => {
    expect(tapOffset([0.54, 1.05, 1.53, 2.04, 2.55, 3.04], grid)).toBeCloseTo(0.04);
    expect(tapOffset([0.46, 0.97, 1.46, 1.95, 2.46], grid)).toBeCloseTo(-0.04);
    expect(tapOffset([0.54, 1.05, 1.53, 2.04], grid)).toBeNull();
    expect(tapOffset([0.5, 1.2, 1.8, 2.3, 2.7, 3.1, 3.8], grid)).toBeNull();
  });
});

describe('where a piece begins', () => {
  const slot: Slot = { id: 's', start: 4, end: 6 };
  const strong: Heard = { ...heard, hits: [{ seconds: 5, strength: 0.8 }] };
  it('at its in point, or with its action on the strongest beat, and never beyond its end', () => {
    expect(placePiece(piece('p'), features(0.5), slot, { start: 'in', tooShort: 'other' }, strong)).toEqual({
      piece: 'p',
      sourceStart: 1,
    });
    // Action at 4 s of the source on the beat a second after the cut: from 3 s on.
    expect(placePiece(piece('p'), features(0.5), slot, { start: 'action', tooShort: 'other' }, strong)).toEqual({
      piece: 'p',
      sourceStart: 3,
    });
    const late = features(0.5, { peak: { seconds: 6.9, strength: 1 } });
    expect(placePiece(piece('p'), late, slot, { start: 'action', tooShort: 'other' }, strong)).toEqual({
      piece: 'p',
      sourceStart: 5,
    });
    const early = features(0.5, { peak: { seconds: 1.2, strength: 1 } });
    expect(placePiece(piece('p'), early, slot, { start: 'action', tooShort: 'other' }, strong)).toEqual({
      piece: 'p',
      sourceStart: 1,
    });
  });
  it('one too short is refused, or slowed as far as that is bearable', () => {
    expect(placePiece(piece('p', 1.5), features(0.5), slot, { start: 'in', tooShort: 'other' }, heard)).toBeNull();
    expect(placePiece(piece('p', 1.5), features(0.5), slot, { start: 'in', tooShort: 'slow' }, heard)).toEqual({
      piece: 'p',
      sourceStart: 1,
      speed: 75,
    });
    expect(placePiece(piece('p', 0.5), features(0.5), slot, { start: 'in', tooShort: 'slow' }, heard)).toBeNull();
    expect(
      refit(
        { ...slot, piece: { piece: 'p', sourceStart: 6, byHand: true } },
        [piece('p')],
        new Map([['p', features(0.5)]]),
        plain.filling,
        heard,
      ).piece,
    ).toEqual({ piece: 'p', sourceStart: 1 });
  });
});

describe('filling', () => {
  const pieces = Array.from({ length: 10 }, (_, index) => piece(`p${index}`, 6, `m${index % 4}`));
  const known = new Map(pieces.map((each, index) => [each.id, features(index / 9)]));
  const slots = slotsOf(plain);
  const fill = (filling: Partial<Filling>, from: readonly Slot[] = slots, own = pieces, about = known) =>
    fillSlots(from, own, about, { ...plain.filling, ...filling }, heard, newId);
  const shown = (filled: { slots: Slot[] }) => filled.slots.map((slot) => slot.piece?.piece);

  it('in the order of the list, of the footage, or of the seed', () => {
    expect(shown(fill({ order: 'sorted' })).slice(0, 11)).toEqual([
      'p0',
      'p1',
      'p2',
      'p3',
      'p4',
      'p5',
      'p6',
      'p7',
      'p8',
      'p9',
      'p0',
    ]);
    expect(shown(fill({ order: 'time' })).slice(0, 3)).toEqual(['p0', 'p4', 'p8']);
    const [one, two, same] = [
      fill({ order: 'shuffled', seed: 1 }),
      fill({ order: 'shuffled', seed: 2 }),
      fill({ order: 'shuffled', seed: 1 }),
    ];
    expect(shown(one)).toEqual(shown(same));
    expect(shown(one)).not.toEqual(shown(two));
  });
  it('no piece twice until all were shown, never twice in a row, whatever the order', () => {
    for (const order of ['matched', 'sorted', 'time', 'shuffled'] as const)
      for (const seed of [1, 2, 3]) {
        const list = shown(fill({ order, seed }));
        expect(new Set(list.slice(0, 10)).size, order).toBe(10);
        expect(
          list.every((id, index) => index === 0 || id !== list[index - 1]),
          order,
        ).toBe(true);
        const counts = pieces.map(({ id }) => list.filter((each) => each === id).length);
        expect(Math.max(...counts) - Math.min(...counts), order).toBeLessThanOrEqual(1);
      }
  });
  it('matched: lively pieces in the full part, calm ones in the calm part, the greatest action on the drop', () => {
    const list = fill({ order: 'matched' }).slots;
    const mean = (part: Slot[]) =>
      part.reduce((sum, slot) => sum + known.get(slot.piece!.piece)!.action, 0) / part.length;
    expect(mean(list.slice(8))).toBeGreaterThan(mean(list.slice(0, 8)) + 0.2);
    expect(list.find((slot) => slot.start === 8)!.piece!.piece).toBe('p9');
  });
  it('whip pans go to where a part begins', () => {
    const about = new Map([...known, ['p3', features(0.5, { whip: true })]]);
    const drops: Heard = { ...heard, drops: [] };
    const filled = fillSlots(slots, pieces, about, { ...plain.filling, order: 'matched' }, drops, newId);
    expect(filled.slots.find((slot) => slot.start === 8)!.piece!.piece).toBe('p3');
  });
  it('locked slots stay when the rest is filled again, and their pieces count as shown', () => {
    const first = fill({ order: 'matched' }).slots.map((slot, index) =>
      [2, 5, 9].includes(index) ? { ...slot, locked: true } : slot,
    );
    const again = fill({ order: 'matched', seed: 77 }, first).slots;
    for (const index of [2, 5, 9]) expect(again[index]).toEqual(first[index]);
    expect(shown({ slots: again })).not.toEqual(shown({ slots: first }));
  });
  it('chance counts for little at the first seed, for more at later ones, and never more than what suits', () => {
    // With all in each round shown once, only pieces that suit alike change places.
    const fillings = Array.from({ length: 12 }, (_, at) => fill({ order: 'matched', seed: at + 1 }));
    const changed = fillings.map((each) => shown(each).filter((id, at) => id !== shown(fillings[0]!)[at]).length);
    const early = Math.max(...changed.slice(1, 3));
    expect(Math.max(...changed.slice(9))).toBeGreaterThan(early);
    for (const { slots: list } of fillings) expect(list.find((slot) => slot.start === 8)!.piece!.piece).toBe('p9');
  });
  it('two places take turns', () => {
    const looks = new Map(
      pieces.map((each, index) => [each.id, features(0.5, { look: new Float32Array(24).fill(index < 5 ? 0.2 : 0.7) })]),
    );
    const place = (id: string) => (Number(id.slice(1)) < 5 ? 0 : 1);
    for (const order of ['shuffled', 'matched'] as const) {
      const list = shown(fill({ order, alternate: true }, slots.slice(0, 10), pieces, looks)) as string[];
      const turns = list.filter((id, index) => index > 0 && place(id) !== place(list[index - 1]!)).length;
      expect(turns, order).toBeGreaterThanOrEqual(8);
    }
  });
  it('shaky pieces are left out unless they are allowed, whip pans are not, and the sentences say the counts', () => {
    const shaky = new Map(
      pieces.map((each, index) => [each.id, features(0.5, index < 8 ? { shaky: 0.6, whip: index === 0 } : {})]),
    );
    const filled = fill({ steadyOnly: true }, slots, pieces, shaky);
    expect(new Set(shown(filled))).toEqual(new Set(['p0', 'p8', 'p9']));
    expect(filled.note).toBe(
      '16 slots and 3 pieces: 13 more would be needed so that none is shown twice. 7 shaky ones are left out.',
    );
    expect(fill({ steadyOnly: false }, slots, pieces, shaky).note).toMatch(/^16 slots and 10 pieces: 6 more/);
    expect(fill({}, slots, []).note).toBe('There are no pieces yet.');
    expect(fillNote(fill({}, slots.slice(0, 10)).slots, pieces, known, plain.filling)).toBeNull();
  });
  it('slots longer than any piece stay empty, are filled slower, or are shared', () => {
    const long: Slot[] = [{ id: 'x', start: 0, end: 8 }];
    const none = fill({ tooShort: 'other' }, long);
    expect([none.slots[0]!.piece, none.note]).toEqual([
      undefined,
      '1 of 1 slots is longer than any piece. Slow pieces down, share slots, or cut more often.',
    ]);
    expect(fill({ tooShort: 'slow' }, long).slots[0]!.piece!.speed).toBe(75);
    const parts = fill({ tooShort: 'share' }, long).slots;
    expect(parts.map((slot) => [slot.start, slot.end])).toEqual([
      [0, 6],
      [6, 8],
    ]);
    expect(new Set(shown({ slots: parts })).size).toBe(2);
  });
  it('others for a slot come best first, without its own piece', () => {
    const filled = fill({ order: 'matched' }).slots;
    const others = othersFor(filled, filled[0]!.id, pieces, known, plain.filling, heard);
    expect(others.map((placed) => placed.piece)).not.toContain(filled[0]!.piece!.piece);
    expect(others).toHaveLength(9);
  });
});

describe('a montage as a reel', () => {
  const sources = new Map<string, Source>(
    ['m0', 'm1', 'm2', 'm3', 'song'].map((id) => [
      id,
      { id, name: id, durationSeconds: id === 'song' ? 16 : 8, soundOnly: id === 'song' },
    ]),
  );
  const pieces = Array.from({ length: 6 }, (_, index) => piece(`p${index}`, 6.5, `m${index % 4}`));
  const known = new Map(pieces.map((each, index) => [each.id, features(index / 5)]));
  // Beats as a machine hears them: not on frames, not quite even.
  const uneven: BeatGrid = { ...grid, beats: grid.beats.map((beat, index) => beat * 1.0137 + (index % 3) * 0.004) };
  const make = (change: Partial<Montage> = {}): Montage => {
    const montage = {
      ...plain,
      grid: uneven,
      pieces,
      span: { start: 1.02, end: 14.9, fadeSeconds: 1 },
      filling: { ...plain.filling, start: 'action' as const },
      ...change,
    };
    const slots = slotsOf(montage);
    return {
      ...montage,
      slots: fillSlots(slots, pieces, known, montage.filling, { ...heard, grid: uneven }, newId).slots,
    };
  };
  it('every cut within half a frame of its slot’s edge, every piece inside its source, no gap, at every rate', () => {
    for (const rate of [rates['23.976'], rates['25'], rates['29.97'], rates['60']]) {
      const montage = make();
      const reel = montageReel(montage, 'x', { media: 'song', name: 'song' }, sources, rate, {
        width: 640,
        height: 360,
      });
      const segments = planSegments(reel);
      expect(segments).toHaveLength(montage.slots.length);
      for (const [index, segment] of segments.entries()) {
        const slot = montage.slots[index]!;
        expect(
          Math.abs(segment.startSeconds - (slot.start - montage.span.start)) * framesPerSecond(rate),
        ).toBeLessThanOrEqual(0.5 + 1e-6);
        const own = montage.pieces.find((each) => each.id === slot.piece!.piece)!;
        expect(segment.media).toBe(own.media);
        expect(segment.sourceSeconds).toBeGreaterThanOrEqual(0);
        expect(segment.sourceSeconds + (segment.endSeconds - segment.startSeconds) * segment.speed).toBeLessThanOrEqual(
          8 + 1e-6,
        );
        expect(segment.gain).toBe(0);
      }
      expect(reelFrames(reel)).toBe(frameAt(montage.span.end, montage, rate));
      expect(reel.music).toMatchObject({ media: 'song', startSeconds: 1.02, fadeOutSeconds: 1, duckDb: 0 });
    }
  });
  it('photos stand for as long as they must, camera sound is kept low when asked, empty slots are gaps', () => {
    const montage: Montage = {
      ...plain,
      pieces: [{ ...piece('ph', 2, 'm0'), photo: true }, piece('p', 6, 'm1')],
      filling: { ...plain.filling, cameraSound: 'low' },
      slots: [
        { id: 'a', start: 0, end: 5, piece: { piece: 'ph', sourceStart: 0 } },
        { id: 'b', start: 5, end: 6 },
        { id: 'c', start: 6, end: 7, piece: { piece: 'p', sourceStart: 1 } },
      ],
    };
    const photos = new Map([...sources, ['m0', { id: 'm0', name: 'm0', durationSeconds: 0, photo: true }]]);
    expect(montageItems(montage, photos, rates['25'])).toMatchObject([
      { kind: 'clip', frames: 125, sourceIn: 0 },
      { kind: 'gap', frames: 25 },
      { kind: 'clip', sourceIn: 25, levelDb: -18 },
    ]);
  });
  it('is put into another reel: inserted or laid over, with its stretch of the music beneath', () => {
    const montage = make();
    const rate = rates['25'];
    const start: Reel = {
      schema: 'BrightReel.Reel.1',
      name: 'other',
      rate,
      size: { width: 640, height: 360 },
      tracks: [
        {
          kind: 'picture',
          name: 'Main',
          items: [
            { kind: 'clip', id: 'a', media: 'm0', name: 'm0', sourceIn: 0, frames: 150 },
            { kind: 'clip', id: 'b', media: 'm1', name: 'm1', sourceIn: 0, frames: 150 },
          ],
        },
      ],
    };
    const length = frameAt(montage.span.end, montage, rate);
    for (const [how, total] of [
      ['insert', 300 + length],
      ['overwrite', 150 + length],
    ] as const) {
      const result = applyCommand(
        start,
        montagePut(montage, { media: 'song', name: 'song' }, sources, rate, how, 150, newId)!,
        sources,
      );
      if (!result.ok) throw new Error(result.reason);
      expect(reelFrames(result.reel), how).toBe(total);
      expect(mainTrack(result.reel).items.slice(0, 2)).toMatchObject([
        { id: 'a' },
        { media: montage.pieces.find((each) => each.id === montage.slots[0]!.piece!.piece)!.media },
      ]);
      expect(result.reel.tracks.find((track) => track.kind === 'sound')!.items).toMatchObject([
        { kind: 'gap', frames: 150 },
        { kind: 'clip', media: 'song', sourceIn: Math.round(1.02 * 25), fadeOut: 25 },
      ]);
    }
    expect(
      montagePut(
        { ...montage, slots: montage.slots.map(({ piece: _, ...slot }) => slot) },
        { media: 'song', name: 'song' },
        sources,
        rate,
        'insert',
        0,
        newId,
      ),
    ).toBeNull();
  });
  it('the reel follows its slots: cuts move, looks stay, pieces put in by hand stay where they were', () => {
    const montage = make();
    const [music, size] = [
      { media: 'song', name: 'song' },
      { width: 640, height: 360 },
    ];
    const edit = (reel: Reel, command: Parameters<typeof applyCommand>[1]): Reel => {
      const result = applyCommand(reel, command, sources);
      if (!result.ok) throw new Error(result.reason);
      return result.reel;
    };
    let reel = montageReel(montage, 'x', music, sources, rates['25'], size);
    const [first, second] = mainTrack(reel).items;
    reel = edit(reel, {
      type: 'look',
      clip: second!.id,
      look: { exposure: 0.2, contrast: 0, saturation: 0, temperature: 0 },
    });
    reel = edit(reel, {
      type: 'put',
      how: 'insert',
      at: first!.frames,
      clips: [{ id: 'by hand', media: 'm0', name: 'm0', sourceIn: 0, frames: 10 }],
    });
    const later = {
      ...montage,
      slots: followGrid(montage.slots, uneven, { ...uneven, beats: uneven.beats.map((beat) => beat + 0.08) }).map(
        (slot) => refit(slot, pieces, known, montage.filling, { ...heard, grid: uneven }),
      ),
    };
    const followed = edit(reel, {
      type: 'slots',
      items: montageItems(later, sources, rates['25']),
      music: reel.music!,
    });
    const items = mainTrack(followed).items;
    expect(items.map((item) => item.id)).toEqual(mainTrack(reel).items.map((item) => item.id));
    expect(items[0]!.frames).toBe(first!.frames + 2);
    expect(items[2]).toMatchObject({ id: second!.id, look: { exposure: 0.2 } });
    expect(
      applyCommand(
        reel,
        {
          type: 'slots',
          items: [{ kind: 'clip', id: 'z', media: 'm0', name: 'm0', sourceIn: 190, frames: 50 }],
          music: reel.music!,
        },
        sources,
      ).ok,
    ).toBe(false);
  });
});
