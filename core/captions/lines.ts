import { bareWord, sentences } from '#core/words';
import {
  captionRules,
  easyReading,
  fastestReading,
  lineText,
  type CaptionLine,
  type CaptionRules,
  type HeardWord,
} from './types';

/** Words before which a phrase may begin, and words that must not end a row: they belong to what follows. */
const joins = new Set(
  'and but or nor so because that which who whose when while where if then than as to of in on at with without for from by into onto over under after before until through'.split(
    ' ',
  ),
);
const leans = new Set(
  'a an the this that these those my your his her its our their no every each some any of to in on at with for from by and but or if as is are was were be am not very so too'.split(
    ' ',
  ),
);

/** How ill it is to part two words, from 0. @param pause seconds between them */
function breakCost(word: HeardWord, next: HeardWord, pause: number): number {
  const after = /[.!?…]["'”’)\]]*$/.test(word.text)
    ? 0
    : /[,;:–—]["'”’)\]]*$/.test(word.text)
      ? 1
      : leans.has(bareWord(word.text))
        ? 14
        : joins.has(bareWord(next.text))
          ? 2.5
          : 6;
  return Math.max(0, after - 4 * Math.min(1, Math.max(0, pause - 0.15) * 2));
}

/**
 * Words as captions: at most so many letters in two rows, parted where phrases end, never across a sentence's end.
 * Of all ways to part a sentence the one with the least cost is taken (dynamic programming, as lines of a paragraph:
 * Knuth & Plass 1981). A word's `breakAfter` is obeyed: true parts there, false keeps together.
 * Captions stay as long as they take to read where the pauses around leave room.
 */
export function captionLines(words: readonly HeardWord[], rules: CaptionRules = captionRules): CaptionLine[] {
  const lines: HeardWord[][] = [];
  for (const sentence of sentences(words))
    for (const run of spokenInARow(words.slice(sentence.from, sentence.to))) lines.push(...part(run, rules));
  return timed(
    lines.map((own) => ({
      start: own[0]!.start,
      end: own.at(-1)!.end,
      words: own,
      firstRow: rowBreak(own, rules),
      pace: 0,
    })),
  );
}

/** A caption may go over a cut of the reel, but only with words that follow one another in the recording: they are corrected as one. */
function spokenInARow(words: readonly HeardWord[]): HeardWord[][] {
  const runs: HeardWord[][] = [];
  for (const [at, word] of words.entries()) {
    const before = words[at - 1];
    const goesOn = before?.media === word.media && before.index + 1 === word.index;
    if (goesOn && before.speaker === word.speaker && before.voice === word.voice) runs.at(-1)!.push(word);
    else runs.push([word]);
  }
  return runs;
}

function part(words: readonly HeardWord[], { letters, longestSeconds }: CaptionRules): HeardWord[][] {
  const n = words.length;
  const best = new Float64Array(n + 1).fill(Infinity);
  const from = new Int32Array(n + 1);
  best[0] = 0;
  for (let end = 1; end <= n; end++) {
    let length = -1;
    for (let start = end - 1; start >= 0; start--) {
      length += words[start]!.text.length + 1;
      const seconds = words[end - 1]!.end - words[start]!.start;
      const forced = words.slice(start, end - 1).some((word) => word.breakAfter === true);
      if (end - start > 1 && (length > letters || seconds > longestSeconds || forced)) break;
      const last = words[end - 1]!;
      const pause = (words[end]?.start ?? Infinity) - last.end;
      const parting =
        end === n
          ? 0
          : last.breakAfter === true
            ? 0
            : last.breakAfter === false
              ? 200
              : breakCost(last, words[end]!, pause);
      const gaps = words
        .slice(start, end - 1)
        .reduce((sum, word, at) => sum + Math.max(0, words[start + at + 1]!.start - word.end - 0.5), 0);
      // Short captions flicker, and long pauses inside one leave it standing.
      const cost =
        6 * (1 - Math.min(1, length / letters)) ** 2 +
        (end - start === 1 && n > 1 ? 4 : 0) +
        (seconds < 0.7 ? 3 : 0) +
        6 * gaps +
        parting;
      if (best[start]! + cost < best[end]!) {
        best[end] = best[start]! + cost;
        from[end] = start;
      }
    }
  }
  const parts: HeardWord[][] = [];
  for (let end = n; end > 0; end = from[end]!) parts.unshift(words.slice(from[end], end));
  return parts;
}

/** How many words stand in the first row: all of a short caption, else as even as phrases let it. */
function rowBreak(words: readonly HeardWord[], { letters }: CaptionRules): number {
  const most = Math.ceil(letters / 2) + 2;
  if (lineText(words).length <= most || words.length < 2) return words.length;
  let [best, least] = [1, Infinity];
  for (let at = 1; at < words.length; at++) {
    const [upper, lower] = [lineText(words.slice(0, at)).length, lineText(words.slice(at)).length];
    const cost =
      Math.max(upper, lower) * 1.2 + Math.abs(upper - lower) * 0.2 + breakCost(words[at - 1]!, words[at]!, 0) * 0.6;
    if (cost < least) [best, least] = [at, cost];
  }
  return best;
}

/** A caption is gone so soon after its last word, unless it takes longer to read; shorter gaps are closed, since they flicker. In seconds. */
const lingers = 0.25,
  closes = 0.3;
/** A caption may come so much before its first word, or stay so much into the next one's time, to be readable. */
const early = 0.5,
  late = 0.35;
const leastSeconds = 0.8;

function timed(lines: CaptionLine[]): CaptionLine[] {
  const lettersOf = (line: CaptionLine) => lineText(line.words).length;
  const out = lines.map((line) => ({ ...line }));
  for (const [index, line] of out.entries()) {
    const next = lines[index + 1]?.start ?? Infinity;
    const wanted = Math.max(line.end + lingers, line.start + Math.max(leastSeconds, lettersOf(line) / easyReading));
    line.end = Math.min(next, wanted);
    if (next - line.end < closes) line.end = next;
  }
  for (const [index, line] of out.entries()) {
    const needed = lettersOf(line) / fastestReading;
    const before = out[index - 1];
    const after = out[index + 1];
    const lacks = () => needed - (line.end - line.start);
    if (lacks() > 0) line.start = Math.max(before?.end ?? 0, line.start - Math.min(early, lacks()));
    // The caption before gives what it does not need itself.
    if (lacks() > 0 && before && before.end >= line.start - 1e-6) {
      const spare = before.end - Math.max(before.words.at(-1)!.end, before.start + lettersOf(before) / fastestReading);
      const taken = Math.min(lacks(), Math.max(0, spare), early);
      before.end -= taken;
      line.start -= taken;
    }
    if (lacks() > 0 && after && after.start <= line.end + 1e-6) {
      const spare = after.end - after.start - lettersOf(after) / fastestReading;
      const taken = Math.min(lacks(), Math.max(0, spare), late);
      after.start += taken;
      line.end += taken;
    }
  }
  return out.map((line) => ({ ...line, pace: lettersOf(line) / Math.max(0.05, line.end - line.start) }));
}

/** Which word is lit when: stretches of a caption in which nothing changes. Null where nobody speaks. */
export function litStretches({ start, end, words }: CaptionLine): { start: number; end: number; lit: number | null }[] {
  const found: { start: number; end: number; lit: number | null }[] = [];
  const add = (from: number, to: number, lit: number | null) => {
    const [a, b] = [Math.max(start, from), Math.min(end, to)];
    if (b - a > 1e-6) found.push({ start: a, end: b, lit });
  };
  let at = start;
  for (const [index, word] of words.entries()) {
    add(at, word.start, null);
    const next = words[index + 1]?.start ?? Infinity;
    // A word stays lit over a short gap.
    const until = Math.max(at, next - word.end < closes ? next : word.end);
    add(Math.max(at, word.start), until, index);
    at = Math.max(at, Math.min(until, end));
  }
  add(at, end, null);
  return found;
}

/** The same for captions of which no word is lit. */
export const wholeStretch = ({ start, end }: CaptionLine): { start: number; end: number; lit: null }[] => [
  { start, end, lit: null },
];

/** The caption at a second, and its lit word. */
export function captionAt(
  lines: readonly CaptionLine[],
  seconds: number,
): { line: CaptionLine; lit: number | null } | null {
  let [low, high] = [0, lines.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (lines[middle]!.start <= seconds) low = middle;
    else high = middle - 1;
  }
  const line = lines[low];
  if (!line || seconds < line.start || seconds >= line.end) return null;
  return { line, lit: litStretches(line).find((each) => seconds >= each.start && seconds < each.end)?.lit ?? null };
}
