import { describeTerm } from './describe';
import { askingWords, fillers } from './fillers';
import { readKnown, readTerm, type ReadTerm } from './readTerm';
import { readTime } from './readTime';
import { tokenize, type Token } from './tokens';
import { phrases } from './vocabulary';
import type { Chip, Lexicon, Node, Request, Term, Where } from './types';

const negations = new Set([
  'not',
  'no',
  'without',
  'never',
  'nor',
  "don't",
  "doesn't",
  "isn't",
  "aren't",
  'except',
  'excluding',
]);
const joins = new Set(['and', 'with', 'but', ',', '&', 'plus']);
const around: Record<string, Where> = {
  before: 'before',
  after: 'after',
  following: 'after',
  near: 'near',
  around: 'near',
  beside: 'near',
};
const saysNext = /^(say|says|said|saying|tells?|told|talks?|talked|speaks?|spoke|mentions?|mentioned|asks?|asked)$/;

/**
 * Reads a request. The grammar (words that only fill are passed over):
 *
 *   request := all { "or" all }
 *   all     := one { [ "and" | "with" | "but" | "," ] one }
 *   one     := ( "not" | "no" | "without" ) one | ( "before" | "after" | "near" ) one | "(" request ")" | term
 *   term    := quotation | pick | time | what is said | person | [ how many ] faces or thing | phrase of the vocabulary
 *            | [ "in" | "wearing" ] colour [ thing or clothes ] | name of a file or bin | words that are spoken | a word of the same meaning | a word that is nearly one of these
 *
 * The same text always gives the same tree. What says nothing is listed and otherwise passed over.
 */
export function parseRequest(text: string, lexicon: Lexicon): Request {
  return new Reader(text, lexicon).read();
}

class Reader {
  private readonly tokens: Token[];
  private readonly chips: Chip[] = [];
  private readonly unknown: string[] = [];
  private readonly passed: string[] = [];
  private at = 0;
  private negated = false;

  constructor(
    private readonly text: string,
    private readonly lexicon: Lexicon,
  ) {
    this.tokens = tokenize(text);
  }

  read(): Request {
    const nodes: Node[] = [];
    while (this.at < this.tokens.length) {
      const node = this.any();
      if (node) nodes.push(node);
      if (this.word() === ')') this.at++;
    }
    return { tree: flat('and', nodes), chips: this.chips, unknown: this.unknown, passed: this.passed };
  }

  private word(ahead = 0): string | undefined {
    const token = this.tokens[this.at + ahead];
    return token?.quoted ? undefined : token?.word;
  }

  private any(): Node | null {
    const nodes: Node[] = [];
    for (;;) {
      const node = this.all();
      if (node) nodes.push(node);
      if (this.word() !== 'or') break;
      this.at++;
    }
    return flat('or', nodes);
  }

  private all(): Node | null {
    const nodes: Node[] = [];
    while (this.at < this.tokens.length && this.word() !== 'or' && this.word() !== ')') {
      if (joins.has(this.word() ?? '')) {
        this.at++;
        continue;
      }
      const before = this.at;
      const node = this.one();
      if (node) nodes.push(node);
      // Whatever it was, it has been read; without this a stray sign would be read for ever.
      if (this.at === before) this.at++;
    }
    return flat('and', nodes);
  }

  private one(): Node | null {
    const word = this.word() ?? '';
    const known = negations.has(word) ? readKnown(this.tokens, this.at, this.lexicon) : null;
    if (negations.has(word) && !known) {
      this.at++;
      // "not before 1:20", "without the boats": what follows may be more than one word away.
      this.negated = !this.negated;
      const of = this.next();
      this.negated = !this.negated;
      return of && { op: 'not', of };
    }
    if (word === '(') {
      this.at++;
      const inner = this.any();
      if (this.word() === ')') this.at++;
      return inner;
    }
    const beside = this.beside();
    if (beside) return beside;
    const before = this.at;
    const term = this.term();
    return term || this.at > before ? term : this.filler();
  }

