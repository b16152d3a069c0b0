import { fillers, numberOf } from './fillers';
import type { Token } from './tokens';
import { stem } from './vocabulary';
import type { Days, Lexicon, Term, TimePoint } from './types';

interface Read {
  term: Term;
  count: number;
}

/** "90 seconds", "ten minutes", "half an hour", "1:20"; what it comes to, and how many words it took. */
function readLength(tokens: readonly Token[], at: number): { seconds: number; count: number } | null {
  const clock = readClock(tokens[at]?.word);
  if (clock !== null) return { seconds: clock, count: 1 };
  let number = numberOf(tokens[at]?.word ?? '');
  let count = number === null ? 0 : 1;
  number ??= 1;
  if (/^an?$/.test(tokens[at + count]?.word ?? '')) count++;
  const unit = tokens[at + count]?.word ?? '';
  const factor = /^(s|sec|seconds?)$/.test(unit)
    ? 1
    : /^(m|min|minutes?)$/.test(unit)
      ? 60
      : /^(h|hours?)$/.test(unit)
        ? 3600
        : null;
  return factor === null ? null : { seconds: number * factor, count: count + 1 };
}

function readClock(word: string | undefined): number | null {
  if (!word || !/^\d+(:\d{1,2}){1,2}$/.test(word)) return null;
  return word.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);
}

const start: TimePoint = { from: 'start', seconds: 0 };
const end: TimePoint = { from: 'end', seconds: 0 };

/** A place or stretch in time, a timecode, or a day. */
export function readTime(tokens: readonly Token[], at: number, lexicon: Lexicon): Read | null {
  const word = tokens[at]!.word;
  if (word === 'first' || word === 'last') {
    const length = readLength(tokens, at + 1);
    if (!length) return readDays(tokens, at);
    const term: Term =
      word === 'first'
        ? { kind: 'time', from: start, to: { from: 'start', seconds: length.seconds } }
        : { kind: 'time', from: { from: 'end', seconds: length.seconds }, to: end };
    return { term, count: 1 + length.count };
  }
  if (word === 'after' || word === 'before' || word === 'until') {
    const point = readPoint(tokens, at + 1, lexicon);
    return (
      point && {
        term:
          word === 'after'
            ? { kind: 'time', from: point.point, to: end }
            : { kind: 'time', from: start, to: point.point },
        count: 1 + point.count,
      }
    );
  }
  const code = word === 'at' || word === 'timecode' ? tokens[at + 1]?.word : word;
  if (code && /^\d{1,2}:\d{2}:\d{2}([:;.]\d{2})?$/.test(code))
    return { term: { kind: 'timecode', code }, count: code === word ? 1 : 2 };
  if (word !== 'between' && word !== 'from') return readDays(tokens, at);
  const from = readPoint(tokens, at + 1, lexicon);
  const joint = from && tokens[at + 1 + from.count]?.word;
  if (!from || (joint !== 'and' && joint !== 'to')) return null;
  const to = readPoint(tokens, at + 2 + from.count, lexicon);
  return to && { term: { kind: 'time', from: from.point, to: to.point }, count: 2 + from.count + to.count };
}

/** A clock time, a length from the start, or the words of a marker's note, with or without "the … marker". */
function readPoint(tokens: readonly Token[], at: number, lexicon: Lexicon): { point: TimePoint; count: number } | null {
  const length = readLength(tokens, at);
  if (length) return { point: { from: 'start', seconds: length.seconds }, count: length.count };
  let best: { note: string; count: number } | null = null;
  for (const note of lexicon.notes) {
    const own = wordsOfNote(note);
    let used = 0;
    let last = -1;
    for (let index = at; index < Math.min(tokens.length, at + 10) && used < own.length; index++) {
      const { word } = tokens[index]!;
      if (stem(word) === own[used]) {
        used++;
        last = index;
      } else if (!fillers.has(word) && word !== 'and') break;
    }
    if (used === own.length && own.length > 0 && (!best || last - at + 1 > best.count))
      best = { note, count: last - at + 1 };
  }
  if (!best) return null;
  const more = tokens[at + best.count]?.word === 'marker' ? 1 : 0;
  return { point: { from: 'marker', note: best.note }, count: best.count + more };
}

const wordsOfNote = (note: string) =>
  note
    .split(/\s+/)
    .map(stem)
    .filter((word) => word && !fillers.has(word));

const months = 'january february march april may june july august september october november december'.split(' ');
const weekdays = 'sunday monday tuesday wednesday thursday friday saturday'.split(' ');
/** Parts of a day, in hours of the recorder's clock. Common practice, no source. */
const dayParts: Record<string, [number, number]> = {
  morning: [5, 12],
  noon: [11, 14],
  midday: [11, 14],
  afternoon: [12, 18],
  evening: [17, 23],
};
const anyDay: Days = { year: null, month: null, day: null, weekday: null, hours: null };

