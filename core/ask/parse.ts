import { fillers, numberOf, phrases, stem, things } from './vocabulary';
import { describeTerm } from './describe';
import type { Chip, Lexicon, Node, Request, Term, TimePoint } from './types';

interface Token {
  text: string;
  /** Lower case. */
  word: string;
  start: number;
  end: number;
  quoted: boolean;
}

/**
 * Reads a request. The grammar (words that only fill are passed over):
 *
 *   request := all { "or" all }
 *   all     := one { [ "and" | "with" | "but" | "," ] one }
 *   one     := ( "not" | "no" | "without" ) one | "(" request ")" | term
 *   term    := quotation | person | [ how many ] faces or thing | phrase of the vocabulary | time | words that are spoken
 *   time    := "at" timecode | ( "first" | "last" ) N unit | ( "after" | "before" ) ( clock | marker ) | "between" clock "and" clock
 *
 * The same text always gives the same tree. What says nothing is listed and otherwise passed over.
 */
export function parseRequest(text: string, lexicon: Lexicon): Request {
  const tokens = tokenize(text);
  const chips: Chip[] = [];
  const unknown: string[] = [];
  let at = 0;
  let negated = false;

  const peek = () => tokens[at]?.word;
  const flat = (op: 'and' | 'or', nodes: Node[]): Node | null =>
    nodes.length > 1 ? { op, of: nodes } : (nodes[0] ?? null);

  function any(): Node | null {
    const nodes: Node[] = [];
    for (;;) {
      const node = all();
      if (node) nodes.push(node);
      if (peek() !== 'or') break;
      at++;
    }
    return flat('or', nodes);
  }
  function all(): Node | null {
    const nodes: Node[] = [];
    while (at < tokens.length && peek() !== 'or' && peek() !== ')') {
      if (['and', 'with', 'but', ',', '&'].includes(peek()!)) {
        at++;
        continue;
      }
      const before = at;
      const node = one();
      if (node) nodes.push(node);
      // Whatever it was, it has been read; without this a stray sign would be read for ever.
      if (at === before) at++;
    }
    return flat('and', nodes);
  }
  function one(): Node | null {
    if (
      ['not', 'no', 'without', 'never', 'nor'].includes(peek()!) &&
      !(peek() === 'no' && tokens[at + 1]?.word === 'one')
    ) {
      at++;
      negated = !negated;
      const of = one();
      negated = !negated;
      return of && { op: 'not', of };
    }
    if (peek() === '(') {
      at++;
      const inner = any();
      if (peek() === ')') at++;
      return inner;
    }
    const found = readTerm(tokens, at, lexicon);
    if (found) {
      const first = tokens[at]!;
      const last = tokens[at + found.count - 1]!;
      at += found.count;
      const chip: Chip = {
        start: first.start,
        end: last.end,
        text: text.slice(first.start, last.end),
        term: found.term,
        not: negated,
        label: describeTerm(found.term),
        instead: found.instead,
      };
      chips.push(chip);
      return { op: 'chip', chip };
    }
    const token = tokens[at];
    if (!token || token.word === 'or' || token.word === ')') return null;
    at++;
    if (!fillers.has(token.word) && /[\p{L}\p{N}]/u.test(token.word)) unknown.push(token.text);
    // "without the boats": the filler stands between.
    return negated ? one() : null;
  }
  const nodes: Node[] = [];
  while (at < tokens.length) {
    const node = any();
    if (node) nodes.push(node);
    if (peek() === ')') at++;
  }
  return { tree: flat('and', nodes), chips, unknown };
}

function tokenize(text: string): Token[] {
  return [...text.matchAll(/["“”]([^"“”]*)["“”]|[(),&]|[^\s(),&"“”]+/gu)].flatMap((match): Token[] => {
    const quoted = match[1] !== undefined;
    const plain = quoted ? match[1]! : match[0].replace(/[.!?;]+$/u, '');
    return plain.trim()
      ? [
          {
            text: plain,
            word: plain.toLowerCase(),
            start: match.index,
            end: match.index + (quoted ? match[0].length : plain.length),
            quoted,
          },
        ]
      : [];
  });
}

interface Found {
  term: Term;
  count: number;
  instead: Chip['instead'];
}

const wordsOf = (text: string) => text.split(/\s+/).map(stem).filter(Boolean);

/** The term that begins at a token: the longest phrase that means something. */
function readTerm(tokens: readonly Token[], at: number, lexicon: Lexicon): Found | null {
  const first = tokens[at];
  if (!first) return null;
  if (first.quoted) return { term: { kind: 'said', words: wordsOf(first.text) }, count: 1, instead: [] };
  const time = readTime(tokens, at, lexicon);
  if (time) return { ...time, instead: [] };
  const person = readPerson(tokens, at, lexicon);
  if (person) return person;
  const counted = readCounted(tokens, at);
  if (counted) return counted;
  for (let count = Math.min(4, tokens.length - at); count > 0; count--) {
    const run = tokens.slice(at, at + count);
    if (run.some((token) => token.quoted)) continue;
    const phrase = run.map((token) => token.word).join(' ');
    const term = phrases.get(phrase) ?? thingTerm(phrase, 1);
    if (term)
      return {
        term,
        count,
        instead: lexicon.spoken(wordsOf(phrase)) ? [{ label: `“${phrase}” is said`, text: `"${phrase}"` }] : [],
      };
  }
  if (['say', 'says', 'said', 'saying', 'word', 'words'].includes(first.word)) {
    const next = tokens[at + 1];
    return next && !next.quoted ? { term: { kind: 'said', words: wordsOf(next.word) }, count: 2, instead: [] } : null;
  }
  if (!fillers.has(first.word) && !reserved.has(first.word) && lexicon.spoken(wordsOf(first.word)))
    return readSpoken(tokens, at, lexicon);
  return null;
}

