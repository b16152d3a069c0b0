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
}

/** Words that belong together, in seconds of their file. */
export interface Sentence extends Range {
  /** Index of the first word, and of the one after the last. */
  from: number;
  to: number;
  text: string;
}

/** Words under this are marked for a look. */
export const doubtfulUnder = 0.35;
