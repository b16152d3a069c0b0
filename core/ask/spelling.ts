import levenshtein from 'damerau-levenshtein';

/** Edits that a word of a length may be away from the one that was meant: none in short ones. */
const editsFor = (length: number) => (length < 4 ? 0 : length < 8 ? 1 : 2);

/**
 * The word of a list that was probably meant: the nearest by edits, where two letters that changed places are one
 * (Damerau 1964, *A Technique for Computer Detection and Correction of Spelling Errors*: four of five errors are one
 * such edit), beginning with the same letter where possible. Of equals the first of the list. Null where none is near.
 */
export function nearestWord(word: string, words: Iterable<string>): string | null {
  const most = editsFor(word.length);
  let best: string | null = null;
  let least = most + 1;
  for (const candidate of words) {
    if (Math.abs(candidate.length - word.length) > most || candidate.length < 4 || candidate === word) continue;
    const { steps } = levenshtein(word, candidate);
    const edits = steps + (candidate[0] === word[0] ? 0 : 0.5);
    if (steps <= most && edits < least) {
      least = edits;
      best = candidate;
    }
  }
  return best;
}
