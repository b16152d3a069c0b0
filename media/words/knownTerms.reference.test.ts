import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { bareWord, isDoubtful, rivalTexts, doubtsOf, scriptWords, type Word } from '#core/words';
import { promptTexts, talkOf, type PromptTalk } from '../testSpeech';
import { testFolder } from '../testMedia';
import { knowTerms } from './knownTerms';
import { pocketsphinx } from './recognisers';
import { isInDictionary } from './pronounce';

const folder = testFolder();
/** Words that these prompts say and the dictionary of the recogniser has not. */
const terms = ['unmuted', 'semicolon', 'undelete', 'undeleted', 'uppercase', 'lowercase', 'rerecord', 'caret'];

// Source: the prompts of Debian's asterisk-core-sounds-en with their text; real recordings of one reader.
describe('names and terms in real recordings', () => {
  let talk: PromptTalk;
  const hear = (more: readonly string[], onProgress?: (share: number) => void): Promise<Word[]> =>
    pocketsphinx.recognise(
      talk.file,
      talk.said.map(({ start, end }) => ({ start: Math.max(0, start - 0.2), end: end + 0.2 })),
      {
        folder: join(folder, `heard-${more.length}`),
        language: 'en-US',
        terms: more,
        ...(onProgress ? { onProgress } : {}),
      },
    );
  const count = (words: readonly { text: string }[]) => {
    const wanted = new Set(terms.map(bareWord));
    return words.filter(({ text }) => wanted.has(bareWord(text))).length;
  };
  beforeAll(() => {
    const names =
      'conf-unmuted letters/ascii59 letters/ascii94 vm-undelete vm-undeleted uppercase lowercase vm-torerecord';
    const prompts = promptTexts('en').filter(({ name }) => names.split(' ').includes(name));
    expect(prompts.length).toBeGreaterThan(4);
    talk = talkOf(join(folder, 'talk'), 'talk', prompts, 'en', () => 0.5);
  });

  it('are heard where the recogniser knows them, and cannot be without', async () => {
    const isKnown = await isInDictionary();
    expect(terms.filter((term) => isKnown(term.toLowerCase()))).toEqual([]);
    expect(isKnown('boats') && isKnown("captain's")).toBe(true);
    const said = count(talk.said.flatMap(({ text }) => scriptWords(text)));
    const shares: number[] = [];
    const [without, withThem] = [await hear([]), await hear(terms, (share) => shares.push(share))];
    expect(count(without)).toBe(0);
    expect(count(withThem)).toBeGreaterThanOrEqual(said / 2);
    // As they are written, in the order of the sound.
    expect(withThem.every((word, at) => at === 0 || word.start >= withThem[at - 1]!.start - 0.001)).toBe(true);
    expect(withThem.some(({ text }) => text.startsWith('term_'))).toBe(false);
    // Progress goes on within a part, to the end.
    expect(shares.length).toBeGreaterThan(talk.said.length);
    expect(shares.every((share, at) => at === 0 || share >= shares[at - 1]!)).toBe(true);
    expect(shares.at(-1)).toBe(1);
    // What is doubtful has something to choose among.
    const doubts = doubtsOf(without);
    expect(doubts.length).toBeGreaterThan(0);
    expect(doubts.some((doubt) => rivalTexts(without, doubt).length > 0)).toBe(true);
    expect(
      without.filter((word) => word.rivals && !isDoubtful(word) && word.rivals.every(({ words }) => words === 1)),
    ).toEqual([]);
  });
});

describe('the files of names', () => {
  it('say short capitals by their letters too, names of several words as one, and leave out what cannot be said', async () => {
    const own = join(folder, 'files');
    mkdirSync(own, { recursive: true });
    const known = await knowTerms(['PBX', 'old mill pond', '???'], own);
    const { readFileSync } = await import('node:fs');
    const rows = readFileSync(join(own, 'terms.dict'), 'utf8')
      .split('\n')
      .filter((line) => line.startsWith('term_'));
    expect(rows[0]).toMatch(/^term_0 P IY B IY EH K S$/);
    expect(rows.at(-1)).toBe('term_1 OW L D M IH L P AA N D');
    expect(known.termOf('term_1')).toBe('old mill pond');
    expect(known.termOf('boat')).toBeUndefined();
    expect((await knowTerms(['!!'], own)).args).toEqual([]);
  });
});
