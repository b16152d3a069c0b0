import { ingredientPhrases, type Prepared } from '#core/moments';
import { overlap, type Range } from '#core/time';
import { doubtMark, type Sentence } from '#core/words';
import { sentenceHook, type Hook } from './hooks';
import { termOf } from './topics';
import type { ShortPart } from './types';

/** How rare words are in a recording: inverse document frequency over its sentences (Spärck Jones 1972). */
export class Vocabulary {
  private readonly counts = new Map<string, number>();
  private readonly spellings = new Map<string, string>();

  constructor(private readonly sentences: readonly Sentence[]) {
    for (const { sureText } of sentences)
      for (const [term, word] of new Map(
        sureText.split(/\s+/).flatMap((each) => {
          const own = termOf(each);
          return own === null ? [] : [[own, each.replace(/[^\p{L}\p{N}'-]/gu, '').toLowerCase()] as const];
        }),
      )) {
        this.counts.set(term, (this.counts.get(term) ?? 0) + 1);
        if (!this.spellings.has(term)) this.spellings.set(term, word);
      }
  }

  rarity(term: string): number {
    return Math.log((1 + this.sentences.length) / (1 + (this.counts.get(term) ?? 0)));
  }

  /** Mean rarity of the content words of a text, about 0 to 1. */
  weight(text: string): number {
    const terms = text.split(/\s+/).flatMap((word) => termOf(word) ?? []);
    return terms.length
      ? terms.reduce((sum, term) => sum + this.rarity(term), 0) /
          terms.length /
          Math.max(1, Math.log(1 + this.sentences.length))
      : 0;
  }

  /** A term as it was said first. */
  spelled(term: string): string {
    return this.spellings.get(term) ?? term;
  }
}

const longestTitle = 44;
const dangling =
  /\b(a|an|the|of|to|in|on|at|and|or|but|with|for|from|by|if|it|is|are|was|my|your|his|her|our|their|that|than|as)$/i;

/** A title out of a short's own words: the clause that says most in few words, none of them doubtful; null without such. */
export function titleOf(
  pieces: readonly Range[],
  sentences: readonly Sentence[],
  vocabulary: Vocabulary,
  taken: ReadonlySet<string>,
): string | null {
  const own = sentences.filter(
    (sentence) =>
      pieces.reduce((sum, piece) => sum + overlap(sentence, piece), 0) > (sentence.end - sentence.start) / 2,
  );
  const clauses = own.flatMap((sentence, index) =>
    sureClauses(sentence).map((text, at) => ({ text, early: index === 0 && at === 0 })),
  );
  const scored = clauses
    .flatMap(({ text, early }) => {
      const words = text.split(/\s+/);
      const content = words.flatMap((word) => termOf(word) ?? []);
      if (content.length === 0 || text.length > longestTitle || words.length < 2) return [];
      const rare = content.reduce((sum, term) => sum + vocabulary.rarity(term), 0) / Math.sqrt(words.length);
      return [
        {
          title: dressed(text),
          worth:
            rare *
            (words.length >= 3 && words.length <= 7 ? 1.25 : 0.9) *
            (early ? 1.2 : 1) *
            (/^(and|but|so|or|because|then|that|which|if|it|he|she|they)\b/i.test(text) ? 0.7 : 1) *
            (dangling.test(text) ? 0.5 : 1),
        },
      ];
    })
    .sort((a, b) => b.worth - a.worth);
  return (
    (scored.find(({ title }) => !taken.has(title)) ?? scored[0])?.title ??
    (own[0] && own[0].sureText === own[0].text ? dressed(cutTo(own[0].text)) : null)
  );
}

/** Clauses without a doubtful word. */
const sureClauses = ({ sureText }: Sentence): string[] =>
  clausesOf(sureText).filter((clause) => !clause.includes(doubtMark));

const clausesOf = (text: string): string[] => {
  const whole = text.replace(/[.…]+$/, '').trim();
  const parts = whole
    .split(/[,;:–—]\s*/)
    .map((part) => part.trim())
    .filter(Boolean);
  return parts.length > 1 ? [whole, ...parts] : parts;
};
const cutTo = (text: string): string => {
  let out = '';
  for (const word of text.split(/\s+/))
    if (`${out} ${word}`.length <= longestTitle) out = `${out} ${word}`.trim();
    else break;
  while (dangling.test(out)) out = out.replace(/\s+\S+$/, '');
  return out;
};
const dressed = (text: string): string => {
  const plain = text.replace(/^["“'‘(]+|[.,;:!…"”’)]+$/g, '').trim();
  return plain.charAt(0).toLocaleUpperCase() + plain.slice(1);
};

const small = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const spelledOut = (text: string): string => text.replace(/^\d+/, (digits) => small[Number(digits)] ?? digits);

/** From here on an opening is worth a word. */
const strongHook = 0.4;
const hookWords: Record<Hook['kind'], string> = {
  question: 'opens with a question',
  statement: 'says a strong line first',
  number: 'opens with a figure',
  address: 'speaks to the viewer at once',
  reaction: 'opens with a loud moment',
  action: 'opens in fast action',
  none: '',
};

const plainText = (text: string): string =>
  text
    .toLocaleLowerCase()
    .replace(/[^\p{L}\p{N}'\s-]/gu, '')
    .replace(/\s+/g, ' ')
    .trim();
const saidIn = (pieces: readonly Range[], sentences: readonly Sentence[]): Sentence[] =>
  sentences.filter((sentence) => pieces.some((piece) => overlap(sentence, piece) > 0));
/** A clause that has so many of a title's words in common with it is the same one, corrected. */
const sameClause = 0.5;

/**
 * The title of a short after words were corrected: the same clause as it reads now. Null when the title does not rest on
 * what was corrected.
 */
export function titleAfter(
  title: string,
  pieces: readonly Range[],
  before: readonly Sentence[],
  after: readonly Sentence[],
  taken: ReadonlySet<string>,
): string | null {
  const rests = (sentences: readonly Sentence[]) =>
    saidIn(pieces, sentences).some(({ text }) => ` ${plainText(text)} `.includes(` ${plainText(title)} `));
  if (!rests(before) || rests(after)) return null;
  const words = plainText(title).split(' ');
  const alike = (text: string) => {
    const own = plainText(text).split(' ');
    return words.filter((word) => own.includes(word)).length / Math.max(words.length, own.length);
  };
  const [best] = saidIn(pieces, after)
    .flatMap((sentence) => sureClauses(sentence).map(cutTo))
    .sort((a, b) => alike(b) - alike(a));
  if (best !== undefined && alike(best) >= sameClause) return dressed(best);
  return titleOf(pieces, after, new Vocabulary(after), taken);
}

/** Its reason then: how it opens, as its first sentence reads now. Null when that is as before. */
export function reasonAfter(
  reason: string,
  pieces: readonly Range[],
  before: readonly Sentence[],
  after: readonly Sentence[],
): string | null {
  const opening = (sentences: readonly Sentence[]): string => {
    const [first] = saidIn(pieces, sentences);
    const hook = first ? sentenceHook(first.sureText) : null;
    return hook && hook.strength >= strongHook ? hookWords[hook.kind] : '';
  };
  const [old, now] = [opening(before), opening(after)];
  const parts = reason.split(', ');
  const at = parts.findIndex((part) => part.toLocaleLowerCase() === old);
  if (old === now || old === '' || at < 0) return null;
  const rest = parts.toSpliced(at, 1, ...(now ? [now] : []));
  const text = rest.length > 0 ? rest.join(', ') : 'the best of what is left';
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Said of shorts whose words are not built upon. */
const wordsDoubtful = 'its words are doubtful, so sound, faces and motion decided';

/** Why a short was found, in one sentence. */
export function reasonOf(
  prepared: Prepared,
  pieces: readonly Range[],
  shares: Record<ShortPart, number>,
  hook: Hook,
  { theme, isDoubtful }: { theme: string | null; isDoubtful: boolean },
): string {
  const range = { start: pieces[0]!.start, end: pieces.at(-1)!.end };
  const phrases = ingredientPhrases(prepared, range);
  const { traces, hz } = prepared.footage;
  const last = traces.bursts.subarray(Math.max(0, Math.floor((range.end - 2.5) * hz)), Math.ceil(range.end * hz));
  const endsLoud = Math.max(0, ...last) > 0.4;
  const said = [
    theme ? `${spelledOut(String(pieces.length))} pieces about “${theme}”` : '',
    hook.strength >= strongHook ? hookWords[hook.kind] : '',
    shares.faces > 0.45 ? spelledOut(phrases.people.split(',')[0]!) : '',
    shares.action > 0.35 && hook.kind !== 'action' ? 'fast action' : '',
    endsLoud ? 'ends on a loud moment' : shares.reactions > 0.5 && hook.kind !== 'reaction' ? 'a loud reaction' : '',
    !theme && !isDoubtful && shares.whole > 0.7 ? 'a whole thought' : '',
    !isDoubtful && shares.speech > 0.75 && !endsLoud ? 'clear speech' : '',
  ]
    .filter(Boolean)
    .slice(0, isDoubtful ? 2 : 3);
  if (isDoubtful) said.push(wordsDoubtful);
  const text = said.length ? said.join(', ') : 'the best of what is left';
  return text.charAt(0).toUpperCase() + text.slice(1);
}
