import { fillers, numberOf, pieceWords } from './fillers';
import { readColour } from './readColour';
import { readTime } from './readTime';
import { nearestWord } from './spelling';
import { phraseOf, type Token } from './tokens';
import { phrases, phraseStems, stem, superlatives, thingNamed, things } from './vocabulary';
import type { Chip, Lexicon, Name, PickBy, Term } from './types';

/** A term, how many tokens it took, and how else these could be understood. */
export interface ReadTerm {
  term: Term;
  count: number;
  instead: Chip['instead'];
  taken?: Chip['taken'];
}

const wordsOf = (text: string) => text.split(/\s+/).map(stem).filter(Boolean);

const reserved = new Set(['and', 'or', 'not', 'no', 'with', 'without', 'but', 'never', 'nor', '(', ')', ',', '&']);
/** Words behind which stands what is said. */
const saying = new Set(
  'say says said saying mention mentions mentioned mentioning tell tells told word words phrase'.split(' '),
);
const speaking = new Set('talk talks talked talking speak speaks spoke speaking ask asks asked'.split(' '));

/** The term that begins at a token: the longest phrase that means something. */
export function readTerm(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  const first = tokens[at];
  if (!first) return null;
  if (first.quoted) return { term: { kind: 'said', words: wordsOf(first.text) }, count: 1, instead: [] };
  return (
    readPick(tokens, at) ??
    plain(readTime(tokens, at, lexicon)) ??
    readSaying(tokens, at, lexicon) ??
    readPerson(tokens, at, lexicon) ??
    readCounted(tokens, at, lexicon) ??
    withOthers(readColour(tokens, at, lexicon), tokens, at, lexicon) ??
    readPhrase(tokens, at, lexicon) ??
    readName(tokens, at, lexicon) ??
    readOtherForm(tokens, at, lexicon) ??
    readAlike(tokens, at, lexicon) ??
    readMistyped(tokens, at, lexicon)
  );
}

const plain = (read: { term: Term; count: number } | null): ReadTerm | null => read && { ...read, instead: [] };

/** "“boats” is said", where it is. */
const orSaid = (phrase: string, lexicon: Lexicon): Chip['instead'] =>
  lexicon.spoken(wordsOf(phrase)) ? [{ label: `“${phrase}” is said`, text: `"${phrase}"` }] : [];
const orNamed = (phrase: string, lexicon: Lexicon): Chip['instead'] => {
  const found = namesWith(wordsOf(phrase), lexicon.names);
  const [one] = found;
  if (!one) return [];
  return [
    {
      label: found.length === 1 ? `the ${one.what} “${one.name}”` : `files named “${phrase}”`,
      text: `named ${phrase}`,
    },
  ];
};

/** A phrase of the vocabulary or a thing. */
function readPhrase(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  if (tokens[at]!.word === 'named' || tokens[at]!.word === 'called') return null;
  return withOthers(readKnown(tokens, at, lexicon), tokens, at, lexicon);
}

/** It may also be what is said, or what a file is called. */
function withOthers(
  known: { term: Term; count: number } | null,
  tokens: readonly Token[],
  at: number,
  lexicon: Lexicon,
): ReadTerm | null {
  if (!known) return null;
  const phrase = phraseOf(tokens, at, known.count);
  return { ...known, instead: [...orSaid(phrase, lexicon), ...orNamed(phrase, lexicon)] };
}

/** The longest phrase that begins here and stands in the vocabulary. */
export function readKnown(
  tokens: readonly Token[],
  at: number,
  lexicon: Lexicon,
): { term: Term; count: number } | null {
  for (let count = Math.min(4, tokens.length - at); count > 0; count--) {
    if (tokens.slice(at, at + count).some((token) => token.quoted)) continue;
    const phrase = phraseOf(tokens, at, count);
    const term = phrases.get(phrase) ?? thingTerm(phrase, 1, lexicon);
    if (term) return { term, count };
  }
  return null;
}

function thingTerm(phrase: string, least: number, lexicon: Lexicon): Term | null {
  const label = thingNamed(phrase, lexicon);
  return label ? { kind: 'thing', label, least } : null;
}

