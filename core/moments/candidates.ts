import { runsOf } from '#core/readings';
import { gaussianSmooth } from '#core/signal';
import { lastBefore, lengthOf, overlap, subtractRanges, type Range } from '#core/time';
import { kindOf } from './kinds';
import type { Flaw } from './limits';
import type { Prepared } from './score';
import { breathed, sentencesOf } from './talk';
import type { MomentKind, PieceLength } from './types';

/** A stretch that could be a piece of a reel. */
export interface Candidate extends Range {
  kind: MomentKind;
  /** Which scene of its file it begins in. */
  scene: number;
}

/** Lengths below are for pieces that are wanted so long, and scaled by what is wanted. */
const usualPreferred = 4;
/**
 * Lengths by kind, in seconds. A look-and-see shot stands 2 to 4 s; an action lasts from its wind-up to just after its
 * peak; a burst of sound from just before it until it fades; a camera move from rest to rest. Common practice, no source.
 */
const lengths = {
  look: 3,
  windUp: 2.2,
  afterPeak: 1.1,
  beforeBurst: 0.7,
  burst: 4,
  rest: 0.45,
  move: 10,
  beforeWhip: 1,
  afterWhip: 1.6,
};
/** A cut may be moved this far to where things rest, in seconds. */
const reach = 0.3;
/** Shake that ends so late, in seconds, does not make the sentence behind it unreachable. */
const lateFlaw = 0.7;

/** Every stretch of a file that could be a piece, and where pieces may grow. */
export interface Field {
  candidates: Candidate[];
  /** The longest stretch around a piece that stays in its shot, outside of what is shut out and of other sentences. */
  around(piece: Range): Range;
  /** Which scene of its file a time lies in. */
  sceneAt(seconds: number): number;
}

/**
 * Every stretch of a file that could be a piece, by kind: sentences with a breath; actions, bursts, camera moves and
 * faces around their peaks; and windows over everything else. None begins or ends inside a sentence or reaches into what
 * is shut out; edges of what is not spoken lie at rests of motion, and never where a smile comes or goes. They overlap
 * each other: which are taken is another matter.
 * @param shut what is not accepted, and what a person decided about, sorted and merged
 */
export function layField(
  prepared: Prepared,
  shut: readonly Range[],
  flaws: readonly Flaw[],
  piece: PieceLength,
): Field {
  const { footage } = prepared;
  const { durationSeconds: duration } = footage;
  if (footage.whole)
    return {
      candidates: shut.length > 0 ? [] : [{ start: 0, end: duration, kind: 'photo', scene: 0 }],
      around: (range) => range,
      sceneAt: () => 0,
    };
  const sentences = sentencesOf(footage, piece.maxSeconds);
  const room = new Room(prepared, shut, sentences, piece);
  const out = [
    ...talk(room, sentences, flaws),
    ...peaks(room, 'action', prepared.values.action),
    ...peaks(room, 'reaction', prepared.values.sound),
    ...moves(room),
    ...faces(room),
    ...windows(room),
  ];
  return { candidates: distinct(out), around: (range) => room.around(range), sceneAt: (at) => room.sceneAt(at) };
}

/** Where pieces of a file may lie. */
class Room {
  readonly prepared: Prepared;
  readonly shots: (Range & { scene: number })[];
  readonly open: Range[];
  readonly sentences: readonly Range[];
  readonly spoken: Range[];
  readonly scenes: readonly Range[];
  readonly scale: number;
  readonly least: number;
  readonly most: number;
  readonly look: number;
  /** How much a cut at a sample would be felt. */
  readonly unrest: Float32Array;

