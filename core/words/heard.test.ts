import { describe, expect, it } from 'vitest';
import {
  calibrated,
  correctWords,
  heardAs,
  rivalTexts,
  takeBetter,
  termsIn,
  termsToOffer,
  withRivals,
  type Word,
} from '.';

/** Words half a second apart; those with a question mark are doubtful, those with an exclamation mark were typed. */
const heard = (text: string, doubtful = 0.3): Word[] =>
  text.split(' ').map((part, at) => ({
    text: part.replace(/[?!]/g, ''),
    start: at / 2,
    end: at / 2 + 0.4,
    confidence: part.includes('?') ? doubtful : part.includes('!') ? 1 : 0.9,
  }));
const textOf = (words: readonly Word[]) => words.map(({ text }) => text).join(' ');

describe('how sure words are', () => {
  const sureness = (posteriors: number[], text = 'boat') =>
    calibrated(posteriors.map((confidence, at) => ({ text, start: at, end: at + 0.5, confidence }))).map(
      ({ confidence }) => confidence,
    );
  it('rises with what the recogniser thinks, and with what it thinks of the words around', () => {
    const [low, high] = [sureness([0.9, 0.2, 0.9]), sureness([0.9, 0.8, 0.9])];
    expect(low[1]!).toBeLessThan(high[1]!);
    const [among, alone] = [sureness([0.95, 0.5, 0.95]), sureness([0.05, 0.5, 0.05])];
    expect(among[1]!).toBeGreaterThan(alone[1]! + 0.1);
  });
  it('is never nothing and never all, and short words are less sure than long ones', () => {
    for (const value of sureness([0, 1, 0, 1])) {
      expect(value).toBeGreaterThan(0.02);
      expect(value).toBeLessThan(0.99);
    }
    expect(sureness([0.5], 'a')[0]!).toBeLessThan(sureness([0.5], 'cardboard')[0]!);
    expect(sureness([])).toEqual([]);
  });
  it('leaves texts and times alone', () => {
    const words = heard('the boats ?our in');
    expect(calibrated(words).map(({ confidence: _, ...word }) => word)).toEqual(
      words.map(({ confidence: _, ...word }) => word),
    );
  });
});

describe('rivals of doubtful words', () => {
  const words = withRivals(heard('the ?votes ?our in now'), [
    'the votes our in now'.split(' '),
    'the boats are in now'.split(' '),
    'the boat sour in now'.split(' '),
    'a votes hour in now'.split(' '),
    'the boats are in now'.split(' '),
  ]);
  it('stand with the first of the words whose place they take; sure words have none', () => {
    expect(words[1]!.rivals).toEqual([
      { words: 2, text: 'boats are' },
      { words: 2, text: 'boat sour' },
    ]);
    expect(words[2]!.rivals).toEqual([{ words: 1, text: 'hour' }]);
    expect(words[0]!.rivals).toBeUndefined();
  });
  it('are offered for the whole place, each once', () => {
    expect(rivalTexts(words, { from: 1, to: 3 })).toEqual(['boats are', 'boat sour', 'votes hour']);
    // One that reaches over the end of the place is none of it.
    expect(rivalTexts(words, { from: 1, to: 2 })).toEqual([]);
  });
  it('are gone when the place is put right', () => {
    expect(correctWords(words, 1, 3, 'boats are').some((word) => word.rivals)).toBe(false);
  });
  it('may be nothing at all, and are four at the most', () => {
    const many = ['one', 'two', 'three', 'four', 'five'].map((text) => ['go', text]);
    expect(withRivals(heard('go ?un'), many)[1]!.rivals).toHaveLength(4);
    expect(withRivals(heard('go ?un now'), [['go', 'now']])[1]!.rivals).toEqual([{ words: 1, text: '' }]);
  });
});

describe('words that are heard again', () => {
  const all = [{ start: 0, end: 100 }];
  it('take the place of doubtful ones where they are surer', () => {
    const before = heard('we paddle to ?the ?mill ?bork now');
    const again = heard('we paddle to Millbrook pond now');
    const { words, taken } = takeBetter(before, again, all);
    expect(textOf(words)).toBe('we paddle to Millbrook pond now');
    expect(taken).toBe(2);
  });
  it('leave what was sure, what was typed, and what lies outside the stretches', () => {
    const before = heard('the ?votes are! ?our in');
    expect(textOf(takeBetter(before, heard('a boats were hour on'), all).words)).toBe('the votes are our in');
    expect(textOf(takeBetter(before, heard('the boats are hour in'), [{ start: 0, end: 1 }]).words)).toBe(
      'the boats are our in',
    );
    expect(textOf(takeBetter(before, heard('the ?boats are ?hour in', 0.2), all).words)).toBe('the votes are our in');
  });
  it('make a word surer that was heard the same', () => {
    const { words, taken } = takeBetter(heard('the ?boats'), heard('the boats'), all);
    expect(words[1]!.confidence).toBe(0.9);
    expect(taken).toBe(0);
  });
});

describe('where the same was heard', () => {
  it('is found in another file, and not where a person wrote it', () => {
    expect(heardAs(heard('votes our ?votes ?our votes! our'), ['Votes', 'our'])).toEqual([0, 2]);
    expect(heardAs(heard('no no no'), ['no', 'no'])).toEqual([0]);
    expect(heardAs(heard('boats'), [])).toEqual([]);
  });
});

describe('names and terms', () => {
  it('come from lists and tables, each once, without what is no term', () => {
    expect(
      termsIn('Millbrook Pond, Ida;Otto\tIda\n\n “Duckweed Dash”.\n42\nthis is a whole sentence of a text'),
    ).toEqual(['Millbrook Pond', 'Ida', 'Otto', 'Duckweed Dash']);
  });
  it('are offered from texts: names inside sentences, joined, and words that no dictionary has', () => {
    const dictionary = new Set('the boats of are in and we saw at it was sunny go'.split(' '));
    const text = 'The boats of Millbrook Pond are in. We saw Ida at Millbrook Pond, and I saw skuttlers. Sunny it was.';
    const words = text.split(' ').map((each) => ({ text: each, start: 0, end: 0, confidence: 1 }));
    expect(termsToOffer(words, (word) => dictionary.has(word))).toEqual(['Millbrook Pond', 'Ida', 'skuttlers']);
    // What was only heard suggests nothing.
    const guessed = words.map((word) => ({ ...word, confidence: 0.8 }));
    expect(termsToOffer(guessed, () => false)).toEqual([]);
  });
});
