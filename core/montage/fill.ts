import { seededRandom, type Random } from '#core/signal';
import { beatBefore, type BeatGrid, type MusicHearing } from '#core/sound';
import { counted } from '#core/sentences';
import { likeness, lookLikeness, type PieceFeatures } from './features';
import type { Filling, MontagePiece, Placed, Slot } from './types';

/** What of the music the filling looks at. */
export type Heard = Pick<MusicHearing, 'sections' | 'drops' | 'hits' | 'energy'> & { grid: BeatGrid };

/** Slots with their pieces, and what is to be said about it. */
export interface Filled {
  slots: Slot[];
  /** What is to be said about it: too few pieces, some too short; null when all is well. */
  note: string | null;
}

/** A piece that is at least so shaky is not steady. */
const shakyShare = 0.25;
/** A piece is slowed to no less, in per cent. */
const slowestSpeed = 40;
/** What the action's moment leads the picture by when it lies on the cut itself, so that it is seen, in seconds. */
const leadSeconds = 0.12;

/** What a slot asks for, 0 to 1: how much is going on in the music there. */
interface Demand {
  strength: number;
  drop: boolean;
  /** A part of the music begins with it. */
  opens: boolean;
}

/** What the music asks of a slot: how strong it is there, 0 to 1, whether it breaks out in it, whether a part begins with it. */
export function demandOf(slot: Slot, heard: Heard): Demand {
  const at = (seconds: number) =>
    heard.energy[Math.min(heard.energy.length - 1, Math.max(0, Math.round(seconds * 10)))] ?? 0.5;
  let energy = 0,
    count = 0;
  for (let seconds = slot.start; seconds < slot.end; seconds += 0.1) {
    energy += at(seconds);
    count++;
  }
  const section = heard.sections.find((each) => slot.start >= each.start - 0.05 && slot.start < each.end - 0.05);
  const hit = heard.hits
    .filter(({ seconds }) => Math.abs(seconds - slot.start) < 0.06)
    .reduce((most, { strength }) => Math.max(most, strength), 0);
  return {
    strength: Math.min(1, 0.35 * (count ? energy / count : 0.5) + 0.4 * (section?.energy ?? 0.5) + 0.25 * hit),
    drop: heard.drops.slice(0, 1).some((drop) => drop >= slot.start - 0.05 && drop < slot.end - 0.05),
    opens: heard.sections.some((each) => each.start > 0 && Math.abs(each.start - slot.start) < 0.1),
  };
}

/** Seconds of a source that a slot takes at full speed. */
const lengthOf = (slot: Slot): number => slot.end - slot.start;

/**
 * Where a piece begins in its source to fill a slot: at its in point, or so that its action falls on a beat inside the
 * slot (the strongest stroke; when that is the cut, just after it). Never before its in point, and never so late that
 * it would end early.
 * @returns null when the piece is shorter than the slot
 */
export function placePiece(
  piece: MontagePiece,
  features: PieceFeatures,
  slot: Slot,
  filling: Pick<Filling, 'start' | 'tooShort'>,
  heard: Heard,
): Placed | null {
  const wanted = lengthOf(slot);
  const own = piece.end - piece.start;
  if (piece.photo) return { piece: piece.id, sourceStart: 0 };
  if (own < wanted - 1e-6) {
    const speed = Math.floor((own / wanted) * 100);
    return filling.tooShort === 'slow' && speed >= slowestSpeed
      ? { piece: piece.id, sourceStart: piece.start, speed }
      : null;
  }
  if (filling.start === 'in') return { piece: piece.id, sourceStart: piece.start };
  const strokes = heard.hits.filter(
    ({ seconds }) => seconds > slot.start + 0.15 && seconds < slot.end - 0.2 && isOnBeat(heard.grid, seconds),
  );
  const strongest = strokes.reduce<{ seconds: number; strength: number } | null>(
    (best, hit) => (hit.strength > (best?.strength ?? 0.4) ? hit : best),
    null,
  );
  const lead = strongest ? strongest.seconds - slot.start : leadSeconds;
  return {
    piece: piece.id,
    sourceStart: Math.min(piece.end - wanted, Math.max(piece.start, features.peak.seconds - lead)),
  };
}

