import { beforeEach, describe, expect, it } from 'vitest';
import { defaultFilling, plainFeatures, slotsByPattern, type Montage, type MontagePiece } from '#core/montage';
import type { BeatGrid, MusicHearing } from '#core/sound';
import { montageActions, type Swapping } from './montageActions';

/** Two beats a second for sixteen seconds, bars of four. */
const grid: BeatGrid = {
  beats: Array.from({ length: 33 }, (_, index) => index / 2),
  bar: 4,
  starts: [0, 4, 8, 12, 16, 20, 24, 28, 32],
};
const section = (start: number, end: number) => ({ start, end, energy: 0.5, name: 'verse', letter: 'A' }) as const;
const hearing: MusicHearing = {
  durationSeconds: 16,
  tempo: 120,
  confidence: 1,
  grid,
  doubts: [],
  rivals: [],
  sections: [section(0, 8), section(8, 16)],
  drops: [],
  lastHit: 14,
  hits: [],
  strokes: [],
  energy: Array<number>(160).fill(0.5),
  wave: [],
};
const piece = (id: string, start = 0, end = 6): MontagePiece => ({ id, media: `m${id}`, name: id, start, end });

/** A montage under one's hands: what actions change is there for the next. */
class Desk {
  montage: Montage;
  joins: (string | null)[] = [];
  problem: string | null = null;
  private swapping = { current: null as Swapping | null };

  constructor(pieces: MontagePiece[]) {
    this.montage = {
      schema: 'BrightReel.Montage.1',
      grid,
      marks: [],
      span: { start: 0, end: 16, fadeSeconds: 0 },
      pattern: { every: 'bar', painted: {}, followEnergy: false, shortest: 0.3, longest: 8, end: 'music' },
      filling: { ...defaultFilling, order: 'sorted', start: 'in', steadyOnly: false },
      pieces,
      slots: [],
    };
    const result = slotsByPattern(this.montage, hearing, () => crypto.randomUUID());
    if (result.ok) this.montage = { ...this.montage, slots: result.slots };
    this.actions.fillAgain();
    this.joins = [];
  }
  get actions() {
    const featuresOf = (pieces: readonly MontagePiece[]) =>
      new Map(pieces.map((each) => [each.id, plainFeatures(each)]));
    return montageActions({
      montage: this.montage,
      hearing,
      heard: { ...hearing, grid: this.montage.grid },
      features: featuresOf(this.montage.pieces),
      featuresOf,
      footage: null,
      swapping: this.swapping,
      change: (next, join = null) => {
        this.montage = next;
        this.joins.push(join);
        return true;
      },
      onProblem: (sentence) => (this.problem = sentence),
    });
  }
  get edges() {
    return this.montage.slots.map((slot) => slot.start);
  }
  get shown() {
    return this.montage.slots.map((slot) => slot.piece?.piece ?? null);
  }
}

