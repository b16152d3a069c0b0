import { clamp, prefixSums } from '#core/signal';
import { coveredSeconds, lengthOf, overlap, type Range } from '#core/time';
import { layField, type Candidate, type Field } from './candidates';
import { Covered, defaultVariety, groupCount, Heap, objective, type Counted } from './coverage';
import { areDoubles, mayBeDoubles, profileOf, type Profile } from './doubles';
import { kindOf } from './kinds';
import { flawedStretches, shutOut, type Flaw } from './limits';
import type { SaidWord } from './sameWords';
import { explainScore, scoreCurve, type Prepared } from './score';
import {
  momentKinds,
  type Decision,
  type Limits,
  type Mix,
  type Moment,
  type MomentKind,
  type PieceLength,
} from './types';

/** What a choice goes by, apart from what was decided by hand. */
export interface ChoiceSettings {
  mix: Mix;
  limits: Limits;
  piece: PieceLength;
  /** 0 for only the best, 100 for something of everything; 50 when missing. */
  variety?: number;
}

/** Everything of one file that does not depend on what else is taken: score, what is shut out, and what could be a piece. */
export interface Ground {
  prepared: Prepared;
  settings: ChoiceSettings;
  curve: Float32Array;
  sums: Float64Array;
  /** The score that half of the file lies under. */
  usual: number;
  flaws: Flaw[];
  field: Field;
  decisions: Decision[];
  known: FileKnown;
}

/** What is known of a file beside its readings. */
export interface FileKnown {
  people: readonly SeenPerson[];
  /** What is said, in the order of time. */
  words: readonly SaidWord[];
  /** Where it lies among the files that were recorded together, in seconds of a clock that they share; null when none are known. */
  clock: { group: string; offsetSeconds: number } | null;
}
const unknown: FileKnown = { people: [], words: [], clock: null };

/** When somebody is in the picture of a file. */
export interface SeenPerson {
  id: string;
  ranges: readonly Range[];
}

/**
 * Lays the ground for choosing. Stretches that a person decided about are taken out: kept ones stand for themselves,
 * dropped ones are shut like flaws.
 */
export function layGround(
  prepared: Prepared,
  settings: ChoiceSettings,
  decisions: readonly Decision[],
  known: Partial<FileKnown> = {},
): Ground {
  const { footage } = prepared;
  const own = decisions.filter((decision) => decision.media === footage.id);
  const flaws = flawedStretches(footage, settings.limits);
  const shut = shutOut([...flaws, ...own.map((decision) => ({ ...decision, kind: 'dark' as const }))]);
  const curve = scoreCurve(prepared, settings.mix);
  return {
    prepared,
    settings,
    curve,
    sums: prefixSums(curve),
    usual: medianOf(curve),
    flaws,
    field: layField(prepared, shut, flaws, settings.piece),
    decisions: own,
    known: { ...unknown, ...known },
  };
}

/** The same ground under another mix or variety: what could be a piece does not change, so only the score is made anew. */
export function reweigh(ground: Ground, mix: Mix, variety = ground.settings.variety ?? defaultVariety): Ground {
  const curve = scoreCurve(ground.prepared, mix);
  return {
    ...ground,
    settings: { ...ground.settings, mix, variety },
    curve,
    sums: prefixSums(curve),
    usual: medianOf(curve),
  };
}

/** Mean score of a stretch, 0 to 100. */
export function scoreOf({ sums, prepared }: Ground, { start, end }: Range): number {
  const { hz } = prepared.footage;
  const from = Math.min(sums.length - 2, Math.round(start * hz));
  const to = Math.min(sums.length - 1, Math.max(from + 1, Math.round(end * hz)));
  return (sums[to]! - sums[from]!) / Math.max(1, to - from);
}

/** Over the usual score of its file by so much, a stretch stands out fully; one that does not counts for so much. */
const standsOutBy = 20,
  ordinary = 0.55;

/** The score of a stretch, less where the whole file is like it: what happens once is what somebody was waiting for. */
function meritOf(ground: Ground, range: Range): number {
  const score = scoreOf(ground, range);
  if (ground.prepared.footage.whole) return score;
  return score * (ordinary + (1 - ordinary) * clamp((score - ground.usual) / standsOutBy));
}