function isOnBeat(grid: BeatGrid, seconds: number): boolean {
  const index = beatBefore(grid, seconds + 0.04);
  return index >= 0 && Math.abs(grid.beats[index]! - seconds) < 0.04;
}

const usable = (piece: MontagePiece, features: PieceFeatures | undefined, { steadyOnly }: Filling): boolean =>
  !piece.off &&
  features !== undefined &&
  (!steadyOnly || piece.photo === true || features.shaky < shakyShare || features.whip);

/** Pieces that may be used, and why others may not. */
export function usablePieces(
  pieces: readonly MontagePiece[],
  features: ReadonlyMap<string, PieceFeatures>,
  filling: Filling,
): { pieces: MontagePiece[]; off: number; shaky: number } {
  const fit = pieces.filter((piece) => usable(piece, features.get(piece.id), filling));
  const off = pieces.filter((piece) => piece.off).length;
  return { pieces: fit, off, shaky: pieces.length - off - fit.length };
}

/** What chance adds to a piece at most, at the first seed; whoever fills again wants to see something else, so it grows. */
const chanceWeight = 0.02,
  mostChance = 10;

/**
 * Fills the slots that are not locked. No piece is shown twice until all that may be used were shown; the same seed
 * gives the same montage.
 */
export function fillSlots(
  slots: readonly Slot[],
  pieces: readonly MontagePiece[],
  features: ReadonlyMap<string, PieceFeatures>,
  filling: Filling,
  heard: Heard,
  makeId: () => string,
): Filled {
  const { pieces: fit } = usablePieces(pieces, features, filling);
  const withNote = (done: Slot[]): Filled => ({ slots: done, note: fillNote(done, pieces, features, filling) });
  if (fit.length === 0) return withNote(slots.map((slot) => (slot.locked ? slot : empty(slot))));
  const spread = spreadOver(fit, features);
  const byId = new Map(pieces.map((piece) => [piece.id, piece]));
  const random = seededRandom(filling.seed);
  const demands = slots.map((slot) => demandOf(slot, heard));
  const places = filling.alternate ? twoPlaces(fit, features) : null;
  const used = new Map<string, number>(fit.map((piece) => [piece.id, 0]));
  const out: Slot[] = slots.map((slot) => (slot.locked && slot.piece ? slot : empty(slot)));
  for (const slot of out)
    if (slot.piece && used.has(slot.piece.piece)) used.set(slot.piece.piece, used.get(slot.piece.piece)! + 1);
  const queue = ordered(fit, filling, random);
  const jitter = new Map(fit.map((piece) => [piece.id, random()]));
  const chance = chanceWeight * Math.min(filling.seed, mostChance);
  const placed = (piece: MontagePiece, index: number) =>
    placePiece(piece, features.get(piece.id)!, out[index]!, filling, heard);

  /** How well a piece suits a slot between its neighbours; more is better. */
  const suits = (piece: MontagePiece, index: number): number => {
    const own = features.get(piece.id)!;
    const { strength, drop, opens } = demands[index]!;
    let value = -1.2 * Math.abs(strength - spread(own.action)) + 0.25 * own.quality + chance * jitter.get(piece.id)!;
    if (drop) value += 2 * own.peak.strength + own.quality;
    if (opens && own.whip) value += 0.8;
    else if (own.whip) value -= 0.2;
    for (const near of [index - 1, index + 1]) {
      const other = out[near]?.piece && byId.get(out[near].piece.piece);
      if (!other) continue;
      value -=
        other.id === piece.id
          ? 4
          : (other.media === piece.media ? 0.15 : 0) + 0.6 * likeness(own, features.get(other.id) ?? own);
      if (places && places.get(other.id) === places.get(piece.id)) value -= 1.5;
    }
    return value;
  };
  const open = out.flatMap((slot, index) => (slot.piece ? [] : [index]));
  /** Those shown least often that are long enough; else, of the next. */
  const least = (index: number, order: readonly MontagePiece[]): MontagePiece[] => {
    const counts = [...new Set([...used.values()])].sort((a, b) => a - b);
    for (const count of counts) {
      const those = order.filter((piece) => used.get(piece.id) === count && placed(piece, index) !== null);
      if (those.length > 0) return those;
    }
    return [];
  };
  const put = (piece: MontagePiece, index: number) => {
    out[index] = { ...out[index]!, piece: placed(piece, index)! };
    used.set(piece.id, used.get(piece.id)! + 1);
  };
  let unfilled = 0;
  if (filling.order === 'matched') {
    // Rounds of as many slots as there are pieces, so that each is shown once in each; within a round what asks most chooses first.
    const sequence = [...open];
    while (sequence.length > 0) {
      const round = sequence
        .splice(0, Math.max(1, fit.length))
        .sort(
          (a, b) =>
            Number(demands[b]!.drop) - Number(demands[a]!.drop) || demands[b]!.strength - demands[a]!.strength || a - b,
        );
      for (const index of round) {
        const best = least(index, fit)
          .map((piece) => ({ piece, value: suits(piece, index) }))
          .sort((a, b) => b.value - a.value)[0];
        if (best) put(best.piece, index);
        else unfilled++;
      }
      exchange(
        round,
        out,
        suits,
        (piece, index) => (placed(piece, index) ? { ...out[index]!, piece: placed(piece, index)! } : null),
        pieces,
      );
    }
  } else {
    for (const index of open) {
      const after = out.slice(0, index).findLast((slot) => slot.piece)?.piece?.piece;
      const those = least(index, queue).filter((piece, _, all) => all.length === 1 || piece.id !== after);
      // When places take turns, the next of the other place comes first.
      const turn =
        places && after !== undefined ? those.find((piece) => places.get(piece.id) !== places.get(after)) : undefined;
      const next = turn ?? those[0];
      if (next) put(next, index);
      else unfilled++;
    }
  }
  const shared =
    filling.tooShort === 'share' && unfilled > 0 ? share(out, fit, features, used, heard, filling, makeId) : out;
  return withNote(shared);
}

