import { doubtMark, isDoubtful, type Sentence, type Word } from './types';

/** Where sentences end. */
export interface SentenceRule {
  /** A pause as long as this ends a sentence. */
  pauseSeconds: number;
  /** A sentence without punctuation is cut at its longest pause when it has more words than this. */
  mostWords: number;
}

/** Pauses between sentences of read speech lie around 0.5 to 1 s, those inside under 0.3 s (common practice, no source). */
const sentenceDefaults: SentenceRule = { pauseSeconds: 0.55, mostWords: 28 };

/**
 * Words joined to sentences: at full stops, question and exclamation marks where the text has them, and at pauses.
 * Where nothing ends for long, the longest pause does.
 */
export function sentences(words: readonly Word[], rule: SentenceRule = sentenceDefaults): Sentence[] {
  const punctuated = words.some((word) => endsSentence(word.text));
  const found: Sentence[] = [];
  let from = 0;
  for (let index = 0; index < words.length; index++) {
    const gap = (words[index + 1]?.start ?? Infinity) - words[index]!.end;
    // With punctuation only a long silence ends a sentence that has no stop.
    const ends = endsSentence(words[index]!.text) || gap >= rule.pauseSeconds * (punctuated ? 3 : 1);
    if (!ends) continue;
    addParted(found, words, from, index + 1, rule);
    from = index + 1;
  }
  return found;
}

/** "Mr." and "3." end nothing. */
function endsSentence(text: string): boolean {
  if (!/[.!?…]["'”’)\]]*$/.test(text)) return false;
  return !/^(mr|mrs|ms|dr|st|no|vs|etc|e\.g|i\.e)\.$/i.test(text) && !/^\d+\.$/.test(text);
}

/**
 * Parts a run at its longest pause, and its parts again, until each is short enough. A run of several sentences' length
 * is parted in its middle half, and where pauses are alike the middle counts: words without any pause between them, and
 * words that lie upon each other, are parted in few steps, however many they are.
 */
function addParted(found: Sentence[], words: readonly Word[], from: number, to: number, rule: SentenceRule): void {
  const count = to - from;
  if (count <= rule.mostWords) {
    found.push(sentence(words, from, to));
    return;
  }
  const margin = count > 4 * rule.mostWords ? Math.floor(count / 4) : Math.min(3, Math.floor(count / 2));
  const middle = (from + to) / 2;
  let best = Math.floor(middle);
  let longest = -Infinity;
  for (let index = from + margin; index <= to - margin; index++) {
    const gap = words[index]!.start - words[index - 1]!.end;
    if (gap > longest || (gap === longest && Math.abs(index - middle) < Math.abs(best - middle))) {
      longest = gap;
      best = index;
    }
  }
  addParted(found, words, from, best, rule);
  addParted(found, words, best, to, rule);
}

function sentence(words: readonly Word[], from: number, to: number): Sentence {
  const own = words.slice(from, to);
  return {
    from,
    to,
    start: own[0]!.start,
    end: own.at(-1)!.end,
    text: own.map(({ text }) => text).join(' '),
    sureText: own.map((word) => (isDoubtful(word) ? doubtMark : word.text)).join(' '),
    sure: own.reduce((sum, { confidence }) => sum + confidence, 0) / own.length,
  };
}