  constructor(prepared: Prepared, shut: readonly Range[], sentences: readonly Range[], piece: PieceLength) {
    const { footage } = prepared;
    const { durationSeconds: duration, traces, hz } = footage;
    this.prepared = prepared;
    this.sentences = sentences;
    this.spoken = breathed(sentences, duration);
    this.scenes = runsOf(footage.runs, 'scene');
    if (this.scenes.length === 0) this.scenes = [{ start: 0, end: duration }];
    this.scale = piece.preferredSeconds / usualPreferred;
    this.least = Math.min(piece.minSeconds, duration);
    this.most = piece.maxSeconds;
    this.look = Math.min(this.most, Math.max(this.least, lengths.look * this.scale));
    this.open = subtractRanges({ start: 0, end: duration }, shut);
    this.shots = [];
    let scene = 0;
    for (const stretch of this.open) {
      while (scene < this.scenes.length && this.scenes[scene]!.end <= stretch.start + 1e-6) scene++;
      for (let at = scene; at < this.scenes.length && this.scenes[at]!.start < stretch.end - 1e-6; at++) {
        const start = Math.max(stretch.start, this.scenes[at]!.start);
        const end = Math.min(stretch.end, this.scenes[at]!.end);
        if (end - start >= this.least - 1e-6) this.shots.push({ start, end, scene: at });
      }
    }
    const smile = gaussianSmooth(traces.smile, hz * 0.15);
    this.unrest = Float32Array.from(
      traces.motion,
      (value, index) =>
        value +
        traces.moves[index]! * 0.5 +
        2 * Math.abs((smile[index + 2] ?? smile[index]!) - (smile[index - 2] ?? smile[index]!)),
    );
  }

  sceneAt(seconds: number): number {
    return Math.max(0, lastBefore(this.scenes, seconds + 1e-6));
  }

  shotAt(seconds: number): (Range & { scene: number }) | null {
    const shot = this.shots[lastBefore(this.shots, seconds)];
    return shot && seconds <= shot.end ? shot : null;
  }

  around({ start, end }: Range): Range {
    const shot = this.shotAt((start + end) / 2) ?? { start, end };
    const before = this.spoken[lastBefore(this.spoken, start - 1e-6)];
    const after = this.spoken[lastBefore(this.spoken, end - 1e-6) + 1];
    return {
      start: Math.min(start, Math.max(shot.start, before?.end ?? 0)),
      end: Math.max(end, Math.min(shot.end, after?.start ?? Infinity)),
    };
  }

  /** The sample nearest to `seconds` and within reach at which a cut is felt least. */
  calmest(seconds: number, from: number, to: number): number {
    const { hz } = this.prepared.footage;
    let best = seconds;
    let least = Infinity;
    for (let at = Math.ceil((seconds - reach) * hz); at <= (seconds + reach) * hz; at++) {
      if (at / hz < from || at / hz > to) continue;
      const felt = (this.unrest[at] ?? 0) + 0.1 * Math.abs(at / hz - seconds);
      if (felt < least) {
        least = felt;
        best = at / hz;
      }
    }
    return best;
  }

  /**
   * A stretch that holds `core` and is about as wanted, inside one shot, cut at rests and outside of sentences; null
   * where there is none.
   */
  fit(wanted: Range, core: Range, kind: MomentKind): Candidate | null {
    const shot = this.shotAt((core.start + core.end) / 2);
    if (!shot) return null;
    // What a wanted stretch has no room for at one end it takes at the other.
    const length = Math.max(this.least, Math.min(lengthOf(wanted), this.look));
    let start = Math.max(shot.start, Math.min(wanted.start, shot.end - length));
    let end = Math.min(shot.end, Math.max(wanted.end, start + length));
    start = Math.max(shot.start, Math.min(start, end - length));
    if (start > shot.start + reach) start = this.calmest(start, shot.start, core.start);
    if (end < shot.end - reach) end = this.calmest(end, core.end, shot.end);
    start = this.clear(start, core, shot, -1);
    end = this.clear(end, core, shot, 1);
    if (!(end - start >= this.least - 1e-6) || end - start > this.most + 1e-6) return null;
    return { start, end, kind, scene: shot.scene };
  }