/** The median of a curve of 0 to 100, to half a point. */
function medianOf(curve: Float32Array): number {
  const counts = new Uint32Array(201);
  for (const value of curve) counts[Math.round(value * 2)]!++;
  let below = 0;
  let at = 0;
  while (at < 200 && below + counts[at]! <= curve.length / 2) below += counts[at++]!;
  return at / 2;
}

/** What a stretch is worth a second, in points, given what else is in; and whether it is taken. */
export interface Worth extends Range {
  media: string;
  kind: MomentKind;
  worth: number;
  taken: boolean;
}

/** What is chosen, the water level, and how long it is in seconds. */
export interface Choice {
  /** What rises above this level, in points a second, is taken. */
  threshold: number;
  moments: Moment[];
  seconds: number;
  /** Everything that could be a piece. What is taken stands at or over the threshold, everything else under it. */
  worths: Worth[];
  /** What was left out because it is the same as something that is taken. */
  doubles: (MediaRange & { of: MediaRange })[];
}

type MediaRange = Range & { media: string };

/** What a water level keeps of all footage. It never keeps more when it rises: a higher one ends the same sequence earlier. */
export const chooseAbove = (grounds: readonly Ground[], water: number): Choice =>
  new Choosing(grounds, { water }).choice();

/**
 * Whether a water level keeps most of a stretch. Step by step, so that whoever asks may stop in between: under a mix that
 * lifts everything over the water a choice takes many times as long.
 */
export function* isKeptAbove(
  grounds: readonly Ground[],
  water: number,
  { media, ...range }: MediaRange,
): Generator<void, boolean> {
  const file = grounds.findIndex(({ prepared }) => prepared.footage.id === media);
  if (file < 0) return false;
  const choosing = new Choosing(grounds, { water }, false);
  const isIn = () => choosing.covers(file, range) > lengthOf(range) / 2;
  for (const _ of choosing.taking()) {
    if (isIn()) return true;
    yield;
  }
  return isIn();
}

/**
 * What is taken for a length: the sequence as far as it fits, then what still fits of the rest, and pieces that stand a
 * little longer. Pieces kept by hand count, and stay even when they alone are longer.
 */
export const chooseForTarget = (grounds: readonly Ground[], targetSeconds: number): Choice =>
  new Choosing(grounds, { targetSeconds }).choice();

/**
 * What does not depend on the mix: what each piece could cover, and which pairs are doubles. A slider asks for the same
 * again and again, so it is kept as long as what could be a piece is the same.
 */
class Laid {
  readonly concepts: Concepts;
  readonly counts: number[];
  /** Their points are those of the choice that is being made. */
  readonly items: Counted[] = [];
  /** What a person kept is made anew with every choice, and its profile must not stay behind. */
  profiles = new WeakMap<Candidate, Profile>();
  /** By the numbers of both. */
  readonly pairs = new Map<number, boolean>();

  constructor(private grounds: readonly Ground[]) {
    this.concepts = new Concepts(grounds);
    for (const [file, { field }] of grounds.entries())
      for (const candidate of field.candidates)
        this.items.push({
          candidate,
          number: this.items.length,
          file,
          seconds: lengthOf(candidate),
          points: 0,
          kindPoints: 0,
          concepts: this.concepts.of(file, candidate),
          persons: this.concepts.personsIn(file, candidate),
        });
    this.counts = this.concepts.counts(this.items);
  }
  isOf(grounds: readonly Ground[]): boolean {
    const own = this.grounds;
    return (
      grounds.length === own.length &&
      grounds.every(({ field, known }, file) => field === own[file]!.field && known.people === own[file]!.known.people)
    );
  }
  /** What is said is only asked when two are compared. */
  withWordsOf(grounds: readonly Ground[]): this {
    if (grounds.some(({ known }, file) => known.words !== this.grounds[file]!.known.words)) {
      this.grounds = grounds;
      this.pairs.clear();
      this.profiles = new WeakMap();
    }
    return this;
  }
}
let laid: Laid | null = null;

interface Taken extends Range {
  counted: Counted;
  worth: number;
}

/** Between pieces closer than this nothing is left out, in seconds. */
const hole = 0.5;
/** A second look at one shot within so many seconds is worth so much of what it would be elsewhere. */
const closeBy = 2.5,
  moreOfShot = 0.4;
