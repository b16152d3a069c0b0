import { beatBefore, nearestBeat, type BeatGrid, type MusicHearing, type Section } from '#core/sound';
import type { Every, Montage, Pattern, Slot } from './types';

/** Two edges closer than this are one, in seconds. */
export const sameEdge = 0.02;

/** The slots after a change, or why it cannot be made. */
export type SlotResult = { ok: true; slots: Slot[] } | { ok: false; reason: string };
const no = (reason: string): SlotResult => ({ ok: false, reason });

/**
 * How often the picture changes in a part of the music that is this full (0 to 1). At fast tempi half as often, so that
 * a slot is never hectic only because beats are. Common practice, no source.
 */
export function everyFor(energy: number, tempo: number): Every {
  const steps: Every[] = [8, 4, 2, 1];
  const at = energy < 0.15 ? 0 : energy < 0.6 ? 1 : energy < 0.92 ? 2 : 3;
  return steps[Math.max(0, tempo > 150 ? at - 1 : at)]!;
}

/** Edges at every so many beats from the first beat (or bar) in a stretch on; the stretch's own ends are not among them. */
export function edgesEvery(grid: BeatGrid, every: Every, from: number, to: number, marks: readonly number[]): number[] {
  const inside = (seconds: number) => seconds > from + sameEdge && seconds < to - sameEdge;
  if (every === 'marks') return marks.filter(inside);
  if (every === 'bar') return grid.starts.map((index) => grid.beats[index]!).filter(inside);
  const first = beatBefore(grid, from + sameEdge);
  const edges: number[] = [];
  // Counted from the beat with which the stretch begins; where it begins between two, from the next bar.
  const on = first >= 0 && from - grid.beats[first]! <= sameEdge * 2;
  const start = on ? first : (grid.starts.find((index) => index > first) ?? first + 1);
  for (let index = start; index < grid.beats.length; index += every)
    if (inside(grid.beats[index]!)) edges.push(grid.beats[index]!);
  return edges;
}

/** What of the music is painted with which pattern, inside the chosen stretch. */
export function patternOf(pattern: Pattern, sections: readonly Section[], index: number, tempo: number): Every {
  return (
    pattern.painted[index] ?? (pattern.followEnergy ? everyFor(sections[index]?.energy ?? 0.5, tempo) : pattern.every)
  );
}

/** Edges without those that make a slot too short, and with others where one is too long. */
export function spacedEdges(
  edges: readonly number[],
  end: number,
  grid: BeatGrid,
  { shortest, longest }: Pick<Pattern, 'shortest' | 'longest'>,
  fixed: ReadonlySet<number>,
): number[] {
  const kept = [edges[0]!];
  for (const edge of edges.slice(1)) {
    if (edge - kept.at(-1)! >= shortest - 1e-6) kept.push(edge);
    // Where a part of the music begins, the cut counts more than the one before it.
    else if (fixed.has(edge) && kept.length > 1) kept[kept.length - 1] = edge;
  }
  while (kept.length > 1 && end - kept.at(-1)! < shortest - 1e-6) kept.pop();
  const out: number[] = [];
  for (const [index, edge] of kept.entries()) {
    const next = kept[index + 1] ?? end;
    out.push(edge);
    const parts = Math.ceil((next - edge) / longest - 1e-6);
    for (let part = 1; part < parts; part++) {
      const wanted = edge + ((next - edge) * part) / parts;
      const beat = grid.beats[nearestBeat(grid, wanted)];
      const at =
        beat !== undefined && Math.abs(beat - wanted) < Math.min(shortest, (next - edge) / parts / 2) ? beat : wanted;
      if (at - out.at(-1)! >= shortest && next - at >= shortest) out.push(at);
    }
  }
  return out;
}

/** Where the last slot ends. */
function endOf(
  { span, pattern }: Pick<Montage, 'span' | 'pattern'>,
  hearing: Pick<MusicHearing, 'hits' | 'lastHit'>,
): number {
  if (pattern.end === 'music') return span.end;
  const hit = hearing.hits.findLast(
    ({ seconds, strength }) => seconds <= span.end + sameEdge && seconds > span.start + 1 && strength > 0.35,
  )?.seconds;
  return hit ?? span.end;
}

/**
 * Slots by the pattern, over the chosen stretch of the music. Slots whose edges stay keep their piece and lock.
 * @returns a sentence when there is nothing to count by
 */
