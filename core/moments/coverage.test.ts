import { describe, expect, it } from 'vitest';
import { seededRandom } from '#core/signal';
import { conceptGroups, Covered, groupCount, Heap, objective, type Brings } from './coverage';

type Piece = Omit<Brings, 'kindPoints'> & { seconds: number };
const concepts = 15;
/** Pieces in three concepts of each group, with up to three persons. */
function randomPieces(seed: number, count: number): Piece[] {
  const random = seededRandom(seed);
  return Array.from({ length: count }, () => ({
    points: 50 + 400 * random(),
    seconds: 2 + 4 * random(),
    concepts: Array.from({ length: groupCount }, (_, group) => group * 3 + Math.floor(random() * 3)),
    persons: [12, 13, 14].filter(() => random() < 0.4),
  }));
}
const goalOf = (variety: number) => objective(variety, [3, 3, 3, 3, 3]);
const coverage = (variety: number) => new Covered(goalOf(variety), concepts);
const brings = (covered: Covered, piece: Piece): Brings => ({
  ...piece,
  kindPoints: covered.kindPoints(piece.points, piece.seconds),
});
function worth(pieces: readonly Piece[], variety: number): number {
  const covered = coverage(variety);
  return pieces.reduce((sum, piece) => {
    const gain = covered.gain(brings(covered, piece));
    covered.add(brings(covered, piece));
    return sum + gain;
  }, 0);
}

describe('what a set of pieces is worth', () => {
  it('is their points alone where only the best counts', () => {
    const pieces = randomPieces(1, 8);
    expect(worth(pieces, 0)).toBeCloseTo(
      pieces.reduce((sum, { points }) => sum + points, 0),
      6,
    );
  });
  it('by hand: with the exponent 0.55 a second piece of the same concepts adds 46 % of the first, in kinds as elsewhere', () => {
    const piece = { points: 200, seconds: 4, concepts: [0, 3, 6, 9], persons: [12] };
    expect(worth([piece], 50)).toBeCloseTo(200, 6);
    expect(worth([piece, piece], 50) / 200 - 1).toBeCloseTo(2 ** 0.55 - 1, 6);
    // Half as good: its kind counts 50 ** 0.45 × 25 ** 0.55 points a second, everything else 25.
    const plain = { ...piece, points: 100 };
    const kind = goalOf(50).shares[0]!;
    expect(worth([plain], 50)).toBeCloseTo(200 * (kind * 0.5 ** (0.55 * 0.55) + (1 - kind) * 0.5 ** 0.55), 6);
  });
  it('is monotone and submodular: more is worth more, and the larger the set, the less one more adds', () => {
    for (let seed = 1; seed <= 30; seed++)
      for (const variety of [0, 20, 50, 100]) {
        const [one, ...rest] = randomPieces(seed, 10);
        const [small, large] = [coverage(variety), coverage(variety)];
        for (const [index, piece] of rest.entries()) {
          large.add(brings(large, piece));
          if (index % 2) small.add(brings(small, piece));
        }
        const gain = (covered: Covered) => covered.gain(brings(covered, one!));
        expect(gain(large)).toBeGreaterThan(0);
        expect(gain(large)).toBeLessThanOrEqual(gain(small) + 1e-9);
      }
  });
  it('does not depend on the order', () => {
    const pieces = randomPieces(5, 9);
    expect(worth([...pieces].reverse(), 70)).toBeCloseTo(worth(pieces, 70), 6);
  });
  it('a group in which nothing differs does not count', () => {
    const { shares } = objective(50, [5, 1, 4, 1]);
    expect(shares[1]).toBe(0);
    expect(shares[3]).toBe(0);
    expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 12);
    expect(shares[0]! / shares[2]!).toBeCloseTo(conceptGroups.kind / conceptGroups.place, 12);
    expect(objective(50, [1, 1, 1, 1]).shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 12);
  });
  it('greedy by worth a second comes near the best of all sets, and never under (1 − 1/e)/2 of it (Leskovec and others 2007, theorem 3, with the better of both greedies)', () => {
    let nearest = 0;
    for (let seed = 1; seed <= 15; seed++) {
      const pieces = randomPieces(seed, 11);
      const budget = 14;
      const greedy = (by: (gain: number, piece: Piece) => number) => {
        const taken: Piece[] = [];
        const covered = coverage(60);
        const left = [...pieces];
        let seconds = 0;
        while (left.length > 0) {
          left.sort((a, b) => by(covered.gain(brings(covered, b)), b) - by(covered.gain(brings(covered, a)), a));
          const next = left.shift()!;
          if (seconds + next.seconds > budget) continue;
          taken.push(next);
          covered.add(brings(covered, next));
          seconds += next.seconds;
        }
        return worth(taken, 60);
      };
      let best = 0;
      for (let set = 0; set < 1 << pieces.length; set++) {
        const some = pieces.filter((_, index) => set & (1 << index));
        if (some.reduce((sum, { seconds }) => sum + seconds, 0) <= budget) best = Math.max(best, worth(some, 60));
      }
      const perSecond = greedy((gain, { seconds }) => gain / seconds);
      expect(
        Math.max(
          perSecond,
          greedy((gain) => gain),
        ) / best,
      ).toBeGreaterThan((1 - 1 / Math.E) / 2);
      nearest += perSecond / best / 15;
    }
    expect(nearest).toBeGreaterThan(0.95);
  });
});

it('a heap gives the best first, ties by number, also after its top became worth less', () => {
  const random = seededRandom(3);
  const density = Float64Array.from({ length: 200 }, () => Math.floor(random() * 40));
  const heap = new Heap(density);
  density[heap.top] = -1;
  heap.sinkTop();
  const order: number[] = [];
  while (heap.size > 0) order.push(heap.pop());
  expect(order).toEqual([...density.keys()].sort((a, b) => density[b]! - density[a]! || a - b));
});
