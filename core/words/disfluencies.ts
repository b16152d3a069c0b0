import { bareWord } from './bare';
import { anchorsOf } from './align/anchors';
import { sentences } from './sentences';
import { isDoubtful, type Word } from './types';

/** What a speaker would rather not have said. */
type DisfluencyKind = 'filler' | 'false start' | 'earlier take';

/** Words that can go without the rest losing anything. */
export interface Disfluency {
  kind: DisfluencyKind;
  /** Index of the first word, and of the one after the last. */
  from: number;
  to: number;
}

/** Sounds of hesitation as recognisers and transcribers write them, by language; common practice, no source. */
const hesitations: Record<string, string> = {
  en: 'um uh uhm umm uhh er erm hm hmm mm mmm mhm',
  de: 'äh ähm öh öhm hm hmm mhm',
  fr: 'euh heu hum',
  es: 'eh em ehm mmm',
  it: 'eh ehm uhm mmm',
  nl: 'eh uh uhm ehm hm',
};
/** Phrases that fill only where a pause or a comma parts them from the rest; “you know the way” says something. */
const parted: Record<string, string[][]> = {
  en: ['you know', 'i mean', 'sort of', 'kind of', 'like', 'well', 'right', 'so yeah'].map((text) => text.split(' ')),
};
/** In seconds; shorter pauses are in every sentence. */
const partingPause = 0.18;

/** Words that nobody says twice on purpose: they lean on what follows. Others are: “very very”, “no no”. */
const leaning = new Set(
  'a an the this that these those my your his her its our their i we you he she it they and but or so if when to of in on at with for from by as is was were are am be have has do did can will would because there'.split(
    ' ',
  ),
);
/** A restart repeats at most so many words, after at most so many others. */
const [longestRepeat, longestDetour] = [5, 3];
/** Between two starts there is no longer pause than this, in seconds. */
const restartPause = 1.5;

/** Two takes of a sentence share so much of their words, stand no further apart than this in seconds, and are no shorter than this in words. */
const takes = { share: 0.75, apart: 45, leastWords: 4 };

const endsSentence = (text: string) => /[.!?…]["'”’)]*$/.test(text);

/**
 * What can be tidied out of speech: sounds of hesitation and phrases that only fill, words that were begun and begun anew, and
 * sentences that were said again right after, of which the last is kept. Doubtful words are taken for nothing: what they
 * repeat may not have been said.
 * @param words of one recording or reel, in order
 * @param language BCP 47
 * @returns places in order, none over another
 */
export function disfluenciesIn(words: readonly Word[], language = 'en'): Disfluency[] {
  const bare = words.map(({ text }) => bareWord(text));
  const found = [
    ...earlierTakes(words),
    ...falseStarts(words, bare),
    ...fillers(words, bare, language.toLowerCase().split('-')[0]!),
  ];
  const isTaken = new Uint8Array(words.length);
  const free = found.filter(({ from, to }) => {
    if (isTaken.subarray(from, to).some((value) => value === 1)) return false;
    isTaken.fill(1, from, to);
    return true;
  });
  return free.sort((a, b) => a.from - b.from);
}

function fillers(words: readonly Word[], bare: readonly string[], language: string): Disfluency[] {
  const sounds = new Set(hesitations[language]?.split(' '));
  const phrases = parted[language] ?? [];
  const found: Disfluency[] = [];
  for (let at = 0; at < words.length; at++) {
    // A recogniser that is unsure of a hesitation heard one all the same, or nothing.
    if (sounds.has(bare[at]!)) {
      found.push({ kind: 'filler', from: at, to: at + 1 });
      continue;
    }
    const phrase = phrases.find((each) => each.every((text, offset) => bare[at + offset] === text));
    if (!phrase) continue;
    const to = at + phrase.length;
    if (isParted(words, at, to) && !words.slice(at, to).some(isDoubtful)) {
      found.push({ kind: 'filler', from: at, to });
      at = to - 1;
    }
  }
  return found;
}

/** Whether a pause or a comma stands on both sides, and no sentence is made of it alone. */
function isParted(words: readonly Word[], from: number, to: number): boolean {
  const [before, next] = [words[from - 1], words[to]];
  if (!next || endsSentence(words[to - 1]!.text)) return false;
  const opens = !before || endsSentence(before.text);
  const breaks = (left: Word, right: Word) => /[,;–—]$/.test(left.text) || right.start - left.end >= partingPause;
  return (opens || breaks(before, words[from]!)) && breaks(words[to - 1]!, next);
}

function falseStarts(words: readonly Word[], bare: readonly string[]): Disfluency[] {
  const found: Disfluency[] = [];
  for (let at = 0; at < words.length; at++) {
    const to = restartOf(words, bare, at);
    if (to === null) continue;
    found.push({ kind: 'false start', from: at, to });
    at = to - 1;
  }
  return found;
}

/** Where the words from one on are begun anew; null where they are not. */
function restartOf(words: readonly Word[], bare: readonly string[], at: number): number | null {
  // A word that breaks off is written with a dash.
  const broken = /\p{L}[-–—]$/u.test(words[at]!.text);
  if (broken && bare[at + 1]?.startsWith(bare[at]!) && goesOn(words, at, at + 1)) return at + 1;
  let best: { length: number; again: number } | null = null;
  const last = Math.min(words.length - 1, at + longestRepeat + longestDetour);
  for (let again = at + 1; again <= last; again++) {
    if (bare[again] !== bare[at] || bare[at] === '') continue;
    const most = Math.min(longestRepeat, again - at, words.length - again);
    let length = 1;
    while (length < most && bare[at + length] !== '' && bare[at + length] === bare[again + length]) length++;
    const detour = again - at - length;
    if (detour > (length > 1 ? longestDetour : 0) || length <= (best?.length ?? 0) || !goesOn(words, at, again))
      continue;
    if (length === 1 && !leaning.has(bare[at]!)) continue;
    // After others came between, only a beginning is begun anew: “the boat and the boat” is none.
    if (detour > 0 && !breaksOff(words, again)) continue;
    best = { length, again };
  }
  return best?.again ?? null;
}

/** Whether two starts lie in one breath: no sentence ends between, no long pause, nothing doubtful. */
const goesOn = (words: readonly Word[], at: number, again: number): boolean =>
  !words.slice(at, again).some((word, offset) => {
    const next = words[at + offset + 1]!;
    return isDoubtful(word) || endsSentence(word.text) || next.start - word.end > restartPause;
  }) && !isDoubtful(words[again]!);

/** Whether speech breaks off before a word: by a dash, or a pause that no comma explains. */
function breaksOff(words: readonly Word[], again: number): boolean {
  const last = words[again - 1]!;
  return /[-–—…]$/.test(last.text) || words[again]!.start - last.end >= partingPause;
}

function earlierTakes(words: readonly Word[]): Disfluency[] {
  const spoken = sentences(words).filter(
    ({ from, to }) => to - from >= takes.leastWords && !words.slice(from, to).some(isDoubtful),
  );
  return spoken.flatMap((each, index): Disfluency[] => {
    const next = spoken[index + 1];
    if (!next || next.start - each.end > takes.apart || next.from !== each.to) return [];
    const texts = (of: { from: number; to: number }) => words.slice(of.from, of.to).map(({ text }) => text);
    const [own, other] = [texts(each), texts(next)];
    const share = anchorsOf(own, other).length / Math.max(own.length, other.length);
    return share >= takes.share ? [{ kind: 'earlier take', from: each.from, to: each.to }] : [];
  });
}