/** "says never fold it", "talk about the water": as many words as are spoken in a row, else the next one as it is. */
function readSaying(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  const { word } = tokens[at]!;
  let next = at + 1;
  const isSaying = saying.has(word);
  const isSpeaking = speaking.has(word) && ['about', 'of'].includes(tokens[next]?.word ?? '');
  if (!isSaying && !isSpeaking) return null;
  const skip = ['about', 'of', 'that', 'something', 'anything', 'the', 'a', 'an', 'how', 'us', 'me', 'word', 'words'];
  while (skip.includes(tokens[next]?.word ?? '') && tokens[next + 1]) next++;
  const token = tokens[next];
  if (!token || token.quoted) return null;
  // "Says never fold it": a word that elsewhere turns the next one round.
  const isSaidSo = reserved.has(token.word) && lexicon.spoken(wordsOf(phraseOf(tokens, next, 2)));
  if (reserved.has(token.word) && !isSaidSo) return null;
  if (!isSaying && !lexicon.spoken(wordsOf(token.word)) && readPerson(tokens, next, lexicon)) return null;
  const before = next - at;
  if (lexicon.spoken(wordsOf(token.word))) {
    const spoken = readSpoken(tokens, next, lexicon);
    return { ...spoken, count: before + spoken.count };
  }
  const alike = alikeSpoken(token.word, lexicon);
  if (alike.length > 0) return { ...alikeSaid(token.word, alike), count: before + 1 };
  const meant = lexicon.thesaurus.knows(token.word) ? null : nearestWord(token.word, lexicon.spokenWords);
  return {
    term: { kind: 'said', words: wordsOf(meant ?? token.word) },
    count: before + 1,
    instead: meant ? [{ label: `“${token.text}”, as it stands`, text: `"${token.text}"` }] : [],
    ...(meant ? { taken: { from: token.text, because: 'spelling' as const } } : {}),
  };
}

