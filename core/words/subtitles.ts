import type { Range } from '#core/time';

/** One subtitle: what stands on the screen from when to when, its rows joined by spaces. */
export interface Cue extends Range {
  text: string;
  /** Whoever says it, where that is to be named. */
  speaker?: string;
}

const time = String.raw`(?:(\d+):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})`;
const arrow = new RegExp(String.raw`^\s*${time}\s*-->\s*${time}`);

/** Reads the lines of Advanced SubStation Alpha (.ass, .ssa): what stands in [Events], by the places its Format line gives. What begins and ends together is one subtitle. */
function parseAss(text: string): Cue[] {
  const events = text.slice(text.search(/^\[Events\]/im)).split('\n');
  const places = (
    events.find((line) => /^Format:/i.test(line)) ??
    'Format: Layer, Start, End, Style, Name, MarginL, MarginR, MarginV, Effect, Text'
  )
    .replace(/^Format:/i, '')
    .split(',')
    .map((name) => name.trim().toLowerCase());
  const [startAt, endAt] = [places.indexOf('start'), places.indexOf('end')];
  const clock = (value: string): number => {
    const match = /^\s*(\d+):(\d{1,2}):(\d{1,2})[.:](\d{1,3})\s*$/.exec(value);
    return match ? seconds(match[1], match[2]!, match[3]!, match[4]!) : NaN;
  };
  const cues: Cue[] = [];
  for (const line of events) {
    if (!/^Dialogue:/i.test(line)) continue;
    // The text is last and may hold commas.
    const parts = line.replace(/^Dialogue:/i, '').split(',');
    const raw = parts.slice(places.length - 1).join(',');
    const [start, end] = [clock(parts[startAt] ?? ''), clock(parts[endAt] ?? '')];
    // Drawings are no words.
    if (!(end > start) || /\{[^}]*\\p[1-9]/.test(raw)) continue;
    const words = plain(raw.replace(/\\[Nnh]/g, ' ').replace(/\{[^}]*\}/g, ''))
      .replace(/\s+/g, ' ')
      .trim();
    if (words) cues.push({ start, end, text: words });
  }
  return joinAss(cues.sort((a, b) => a.start - b.start || a.end - b.end));
}

/** Captions with a lit word come as one event a word and row: the same words that follow at once are one subtitle. */
function joinAss(cues: readonly Cue[]): Cue[] {
  const rows: Cue[] = [];
  for (const cue of cues) {
    const same = rows.findLast((row) => row.text === cue.text && Math.abs(row.end - cue.start) < 0.011);
    if (same) same.end = cue.end;
    else rows.push({ ...cue });
  }
  const found: Cue[] = [];
  for (const row of rows) {
    const above = found.find(
      (each) => Math.abs(each.start - row.start) < 0.011 && Math.abs(each.end - row.end) < 0.011,
    );
    if (above) above.text = `${above.text} ${row.text}`;
    else found.push(row);
  }
  return found;
}

/**
 * Reads SubRip (.srt), WebVTT (W3C 2019) and Advanced SubStation Alpha: the first two are blocks with an arrow between two times; hours may be left out
 * in WebVTT. Numbers, settings, notes, styles and mark-up are left out. What has no text or no length is left out.
 */
export function parseSubtitles(text: string): Cue[] {
  if (/^\[Events\]/im.test(text)) return parseAss(text.replace(/\r\n?/g, '\n'));
  const cues: Cue[] = [];
  for (const block of text.replace(/\r\n?/g, '\n').split(/\n{2,}/)) {
    const lines = block.split('\n');
    const at = lines.findIndex((line) => arrow.test(line));
    if (at < 0 || /^(NOTE|STYLE|REGION)\b/.test(lines[0]!)) continue;
    const [, h1, m1, s1, f1, h2, m2, s2, f2] = arrow.exec(lines[at]!)!;
    const start = seconds(h1, m1!, s1!, f1!);
    const end = seconds(h2, m2!, s2!, f2!);
    const words = lines
      .slice(at + 1)
      .map(plain)
      .filter(Boolean)
      .join(' ');
    if (words && end > start) cues.push({ start, end, text: words });
  }
  return cues.sort((a, b) => a.start - b.start);
}

const seconds = (hours: string | undefined, minutes: string, secs: string, fraction: string): number =>
  Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(secs) + Number(fraction.padEnd(3, '0')) / 1000;

const entities: Record<string, string> = {
  amp: '&',
  lt: '<',
  gt: '>',
  nbsp: ' ',
  lrm: '',
  rlm: '',
  quot: '"',
  apos: "'",
};

/** Without tags (<i>, <c.name>, <00:00:01.000>), override codes ({\an8}) and entities. */
const plain = (line: string): string =>
  line
    .replace(/\{\\[^}]*\}/g, '')
    .replace(/<[^>]*>/g, '')
    .replace(/&(\w+);/g, (whole, name: string) => entities[name] ?? whole)
    .trim();