const empty = ({ piece: _, ...slot }: Slot): Slot => slot;

/** Action against the others: the most lively piece is 1, the calmest 0. */
function spreadOver(
  fit: readonly MontagePiece[],
  features: ReadonlyMap<string, PieceFeatures>,
): (action: number) => number {
  const all = fit.map((piece) => features.get(piece.id)!.action);
  const [low, high] = [Math.min(...all), Math.max(...all)];
  return (action) => (high - low < 1e-6 ? 0.5 : (action - low) / (high - low));
}

function ordered(fit: readonly MontagePiece[], { order }: Filling, random: Random): MontagePiece[] {
  if (order === 'time') return [...fit].sort((a, b) => a.media.localeCompare(b.media) || a.start - b.start);
  if (order !== 'shuffled') return [...fit];
  // Fisher and Yates, as Durstenfeld wrote it down (1964).
  const list = [...fit];
  for (let index = list.length - 1; index > 0; index--) {
    const other = Math.floor(random() * (index + 1));
    [list[index], list[other]] = [list[other]!, list[index]!];
  }
  return list;
}

/** Exchanges pieces of a round while that makes both slots together better. */
function exchange(
  round: readonly number[],
  out: Slot[],
  suits: (piece: MontagePiece, index: number) => number,
  place: (piece: MontagePiece, index: number) => Slot | null,
  pieces: readonly MontagePiece[],
): void {
  const byId = new Map(pieces.map((piece) => [piece.id, piece]));
  const pieceAt = (index: number) => (out[index]!.piece ? byId.get(out[index]!.piece.piece) : undefined);
  for (let pass = 0; pass < 3; pass++) {
    let changed = false;
    for (const [at, a] of round.entries())
      for (const b of round.slice(at + 1)) {
        const [one, two] = [pieceAt(a), pieceAt(b)];
        if (!one || !two || one === two) continue;
        const [slotA, slotB] = [out[a]!, out[b]!];
        const before = suits(one, a) + suits(two, b);
        const [newA, newB] = [place(two, a), place(one, b)];
        if (!newA || !newB) continue;
        out[a] = newA;
        out[b] = newB;
        if (suits(two, a) + suits(one, b) > before + 1e-6) changed = true;
        else {
          out[a] = slotA;
          out[b] = slotB;
        }
      }
    if (!changed) return;
  }
}

