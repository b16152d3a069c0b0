import { overlap, totalLength, type Range } from '#core/time';
import { bareWord } from '../bare';
import type { Word } from '../types';
import type { Anchor } from './anchors';

/** What lies between two anchors: words of the text from `from` to before `to`, and what was heard there, likewise. */
export interface AlignmentGap extends Range {
  from: number;
  to: number;
  heardFrom: number;
  heardTo: number;
}

/** Words of the text between anchors, and sound between them without any. */
export function gapsBetween(
  words: number,
  heard: readonly Word[],
  firm: readonly Anchor[],
  within: Range,
): AlignmentGap[] {
  const gaps: AlignmentGap[] = [];
  const edges = [...firm, { script: words, heard: heard.length }];
  let before: Anchor = { script: -1, heard: -1 };
  for (const after of edges) {
    const gap = {
      from: before.script + 1,
      to: after.script,
      heardFrom: before.heard + 1,
      heardTo: after.heard,
      start: before.heard < 0 ? within.start : heard[before.heard]!.end,
      end: after.heard >= heard.length ? within.end : heard[after.heard]!.start,
    };
    if (gap.to > gap.from || gap.heardTo > gap.heardFrom) gaps.push(gap);
    before = after;
  }
  return gaps;
}

/** What a search may cost, in words times seconds: of every sound that may be said between the words, and of nothing but them. */
const mostSearched = { closely: 150, atAll: 20_000 };

/** How a gap is searched: for every sound that may be said besides the text, for its words alone, or not at all. */
export function searchOf(gap: AlignmentGap): 'closely' | 'for words' | null {
  const cost = (gap.to - gap.from) * (gap.end - gap.start);
  if (gap.to === gap.from || gap.end <= gap.start || cost > mostSearched.atAll) return null;
  return cost <= mostSearched.closely ? 'closely' : 'for words';
}

/** Gaps only as far as somebody speaks in them; where nobody does they are empty. */
export const gapsInSpeech = (gaps: readonly AlignmentGap[], speech: readonly Range[]): AlignmentGap[] =>
  gaps.map((gap) => {
    const own = speech.filter((run) => overlap(run, gap) > 0);
    const start = Math.max(gap.start, own[0]?.start ?? gap.end);
    return { ...gap, start, end: Math.max(start, Math.min(gap.end, own.at(-1)?.end ?? start)) };
  });

/** So many words are needed to say whether a text is that of a recording, and so many of them have to be heard as well. */
const needed = 5;
const leastAgreeing = 0.1;

/**
 * Whether a text can be what is said: who listens by it hears it in anything, but who listens without it has to have heard some of its words
 * in the same places. True where too little was heard to say so.
 * @param listened words that were found by the text
 * @param overheard what was heard without it
 */
export function canBeSaid(listened: readonly Word[], overheard: readonly Word[]): boolean {
  let [compared, agreeing, from] = [0, 0, 0];
  for (const word of listened) {
    while (from < overheard.length && overheard[from]!.end < word.start) from++;
    let isHeard = false;
    let isThere = false;
    for (let at = from; at < overheard.length && overheard[at]!.start < word.end; at++) {
      isThere = true;
      if (bareWord(overheard[at]!.text) === bareWord(word.text)) isHeard = true;
    }
    if (isThere) compared++;
    if (isHeard) agreeing++;
  }
  return compared < needed || agreeing >= compared * leastAgreeing;
}

/** A place in a gap as the search left it: a word of the text, or a sound besides it. */
export interface FittedSound extends Range {
  /** Index of the word; null for what is not of the text. */
  word: number | null;
}

/** A word of a text after it was aligned. */
export interface AlignedWords {
  words: Word[];
  /** How many words of the text were not said, were said besides it, and differ. */
  leftOut: number;
  added: number;
  otherwise: number;
}

/** How sure aligned words are: heard as they are written; placed by the search; something else was said; not found at all. */
const certainty = { heard: 1, placed: 0.9, short: 0.6, otherwise: 0.3, spread: 0.25 };
/** A word of so many letters is often swallowed; it is taken for said where there is a sound for it. */
const swallowed = 3;
/** Sounds at least so long, in seconds, are worth a word. */
const leastAdded = 0.35;
/** No word takes less, in seconds. */
const leastWord = 0.05;
const letters = (text: string) => text.replace(/[^\p{L}\p{N}]/gu, '').length;

/**
 * The words of a text with their times, and what of it was not said, said besides, or said otherwise.
 * @param script the text
 * @param listened what was heard by whoever knew the text, whose words the anchors name
 * @param placed of each gap that was searched, by its first word
 * @param overheard what was heard without knowing the text; its words stand for what was said besides
 * @param speech stretches in which somebody speaks
 * @param isOwn whether the listener's language is that of the text; in another one, what it does not find proves nothing
 */
