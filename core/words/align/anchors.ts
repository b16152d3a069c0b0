import { diffArrays } from 'diff';
import type { Word } from '../types';
import { bareWord } from '../bare';

/** A word of a text and the heard word that says the same. */
export interface Anchor {
  script: number;
  heard: number;
}

/** Larger gaps are not compared word by word in a table. */
const mostCells = 250_000;

/**
 * Which heard words say the same as words of a text, in order: sequences of words that come once in both, in the longest
 * order that both have, longer ones first (patience, as Bram Cohen described it), and between them the longest common
 * subsequence. Takes time about as the number of words.
 */
export function anchorsOf(script: readonly string[], heard: readonly string[]): Anchor[] {
  const a = script.map(spokenForm);
  const b = heard.map(spokenForm);
  const out: Anchor[] = [];
  between(a, b, { fromA: 0, toA: a.length, fromB: 0, toB: b.length }, 4, out);
  return out;
}

/** As a recogniser would write it. */
const spokenForm = (text: string): string => abbreviations[bareWord(text)] ?? bareWord(text);
const abbreviations: Record<string, string> = { mr: 'mister', mrs: 'missus', dr: 'doctor', vs: 'versus', ok: 'okay' };

interface Gap {
  fromA: number;
  toA: number;
  fromB: number;
  toB: number;
}

function between(a: readonly string[], b: readonly string[], gap: Gap, length: number, out: Anchor[]): void {
  let { fromA, toA, fromB, toB } = gap;
  const head: Anchor[] = [];
  while (fromA < toA && fromB < toB && a[fromA] === b[fromB]) head.push({ script: fromA++, heard: fromB++ });
  const tail: Anchor[] = [];
  while (fromA < toA && fromB < toB && a[toA - 1] === b[toB - 1]) tail.unshift({ script: --toA, heard: --toB });
  out.push(...head);
  if (fromA < toA && fromB < toB) inside(a, b, { fromA, toA, fromB, toB }, length, out);
  out.push(...tail);
}

function inside(a: readonly string[], b: readonly string[], gap: Gap, length: number, out: Anchor[]): void {
  const cells = (gap.toA - gap.fromA) * (gap.toB - gap.fromB);
  if (length === 0) {
    out.push(...(cells <= mostCells ? common(a, b, gap) : fewestEdits(a, b, gap)));
    return;
  }
  const shared = longestRising(uniqueIn(a, b, gap, length));
  let at = { a: gap.fromA, b: gap.fromB };
  for (const { script, heard } of shared) {
    // Sequences overlap; what lies before the end of the one before is there already.
    const skip = Math.max(0, at.a - script, at.b - heard);
    if (skip >= length) continue;
    between(a, b, { fromA: at.a, toA: script + skip, fromB: at.b, toB: heard + skip }, length - 1, out);
    for (let word = skip; word < length; word++) out.push({ script: script + word, heard: heard + word });
    at = { a: script + length, b: heard + length };
  }
  between(a, b, { fromA: at.a, toA: gap.toA, fromB: at.b, toB: gap.toB }, length - 1, out);
}

/** Sequences of `length` words that come once on both sides of a gap, in the order of the text. */
function uniqueIn(a: readonly string[], b: readonly string[], gap: Gap, length: number): Anchor[] {
  const once = (words: readonly string[], from: number, to: number) => {
    const places = new Map<string, number>();
    for (let at = from; at + length <= to; at++) {
      const key = words.slice(at, at + length).join(' ');
      places.set(key, places.has(key) ? -1 : at);
    }
    return places;
  };
  const inB = once(b, gap.fromB, gap.toB);
  return [...once(a, gap.fromA, gap.toA)].flatMap(([key, script]) => {
    const heard = inB.get(key) ?? -1;
    return script < 0 || heard < 0 ? [] : [{ script, heard }];
  });
}

/** The longest part of a list, in its order, whose heard places rise (Fredman 1975). */
function longestRising(list: readonly Anchor[]): Anchor[] {
  const ends: number[] = [];
  const before = new Int32Array(list.length).fill(-1);
  for (const [at, { heard }] of list.entries()) {
    let low = 0;
    let high = ends.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (list[ends[middle]!]!.heard < heard) low = middle + 1;
      else high = middle;
    }
    if (low > 0) before[at] = ends[low - 1]!;
    ends[low] = at;
  }
  const out: Anchor[] = [];
  for (let at = ends.at(-1) ?? -1; at >= 0; at = before[at]!) out.push(list[at]!);
  return out.reverse();
}

/** Texts that repeat themselves have nothing that comes once; they are compared as a whole while they differ by no more words than these. */
const mostEdits = 4000;

/** The shortest way from one to the other (Myers 1986, “An O(ND) difference algorithm”). */
function fewestEdits(a: readonly string[], b: readonly string[], { fromA, toA, fromB, toB }: Gap): Anchor[] {
  const parts = diffArrays(a.slice(fromA, toA), b.slice(fromB, toB), { maxEditLength: mostEdits }) ?? [];
  const out: Anchor[] = [];
  let [script, heard] = [fromA, fromB];
  for (const { added, removed, count } of parts)
    if (removed) script += count;
    else if (added) heard += count;
    else for (let at = 0; at < count; at++) out.push({ script: script++, heard: heard++ });
  return out;
}

/** Longest common subsequence (Wagner and Fischer 1974). */
function common(a: readonly string[], b: readonly string[], { fromA, toA, fromB, toB }: Gap): Anchor[] {
  const [n, m] = [toA - fromA, toB - fromB];
  const table = new Uint16Array((n + 1) * (m + 1));
  const cell = (i: number, j: number) => table[i * (m + 1) + j]!;
  for (let i = n - 1; i >= 0; i--)
    for (let j = m - 1; j >= 0; j--)
      table[i * (m + 1) + j] =
        a[fromA + i] === b[fromB + j] ? cell(i + 1, j + 1) + 1 : Math.max(cell(i + 1, j), cell(i, j + 1));
  const out: Anchor[] = [];
  for (let i = 0, j = 0; i < n && j < m;)
    if (a[fromA + i] === b[fromB + j]) out.push({ script: fromA + i++, heard: fromB + j++ });
    else if (cell(i + 1, j) >= cell(i, j + 1)) i++;
    else j++;
  return out;
}

/** Nobody says more words in a second than this for long: auctioneers come to five to eight. Common practice, no source. */
const fastestWords = 9;

/**
 * Anchors that can be relied on: they belong to at least `run` words in a row that agree, and lie no nearer to one
 * another than the words between them can be said.
 */
export function firmAnchors(anchors: readonly Anchor[], heard: readonly Word[], run = 2): Anchor[] {
  const follows = (at: number) =>
    at > 0 &&
    at < anchors.length &&
    anchors[at]!.script === anchors[at - 1]!.script + 1 &&
    anchors[at]!.heard === anchors[at - 1]!.heard + 1;
  const firm: Anchor[] = [];
  for (let from = 0; from < anchors.length;) {
    let to = from + 1;
    while (follows(to)) to++;
    const last = firm.at(-1);
    const first = anchors[from]!;
    const isSayable =
      !last ||
      heard[first.heard]!.start - heard[last.heard]!.end >= (first.script - last.script - 1) / fastestWords - 0.3;
    if (to - from >= run && isSayable) firm.push(...anchors.slice(from, to));
    from = to;
  }
  return firm;
}
