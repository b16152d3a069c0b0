import type { Range } from '#core/time';
import type { Word } from '#core/words';

/** What the runtime says of one window. */
export interface HeardWindow {
  language: string;
  /** All that is said, as text. */
  text: string;
  /** A token each, with its times in milliseconds of the window. */
  entries: readonly Entry[];
}

export interface Entry {
  text: string;
  t0: number;
  t1: number;
}

/** Stands for bytes that are no letter. */
const broken = '\uFFFD';

/** Tokens may end in the middle of a letter (in UTF-8); what is broken so is taken from the whole text again, as one entry. */
export function entriesOf({ text, entries }: HeardWindow): Entry[] {
  const out: Entry[] = [];
  let at = 0;
  /** First of the entries that are broken, and not put right yet. */
  let from: number | null = null;
  const mend = (next: number, until: number) => {
    if (from === null) return;
    out.push({ text: text.slice(at, until), t0: entries[from]!.t0, t1: entries[next - 1]!.t1 });
    from = null;
  };
  for (const [index, entry] of entries.entries()) {
    if (entry.text.includes(broken)) from ??= index;
    else {
      const found = entry.text ? text.indexOf(entry.text, at) : at;
      const until = found < 0 ? at : found;
      mend(index, until);
      if (!entry.text) continue;
      out.push(entry);
      at = until + entry.text.length;
    }
  }
  mend(entries.length, text.length);
  return out;
}

/** Written without spaces between words (Unicode Standard Annex 14, on dictionary-based line breaking, and common knowledge). */
const withoutSpaces = new Set(['zh', 'yue', 'ja', 'th', 'lo', 'km', 'my', 'bo']);

/** Words of a window, in seconds of the file: entries without a leading space go on the word before them. Sounds in brackets are no words. */
export function wordsOfEntries(
  entries: readonly Entry[],
  window: Range,
  { language, confidence }: { language: string; confidence: number },
): Word[] {
  const words: Word[] = [];
  const alone = withoutSpaces.has(language);
  /** The bracket that closes what is being left out. */
  let until: string | null = null;
  for (const { text, t0, t1 } of entries) {
    const plain = text.trim();
    if (!plain) continue;
    const opens: string | undefined = until === null ? /^[[(♪]/.exec(plain)?.[0] : undefined;
    if (opens) until = opens === '[' ? ']' : opens === '(' ? ')' : '♪';
    if (until !== null) {
      if (plain.slice(opens ? 1 : 0).includes(until)) until = null;
      continue;
    }
    const start = Math.min(window.end, window.start + t0 / 1000);
    const end = Math.min(window.end, Math.max(start, window.start + t1 / 1000));
    const last = words.at(-1);
    const isMark = /^\p{P}+$/u.test(plain);
    if (last && (isMark || (!alone && !/^\s/.test(text)))) {
      last.text += plain;
      last.end = Math.max(last.end, end);
    } else words.push({ text: plain, start, end, confidence });
  }
  return words;
}