const reserved = new Set(['and', 'or', 'not', 'no', 'with', 'without', 'but', 'never', 'nor', '(', ')', ',', '&']);

/** As many words in a row as are spoken in a row. */
function readSpoken(tokens: readonly Token[], at: number, lexicon: Lexicon): Found {
  let count = 1;
  while (
    at + count < tokens.length &&
    !reserved.has(tokens[at + count]!.word) &&
    !phrases.has(tokens[at + count]!.word) &&
    lexicon.spoken(
      wordsOf(
        tokens
          .slice(at, at + count + 1)
          .map((token) => token.word)
          .join(' '),
      ),
    )
  )
    count++;
  return {
    term: {
      kind: 'said',
      words: wordsOf(
        tokens
          .slice(at, at + count)
          .map((token) => token.word)
          .join(' '),
      ),
    },
    count,
    instead: [],
  };
}

const thingTerm = (phrase: string, least: number): Term | null => {
  const label = things.get(phrase);
  return label ? { kind: 'thing', label, least } : null;
};

/** "two faces", "at least 3 people", "four boats". */
function readCounted(tokens: readonly Token[], at: number): Found | null {
  const open =
    tokens[at]?.word === 'at' && tokens[at + 1]?.word === 'least' ? 2 : tokens[at]?.word === 'exactly' ? 1 : 0;
  const number = numberOf(tokens[at + open]?.word ?? '');
  if (number === null || number !== Math.floor(number)) return null;
  for (let words = 2; words > 0; words--) {
    const named = tokens.slice(at + open + 1, at + open + 1 + words);
    if (named.length < words) continue;
    const phrase = named.map((token) => token.word).join(' ');
    if (/^(faces?|people|persons?)$/.test(phrase))
      return {
        term: { kind: 'faces', least: number, most: open === 2 ? null : number },
        count: open + 1 + words,
        instead: [],
      };
    const thing = thingTerm(phrase, number);
    if (thing) return { term: thing, count: open + 1 + words, instead: [] };
  }
  return null;
}

/** The longest name that begins here; a first name is enough when only one person has it. */
function readPerson(tokens: readonly Token[], at: number, lexicon: Lexicon): Found | null {
  for (let count = Math.min(4, tokens.length - at); count > 0; count--) {
    const phrase = tokens
      .slice(at, at + count)
      .map((token) => token.word)
      .join(' ');
    const whole = lexicon.people.filter((person) => person.name.toLowerCase() === phrase);
    const part =
      count === 1 && phrase.length > 2 && !fillers.has(phrase) && !phrases.has(phrase)
        ? lexicon.people.filter((person) => person.name.toLowerCase().split(/\s+/).includes(phrase))
        : [];
    const matches = whole.length ? whole : part;
    const [person, ...others] = matches;
    if (!person || (part.length > 1 && !whole.length && part.length > 4)) continue;
    return {
      term: { kind: 'person', id: person.id, name: person.name },
      count,
      instead: [
        ...others.map(({ name }) => ({ label: name, text: name })),
        ...(lexicon.spoken(wordsOf(phrase)) ? [{ label: `“${phrase}” is said`, text: `"${phrase}"` }] : []),
      ],
    };
  }
  return null;
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

function readTime(tokens: readonly Token[], at: number, lexicon: Lexicon): { term: Term; count: number } | null {
  const word = tokens[at]!.word;
  if (word === 'first' || word === 'last') {
    const length = readLength(tokens, at + 1);
    if (!length) return null;
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
  if (word === 'at') {
    const code = tokens[at + 1]?.word ?? '';
    return /^\d{1,2}:\d{2}:\d{2}([:;.]\d{2})?$/.test(code) ? { term: { kind: 'timecode', code }, count: 2 } : null;
  }
  if (word !== 'between' && word !== 'from') return null;
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
    const own = wordsOf(note).filter((each) => !fillers.has(each));
    let used = 0;
    let last = -1;
    for (let index = at; index < Math.min(tokens.length, at + 10) && used < own.length; index++) {
      const word = stem(tokens[index]!.word);
      if (word === own[used]) {
        used++;
        last = index;
      } else if (!fillers.has(tokens[index]!.word) && tokens[index]!.word !== 'marker' && tokens[index]!.word !== 'and')
        break;
    }
    if (used === own.length && own.length > 0 && (!best || last - at + 1 > best.count))
      best = { note, count: last - at + 1 };
  }
  if (!best) return null;
  const more = tokens[at + best.count]?.word === 'marker' ? 1 : 0;
  return { point: { from: 'marker', note: best.note }, count: best.count + more };
}