const monthOf = (word = '') => {
  const at = months.findIndex((month) => month === word || (word.length === 3 && month.startsWith(word)));
  return at < 0 ? null : at + 1;
};
const dayOf = (word = '') => {
  const number = Number(/^(\d{1,2})(st|nd|rd|th)?$/.exec(word)?.[1] ?? NaN);
  return number >= 1 && number <= 31 ? number : null;
};
const yearOf = (word = '') => (/^(19|20)\d\d$/.test(word) ? Number(word) : null);

/** "14 June 2026", "June 14th", "2026-06-14", "Saturday", "in the afternoon"; several of them in a row are one. */
function readDays(tokens: readonly Token[], from: number): Read | null {
  let days = anyDay;
  let count = 0;
  for (;;) {
    const next =
      readDay(tokens, from + count) ??
      (count > 0 ? readDay(tokens, from + count + skipped(tokens, from + count), true) : null);
    if (!next) break;
    days = { ...days, ...next.days };
    count += next.count + (next.isLate ? skipped(tokens, from + count) : 0);
  }
  return count > 0 ? { term: { kind: 'date', days }, count } : null;
}

/** Small words between the parts of a date: "on Saturday in the morning". */
function skipped(tokens: readonly Token[], at: number): number {
  let count = 0;
  while (['in', 'on', 'of', 'the', ','].includes(tokens[at + count]?.word ?? '')) count++;
  return count;
}

function readDay(
  tokens: readonly Token[],
  at: number,
  isLate = false,
): { days: Partial<Days>; count: number; isLate: boolean } | null {
  const [first, second, third] = [0, 1, 2].map((offset) => tokens[at + offset]?.word);
  if (!first || tokens[at]!.quoted) return null;
  const iso = /^((?:19|20)\d\d)-(\d\d)(?:-(\d\d))?$/.exec(first);
  if (iso)
    return {
      days: { year: Number(iso[1]), month: Number(iso[2]), day: iso[3] ? Number(iso[3]) : null },
      count: 1,
      isLate,
    };
  const of = second === 'of' ? 1 : 0;
  const month = monthOf(first);
  if (dayOf(first) !== null && monthOf(tokens[at + 1 + of]?.word) !== null) {
    const year = yearOf(tokens[at + 2 + of]?.word);
    return {
      days: { day: dayOf(first), month: monthOf(tokens[at + 1 + of]?.word), ...(year === null ? {} : { year }) },
      count: 2 + of + (year === null ? 0 : 1),
      isLate,
    };
  }
  // "may" is more often a verb.
  if (month !== null && (first !== 'may' || dayOf(second) !== null || yearOf(second) !== null)) {
    const day = dayOf(second);
    const year = yearOf(day === null ? second : third);
    return {
      days: { month, ...(day === null ? {} : { day }), ...(year === null ? {} : { year }) },
      count: 1 + (day === null ? 0 : 1) + (year === null ? 0 : 1),
      isLate,
    };
  }
  const weekday = weekdays.findIndex((name) => name === first || `${name}s` === first);
  if (weekday >= 0) return { days: { weekday }, count: 1, isLate };
  const hours = Object.hasOwn(dayParts, first) ? dayParts[first]! : null;
  // "Good morning" is said; without "the" before it or a day it is a word like others.
  if (hours && (isLate || tokens[at - 1]?.word === 'the' || tokens[at - 1]?.word === 'this'))
    return { days: { hours: { from: hours[0], to: hours[1], name: first } }, count: 1, isLate };
  if (hours && at > 0 && weekdays.includes(tokens[at - 1]!.word))
    return { days: { hours: { from: hours[0], to: hours[1], name: first } }, count: 1, isLate };
  const year = yearOf(first);
  return year === null ? null : { days: { year }, count: 1, isLate };
}

/** Whether a second of a file lies in some days, by what its recorder's clock said at its start. */
export function liesIn(days: Days, recordedAt: string, seconds: number): boolean {
  // The clock as it stood, whatever its offset: "in the morning" is meant where it was filmed.
  const at = new Date(Date.parse(`${recordedAt.slice(0, 19)}Z`) + seconds * 1000);
  if (Number.isNaN(+at)) return false;
  return (
    (days.year === null || at.getUTCFullYear() === days.year) &&
    (days.month === null || at.getUTCMonth() + 1 === days.month) &&
    (days.day === null || at.getUTCDate() === days.day) &&
    (days.weekday === null || at.getUTCDay() === days.weekday) &&
    (!days.hours || (at.getUTCHours() >= days.hours.from && at.getUTCHours() < days.hours.to))
  );
}

/** Days in words: "Saturday 14 June 2026, morning". */
export function dayWords({ year, month, day, weekday, hours }: Days): string {
  const capital = (word: string) => word[0]!.toUpperCase() + word.slice(1);
  const date = [
    weekday === null ? null : capital(weekdays[weekday]!),
    day,
    month === null ? null : capital(months[month - 1]!),
    year,
  ].filter((part) => part !== null);
  return [date.join(' '), hours?.name].filter(Boolean).join(', ');
}