/** A piece is taken when none can be worth more than so much more; it saves most of the computing. */
const slack = 0.02;
/** After so many looks at what stands on top, others may have their turn; they take less than a millisecond. */
const breath = 50;
/** A cut is paid for like so many seconds; else the shortest pieces would always be worth most. */
const cutSeconds = 1;
/** What lies so close to a second take belongs to it, in seconds; not where somebody speaks. */
const besideDouble = 1.2;
const aroundDouble = ({ start, end, kind }: Range & { kind: MomentKind }): Range =>
  kind === 'talk' ? { start, end } : { start: start - besideDouble, end: end + besideDouble };
/** Of two cameras that ran together, pieces that share so much of the shorter one show the same. */
const sameInstant = 1 / 3;
/** So much of a target may stay empty. */
const nearlyFull = 0.005;
/** How far a piece may grow to fill a target, as a share of its length. */
const growth = 0.5;
/** Places in time that are told apart. */
const places = 12;

/**
 * Greedy by gain a second, with gains that are only computed anew when it matters (Minoux 1978; Leskovec and others
 * 2007, *Cost-effective Outbreak Detection in Networks*, which shows that for a budget the better of this and of the
 * greedy by gain alone reaches (1 − 1/e)/2 of the best). Gains only fall as the set grows, so the sequence's worth never
 * rises by more than `slack`: every water level cuts the same sequence at one place. What shares time with a taken
 * piece, or is the same thing once more, cannot be taken; for such constraints the bound does not hold.
 */
class Choosing {
  private readonly laid: Laid;
  private readonly items: readonly Counted[];
  private readonly density: Float64Array;
  private readonly covered: Covered;
  private readonly taken: Taken[] = [];
  private readonly byFile: Taken[][];
  /** What is the same as something taken; neither it nor a part of it is wanted once more. */
  private readonly doubled: { around: Range; candidate: Range; of: Counted }[][];
  /** What a person kept; its other takes are left out like those of what is taken. */
  private readonly byHand: Counted[] = [];
  private seconds = 0;
  private threshold = 0;

  constructor(
    private readonly grounds: readonly Ground[],
    private readonly until: { water: number } | { targetSeconds: number },
    isWanted = true,
  ) {
    if (!laid?.isOf(grounds)) laid = new Laid(grounds);
    this.laid = laid.withWordsOf(grounds);
    this.items = laid.items;
    const { concepts } = laid;
    const variety = grounds[0]?.settings.variety ?? defaultVariety;
    this.covered = new Covered(objective(variety, laid.counts), concepts.total);
    for (const item of this.items) {
      item.points = Math.max(1e-6, meritOf(grounds[item.file]!, item.candidate)) * item.seconds;
      item.kindPoints = this.covered.kindPoints(item.points, item.seconds);
    }
    this.byFile = grounds.map(() => []);
    this.doubled = grounds.map(() => []);
    for (const [file, ground] of grounds.entries())
      for (const decision of ground.decisions) {
        if (decision.verdict !== 'keep') continue;
        const kind = kindOf(ground.prepared, decision);
        this.seconds += lengthOf(decision);
        const points = meritOf(ground, decision) * lengthOf(decision);
        const candidate = { ...decision, kind, scene: ground.field.sceneAt(decision.start) };
        const counted = {
          candidate,
          number: -1,
          file,
          seconds: lengthOf(decision),
          points,
          kindPoints: this.covered.kindPoints(points, lengthOf(decision)),
          concepts: concepts.of(file, candidate),
          persons: concepts.personsIn(file, decision),
        };
        this.covered.add(counted);
        this.byHand.push(counted);
      }
    this.density = Float64Array.from(this.items, (item) => this.worthOf(item));
    if (!isWanted) return;
    for (const _ of this.taking());
    if ('targetSeconds' in until) this.fill(until.targetSeconds);
  }