  /** The next part, over words that only fill. */
  private next(): Node | null {
    for (;;) {
      const word = this.word();
      const isOver = this.at >= this.tokens.length || word === 'or' || word === ')' || joins.has(word ?? '');
      if (isOver) return null;
      const before = this.at;
      const node = this.one();
      if (node || this.at === before) return node;
    }
  }

  /** What lies before, after or near a part. Times, markers and sizes that begin with these words are terms. */
  private beside(): Node | null {
    const word = this.word() ?? '';
    const long = (word === 'next' || word === 'close') && this.word(1) === 'to';
    const where = long ? 'near' : Object.hasOwn(around, word) ? around[word]! : null;
    if (!where || readTime(this.tokens, this.at, this.lexicon)) return null;
    const before = [this.at, this.chips.length, this.unknown.length, this.passed.length] as const;
    this.at += long ? 2 : 1;
    const negated = this.negated;
    this.negated = false;
    // "Before somebody laughs": all up to the next joint.
    const parts: Node[] = [];
    for (let part = this.next(); part; part = this.next()) parts.push(part);
    const of = flat('and', parts);
    this.negated = negated;
    if (of) return { op: 'near', where, of };
    // "boats near" asks for their size.
    [this.at, this.chips.length, this.unknown.length, this.passed.length] = before;
    return null;
  }

  private term(): Node | null {
    const { tokens, text } = this;
    const found = readTerm(tokens, this.at, this.lexicon);
    if (!found) return null;
    const first = tokens[this.at]!;
    const last = tokens[this.at + found.count - 1]!;
    const isName = found.term.kind === 'named' || (found.term.kind === 'said' && !first.quoted);
    if (
      isName &&
      saysNext.test(tokens[this.at + found.count]?.word ?? '') &&
      !found.taken &&
      !saysNext.test(first.word)
    ) {
      // "What did the captain say": who spoke is no word that was said, and nobody has that name.
      this.at += found.count;
      this.unknown.push(text.slice(first.start, last.end));
      return null;
    }
    const most = found.term.kind === 'pick' && !found.term.of && found.term.by === 'most' ? this.mostOf(found) : null;
    const term = most?.term ?? found.term;
    const count = most?.count ?? found.count;
    this.at += count;
    // "Most of the time" says nothing.
    if (term.kind === 'pick' && term.by === 'most' && !term.of) return null;
    const until = tokens[this.at - 1]!;
    const chip: Chip = {
      start: first.start,
      end: until.end,
      text: text.slice(first.start, until.end),
      term,
      not: this.negated,
      label: describeTerm(term),
      ...(found.taken ? { taken: found.taken } : {}),
      instead: found.instead,
    };
    this.chips.push(chip);
    return term.kind === 'pick' ? null : { op: 'chip', chip };
  }

  /** "most people": of what there should be most. */
  private mostOf({ term, count }: ReadTerm): { term: Term; count: number } | null {
    if (term.kind !== 'pick') return null;
    let ahead = count;
    while (fillers.has(this.word(ahead) ?? '')) ahead++;
    const next = readTerm(this.tokens, this.at + ahead, this.lexicon);
    if (!next || next.term.kind === 'pick') return null;
    return { term: { ...term, of: next.term }, count: ahead + next.count };
  }

  private filler(): null {
    const token = this.tokens[this.at];
    if (!token || token.word === 'or' || token.word === ')') return null;
    this.at++;
    const { word } = token;
    if (askingWords.has(word)) this.passed.push(token.text);
    else if (!fillers.has(word) && !joins.has(word) && !phrases.has(word) && /[\p{L}\p{N}]/u.test(word))
      this.unknown.push(token.text);
    return null;
  }
}

const flat = (op: 'and' | 'or', nodes: Node[]): Node | null =>
  nodes.length > 1 ? { op, of: nodes } : (nodes[0] ?? null);
