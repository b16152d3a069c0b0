import { correctWords, flagWord, retimeWords, typeWords } from './edit';
import type { Word } from './types';

/** One edit of the words of a file; plain data, so that it can be stored and sent. Indexes count words, times are seconds of the file. */
export type WordsCommand =
  /** Another text for the words from `from` to before `to`. */
  | { type: 'correct'; from: number; to: number; text: string }
  /** The same text for several rows of `count` words, that begin at `places`. */
  | { type: 'correctAll'; places: number[]; count: number; text: string }
  /** What is said about one word: whether it is stressed, whether a caption ends after it (null: as the rules say). */
  | { type: 'flag'; index: number; emphasis?: boolean; breakAfter?: boolean | null }
  /** Beginnings of the words from `from` on, and the end of the last of them. */
  | { type: 'retime'; from: number; starts: number[]; end: number }
  /** New words in a stretch of time. */
  | { type: 'type'; text: string; start: number; end: number }
  /** All words anew: a step back or forth. */
  | { type: 'put'; words: Word[] };

/** The words after an edit, or why it cannot be made. */
export type WordsResult = { ok: true; words: Word[] } | { ok: false; reason: string };

/** Applies an edit; the words given stay as they are. What does not fit is refused with a sentence. */
export function applyWordsCommand(words: readonly Word[], command: WordsCommand): WordsResult {
  const done = (next: Word[]): WordsResult => ({ ok: true, words: next });
  switch (command.type) {
    case 'correct':
      return done(correctWords(words, command.from, command.to, command.text));
    case 'correctAll': {
      const { places, count, text } = command;
      const rising = places.toSorted((a, b) => a - b);
      if (rising.some((place, at) => at > 0 && place < rising[at - 1]! + count))
        return { ok: false, reason: 'These words lie over one another.' };
      // From the end on, so that the places before stay where they are.
      return done(
        rising.reduceRight<Word[]>((now, place) => correctWords(now, place, place + count, text), [...words]),
      );
    }
    case 'flag': {
      const { type: _, index, ...flags } = command;
      return words[index]
        ? done(flagWord(words, index, flags))
        : { ok: false, reason: 'This word is not there any more.' };
    }
    case 'retime': {
      const { from, starts, end } = command;
      if (starts.some((start, index) => index > 0 && start <= starts[index - 1]!) || end <= starts.at(-1)!)
        return { ok: false, reason: 'Words follow one another; a time lies before the one of the word before.' };
      return done(retimeWords(words, from, starts, end));
    }
    case 'type':
      if (command.end <= command.start) return { ok: false, reason: 'A caption must not end before it begins.' };
      return done(typeWords(words, command.text, command.start, command.end));
    case 'put':
      return done(command.words);
  }
}