  /** Takes one piece after the other; stops after every few that were looked at. */
  *taking(): Generator<void, void> {
    const { items, density, until } = this;
    const heap = new Heap(density);
    const target = 'targetSeconds' in until ? until.targetSeconds : Infinity;
    const water = 'water' in until ? until.water : 0;
    const shortest = items.reduce((least, { seconds }) => Math.min(least, seconds), Infinity);
    let isWhole = true;
    let lowest = 100;
    this.threshold = water;
    for (let looked = 1; heap.size > 0 && target - this.seconds >= shortest - 1e-6; looked++) {
      if (looked % breath === 0) yield;
      const index = heap.top;
      const item = items[index]!;
      if (this.isInTheWay(item)) {
        heap.pop();
        continue;
      }
      const now = this.worthOf(item);
      if (now < density[index]! - 1e-9) {
        density[index] = now;
        if (now < (1 - slack) * heap.next) {
          heap.sinkTop();
          continue;
        }
      }
      if (now < water) break;
      heap.pop();
      const range = this.withoutHoles(item);
      if (this.seconds + lengthOf(range) > target + 1e-6) {
        isWhole = false;
        continue;
      }
      const of = this.doubleOf(item);
      if (of) {
        this.doubled[item.file]!.push({ around: aroundDouble(item.candidate), candidate: item.candidate, of });
        continue;
      }
      this.put({ ...range, counted: item, worth: now });
      lowest = Math.min(lowest, now);
      if (isWhole && 'targetSeconds' in until) this.threshold = lowest;
    }
    if (isWhole && heap.size === 0 && 'targetSeconds' in until) this.threshold = 0;
  }

  private put(piece: Taken): void {
    this.taken.push(piece);
    this.byFile[piece.counted.file]!.push(piece);
    this.seconds += lengthOf(piece);
    this.covered.add(piece.counted);
  }

  /** What a piece would add to what is in, in points a second. More of a shot of which something close by is in adds less. */
  private worthOf(item: Counted): number {
    return (this.covered.gain(item) * (this.isMore(item) ? moreOfShot : 1)) / (item.seconds + cutSeconds);
  }
  /** Asked some ten thousand times a choice, so without closures. */
  private isMore({ file, candidate }: Counted): boolean {
    if (candidate.kind === 'talk') return false;
    for (const piece of this.byFile[file]!) if (isBeside(candidate, piece.counted, piece)) return true;
    for (const kept of this.byHand) if (kept.file === file && isBeside(candidate, kept, kept.candidate)) return true;
    return false;
  }

  private isInTheWay({ file, candidate }: Counted): boolean {
    for (const piece of this.byFile[file]!) if (overlap(piece, candidate) > 1e-6) return true;
    for (const { around } of this.doubled[file]!) if (overlap(around, candidate) > 1e-6) return true;
    return false;
  }

  /** What is taken and the same thing, of another shot. */
  private doubleOf(item: Counted): Counted | undefined {
    const { kind, scene } = item.candidate;
    const own = { kind, seconds: item.seconds };
    const isDouble = (other: Counted) =>
      this.isOtherAngle(other, item) ||
      (mayBeDoubles({ kind: other.candidate.kind, seconds: other.seconds }, own) &&
        (other.file !== item.file || other.candidate.scene !== scene || kind === 'talk') &&
        !showsOthers(item, other) &&
        this.areDoubles(other, item));
    return this.byHand.find(isDouble) ?? this.taken.find(({ counted }) => isDouble(counted))?.counted;
  }
  /** Whether two cameras that ran together filmed the same instant. */
  private isOtherAngle(a: Counted, b: Counted): boolean {
    if (a.file === b.file) return false;
    const [one, other] = [this.grounds[a.file]!.known.clock, this.grounds[b.file]!.known.clock];
    if (!one || one.group !== other?.group) return false;
    const moved = other.offsetSeconds - one.offsetSeconds;
    const { start, end } = b.candidate;
    const shared = overlap(a.candidate, { start: start + moved, end: end + moved });
    return shared > sameInstant * Math.min(a.seconds, b.seconds);
  }
  private areDoubles(a: Counted, b: Counted): boolean {
    const known = a.number < 0 || b.number < 0 ? null : this.laid.pairs;
    const key = a.number * this.items.length + b.number;
    let own = known?.get(key);
    if (own === undefined) {
      own = areDoubles(this.profile(a), this.profile(b));
      known?.set(key, own);
    }
    return own;
  }
  private profile(item: Counted): Profile {
    let own = this.laid.profiles.get(item.candidate);
    if (!own) {
      const { prepared, known } = this.grounds[item.file]!;
      own = profileOf(prepared, item.candidate, item.candidate.kind, known.words);
      this.laid.profiles.set(item.candidate, own);
    }
    return own;
  }

