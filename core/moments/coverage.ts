import type { Candidate } from './candidates';

/**
 * What a set of pieces is worth: every piece brings its points (score × seconds) into the concepts that it belongs to
 * (its kind, its scene, its file, its place in time, whom it shows), and a concept is worth a concave power of the points in it. The
 * first piece of a kind is so worth more than the fifth. With the exponent 1 only the points count. Monotone and
 * submodular for every exponent in (0, 1] (the diversity reward of Lin & Bilmes 2011, *A Class of Submodular Functions
 * for Document Summarization*, section 4.2, with a power for their square root; mixtures of such terms as in Gygli,
 * Grabner, Van Gool 2015).
 */
export interface Objective {
  exponent: number;
  /** Share of each group of concepts, persons last; they add up to 1. */
  shares: number[];
}

/** Groups of concepts, and how much each counts where a choice can differ in it at all. A piece has one of each … */
export const conceptGroups = { kind: 0.55, scene: 0.2, place: 0.15, file: 0.1 };
/** … and shows any number of persons. */
const personWeight = 0.15;
export const groupCount = Object.keys(conceptGroups).length;

/** Variety, 0 to 100, to begin with. */
export const defaultVariety = 50;

/** Points of a piece of 2 s that is full of everything; there its worth a second is 100, whatever the exponent. */
const unit = 200;

/** The score of a fair piece. */
const usualMerit = 50;

/**
 * @param variety 0 for only the best, 100 for something of everything
 * @param counts of different concepts in each group; a group with one cannot tell pieces apart
 */
export function objective(variety: number, counts: readonly number[]): Objective {
  const weights = [...Object.values(conceptGroups), personWeight].map((weight, group) =>
    (counts[group] ?? 0) > 1 ? weight : 0,
  );
  const total = weights.reduce((sum, weight) => sum + weight, 0);
  return {
    exponent: 1 - 0.9 * Math.min(1, Math.max(0, variety / 100)),
    shares: weights.map((weight) => (total > 0 ? weight / total : 1 / weights.length)),
  };
}

/** A candidate of all footage, with what it is counted by. */
export interface Counted {
  candidate: Candidate;
  /** Its number among all candidates; -1 for what a person kept. */
  number: number;
  /** Number of its file. */
  file: number;
  seconds: number;
  /** Score × seconds. */
  points: number;
  /** What it brings into its kind. */
  kindPoints: number;
  /** A number for its concept in each group, none shared between groups. */
  concepts: readonly number[];
  /** A number for everybody who is seen in it; they share its points. */
  persons: readonly number[];
}

/** What a piece is counted by. */
export type Brings = Pick<Counted, 'points' | 'kindPoints' | 'concepts' | 'persons'>;

/** The points that stand in each concept, and what more would be worth. */
export class Covered {
  private readonly points: Float64Array;
  private readonly worth: Float64Array;
  private readonly scale: number;

  constructor(
    private readonly goal: Objective,
    concepts: number,
  ) {
    this.points = new Float64Array(concepts);
    this.worth = new Float64Array(concepts);
    this.scale = unit ** (1 - goal.exponent);
  }

  /**
   * What a piece brings into its kind, from its points and seconds. How good it is of its kind counts less there: kinds are
   * hard to compare.
   */
  kindPoints(points: number, seconds: number): number {
    const { exponent } = this.goal;
    return seconds * (points / seconds) ** exponent * usualMerit ** (1 - exponent);
  }

  /** What a piece would add, in points. */
  gain({ points, kindPoints, concepts, persons }: Brings): number {
    const { exponent, shares } = this.goal;
    if (exponent === 1) return points;
    let sum = 0;
    for (let group = 0; group < groupCount; group++) {
      const share = shares[group]!;
      if (share === 0) continue;
      const concept = concepts[group]!;
      const brings = group === 0 ? kindPoints : points;
      sum += share * ((this.points[concept]! + brings) ** exponent - this.worth[concept]!);
    }
    const share = shares[groupCount]!;
    if (share > 0)
      for (const person of persons)
        sum += share * ((this.points[person]! + points / persons.length) ** exponent - this.worth[person]!);
    return this.scale * sum;
  }

  add({ points, kindPoints, concepts, persons }: Brings): void {
    for (const [group, concept] of concepts.entries()) this.put(concept, group === 0 ? kindPoints : points);
    for (const person of persons) this.put(person, points / persons.length);
  }
  private put(concept: number, points: number): void {
    this.points[concept]! += points;
    this.worth[concept] = this.points[concept]! ** this.goal.exponent;
  }
}

/** A heap of all candidates by what they are worth a second, best first; ties by their number. */
export class Heap {
  private readonly items: Int32Array;
  private count: number;

  constructor(private readonly density: Float64Array) {
    this.items = Int32Array.from(density.keys());
    this.count = density.length;
    for (let at = (this.count >> 1) - 1; at >= 0; at--) this.sink(at);
  }

  get size(): number {
    return this.count;
  }
  get top(): number {
    return this.items[0]!;
  }
  /** The highest density below the top; 0 where there is nothing. */
  get next(): number {
    const { items, density, count } = this;
    return Math.max(count > 1 ? density[items[1]!]! : 0, count > 2 ? density[items[2]!]! : 0);
  }
  pop(): number {
    const { items } = this;
    const top = items[0]!;
    items[0] = items[--this.count]!;
    this.sink(0);
    return top;
  }
  /** After the top became worth less. */
  sinkTop(): void {
    this.sink(0);
  }
  /** Asked with every look at a candidate: nothing is allocated. */
  private sink(from: number): void {
    const { items, density, count } = this;
    if (from >= count) return;
    const item = items[from]!;
    const worth = density[item]!;
    let at = from;
    for (let child = 2 * at + 1; child < count; child = 2 * at + 1) {
      const right = child + 1;
      if (right < count && isBefore(density, items[right]!, items[child]!)) child = right;
      const other = items[child]!;
      if (worth > density[other]! || (worth === density[other]! && item < other)) break;
      items[at] = other;
      at = child;
    }
    items[at] = item;
  }
}
const isBefore = (density: Float64Array, a: number, b: number): boolean =>
  density[a]! > density[b]! || (density[a]! === density[b]! && a < b);
