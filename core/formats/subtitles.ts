import type { Range } from '#core/time';

/** One subtitle: what stands on the screen from when to when, its rows joined by spaces. */
export interface Cue extends Range {
  text: string;
}

const time = String.raw`(?:(\d+):)?(\d{1,2}):(\d{1,2})[.,](\d{1,3})`;
const arrow = new RegExp(String.raw`^\s*${time}\s*-->\s*${time}`);

/**
 * Reads SubRip (.srt) and WebVTT (W3C 2019): both are blocks with an arrow between two times; hours may be left out
 * in WebVTT. Numbers, settings, notes, styles and mark-up are left out. What has no text or no length is left out.
 */
export function parseSubtitles(text: string): Cue[] {
  const cues: Cue[] = [];
  for (const block of text.replace(/\r\n?/g, '\n').split(/\n{2,}/)) {
    const lines = block.split('\n');
    const at = lines.findIndex((line) => arrow.test(line));
    if (at < 0 || /^(NOTE|STYLE|REGION)\b/.test(lines[0]!)) continue;
    const [, h1, m1, s1, f1, h2, m2, s2, f2] = arrow.exec(lines[at]!)!;
    const start = seconds(h1, m1!, s1!, f1!);
    const end = seconds(h2, m2!, s2!, f2!);
    const words = lines.slice(at + 1).map(plain).filter(Boolean).join(' ');
    if (words && end > start) cues.push({ start, end, text: words });
  }
  return cues.sort((a, b) => a.start - b.start);
}

const seconds = (hours: string | undefined, minutes: string, secs: string, fraction: string): number => Number(hours ?? 0) * 3600 + Number(minutes) * 60 + Number(secs) + Number(fraction.padEnd(3, '0')) / 1000;

const entities: Record<string, string> = { amp: '&', lt: '<', gt: '>', nbsp: ' ', lrm: '', rlm: '', quot: '"', apos: "'" };

/** Without tags (<i>, <c.name>, <00:00:01.000>), override codes ({\an8}) and entities. */
const plain = (line: string): string =>
  line.replace(/\{\\[^}]*\}/g, '').replace(/<[^>]*>/g, '').replace(/&(\w+);/g, (whole, name: string) => entities[name] ?? whole).trim();