  /** An edge outside of what is said: after or before the sentence it falls into, whichever is nearer and keeps the core. */
  private clear(edge: number, core: Range, shot: Range, side: 1 | -1): number {
    const inside = this.spoken[lastBefore(this.spoken, edge)];
    if (!inside || edge >= inside.end - 1e-6 || edge <= inside.start + 1e-6) return edge;
    const out = side < 0 ? inside.start : inside.end;
    const back = side < 0 ? inside.end : inside.start;
    const keepsCore = side < 0 ? back <= core.start : back >= core.end;
    const stays = out >= shot.start - 1e-6 && out <= shot.end + 1e-6;
    if (keepsCore && (!stays || Math.abs(back - edge) <= Math.abs(out - edge))) return back;
    return stays ? out : NaN;
  }
}

/** Whole sentences; short ones together with what follows, or with a little of the pause around them. */
function talk(room: Room, sentences: readonly Range[], flaws: readonly Flaw[]): Candidate[] {
  const out: Candidate[] = [];
  const soft = flaws.filter(({ kind }) => kind === 'shaky' || kind === 'blurred' || kind === 'dark');
  for (const [index, sentence] of room.spoken.entries()) {
    let { start, end } = sentence;
    for (let next = index + 1; end - start < room.least && next < room.spoken.length; next++) {
      const { start: from, end: to } = room.spoken[next]!;
      if (from - end > 1.5) break;
      end = to;
    }
    const short = room.least - (end - start);
    if (short > 0) {
      const next = sentences.find((each) => each.start >= end - 1e-6);
      const before = sentences[index - 1];
      end = Math.min(
        end + short,
        Math.max(end, (next?.start ?? Infinity) - 0.05),
        room.prepared.footage.durationSeconds,
      );
      start = Math.max(0, Math.min(start, Math.max(end - room.least, (before?.end ?? -1) + 0.05)));
    }
    if (end - start < room.least - 1e-6) continue;
    const isOpen = room.open.some((stretch) => {
      const lost = end - start - overlap(stretch, { start, end });
      if (lost <= 1e-6) return true;
      // Shake that is said to last a little longer than it does.
      return (
        lost <= lateFlaw &&
        soft.some((flaw) => Math.abs(flaw.end - stretch.start) < 0.02 || Math.abs(flaw.start - stretch.end) < 0.02) &&
        room.open.filter((other) => overlap(other, { start, end }) > 0).length === 1
      );
    });
    if (isOpen) out.push({ start, end, kind: 'talk', scene: room.sceneAt(start) });
  }
  return out;
}

/** A value counts as a peak from here on, 0 to 1. */
const peakFrom = { action: 0.4, reaction: 0.35 };

/** Around each peak of a curve: from where it begins to rise to just after it. */
function peaks(room: Room, kind: 'action' | 'reaction', curve: Float32Array): Candidate[] {
  const { hz } = room.prepared.footage;
  const { scale } = room;
  const out: Candidate[] = [];
  for (const at of localMaxima(curve, hz, peakFrom[kind])) {
    const height = curve[at]!;
    const isAction = kind === 'action';
    const lead = (isAction ? lengths.windUp : lengths.burst / 2) * scale * hz;
    let from = at;
    while (from > 0 && at - from < lead && curve[from - 1]! > 0.3 * height) from--;
    const most = isAction ? at + lengths.afterPeak * scale * hz : from + lengths.burst * scale * hz;
    let to = at;
    while (to + 1 < curve.length && to < most && curve[to + 1]! > (isAction ? 0.55 : 0.35) * height) to++;
    const wanted = {
      start: from / hz - (isAction ? 0.3 : lengths.beforeBurst * scale),
      end: to / hz + 0.3,
    };
    const core = { start: at / hz, end: at / hz + 0.1 };
    const found = room.fit(wanted, core, kind);
    // A word that is loud is speech.
    if (found)
      out.push(kind === 'reaction' && kindOf(room.prepared, found) === 'talk' ? { ...found, kind: 'talk' } : found);
  }
  return out;
}

