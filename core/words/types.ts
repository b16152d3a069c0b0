import type { Range } from '#core/time';

/** A spoken word, in seconds of its file. */
export interface Word extends Range {
  text: string;
  /** How sure the recogniser is, 0 to 1; 1 for what a person wrote. */
  confidence: number;
  /** Marked as important; captions show it in another colour. */
  emphasis?: boolean;
  /** Whether captions part after it: true always, false never, by themselves when missing. */
  breakAfter?: boolean;
  /** Where a text was aligned: it was said besides the text, or something else in its place. */
  differs?: 'added' | 'otherwise';
  /** Words of an aligned text that stand before this one (after it, at the end) and were not said. */
  unsaid?: string;
  /** What may have been said instead, where that is doubtful; the likeliest first. */
  rivals?: RivalWords[];
}

/** Another way to hear a place. */
export interface RivalWords {
  /** How many words it takes the place of, from the one that carries it on. */
  words: number;
  /** Empty where nothing was said. */
  text: string;
}

/** Words that belong together, in seconds of their file. */
export interface Sentence extends Range {
  /** Index of the first word, and of the one after the last. */
  from: number;
  to: number;
  text: string;
  /** The same with a mark in the place of every doubtful word: what titles, hooks and searches may rest on. */
  sureText: string;
  /** How sure its words are, 0 to 1, on average. */
  sure: number;
}

/** Words that are less sure than this are doubtful: of three of them, more than one was not said. */
const doubtfulUnder = 0.65;
export const isDoubtful = ({ confidence }: Pick<Word, 'confidence'>): boolean => confidence < doubtfulUnder;

/** Stands for a doubtful word; no letter, so that nothing takes it for one (Unicode, “object replacement character”). */
export const doubtMark = '\uFFFC';