/** Two groups of pieces by the look of their place: k-means with k = 2, begun with the two that differ most. */
function twoPlaces(fit: readonly MontagePiece[], features: ReadonlyMap<string, PieceFeatures>): Map<string, 0 | 1> {
  const look = (piece: MontagePiece) => features.get(piece.id)!.look;
  let [seedA, seedB, farthest] = [fit[0]!, fit[0]!, Infinity];
  for (const a of fit)
    for (const b of fit) {
      const alike = a === b ? Infinity : lookLikeness(look(a), look(b));
      if (alike >= farthest) continue;
      farthest = alike;
      [seedA, seedB] = [a, b];
    }
  let centres = [look(seedA), look(seedB)];
  let groups = new Map<string, 0 | 1>();
  for (let pass = 0; pass < 8; pass++) {
    groups = new Map(
      fit.map((piece) => [
        piece.id,
        lookLikeness(look(piece), centres[0]!) >= lookLikeness(look(piece), centres[1]!) ? 0 : 1,
      ]),
    );
    centres = [0, 1].map((group) => {
      const own = fit.filter((piece) => groups.get(piece.id) === group && look(piece)).map((piece) => look(piece)!);
      return own.length
        ? own[0]!.map((_, cell) => own.reduce((sum, each) => sum + each[cell]!, 0) / own.length)
        : centres[group]!;
    });
  }
  return groups;
}

/** Slots that no piece was long enough for are cut where the longest ends, and the rest filled with another. */
function share(
  slots: readonly Slot[],
  fit: readonly MontagePiece[],
  features: ReadonlyMap<string, PieceFeatures>,
  used: Map<string, number>,
  heard: Heard,
  filling: Filling,
  makeId: () => string,
): Slot[] {
  const out: Slot[] = [];
  for (const whole of slots) {
    let rest: Slot | null = whole.piece ? null : whole;
    if (!rest) out.push(whole);
    while (rest) {
      const slot: Slot = rest;
      const [next] = [...fit]
        .sort((a, b) => used.get(a.id)! - used.get(b.id)! || b.end - b.start - (a.end - a.start))
        .filter((piece) => piece.end - piece.start >= 0.3 && out.at(-1)?.piece?.piece !== piece.id);
      if (!next) {
        out.push(slot);
        break;
      }
      const fits = Math.min(slot.end, slot.start + next.end - next.start);
      // A beat, where one lies before the piece's end; else its end.
      const beat = heard.grid.beats[beatBefore(heard.grid, fits)];
      const end = fits >= slot.end - 1e-6 ? slot.end : beat !== undefined && beat > slot.start + 0.3 ? beat : fits;
      const part: Slot = { ...slot, id: slot === whole ? whole.id : makeId(), end };
      out.push({
        ...part,
        piece: placePiece(next, features.get(next.id)!, part, { ...filling, tooShort: 'other' }, heard) ?? {
          piece: next.id,
          sourceStart: next.start,
        },
      });
      used.set(next.id, used.get(next.id)! + 1);
      rest = end >= slot.end - 1e-6 ? null : { id: makeId(), start: end, end: slot.end };
    }
  }
  return out;
}

