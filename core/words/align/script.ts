/** A word of a text that has no times yet, as it is written. */
export interface ScriptWord {
  text: string;
  /** Who says it, where the text names them. */
  speaker?: string;
}

/** “ANNA:”, “Anna Reed (laughing):”, “[Host] ”: a name of up to four words before a colon, or in brackets. */
const label =
  /^\s*(?:\*\*|__)?(?:\[([^\]\d][^\]]{0,40})\]|([\p{Lu}][\p{L}\p{N}.'’-]*(?:\s+[\p{L}\p{N}.'’&-]+){0,3}))\s*(?:\([^)]*\))?\s*:(?:\*\*|__)?(?=\s|$)\s*/u;

/** A label stands in so many letters at the beginning of a line, however long that is. */
const labelWithin = 160;
function labelOf(line: string): { name: string; length: number } | null {
  const found = label.exec(line.slice(0, labelWithin));
  const name = (found?.[1] ?? found?.[2])?.trim();
  return found && name ? { name, length: found[0].length } : null;
}

/** A name is one when it comes again, or is written in capitals; “Warning: thin ice” is said. */
function speakersOf(lines: readonly string[]): Set<string> {
  const counts = new Map<string, number>();
  for (const line of lines) {
    const name = labelOf(line)?.name;
    if (name) counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  const isShouted = (name: string) => name.length > 1 && name === name.toUpperCase() && /\p{L}/u.test(name);
  return new Set([...counts].filter(([name, count]) => count > 1 || isShouted(name)).map(([name]) => name));
}

/** What stands in brackets, or alone between parentheses, tells what is done and is not said: “[applause]”, “(She sits.)”. */
const withoutDirections = (line: string) => line.replace(/\[[^[\]]{0,300}\]/g, ' ').replace(/^\([^)]*\)$/, ' ');

/** Times that stand before a line or alone, as transcripts have them: “00:12:31”, “[12:31]”, “(1:02:03.5)”. */
const times = /^\s*[[(]?(?:\d{1,2}:)?\d{1,2}:\d{2}(?:[.,]\d+)?[\])]?\s*(?:[-–]\s+)?/;

/** Longer ones are no words; addresses and the like are cut. */
const longestWord = 100;

/**
 * The words of a script, a transcript, lyrics or notes, in the order in which they stand. Names before a colon are
 * whoever speaks; directions, times and marks without a letter or digit are no words.
 */
export function scriptWords(text: string): ScriptWord[] {
  const lines = text
    .replace(/^\uFEFF/, '')
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .map((line) => line.trim().replace(times, '').replace(/\s+/g, ' '));
  const speakers = speakersOf(lines);
  const words: ScriptWord[] = [];
  let speaker: string | undefined;
  for (const line of lines) {
    const found = labelOf(line);
    const name = found?.name;
    const isLabel = name !== undefined && speakers.has(name);
    if (isLabel) speaker = name;
    for (const part of withoutDirections(isLabel ? line.slice(found!.length) : line).split(
      /\s+|(?<=[—–…]|--)(?=[\p{L}\p{N}])/u,
    ))
      if (/[\p{L}\p{N}]/u.test(part))
        words.push({ text: part.slice(0, longestWord), ...(speaker === undefined ? {} : { speaker }) });
  }
  return words;
}
