import { runsOf, type Run } from '#core/readings';
import { clamp } from '#core/signal';
import { lengthOf, overlap, type Range } from '#core/time';
import { numbered, wordsAgree, type SaidWord } from './sameWords';
import type { Prepared } from './score';
import type { Footage, MomentKind } from './types';

/** How a stretch looks and goes, for telling whether another one is the same thing once more. */
export interface Profile {
  kind: MomentKind;
  /** What it is of, from where; a shorter one is looked for inside it. */
  footage: Footage;
  start: number;
  seconds: number;
  /** Mean luma of cells at its beginning, middle and end; null where looks were not read. */
  looks: Float32Array[] | null;
  /** Colourfulness of cells likewise; null where it was not read. */
  tints: Float32Array[] | null;
  /** Colours of the clothes that are seen most of the time. */
  worn: ReadonlySet<string>;
  /** Level of the sound over time, 0 to 1, `soundHz` a second. */
  sound: Float32Array;
  /** The same with `aside` seconds before and after, of a reaction; empty for others. */
  soundAround: Float32Array;
  /** What is said, where that is known. */
  said: ReturnType<typeof numbered>;
  /** Motion likewise, of a camera move that of the camera, `motionHz` a second, with `aside` seconds before and after. */
  motion: Float32Array;
}

/** Syllables come four to five a second: ten levels a second tell two sentences apart, five do not. */
const soundHz = 10,
  motionHz = 5;
/** Two takes are seldom cut alike: motion is compared with one of them moved by up to so many seconds. */
const aside = 1.6;
/** Under these nothing is heard and nothing moves; they are not blown up to a course of their own. */
const quiet = 0.02,
  still = 0.25;

/** How a stretch looks and goes. @param words of its file, in the order of time */
export function profileOf(
  { footage }: Prepared,
  { start, end }: Range,
  kind: MomentKind,
  words: readonly SaidWord[] = [],
): Profile {
  const { look, tint, traces, hz } = footage;
  const seconds = end - start;
  return {
    kind,
    footage,
    start,
    seconds,
    looks: threeOf(look, start, seconds),
    tints: threeOf(tint, start, seconds),
    worn: new Set(
      clothesIn(footage)
        .filter((run) => overlap(run, { start, end }) > seconds / 2)
        .map(({ label }) => label!),
    ),
    sound: pooled(traces.wave, hz, { start, end }, quiet, soundHz),
    soundAround:
      kind === 'reaction'
        ? pooled(traces.wave, hz, { start: start - aside, end: end + aside }, quiet, soundHz)
        : new Float32Array(),
    said: numbered(kind === 'talk' ? saidWithin(words, { start, end }) : []),
    motion: pooled(
      kind === 'camera' ? traces.moves : traces.motion,
      hz,
      { start: start - aside, end: end + aside },
      still,
      motionHz,
    ),
  };
}

/** A long file has thousands of runs, and is asked for each of its pieces. */
const clothesOf = new WeakMap<Footage, Run[]>();
function clothesIn(footage: Footage): Run[] {
  let own = clothesOf.get(footage);
  if (!own) {
    own = runsOf(footage.runs, 'coloured').filter(({ label }) => label!.endsWith(' clothes'));
    clothesOf.set(footage, own);
  }
  return own;
}

/** Words of which the middle lies in a stretch. */
function saidWithin(words: readonly SaidWord[], { start, end }: Range): SaidWord[] {
  const middle = (word: SaidWord) => (word.start + word.end) / 2;
  let low = 0;
  for (let high = words.length; low < high;) {
    const at = (low + high) >> 1;
    if (middle(words[at]!) < start) low = at + 1;
    else high = at;
  }
  const within: SaidWord[] = [];
  while (low < words.length && middle(words[low]!) < end) within.push(words[low++]!);
  return within;
}

/** Near the beginning, in the middle and near the end. */
const threeOf = (grids: Footage['look'], start: number, seconds: number): Float32Array[] | null =>
  grids && grids.values.length > 0 ? [0.15, 0.5, 0.85].map((share) => lookAt(grids, start + share * seconds)) : null;

function lookAt({ values, cells, hz }: NonNullable<Footage['look']>, seconds: number): Float32Array {
  const index = clamp(Math.round(seconds * hz), 0, values.length / cells - 1) * cells;
  return values.subarray(index, index + cells);
}

/** Mean difference of luma between the pictures at two times, 0 to 1; 1 where looks were not read. */
export function difference(one: Footage, at: number, other: Footage, otherAt: number): number {
  if (!one.look?.values.length || !other.look?.values.length) return 1;
  const [a, b] = [lookAt(one.look, at), lookAt(other.look, otherAt)];
  let sum = 0;
  for (let cell = 0; cell < a.length; cell++) sum += Math.abs(a[cell]! - b[cell]!);
  return sum / a.length;
}