/** What is to be said about filled slots: too few pieces, some too short; null when all is well. */
export function fillNote(
  slots: readonly Slot[],
  pieces: readonly MontagePiece[],
  features: ReadonlyMap<string, PieceFeatures>,
  filling: Filling,
): string | null {
  const { pieces: fit, shaky } = usablePieces(pieces, features, filling);
  const count = fit.length;
  const unfilled = slots.filter((slot) => !slot.piece).length;
  if (count === 0)
    return pieces.length === 0
      ? 'There are no pieces yet.'
      : shaky > 0
        ? `${shaky === 1 ? 'The only piece is' : `All ${shaky} pieces are`} shaky. Allow shaky pieces, or bring in others.`
        : 'No piece may be used.';
  if (unfilled > 0)
    return `${unfilled} of ${slots.length} slots ${unfilled === 1 ? 'is' : 'are'} longer than any piece. Slow pieces down, share slots, or cut more often.`;
  if (count < slots.length) {
    const more = slots.length - count;
    return `${slots.length} slots and ${counted(count, 'piece')}: ${more} more would be needed so that none is shown twice.${shaky ? ` ${shaky} shaky ${shaky === 1 ? 'one is' : 'ones are'} left out.` : ''}`;
  }
  return null;
}

/** The pieces for a slot, the best first, without the one it has; for swapping with a key. */
export function othersFor(
  slots: readonly Slot[],
  id: string,
  pieces: readonly MontagePiece[],
  features: ReadonlyMap<string, PieceFeatures>,
  filling: Filling,
  heard: Heard,
): Placed[] {
  const index = slots.findIndex((slot) => slot.id === id);
  const slot = slots[index];
  if (!slot) return [];
  const demand = demandOf(slot, heard);
  const { pieces: fit } = usablePieces(pieces, features, filling);
  const used = new Map<string, number>();
  for (const each of slots) if (each.piece) used.set(each.piece.piece, (used.get(each.piece.piece) ?? 0) + 1);
  const spread = spreadOver(fit, features);
  const neighbours = [slots[index - 1], slots[index + 1]].flatMap((each) => (each?.piece ? [each.piece.piece] : []));
  return fit
    .filter((piece) => piece.id !== slot.piece?.piece)
    .flatMap((piece) => {
      const own = features.get(piece.id)!;
      const placed = placePiece(piece, own, slot, filling, heard);
      if (!placed) return [];
      const value =
        -1.2 * Math.abs(demand.strength - spread(own.action)) +
        0.25 * own.quality -
        0.8 * (used.get(piece.id) ?? 0) -
        (neighbours.includes(piece.id) ? 4 : 0) -
        neighbours.reduce((sum, other) => sum + 0.6 * likeness(own, features.get(other) ?? own), 0) +
        (demand.drop ? 2 * own.peak.strength : 0);
      return [{ placed, value }];
    })
    .sort((a, b) => b.value - a.value)
    .map(({ placed }) => placed);
}

/** Whether a slot's piece still suits it, after its edges or the piece moved: begins later or slower so that it does not run out. */
export function refit(
  slot: Slot,
  pieces: readonly MontagePiece[],
  features: ReadonlyMap<string, PieceFeatures>,
  filling: Filling,
  heard: Heard,
): Slot {
  const piece = slot.piece && pieces.find((each) => each.id === slot.piece!.piece);
  if (!slot.piece || !piece) return slot.piece ? empty(slot) : slot;
  if (piece.photo) return slot;
  const speed = slot.piece.speed ?? 100;
  const ends = slot.piece.sourceStart + (lengthOf(slot) * speed) / 100;
  if (slot.piece.byHand && ends <= piece.end + 1e-6) return slot;
  const placed = placePiece(piece, features.get(piece.id)!, slot, filling, heard);
  if (placed) return { ...slot, piece: placed };
  // Too short for it now: slowed if that is enough, else nothing.
  const slowed = Math.floor(((piece.end - piece.start) / lengthOf(slot)) * 100);
  return slowed >= slowestSpeed
    ? { ...slot, piece: { piece: piece.id, sourceStart: piece.start, speed: slowed } }
    : empty(slot);
}