export function slotsByPattern(
  montage: Montage,
  hearing: Pick<MusicHearing, 'sections' | 'tempo' | 'hits' | 'lastHit'>,
  makeId: () => string,
): SlotResult {
  const { grid, marks, span, pattern, slots } = montage;
  const end = endOf(montage, hearing);
  if (end - span.start < pattern.shortest)
    return no('The chosen stretch of the music is shorter than the shortest slot.');
  const sections = hearing.sections.length
    ? hearing.sections
    : [{ start: 0, end, name: 'verse' as const, letter: 'A', energy: 0.5 }];
  const edges: number[] = [span.start];
  const fixed = new Set<number>();
  for (const [index, section] of sections.entries()) {
    const from = Math.max(span.start, section.start),
      to = Math.min(end, section.end);
    if (to - from <= sameEdge) continue;
    const every = patternOf(pattern, sections, index, hearing.tempo);
    if (every !== 'marks' && grid.beats.length < 2)
      return no('No beats are known in this music. Tap along to set marks, and cut on those.');
    if (every === 'marks' && marks.length === 0)
      return no('There are no marks yet. Play the music and tap at each place where the picture should change.');
    // A part that does not begin on a beat begins with the nearest.
    if (every !== 'marks' && from > span.start + sameEdge) {
      const beat = grid.beats[nearestBeat(grid, from)]!;
      const at = Math.abs(beat - from) < 0.5 ? beat : from;
      if (at > edges.at(-1)! + sameEdge && at < end - sameEdge) {
        edges.push(at);
        fixed.add(at);
      }
    }
    edges.push(...edgesEvery(grid, every, from, to, marks));
  }
  const sorted = [...new Set(edges)]
    .sort((a, b) => a - b)
    .filter((edge, index, all) => index === 0 || edge - all[index - 1]! > sameEdge);
  // Marks set by hand stand as they are; only beats are thinned out.
  const onlyMarks = sections.every((_, index) => patternOf(pattern, sections, index, hearing.tempo) === 'marks');
  const spaced = onlyMarks ? sorted : spacedEdges(sorted, end, grid, pattern, fixed);
  return { ok: true, slots: slotsFrom(spaced, end, slots, makeId) };
}

/** Slots between edges; one that begins and ends where an old one did is that one. */
function slotsFrom(edges: readonly number[], end: number, old: readonly Slot[], makeId: () => string): Slot[] {
  return edges.map((start, index) => {
    const to = edges[index + 1] ?? end;
    const known = old.find((slot) => Math.abs(slot.start - start) < sameEdge && Math.abs(slot.end - to) < sameEdge);
    // A locked slot that only moved an edge keeps its piece, too.
    const held = known ?? old.find((slot) => slot.locked && Math.abs(slot.start - start) < sameEdge);
    return held ? { ...held, start, end: to } : { id: makeId(), start, end: to };
  });
}

const indexOf = (slots: readonly Slot[], id: string) => slots.findIndex((slot) => slot.id === id);

/** Cuts a slot in two; the second part is empty. */
export function splitSlot(slots: readonly Slot[], id: string, at: number, newId: string): SlotResult {
  const index = indexOf(slots, id);
  const slot = slots[index];
  if (!slot) return no('This slot is not there any more.');
  if (at - slot.start < 0.1 || slot.end - at < 0.1)
    return no('A slot has to last at least a tenth of a second; move the playhead further into it.');
  return {
    ok: true,
    slots: [
      ...slots.slice(0, index),
      { ...slot, end: at },
      { id: newId, start: at, end: slot.end },
      ...slots.slice(index + 1),
    ],
  };
}

/** A slot and the one after it become one, with the first one's piece. */
export function joinSlot(slots: readonly Slot[], id: string): SlotResult {
  const index = indexOf(slots, id);
  const [slot, next] = [slots[index], slots[index + 1]];
  if (!slot || !next) return no('There is no slot after this one to join it with.');
  return {
    ok: true,
    slots: [
      ...slots.slice(0, index),
      { ...slot, end: next.end, ...(slot.piece ? {} : next.piece ? { piece: next.piece } : {}) },
      ...slots.slice(index + 2),
    ],
  };
}

/** Moves the edge with which a slot begins, between its neighbours; the edge before the first and after the last stay. */
export function moveEdge(slots: readonly Slot[], id: string, to: number): SlotResult {
  const index = indexOf(slots, id);
  const [before, slot] = [slots[index - 1], slots[index]];
  if (!slot || !before) return no('The first slot begins with the music; choose another stretch of it instead.');
  const at = Math.min(slot.end - 0.1, Math.max(before.start + 0.1, to));
  return {
    ok: true,
    slots: slots.map((each, position) =>
      position === index - 1 ? { ...each, end: at } : position === index ? { ...each, start: at } : each,
    ),
  };
}

/**
 * Slots after the beats were moved: edges that lay on a beat go where it went, others stay. Beats are told apart by
 * their order, so this is for shifts and stretches; after half or twice the tempo every edge is still right.
 */
export function followGrid(slots: readonly Slot[], before: BeatGrid, after: BeatGrid): Slot[] {
  if (before.beats.length !== after.beats.length) return [...slots];
  const moved = (seconds: number) => {
    const index = nearestBeat(before, seconds);
    return index >= 0 && Math.abs(before.beats[index]! - seconds) < sameEdge ? after.beats[index]! : seconds;
  };
  const [first, last] = [slots[0]?.start ?? 0, slots.at(-1)?.end ?? 0];
  return slots
    .map((slot) => ({
      ...slot,
      start: slot.start === first ? first : moved(slot.start),
      end: slot.end === last ? last : moved(slot.end),
    }))
    .filter((slot) => slot.end - slot.start > sameEdge);
}