/** Means of `pooledHz` a second, from 0 to 1 within the stretch. */
function pooled(values: Float32Array, hz: number, range: Range, least: number, pooledHz: number): Float32Array {
  const count = Math.max(2, Math.round(lengthOf(range) * pooledHz));
  const step = (lengthOf(range) * hz) / count;
  const out = new Float32Array(count);
  let most = least;
  for (let index = 0; index < count; index++) {
    const from = Math.round(range.start * hz + index * step);
    const to = Math.max(from + 1, Math.round(range.start * hz + (index + 1) * step));
    let sum = 0;
    for (let sample = from; sample < to; sample++) sum += values[clamp(sample, 0, values.length - 1)] ?? 0;
    out[index] = sum / (to - from);
    most = Math.max(most, out[index]!);
  }
  return out.map((value) => value / most);
}

/** What a moment of a kind is known by; others are not compared. */
const sensed = (kind: MomentKind) =>
  kind === 'talk' || kind === 'photo' ? kind : kind === 'reaction' ? 'heard' : 'seen';
/** Kinds in which little moves. */
const stands: readonly MomentKind[] = ['faces', 'group', 'scenery'];
/** Largest mean difference of luma at which two pictures may be of the same place. */
const sameLook = { photo: 0.012, still: 0.022, moving: 0.03 };
/** Largest mean difference of colourfulness at which they may be. */
const sameTint = 0.02;
/** Largest mean difference along the warped path at which two courses are the same. */
const sameCourse = { talk: 0.05, sound: 0.05, motion: 0.06, moves: 0.1 };
/** Likewise where the words say that it may be the same sentence: another microphone hears other levels. */
const sameSpoken = 0.12;

/** Two are about as long when the shorter has this share of the longer one's length. */
const asLong = 0.7;
/** One whose share is this may be a part of the longer one, where something happens by which it is known. */
const partFrom = 0.2;
const happens: readonly MomentKind[] = ['action', 'camera', 'reaction'];
const shareOf = (a: Pick<Profile, 'seconds'>, b: Pick<Profile, 'seconds'>) =>
  Math.min(a.seconds, b.seconds) / Math.max(a.seconds, b.seconds);

/**
 * What can be said without looking closer: only what is known by the same sense, and about as long, or a part of one in which
 * something happens.
 */
export function mayBeDoubles(a: Pick<Profile, 'kind' | 'seconds'>, b: Pick<Profile, 'kind' | 'seconds'>): boolean {
  if (a.kind !== b.kind && sensed(a.kind) !== sensed(b.kind)) return false;
  const share = shareOf(a, b);
  return share >= asLong || (share >= partFrom && a.kind === b.kind && happens.includes(a.kind));
}

/**
 * Whether one stretch is the other once more, as a second take or from a second camera: about as long, the same picture, and sound (where somebody speaks or it is loud) or motion going the same way, compared along the best
 * warping of time (Sakoe & Chiba 1978, dynamic time warping, slope of at most two).
 */
export function areDoubles(a: Profile, b: Profile): boolean {
  if (!mayBeDoubles(a, b)) return false;
  if (a.kind === 'photo') return looksAlike(a, b, sameLook.photo);
  const isHeard = !isSilent(a.sound) || !isSilent(b.sound);
  // What is said is the same from wherever it is filmed.
  if (a.kind === 'talk') {
    const agreement = wordsAgree(a.said, b.said);
    const most = agreement === 'perhaps' ? sameSpoken : sameCourse.talk;
    return agreement === 'same' || (isHeard && goesAlike(a.sound, b.sound, most));
  }
  if (wearsOther(a, b)) return false;
  // Two takes are seldom cut alike.
  if (a.kind === b.kind && happens.includes(a.kind) && (a.seconds < b.seconds ? isPartOf(a, b) : isPartOf(b, a)))
    return true;
  if (shareOf(a, b) < asLong) return false;
  if (
    !a.looks ||
    !b.looks ||
    !looksAlike(a, b, stands.includes(a.kind) && stands.includes(b.kind) ? sameLook.still : sameLook.moving)
  )
    return false;
  return sensed(a.kind) === 'heard' ? isHeard && goesAlike(a.sound, b.sound, sameCourse.sound) : movesAlike(a, b);
}

/** Whether people are seen in both, and nobody's clothes in both. */
const wearsOther = ({ worn: a }: Profile, { worn: b }: Profile) =>
  a.size > 0 && b.size > 0 && ![...a].some((colour) => b.has(colour));

const isSilent = (sound: Float32Array) => sound.every((level) => level < 0.5);

