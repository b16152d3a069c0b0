import { overlap, type Range } from '#core/time';
import { bareWord } from './bare';
import { spread } from './edit';
import { parseSubtitles } from './subtitles';
import type { RivalWords, Word } from './types';

/** A text that cannot be read as words with times; the message is a sentence for people. */
export class WordsError extends Error {
  override name = 'WordsError';
}

/** Whether a text says itself when its words are said, or by the name of its file should; plain texts do not. */
export function hasTimes(text: string, fileName = ''): boolean {
  if (/\.(srt|vtt|ass|ssa|json)$/i.test(fileName)) return true;
  const plain = text.replace(/^\uFEFF/, '').trim();
  return /^(\{|\[\s*[{\]])/.test(plain) || parseSubtitles(plain).length > 0;
}

/**
 * Words out of an SRT, WebVTT or ASS file, or JSON: `{"words": [{"text", "start", "end", "confidence"?, "emphasis"?, "breakAfter"?}]}` or the list
 * alone. Subtitles know only when a line begins and ends; their words take the times of words that were heard at the
 * same place where the texts agree, and share the rest by their length.
 * @param heard words with times of the same recording, if there are any
 * @throws WordsError
 */
export function importWords(text: string, heard: readonly Word[] = []): Word[] {
  const plain = text.replace(/^\uFEFF/, '').trim();
  if (!plain) throw new WordsError('The file is empty.');
  if (/^(\{|\[\s*[{\]])/.test(plain)) return fromJson(plain);
  const cues = parseSubtitles(plain);
  if (cues.length === 0)
    throw new WordsError('No lines with times were found. Give an SRT, WebVTT or ASS file, or JSON with words.');
  const within = wordsWithin(heard);
  let left = mostCompared;
  return cues.flatMap((cue) => {
    const words = spread(cue.text.split(/\s+/).filter(Boolean), cue.start, cue.end);
    const said = within(cue);
    const compared = words.length * said.length;
    if (compared > left) return words;
    left -= compared;
    return alignToHeard(words, said);
  });
}

/**
 * More pairs of words than these are not compared for a text; two hours of cues of a sentence each take a hundredth. What is
 * more has cues that last for hours, and is spread over their time.
 */
const mostCompared = 20_000_000;

/** A word without what is written around it, so that it is compared at once. */
interface BareWord extends Range {
  bare: string;
}

/** Finds the words that are heard in a stretch, without looking at all of them each time. */
function wordsWithin(heard: readonly Word[]): (range: Range) => BareWord[] {
  const words = heard
    .map(({ start, end, text }) => ({ start, end, bare: bareWord(text) }))
    .sort((a, b) => a.start - b.start);
  const longest = words.reduce((most, { start, end }) => Math.max(most, end - start), 0);
  return (range) => {
    let [low, high] = [0, words.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (words[middle]!.start < range.start - longest) low = middle + 1;
      else high = middle;
    }
    const found: BareWord[] = [];
    for (let at = low; at < words.length && words[at]!.start < range.end; at++)
      if (overlap(words[at]!, range) > 0) found.push(words[at]!);
    return found;
  };
}

function fromJson(text: string): Word[] {
  let parsed: unknown;
  try {
    parsed = JSON.parse(text);
  } catch (error) {
    throw new WordsError(`This is not valid JSON: ${(error as Error).message}.`, { cause: error });
  }
  const list = Array.isArray(parsed) ? (parsed as unknown[]) : (parsed as { words?: unknown }).words;
  if (!Array.isArray(list)) throw new WordsError('The JSON holds no list of words.');
  return list
    .map((entry, index) => {
      const given = (entry ?? {}) as Record<string, unknown>;
      const { text: word, start, end, confidence = 1, emphasis, breakAfter, differs, unsaid } = given;
      const rivals = rivalsIn(given.rivals);
      const mark: Word['differs'] = differs === 'added' || differs === 'otherwise' ? differs : undefined;
      if (
        typeof word !== 'string' ||
        typeof start !== 'number' ||
        typeof end !== 'number' ||
        !(end >= start) ||
        start < 0
      )
        throw new WordsError(
          `Word ${index + 1} needs text, start and end in seconds, and must not end before it begins.`,
        );
      return {
        text: word.trim(),
        start,
        end,
        confidence: typeof confidence === 'number' ? Math.min(1, Math.max(0, confidence)) : 1,
        ...(emphasis === true ? { emphasis } : {}),
        ...(typeof breakAfter === 'boolean' ? { breakAfter } : {}),
        ...(mark ? { differs: mark } : {}),
        ...(typeof unsaid === 'string' && unsaid ? { unsaid } : {}),
        ...(rivals.length > 0 ? { rivals } : {}),
      };
    })
    .sort((a, b) => a.start - b.start);
}

/** More than these, and longer ones, come from nowhere. */
const [mostRivals, longestRival] = [20, 2000];

function rivalsIn(given: unknown): RivalWords[] {
  const list: unknown[] = Array.isArray(given) ? given.slice(0, mostRivals) : [];
  return list.flatMap((each) => {
    const { words, text } = (each ?? {}) as Record<string, unknown>;
    const fits = Number.isInteger(words) && (words as number) > 0 && typeof text === 'string';
    return fits && text.length <= longestRival ? [{ words: words as number, text }] : [];
  });
}

/** Takes the times of heard words for those that say the same, in order (longest common subsequence). */
function alignToHeard(words: Word[], heard: readonly BareWord[]): Word[] {
  const n = words.length,
    m = heard.length;
  if (!n || !m) return words;
  const own = words.map((word) => bareWord(word.text));
  const table = Array.from({ length: n + 1 }, () => new Uint16Array(m + 1));
  for (let i = n - 1; i >= 0; i--)
    for (let j = m - 1; j >= 0; j--)
      table[i]![j] =
        own[i] === heard[j]!.bare ? table[i + 1]![j + 1]! + 1 : Math.max(table[i + 1]![j]!, table[i]![j + 1]!);
  const anchored = words.map((word) => ({ ...word }));
  const fixed: number[] = [];
  for (let i = 0, j = 0; i < n && j < m;) {
    if (own[i] === heard[j]!.bare) {
      anchored[i]!.start = heard[j]!.start;
      anchored[i]!.end = heard[j]!.end;
      fixed.push(i++);
      j++;
    } else if (table[i + 1]![j]! >= table[i]![j + 1]!) i++;
    else j++;
  }
  // What lies between two anchored words shares the time between them.
  const stops = [-1, ...fixed, n];
  for (let index = 0; index + 1 < stops.length; index++) {
    const [before, after] = [stops[index]!, stops[index + 1]!];
    if (after - before < 2) continue;
    const start = before < 0 ? Math.min(words[0]!.start, anchored[after]?.start ?? Infinity) : anchored[before]!.end;
    const end = after >= n ? Math.max(words[n - 1]!.end, start) : anchored[after]!.start;
    const between = spread(
      words.slice(before + 1, after).map((word) => word.text),
      start,
      Math.max(start, end),
    );
    between.forEach((word, at) => (anchored[before + 1 + at] = word));
  }
  return anchored;
}