describe('changes of a montage', () => {
  let desk: Desk;
  beforeEach(() => (desk = new Desk([piece('a'), piece('b'), piece('c')])));

  it('the list fills the slots in its order, one after another', () => {
    expect(desk.edges).toEqual([0, 2, 4, 6, 8, 10, 12, 14]);
    expect(desk.shown).toEqual(['a', 'b', 'c', 'a', 'b', 'c', 'a', 'b']);
  });
  it('another pattern makes other slots, and fills them at once', () => {
    expect(desk.actions.pattern({ every: 8 })).toBe(true);
    expect(desk.edges).toEqual([0, 4, 8, 12]);
    expect(desk.shown).toEqual(['a', 'b', 'c', 'a']);
  });
  it('a painted section is cut otherwise; strokes of the brush are one step', () => {
    desk.actions.paint(1, 2);
    expect(desk.edges).toEqual([0, 2, 4, 6, 8, 9, 10, 11, 12, 13, 14, 15]);
    expect(desk.joins).toEqual(['paint']);
  });
  it('a painted section leaves cuts that were moved by hand elsewhere', () => {
    desk.actions.moveEdge(desk.montage.slots[1]!.id, 2.6);
    desk.actions.place(desk.montage.slots[0]!.id, { piece: 'c', sourceStart: 1 });
    desk.actions.paint(1, 2);
    expect(desk.edges).toEqual([0, 2.6, 4, 6, 8, 9, 10, 11, 12, 13, 14, 15]);
    expect(desk.shown.slice(0, 4)).toEqual(['c', 'b', 'c', 'a']);
  });
  it('a part that is counted otherwise is cut anew, and nothing else', () => {
    desk.actions.moveEdge(desk.montage.slots[1]!.id, 2.6);
    // Three beats in two seconds.
    const beats = Array.from({ length: 25 }, (_, index) => (index * 2) / 3);
    const other: BeatGrid = { beats, bar: 3, starts: [0, 3, 6, 9, 12, 15, 18, 21, 24] };
    expect(desk.actions.count(other, { start: 8, end: 16 })).toBe(true);
    expect(desk.montage.grid.beats.filter((beat) => beat < 7.9)).toEqual(grid.beats.filter((beat) => beat < 7.9));
    expect(desk.montage.grid.beats.filter((beat) => beat >= 8 && beat < 16)).toEqual(
      beats.filter((beat) => beat >= 8 && beat < 16),
    );
    expect(desk.edges.slice(0, 5)).toEqual([0, 2.6, 4, 6, 8]);
    expect(desk.montage.settled).toEqual([{ start: 8, end: 16 }]);
    desk.actions.count(other, null);
    expect(desk.montage.grid).toEqual(other);
    expect(desk.montage.settled).toEqual([{ start: 0, end: 16 }]);
  });
  it('a part that was heard and found right is settled, and its slots are as they were', () => {
    const { slots } = desk.montage;
    desk.actions.count(grid, { start: 2, end: 6 });
    desk.actions.count(grid, { start: 5, end: 8 });
    expect([desk.montage.settled, desk.montage.slots]).toEqual([[{ start: 2, end: 8 }], slots]);
  });
  it('marks cut where they lie, once that is asked for', () => {
    desk.actions.marks([3, 7.25]);
    expect(desk.edges).toHaveLength(8);
    desk.actions.cutOnMarks();
    expect(desk.edges).toEqual([0, 3, 7.25]);
  });
  it('beats that are shifted take the slots along', () => {
    desk.actions.correct({ type: 'shift', seconds: 0.05 });
    expect(desk.edges[1]).toBeCloseTo(2.05, 6);
    expect(desk.joins).toEqual(['shift']);
  });
  it('a correction that cannot be is refused in a sentence, and changes nothing', () => {
    const before = desk.montage;
    expect(
      desk.actions.correct({ type: 'stretch', from: { index: 4, seconds: 2 }, to: { index: 2, seconds: 3 } }),
    ).toBe(false);
    expect([desk.montage, desk.problem]).toEqual([before, expect.stringMatching(/\w/)]);
  });
  it('what is locked stays when all is filled again or emptied', () => {
    const [first, second] = desk.montage.slots;
    desk.actions.place(first!.id, { piece: 'c', sourceStart: 1 });
    desk.actions.lock([first!.id]);
    desk.actions.filling({ order: 'shuffled' });
    desk.actions.fillAgain();
    expect(desk.shown[0]).toBe('c');
    desk.actions.empty();
    expect(desk.shown).toEqual(['c', ...Array<null>(7).fill(null)]);
    desk.actions.lock([first!.id, second!.id]);
    expect(desk.montage.slots.map((slot) => slot.locked ?? false).slice(0, 3)).toEqual([true, true, false]);
    desk.actions.lock([first!.id, second!.id]);
    expect(desk.montage.slots.some((slot) => slot.locked)).toBe(false);
  });
  it('filled again it is another montage; where there is no other, that is said', () => {
    desk.actions.filling({ order: 'matched' });
    for (let times = 0; times < 5; times++) {
      const before = desk.shown;
      expect(desk.actions.fillAgain()).toBe(true);
      expect(desk.shown).not.toEqual(before);
    }
    desk.actions.filling({ order: 'sorted' });
    const before = desk.montage;
    expect(desk.actions.fillAgain()).toBe(false);
    expect([desk.montage, desk.problem]).toEqual([before, expect.stringMatching(/one way only; choose another order/)]);
    desk.actions.lock(desk.montage.slots.map(({ id }) => id));
    desk.actions.fillAgain();
    expect(desk.problem).toMatch(/^Every slot is locked/);
  });
  it('a slot is split and joined, its edge moved; pieces follow', () => {
    const [first] = desk.montage.slots;
    desk.actions.split(first!.id, 1);
    expect(desk.edges.slice(0, 3)).toEqual([0, 1, 2]);
    desk.actions.join(desk.montage.slots[0]!.id);
    expect(desk.edges.slice(0, 2)).toEqual([0, 2]);
    desk.actions.moveEdge(desk.montage.slots[1]!.id, 2.5);
    expect(desk.montage.slots.slice(0, 2).map(({ start, end }) => [start, end])).toEqual([
      [0, 2.5],
      [2.5, 4],
    ]);
    // Never over the next one; and the first begins with the music.
    desk.actions.moveEdge(desk.montage.slots[1]!.id, 9);
    expect(desk.montage.slots[1]).toMatchObject({ start: 3.9, end: 4 });
    expect(desk.actions.moveEdge(desk.montage.slots[0]!.id, 1)).toBe(false);
    expect(desk.problem).toMatch(/^The first slot begins with the music/);
  });
  it('one key after another shows every other piece for a slot, and comes round to the first', () => {
    const [first] = desk.montage.slots;
    const seen = new Set<string | null>([desk.shown[0]!]);
    for (let times = 0; times < 10 && seen.size < 3; times++) {
      expect(desk.actions.swap(first!.id, 1)).toBe(true);
      seen.add(desk.shown[0]!);
    }
    expect(seen).toEqual(new Set(['a', 'b', 'c']));
    const there = desk.shown[0];
    desk.actions.swap(first!.id, 1);
    desk.actions.swap(first!.id, -1);
    expect(desk.shown[0]).toBe(there);
  });
  it('where there is no other, that is said', () => {
    const alone = new Desk([piece('a')]);
    expect(alone.actions.swap(alone.montage.slots[0]!.id, 1)).toBe(false);
    expect(alone.problem).toBe('There is no other piece long enough for this slot.');
    expect(alone.actions.swap('gone', 1)).toBe(false);
  });
  it('a piece that is changed is shown as it is now, wherever it is', () => {
    desk.actions.piece('a', { start: 2 }, 'in a');
    const starts = desk.montage.slots.flatMap((slot) => (slot.piece?.piece === 'a' ? [slot.piece.sourceStart] : []));
    expect([new Set(starts), desk.joins]).toEqual([new Set([2]), ['in a']]);
  });
  it('pieces that are taken off the list leave their slots to others', () => {
    desk.actions.pieces(desk.montage.pieces.filter(({ id }) => id !== 'b'));
    expect(new Set(desk.shown)).toEqual(new Set(['a', 'c']));
  });
  it('another stretch of the music has other slots', () => {
    desk.actions.span(4, 12, 1.5);
    expect([desk.edges[0], desk.montage.slots.at(-1)!.end, desk.montage.span.fadeSeconds]).toEqual([4, 12, 1.5]);
  });
});