function looksAlike(a: Profile, b: Profile, most: number): boolean {
  return meanDifference(a.looks, b.looks) < most && meanDifference(a.tints, b.tints) < sameTint;
}

/** Mean difference of the cells of two rows of pictures; 0 where one was not read. */
function meanDifference(a: readonly Float32Array[] | null, b: readonly Float32Array[] | null): number {
  if (!a || !b) return 0;
  let sum = 0;
  for (const [index, own] of a.entries()) {
    const other = b[index]!;
    for (let cell = 0; cell < own.length; cell++) sum += Math.abs(own[cell]! - other[cell]!);
  }
  return sum / (a.length * a[0]!.length);
}

/** Steps at which a part is looked for in something longer, in seconds. */
const partStep = 0.25;

/** Whether something is seen, and heard or moves, as it is somewhere in something longer, or up to `aside` seconds around it. */
function isPartOf(part: Profile, whole: Profile): boolean {
  if (!part.looks || !whole.footage.look?.values.length) return false;
  const isHeard = sensed(part.kind) === 'heard';
  // A move that passes the same places at the same pace is the same move, whatever goes on there.
  const moved = part.kind === 'camera';
  if (isHeard && isSilent(part.sound)) return false;
  const edge = Math.round(aside * motionHz);
  const moves = part.motion.subarray(edge, part.motion.length - edge);
  for (let from = -aside; from <= whole.seconds - part.seconds + aside + 1e-6; from += partStep) {
    const looks = threeOf(whole.footage.look, whole.start + from, part.seconds);
    if (meanDifference(part.looks, looks) >= (moved ? sameLook.still : sameLook.moving)) continue;
    if (meanDifference(part.tints, threeOf(whole.footage.tint, whole.start + from, part.seconds)) >= sameTint) continue;
    const own = isHeard
      ? slice(whole.soundAround, (aside + from) * soundHz, part.sound.length, quiet)
      : slice(whole.motion, (aside + from) * motionHz, moves.length, still);
    if (
      goesAlike(
        isHeard ? part.sound : moves,
        own,
        isHeard ? sameCourse.sound : moved ? sameCourse.moves : sameCourse.motion,
      )
    )
      return true;
  }
  return false;
}

/** A part of a course, up to 1 by itself. */
function slice(values: Float32Array, from: number, count: number, least: number): Float32Array {
  const start = Math.max(0, Math.min(values.length - count, Math.round(from)));
  const own = values.subarray(start, start + count);
  const most = own.reduce((highest, value) => Math.max(highest, value), least);
  return own.map((value) => value / most);
}

const goesAlike = (a: Float32Array, b: Float32Array, most: number) => warpedDifference(a, b, most) < most;

function movesAlike(a: Profile, b: Profile): boolean {
  const edge = Math.round(aside * motionHz);
  const [first, second] = a.motion.length < b.motion.length ? [a.motion, b.motion] : [b.motion, a.motion];
  const middle = first.subarray(edge, first.length - edge);
  for (let from = 0; from + middle.length <= second.length; from++)
    if (goesAlike(middle, second.subarray(from, from + middle.length), sameCourse.motion)) return true;
  return false;
}

/** Rows of the table of `warpedDifference`, used again and again. */
let rows = [new Float64Array(64), new Float64Array(64)] as const;

/** Mean difference along the best path; Infinity as soon as it cannot be under `most`. */
function warpedDifference(a: Float32Array, b: Float32Array, most: number): number {
  const longest = Math.max(a.length, b.length);
  const band = Math.ceil(longest * 0.25) + 1;
  const bound = most * longest;
  const last = b.length - 1;
  if (rows[0].length <= b.length) rows = [new Float64Array(2 * b.length + 2), new Float64Array(2 * b.length + 2)];
  // One column more than there are values, so that none has to be asked whether it has one to its left.
  let [before, now] = rows;
  before.fill(Infinity, 0, b.length + 1);
  before[0] = 0;
  for (let i = 0; i < a.length; i++) {
    const value = a[i]!;
    const middle = Math.round((i * last) / Math.max(1, a.length - 1));
    const from = Math.max(0, middle - band);
    const to = Math.min(last, middle + band);
    now[from] = Infinity;
    let least = Infinity;
    for (let j = from; j <= to; j++) {
      const aside = before[j]!;
      const above = before[j + 1]!;
      const left = now[j]!;
      const nearest = aside < above ? (aside < left ? aside : left) : above < left ? above : left;
      const sum = nearest + Math.abs(value - b[j]!);
      now[j + 1] = sum;
      if (sum < least) least = sum;
    }
    if (least > bound) return Infinity;
    // Beyond the band the next row finds nothing.
    now.fill(Infinity, to + 2, b.length + 1);
    [before, now] = [now, before];
  }
  return before[last + 1]! / longest;
}