/** Samples that are the highest within a second at both sides. */
function localMaxima(curve: Float32Array, hz: number, least: number): number[] {
  const out: number[] = [];
  const near = Math.round(hz);
  for (let at = 0; at < curve.length; at++) {
    const value = curve[at]!;
    if (value < least) continue;
    let isHighest = true;
    for (let other = Math.max(0, at - near); isHighest && other <= at + near && other < curve.length; other++)
      isHighest = curve[other]! < value || (curve[other]! === value && other >= at) || other === at;
    if (isHighest) out.push(at);
  }
  return out;
}

/** What is shorter is a jolt, in seconds. */
const shortestMove = 0.8;

/** Pans, tilts and zooms from rest to rest, long ones their arrival; whip pans with what they reveal. */
function moves(room: Room): Candidate[] {
  const { scale } = room;
  const out: (Candidate | null)[] = [];
  for (const { start, end } of runsOf(room.prepared.footage.runs, 'smooth')) {
    if (end - start < shortestMove) continue;
    const most = Math.min(room.most, lengths.move * scale);
    const from = end - start + 2 * lengths.rest > most ? end + lengths.rest - most : start - lengths.rest;
    const middle = Math.max((start + end) / 2, from + 0.1);
    out.push(room.fit({ start: from, end: end + lengths.rest }, { start: middle, end: middle + 0.1 }, 'camera'));
  }
  for (const { start, end } of runsOf(room.prepared.footage.runs, 'whip'))
    out.push(
      room.fit(
        { start: start - lengths.beforeWhip * scale, end: end + lengths.afterWhip * scale },
        { start, end },
        'camera',
      ),
    );
  // A slow push in on somebody who speaks is a sentence, and found as one.
  return out.filter((each) => each !== null).filter((each) => kindOf(room.prepared, each) !== 'talk');
}

/** Where people are best seen. */
function faces(room: Room): Candidate[] {
  const { prepared, look } = room;
  const { hz } = prepared.footage;
  const curve = gaussianSmooth(prepared.values.people, hz * 0.5);
  const out: Candidate[] = [];
  for (const at of localMaxima(curve, hz, 0.3)) {
    const middle = at / hz;
    const core = { start: middle, end: middle + 0.1 };
    const found = room.fit({ start: middle - look / 2, end: middle + look / 2 }, core, 'faces');
    if (found) out.push({ ...found, kind: kindOf(prepared, found) });
  }
  return out;
}

/** Windows over every shot, each beginning half a window after the one before. */
function windows(room: Room): Candidate[] {
  const { prepared, look } = room;
  const out: Candidate[] = [];
  for (const shot of room.shots) {
    const length = lengthOf(shot);
    const count = length < 1.5 * look ? 1 : Math.floor((length - look) / (look / 2)) + 1;
    const each = count === 1 ? Math.min(length, room.most) : look;
    const step = count === 1 ? 0 : (length - look) / (count - 1);
    for (let index = 0; index < count; index++) {
      const start = shot.start + index * step;
      const middle = start + each / 2;
      const found = room.fit({ start, end: start + each }, { start: middle, end: middle + 0.1 }, 'scenery');
      if (found) out.push({ ...found, kind: kindOf(prepared, found) });
    }
  }
  return out;
}

/** Of candidates of one kind with nearly the same edges only the first stays. */
function distinct(candidates: readonly Candidate[]): Candidate[] {
  const first = new Map<string, Candidate>();
  for (const each of candidates) {
    const key = `${each.kind} ${Math.round(each.start * 4)} ${Math.round(each.end * 4)}`;
    if (!first.has(key)) first.set(key, each);
  }
  return [...first.values()];
}
