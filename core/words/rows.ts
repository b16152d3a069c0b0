/** A text out of a table or a list, in a form that `importWords` and `scriptWords` take. */
export interface RowsText {
  text: string;
  /** Whether it says when its words are said. */
  hasTimes: boolean;
}

/** Headings of columns as transcripts have them, in small letters; common practice, no source. */
const headings = {
  start: ['start', 'in', 'from', 'begin', 'start time', 'timecode', 'time', 'time in', 'tc in', 'starttime'],
  end: ['end', 'out', 'to', 'until', 'end time', 'time out', 'tc out', 'endtime'],
  text: ['text', 'words', 'word', 'transcript', 'caption', 'subtitle', 'dialogue', 'line', 'content', 'speech'],
  speaker: ['speaker', 'who', 'name', 'character', 'voice'],
};

/** A row without an end lasts until the next one begins; the last one so many seconds. */
const lastSeconds = 5;

/**
 * A text out of the rows of a table. With columns for text and times it becomes subtitles; with one for the text alone, or none that
 * is known, its longest column is the text, a row a line.
 * @param rows cells as they stand in the file, the headings first where there are any
 * @returns null when there is no text in it
 */
export function textOfRows(rows: readonly (readonly string[])[]): RowsText | null {
  const names = rows[0]?.map((cell) => cell.trim().toLowerCase()) ?? [];
  const columnOf = (wanted: readonly string[]) => names.findIndex((name) => wanted.includes(name));
  const [startAt, endAt, textAt, whoAt] = [headings.start, headings.end, headings.text, headings.speaker].map(
    columnOf,
  ) as [number, number, number, number];
  const hasHeadings = textAt >= 0;
  const own = hasHeadings ? rows.slice(1) : rows;
  const at = hasHeadings ? textAt : longestColumn(own);
  if (at < 0) return null;
  const cells = own.map((row) => ({
    text: (row[at] ?? '').replace(/\s+/g, ' ').trim(),
    start: hasHeadings && startAt >= 0 ? secondsIn(row[startAt] ?? '') : NaN,
    end: hasHeadings && endAt >= 0 ? secondsIn(row[endAt] ?? '') : NaN,
    who: (hasHeadings && whoAt >= 0 && row[whoAt]?.trim()) || '',
  }));
  const said = cells.filter(({ text }) => text !== '');
  if (said.length === 0) return null;
  if (said.every(({ start }) => Number.isFinite(start))) return { text: subtitlesOf(said), hasTimes: true };
  return { text: said.map(({ text, who }) => (who ? `${who}: ${text}` : text)).join('\n'), hasTimes: false };
}

/**
 * A text out of JSON that has no times: a list of lines or words, or of objects with a text, alone or under “words”, “segments”,
 * “lines” or “text”.
 * @returns null when it has times, or is no JSON with a text
 */
export function textOfJson(json: string): string | null {
  let parsed: unknown;
  try {
    parsed = JSON.parse(json);
  } catch {
    return null;
  }
  const inside = parsed as Record<string, unknown> | null;
  const list: unknown = Array.isArray(parsed)
    ? parsed
    : (inside?.words ?? inside?.segments ?? inside?.lines ?? inside?.text);
  if (typeof list === 'string') return list;
  if (!Array.isArray(list) || list.length === 0) return null;
  const lines = (list as unknown[]).map((each) => {
    if (typeof each === 'string') return each;
    const { text, start } = (each ?? {}) as { text?: unknown; start?: unknown };
    return typeof text === 'string' && start === undefined ? text : null;
  });
  if (lines.some((line) => line === null)) return null;
  const areWords = lines.every((line) => !/\s/.test(line!.trim()));
  return lines.join(areWords ? ' ' : '\n');
}

/** The column with the most letters; −1 when none has any. */
function longestColumn(rows: readonly (readonly string[])[]): number {
  const letters: number[] = [];
  for (const row of rows)
    row.forEach((cell, at) => (letters[at] = (letters[at] ?? 0) + (cell.match(/\p{L}/gu)?.length ?? 0)));
  const most = Math.max(0, ...letters);
  return most > 0 ? letters.indexOf(most) : -1;
}

/** “1:02:03.5”, “02:03”, “00:01:02,500” or a number of seconds; NaN for anything else. */
function secondsIn(cell: string): number {
  const text = cell.trim().replace(',', '.');
  if (/^\d+(?:\.\d+)?$/.test(text)) return Number(text);
  const parts = /^(?:(\d+):)?(\d{1,2}):(\d{1,2}(?:\.\d+)?)$/.exec(text);
  return parts ? Number(parts[1] ?? 0) * 3600 + Number(parts[2]) * 60 + Number(parts[3]) : NaN;
}

/** Rows with times as SubRip. */
function subtitlesOf(rows: readonly { text: string; start: number; end: number }[]): string {
  const time = (seconds: number) => {
    const all = Math.round(seconds * 1000);
    const two = (value: number) => String(value).padStart(2, '0');
    const [hours, minutes, whole] = [
      Math.floor(all / 3_600_000),
      Math.floor(all / 60_000) % 60,
      Math.floor(all / 1000) % 60,
    ];
    return `${two(hours)}:${two(minutes)}:${two(whole)},${String(all % 1000).padStart(3, '0')}`;
  };
  return rows
    .map(({ text, start, end }, index) => {
      const next = rows[index + 1]?.start;
      const until = end > start ? end : next !== undefined && next > start ? next : start + lastSeconds;
      return `${index + 1}\n${time(start)} --> ${time(until)}\n${text}\n`;
    })
    .join('\n');
}