export function settleScript(
  script: readonly { text: string }[],
  listened: readonly Word[],
  firm: readonly Anchor[],
  gaps: readonly AlignmentGap[],
  placed: ReadonlyMap<number, readonly FittedSound[]>,
  overheard: readonly Word[],
  speech: readonly Range[],
  isOwn: boolean,
): AlignedWords {
  const settled = new Settled(script, isOwn);
  for (const anchor of firm) settled.say(anchor.script, listened[anchor.heard]!, certainty.heard);
  for (const gap of gaps) {
    const found = placed.get(gap.from);
    if (found && found.length > 0) settled.fill(gap, found);
    else if (gap.to > gap.from) settled.spread(gap, speech);
    const sounds = found ? found.filter(({ word }) => word === null) : listened.slice(gap.heardFrom, gap.heardTo);
    if (gap.to === gap.from && totalLength(sounds) >= leastAdded) settled.add(gap, overheard);
  }
  return settled.end();
}

class Settled {
  private readonly said = new Map<number, Word>();
  private readonly more: Word[] = [];
  private otherwise = 0;

  constructor(
    private readonly script: readonly { text: string }[],
    private readonly isOwn: boolean,
  ) {}

  say(index: number, { start, end }: Range, confidence: number, differs = false): void {
    if (differs) this.otherwise++;
    this.said.set(index, {
      text: this.script[index]!.text,
      start,
      end: Math.max(end, start + leastWord),
      confidence,
      ...(differs ? { differs: 'otherwise' as const } : {}),
    });
  }

  /** What the search found; words that it passed over take the time of the sounds that stand in their place, if there are any. */
  fill(gap: AlignmentGap, found: readonly FittedSound[]): void {
    for (const place of found)
      if (place.word !== null && place.word >= gap.from && place.word < gap.to)
        this.say(place.word, place, certainty.placed);
    for (let from = gap.from; from < gap.to; from++) {
      if (this.said.has(from)) continue;
      let to = from + 1;
      while (to < gap.to && !this.said.has(to)) to++;
      const before = this.said.get(from - 1)?.end ?? gap.start;
      const after = this.said.get(to)?.start ?? gap.end;
      const sounds = found.filter(
        ({ word, start, end }) => word === null && start >= before - 0.02 && end <= after + 0.02,
      );
      this.sayInstead(from, to, sounds);
      from = to;
    }
  }

  private sayInstead(from: number, to: number, sounds: readonly Range[]): void {
    const count = Array.from({ length: to - from }, (_, at) => letters(this.script[from + at]!.text)).reduce(
      (a, b) => a + b,
      0,
    );
    // A letter takes some 60 ms; in less time than half of that a row of words was not said, nor others in its place.
    if (sounds.length === 0 || (to - from > 2 && totalLength(sounds) < count * 0.03)) return;
    const range = { start: sounds[0]!.start, end: sounds.at(-1)!.end };
    this.share(from, to, range, (text) =>
      !this.isOwn || (letters(text) <= swallowed && to - from === 1) ? certainty.short : certainty.otherwise,
    );
  }

  /** Words that were not searched for share the speech of their gap, where there is time for them. */
  spread(gap: AlignmentGap, speech: readonly Range[]): void {
    const own = speech.flatMap((run) => {
      const range = { start: Math.max(run.start, gap.start), end: Math.min(run.end, gap.end) };
      return range.end > range.start ? [range] : [];
    });
    if (own.length === 0 || (gap.to - gap.from) / totalLength(own) > 9) return;
    this.share(gap.from, gap.to, { start: own[0]!.start, end: own.at(-1)!.end }, () => certainty.spread);
  }

  private share(from: number, to: number, { start, end }: Range, sureness: (text: string) => number): void {
    const weights = Array.from({ length: to - from }, (_, at) => letters(this.script[from + at]!.text) + 2);
    const total = weights.reduce((sum, weight) => sum + weight, 0);
    let at = start;
    for (const [offset, weight] of weights.entries()) {
      const next = at + ((end - start) * weight) / total;
      const sure = sureness(this.script[from + offset]!.text);
      this.say(from + offset, { start: at, end: next }, sure, sure < certainty.short);
      at = next;
    }
  }

  add(gap: Range, overheard: readonly Word[]): void {
    for (const word of overheard) {
      const middle = (word.start + word.end) / 2;
      if (middle > gap.start && middle < gap.end)
        this.more.push({
          ...word,
          start: Math.max(word.start, gap.start),
          end: Math.min(word.end, gap.end),
          differs: 'added',
        });
    }
  }

  end(): AlignedWords {
    const words: Word[] = [];
    let unsaid: string[] = [];
    let leftOut = 0;
    for (const [index, { text }] of this.script.entries()) {
      const word = this.said.get(index);
      if (!word) {
        unsaid.push(text);
        leftOut++;
        continue;
      }
      words.push(unsaid.length > 0 ? { ...word, unsaid: unsaid.join(' ') } : word);
      unsaid = [];
    }
    const last = words.at(-1);
    if (last && unsaid.length > 0)
      words[words.length - 1] = { ...last, unsaid: [last.unsaid, ...unsaid].filter(Boolean).join(' ') };
    const all = [...words, ...this.more].sort((a, b) => a.start - b.start);
    // Words follow one another.
    for (let at = 1; at < all.length; at++) {
      const [before, own] = [all[at - 1]!, all[at]!];
      if (before.end > own.start) all[at - 1] = { ...before, end: Math.max(before.start + leastWord / 5, own.start) };
    }
    return { words: all, leftOut, added: this.more.length, otherwise: this.otherwise };
  }
}