/** As many words in a row as are spoken in a row. */
function readSpoken(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm {
  let count = reserved.has(tokens[at]!.word) ? 2 : 1;
  while (
    at + count < tokens.length &&
    !reserved.has(tokens[at + count]!.word) &&
    !phrases.has(tokens[at + count]!.word) &&
    lexicon.spoken(wordsOf(phraseOf(tokens, at, count + 1)))
  )
    count++;
  // A joint at the end says nothing.
  while (count > 1 && fillers.has(tokens[at + count - 1]!.word)) count--;
  return { term: { kind: 'said', words: wordsOf(phraseOf(tokens, at, count)) }, count, instead: [] };
}

/** The longest name that begins here; a first name is enough when only one person has it. */
function readPerson(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  for (let count = Math.min(4, tokens.length - at); count > 0; count--) {
    const phrase = phraseOf(tokens, at, count).replace(/'s$/, '');
    const whole = lexicon.people.filter((person) => isNamed(person.name, phrase, lexicon));
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
      instead: [...others.map(({ name }) => ({ label: name, text: name })), ...orSaid(phrase, lexicon)],
    };
  }
  return null;
}

/** "two faces", "at least 3 people", "four boats", "more than two people". */
function readCounted(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  const [first, second] = [tokens[at]?.word, tokens[at + 1]?.word];
  const isMore = first === 'more' && second === 'than';
  const isLeast = (first === 'at' && second === 'least') || isMore;
  const open = isLeast ? 2 : first === 'exactly' || first === 'just' || first === 'only' ? 1 : 0;
  const given = numberOf(tokens[at + open]?.word ?? '');
  if (given === null || given !== Math.floor(given)) return null;
  const number = given + (isMore ? 1 : 0);
  // "Two or more faces", "two faces or more".
  const isOpen = phraseOf(tokens, at + open + 1, 2) === 'or more';
  const from = at + open + (isOpen ? 3 : 1);
  for (let words = 2; words > 0; words--) {
    const named = tokens.slice(from, from + words);
    if (named.length < words) continue;
    const phrase = named.map((token) => token.word).join(' ');
    let count = from - at + words;
    const isFaces = phrases.get(phrase)?.kind === 'faces' && phrases.get(phrase) !== phrases.get('nobody');
    const orMore = phraseOf(tokens, at + count, 2) === 'or more';
    if (orMore) count += 2;
    if (isFaces)
      return {
        term: { kind: 'faces', least: number, most: isLeast || isOpen || orMore ? null : number },
        count,
        instead: [],
      };
    const thing = thingTerm(phrase, number, lexicon);
    if (thing) return { term: thing, count, instead: [] };
  }
  return null;
}

/** Whether a phrase is a name; of one with several words each may have an error of typing. */
function isNamed(name: string, phrase: string, { thesaurus }: Lexicon): boolean {
  const own = name.toLowerCase().split(/\s+/);
  const given = phrase.split(' ');
  const isWord = (word: string, index: number) =>
    word === given[index] ||
    (own.length > 1 && !thesaurus.knows(given[index]!) && nearestWord(given[index]!, [word]) !== null);
  return own.length === given.length && own.every(isWord);
}

/** Names of files and bins with these words in a row. */
function namesWith(words: readonly string[], names: readonly Name[]): Name[] {
  if (words.length === 0 || words.every((word) => fillers.has(word))) return [];
  return names.filter(({ name }) => {
    const own = wordsOfName(name);
    return own.some((_, at) => words.every((word, offset) => own[at + offset] === word));
  });
}
const wordsOfName = (name: string) =>
  name
    .toLowerCase()
    .replace(/\.[a-z0-9]{2,4}$/, '')
    .split(/[^\p{L}\p{N}]+/u)
    .map(stem)
    .filter(Boolean);

/** A file or bin by its name or some words of it; a bin before files. */
function readName(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  const isSaid = ['named', 'called'].includes(tokens[at]!.word) ? 1 : 0;
  const from = at + isSaid;
  const isOver = (token: Token) => token.quoted || ['(', ')', ',', '&', 'and', 'or'].includes(token.word);
  const until = tokens.findIndex((token, index) => index >= from && isOver(token));
  for (let count = Math.min(6, (until < 0 ? tokens.length : until) - from); count > 0; count--) {
    const phrase = phraseOf(tokens, from, count);
    const own = wordsOfName(phrase);
    const isWhole = lexicon.names.some(({ name }) => name.toLowerCase() === phrase);
    if (!isWhole && !isSaid && count === 1 && (fillers.has(phrase) || phrase.length < 3)) continue;
    const found = namesWith(own, lexicon.names);
    const bins = found.filter(({ what }) => what === 'bin');
    const these = bins.length > 0 ? bins : found;
    const [one] = these;
    if (!one) continue;
    return {
      term: {
        kind: 'named',
        what: one.what,
        name: these.length === 1 ? one.name : phrase,
        media: [...new Set(these.flatMap(({ media }) => media))],
      },
      count: count + isSaid,
      instead: orSaid(phrase, lexicon),
    };
  }
  return null;
}

/** Words that are spoken, or another form of a word of the vocabulary. */
function readOtherForm(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  const { word } = tokens[at]!;
  if (fillers.has(word) || reserved.has(word)) return null;
  const known = phraseStems.get(stem(word));
  const term = known === undefined ? null : (phrases.get(known) ?? thingTerm(known, 1, lexicon));
  if (term) return { term, count: 1, instead: orSaid(word, lexicon) };
  return lexicon.spoken(wordsOf(word)) ? readSpoken(tokens, at, lexicon) : null;
}

/** Words of the same meaning that are spoken, as stems. */
const alikeSpoken = (word: string, { thesaurus, spoken }: Lexicon): string[] => [
  ...new Set(
    thesaurus
      .alike(word)
      .map(stem)
      .filter((other) => spoken([other])),
  ),
];
const alikeSaid = (word: string, alike: string[]): ReadTerm => ({
  term: { kind: 'said', words: [alike[0]!], ...(alike.length > 1 ? { alike: alike.slice(1) } : {}) },
  count: 1,
  instead: [{ label: `“${word}” itself`, text: `"${word}"` }],
  taken: { from: word, because: 'meaning' },
});

/** A word whose meaning the vocabulary has under another word, or which is said in other words. */
function readAlike(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  const { word } = tokens[at]!;
  if (fillers.has(word) || reserved.has(word)) return null;
  for (const other of lexicon.thesaurus.alike(word)) {
    const term = phrases.get(other) ?? (things.has(other) ? thingTerm(other, 1, lexicon) : null);
    if (term)
      return {
        term,
        count: 1,
        instead: [{ label: `“${word}” is said`, text: `"${word}"` }],
        taken: { from: word, because: 'meaning' },
      };
  }
  const alike = alikeSpoken(word, lexicon);
  return alike.length > 0 ? alikeSaid(word, alike) : null;
}

/** A word that there is not, taken for the nearest that means something here. */
function readMistyped(tokens: readonly Token[], at: number, lexicon: Lexicon): ReadTerm | null {
  const token = tokens[at]!;
  const { word } = token;
  if (fillers.has(word) || reserved.has(word) || !/^\p{L}{4,}$/u.test(word) || lexicon.thesaurus.knows(word))
    return null;
  const known = [
    ...lexicon.people.flatMap(({ name }) => name.toLowerCase().split(/\s+/)),
    ...[...phrases.keys(), ...things.keys()].filter((phrase) => !phrase.includes(' ')),
    ...lexicon.names.flatMap(({ name }) => name.toLowerCase().split(/[^\p{L}]+/u)),
    ...lexicon.spokenWords,
    ...fillers,
  ];
  const meant = nearestWord(word, known);
  if (meant === null) return null;
  if (fillers.has(meant)) return null;
  const found = readTerm([{ ...token, text: meant, word: meant }], 0, lexicon);
  return (
    found && {
      ...found,
      instead: [{ label: `“${token.text}”, as it stands`, text: `"${token.text}"` }, ...found.instead],
      taken: { from: token.text, because: 'spelling' },
    }
  );
}

const orders: Record<string, PickBy> = {
  longest: 'longest',
  shortest: 'shortest',
  first: 'first',
  earliest: 'first',
  last: 'last',
  latest: 'last',
  best: 'best',
  top: 'best',
};

/** "the three longest", "first two", "loudest", "most people", "five clips of". */
function readPick(tokens: readonly Token[], at: number): ReadTerm | null {
  let next = at;
  const number = numberOf(tokens[next]?.word ?? '');
  const isWhole = number !== null && number === Math.floor(number) && number > 0;
  if (isWhole) next++;
  const word = tokens[next]?.word ?? '';
  if (isWhole && pieceWords.has(word))
    return { term: { kind: 'pick', by: 'best', count: number, of: null }, count: 2, instead: [] };
  const order = Object.hasOwn(orders, word) ? orders[word]! : null;
  const most = superlatives.get(word);
  const isMost = word === 'most' || (word === 'greatest' && tokens[next + 1]?.word === 'number');
  if (!order && !most && !isMost) return null;
  next++;
  if (
    (order === 'first' || order === 'last') &&
    /^(s|sec|m|min|h|half|seconds?|minutes?|hours?|an?)$/.test(tokens[next]?.word ?? '')
  )
    return null;
  let count = isWhole ? number : 1;
  const after = numberOf(tokens[next]?.word ?? '');
  if (!isWhole && after !== null && after === Math.floor(after) && after > 0) {
    // "the last 90 seconds" is a time.
    if (/^(s|sec|m|min|h|seconds?|minutes?|hours?)$/.test(tokens[next + 1]?.word ?? '')) return null;
    count = after;
    next++;
  } else if (!isWhole && pieceWords.has(tokens[next]?.word ?? '') && tokens[next]!.word.endsWith('s')) count = Infinity;
  if (isMost) {
    if (word === 'greatest') next += 2;
    return { term: { kind: 'pick', by: 'most', count, of: null }, count: next - at, instead: [] };
  }
  return {
    term: { kind: 'pick', by: order ?? 'most', count, of: most ?? null },
    count: next - at,
    instead: [],
  };
}