  /** A piece that nearly meets another one of its shot meets it, where nothing between them is shut out. */
  private withoutHoles({ file, candidate }: Counted): Range {
    let { start, end } = candidate;
    const around = this.grounds[file]!.field.around(candidate);
    for (const other of this.byFile[file]!) {
      if (other.counted.candidate.scene !== candidate.scene) continue;
      if (other.end <= start + 1e-6 && start - other.end < Math.min(hole, start - around.start + 1e-6))
        start = other.end;
      if (other.start >= end - 1e-6 && other.start - end < Math.min(hole, around.end - end + 1e-6)) end = other.start;
    }
    return { start, end };
  }

  /** Pieces stand a little longer until the target is reached. */
  private fill(target: number): void {
    const bounds = this.taken.map((piece) => {
      const { field, settings } = this.grounds[piece.counted.file]!;
      const { kind } = piece.counted.candidate;
      const around = kind === 'photo' ? piece : field.around(piece);
      const more = growth * lengthOf(piece);
      const longest = Math.max(lengthOf(piece), settings.piece.maxSeconds);
      return {
        start: Math.max(around.start, piece.start - more / 2),
        end: Math.min(around.end, piece.end + more),
        longest,
      };
    });
    const step = 0.2;
    for (let moved = true; moved && target - this.seconds > nearlyFull * target;) {
      moved = false;
      for (const [index, piece] of this.taken.entries())
        for (const side of ['end', 'start'] as const) {
          const bound = bounds[index]!;
          const others = this.byFile[piece.counted.file]!;
          const limit =
            side === 'end'
              ? Math.min(
                  bound.end,
                  ...others.filter((other) => other.start >= piece.end - 1e-6).map(({ start }) => start),
                )
              : Math.max(
                  bound.start,
                  ...others.filter((other) => other.end <= piece.start + 1e-6).map(({ end }) => end),
                );
          const free = side === 'end' ? limit - piece.end : piece.start - limit;
          const by = Math.min(step, free, target - this.seconds, bound.longest - lengthOf(piece));
          if (by < 0.02) continue;
          if (side === 'end') piece.end += by;
          else piece.start -= by;
          this.seconds += by;
          moved = true;
        }
    }
  }

  /** Seconds of a stretch that are in, by what was taken so far and by hand. */
  covers(file: number, range: Range): number {
    const byHand = this.grounds[file]!.decisions.filter(({ verdict }) => verdict === 'keep');
    return coveredSeconds(range, [...this.byFile[file]!, ...byHand]);
  }

  choice(): Choice {
    const isTaken = new Set(this.taken.map(({ counted }) => counted));
    const under = Math.max(0, this.threshold - 0.01);
    const worths = this.items.map((item): Worth => {
      const { candidate, file } = item;
      const taken = isTaken.has(item);
      return {
        media: this.grounds[file]!.prepared.footage.id,
        start: candidate.start,
        end: candidate.end,
        kind: candidate.kind,
        taken,
        worth: taken ? 0 : Math.min(under, this.worthOf(item)),
      };
    });
    const worthOf = new Map(this.taken.map(({ counted, worth }) => [counted, Math.max(worth, this.threshold)]));
    for (const [index, item] of this.items.entries())
      if (isTaken.has(item)) worths[index]!.worth = Math.min(100, worthOf.get(item)!);
    const moments = this.grounds.flatMap((ground, file) =>
      [...this.keptByHand(ground), ...this.merged(file, worthOf)].sort((a, b) => a.start - b.start),
    );
    const seconds = moments.reduce((sum, moment) => sum + lengthOf(moment), 0);
    const place = ({ start, end }: Range, file: number): MediaRange => ({
      media: this.grounds[file]!.prepared.footage.id,
      start,
      end,
    });
    const doubles = this.doubled.flatMap((list, file) =>
      list.map(({ candidate, of }) => ({ ...place(candidate, file), of: place(of.candidate, of.file) })),
    );
    return { threshold: this.threshold, moments, seconds, worths, doubles };
  }

  private keptByHand(ground: Ground): Moment[] {
    return ground.decisions
      .filter(({ verdict }) => verdict === 'keep')
      .map((decision) => ({
        ...momentOf(ground, decision, kindOf(ground.prepared, decision), 100),
        kept: 'hand',
        decision: decision.id,
      }));
  }

