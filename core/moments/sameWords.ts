import { bareWord } from '#core/words';

/** A word that was said, with the time at which it begins and ends, in seconds of its file. */
export interface SaidWord {
  text: string;
  start: number;
  end: number;
}

/** Fewer words than this are said by chance once more. */
const fewest = 5;
/**
 * Share of letters from which two sentences are the same whatever they sound like, and from which they are when they also
 * sound alike. Of sentences heard by the recogniser from two cameras, 0.40 and more is shared, of others 0.21 and less;
 * badly heard ones share 0.2 to 0.3.
 */
const certainly = 0.35,
  perhaps = 0.25;

/** What the words of two stretches say about whether the same is said in both. */
export type Agreement = 'same' | 'perhaps' | 'unknown';

const numbers = new Map<string, number>();

/** Words as numbers, the same for the same word whatever its case and punctuation, and how many letters each has. */
export function numbered(words: readonly SaidWord[]): { ids: Int32Array; letters: Uint8Array } {
  const bare = words.map(({ text }) => bareWord(text)).filter((word) => word.length > 0);
  return {
    ids: Int32Array.from(bare, (word) => {
      const known = numbers.get(word) ?? numbers.size;
      numbers.set(word, known);
      return known;
    }),
    letters: Uint8Array.from(bare, (word) => Math.min(255, word.length)),
  };
}

type Numbered = ReturnType<typeof numbered>;

/**
 * Compares by the longest common subsequence of words, counted in letters: short words are shared by chance. A different
 * microphone makes a recogniser hear some words otherwise, but not most of the long ones.
 */
export function wordsAgree(a: Numbered, b: Numbered): Agreement {
  if (Math.min(a.ids.length, b.ids.length) < fewest) return 'unknown';
  const share = commonLetters(a, b) / Math.max(sum(a.letters), sum(b.letters));
  return share >= certainly ? 'same' : share >= perhaps ? 'perhaps' : 'unknown';
}

const sum = (values: Uint8Array) => values.reduce((all, value) => all + value, 0);

function commonLetters(a: Numbered, b: Numbered): number {
  let before = new Uint16Array(b.ids.length + 1);
  let now = new Uint16Array(b.ids.length + 1);
  for (const [index, id] of a.ids.entries()) {
    for (let other = 0; other < b.ids.length; other++)
      now[other + 1] =
        id === b.ids[other] ? before[other]! + a.letters[index]! : Math.max(before[other + 1]!, now[other]!);
    [before, now] = [now, before];
  }
  return before[b.ids.length]!;
}