  /** Pieces of a file; those that meet within a shot are one, as long as a piece may be. */
  private merged(file: number, worthOf: ReadonlyMap<Counted, number>): Moment[] {
    const ground = this.grounds[file]!;
    const most = ground.settings.piece.maxSeconds;
    const out: (Range & { kind: MomentKind; worth: number; scene: number })[] = [];
    for (const { start, end, counted } of [...this.byFile[file]!].sort((a, b) => a.start - b.start)) {
      const { kind, scene } = counted.candidate;
      const worth = worthOf.get(counted)!;
      const last = out.at(-1);
      if (last?.scene === scene && start - last.end < 1e-3 && end - last.start <= most) {
        if (kind === 'talk' || worth > last.worth) last.kind = last.kind === 'talk' ? 'talk' : kind;
        last.end = end;
        last.worth = Math.max(last.worth, worth);
      } else out.push({ start, end, kind, worth, scene });
    }
    return out.map(({ start, end, kind, worth }) => momentOf(ground, { start, end }, kind, worth));
  }
}

/** Whether a stretch is a look at the shot of another one, close to it. */
const isBeside = (candidate: Candidate, { candidate: other }: Counted, { start, end }: Range): boolean =>
  other.kind !== 'talk' &&
  other.scene === candidate.scene &&
  end > candidate.start - closeBy &&
  start < candidate.end + closeBy;

/** Two stretches that show known people, but nobody in both; what is said may be filmed from another side. */
const showsOthers = (a: Counted, b: Counted): boolean =>
  a.candidate.kind !== 'talk' &&
  a.persons.length > 0 &&
  b.persons.length > 0 &&
  !a.persons.some((person) => b.persons.includes(person));

function momentOf(ground: Ground, { start, end }: Range, kind: MomentKind, worth: number): Moment {
  const score = scoreOf(ground, { start, end });
  return {
    media: ground.prepared.footage.id,
    start,
    end,
    kind,
    score,
    worth: Math.min(100, worth),
    shares: explainScore(ground.prepared, ground.settings.mix, start, end, score),
    kept: 'score',
  };
}

/** Numbers for what pieces are told apart by. */
class Concepts {
  private readonly sceneBase: number[] = [];
  private readonly fileBase: number;
  private readonly placeBase: number;
  private readonly offsets: number[] = [];
  private readonly whole: number;
  private readonly persons = new Map<string, number>();
  readonly total: number;

  constructor(private readonly grounds: readonly Ground[]) {
    let next = momentKinds.length;
    let offset = 0;
    for (const { prepared } of grounds) {
      this.sceneBase.push(next);
      next += Math.max(1, prepared.footage.runs.filter(({ kind }) => kind === 'scene').length);
      this.offsets.push(offset);
      offset += prepared.footage.durationSeconds;
    }
    this.whole = offset;
    this.fileBase = next;
    this.placeBase = next + grounds.length;
    const firstPerson = this.placeBase + places;
    for (const { known } of grounds)
      for (const { id } of known.people)
        if (!this.persons.has(id)) this.persons.set(id, firstPerson + this.persons.size);
    this.total = firstPerson + this.persons.size;
  }

  /** Who is seen in so much of a stretch. */
  personsIn(file: number, range: Range): number[] {
    const { known, prepared } = this.grounds[file]!;
    const enough = prepared.footage.whole ? 1e-6 : Math.min(1, lengthOf(range) / 2);
    return known.people
      .filter(({ ranges }) => ranges.reduce((sum, seen) => sum + overlap(seen, range), 0) >= enough)
      .map(({ id }) => this.persons.get(id)!);
  }

  /** In the order of `conceptGroups`. */
  of(file: number, { kind, scene, start, end }: Range & { kind: MomentKind; scene: number }): number[] {
    const at = (this.offsets[file]! + (start + end) / 2) / this.whole;
    return [
      momentKinds.indexOf(kind),
      this.sceneBase[file]! + scene,
      this.placeBase + Math.min(places - 1, Math.floor(at * places)),
      this.fileBase + file,
    ];
  }

  /** Of different concepts in each group, persons last. */
  counts(items: readonly Counted[]): number[] {
    return [
      ...Array.from({ length: groupCount }, (_, group) => new Set(items.map(({ concepts }) => concepts[group])).size),
      this.persons.size,
    ];
  }
}
/** A sensible reel length for so much material: 13 minutes suggest about 5; short material keeps most of itself. Common practice, no source. */
export function suggestedTarget(rawSeconds: number): number {
  const wanted = rawSeconds <= 30 ? rawSeconds * 0.8 : 60 * 1.0 * (rawSeconds / 156) ** 0.97;
  return Math.max(5, Math.round(Math.min(wanted, 900) / 5) * 5);
}
