import { describe, expect, it } from 'vitest';
import { applyWordsCommand, doubtsOf, sameElsewhere, type Word } from '.';

/** Words half a second apart; those with a question mark before them are doubtful, a bar is a long pause. */
function heard(text: string): Word[] {
  let at = 0;
  return text.split(' ').flatMap((part) => {
    if (part === '|') {
      at += 2;
      return [];
    }
    const start = at;
    at += 0.5;
    return [{ text: part.replace('?', ''), start, end: start + 0.4, confidence: part.startsWith('?') ? 0.2 : 0.9 }];
  });
}

describe('doubtful words', () => {
  it('are looked at together where they stand together, four at the most', () => {
    const words = heard('the ?votes ?our in | ?now | ?a ?b ?c ?d ?e | ?one | ?two');
    expect(doubtsOf(words).map(({ text }) => text)).toEqual(['votes our', 'now', 'a b c d', 'e', 'one', 'two']);
    expect(doubtsOf(words)[0]).toEqual({ from: 1, to: 3, start: 0.5, end: 1.4, text: 'votes our' });
    expect(doubtsOf(heard('the boats are in'))).toEqual([]);
  });
  it('were misheard elsewhere too, unless somebody has put that right', () => {
    const words = heard('?votes our | the Votes, our | ?votes our | votes');
    expect(sameElsewhere(words, { from: 0, to: 2 })).toEqual([3, 5]);
    const put = applyWordsCommand(words, { type: 'correct', from: 3, to: 5, text: 'votes our' });
    expect(put.ok && sameElsewhere(put.words, { from: 0, to: 2 })).toEqual([5]);
    // Not over itself.
    expect(sameElsewhere(heard('?no ?no no'), { from: 0, to: 2 })).toEqual([]);
  });
  it('are put right everywhere by one edit, also by more words than were heard', () => {
    const words = heard('?votes in | ?votes out | ?votes gone');
    const edit = (places: number[], count = 1) =>
      applyWordsCommand(words, { type: 'correctAll', places, count, text: 'the boats' });
    const all = edit([4, 0, 2]);
    expect(all.ok && all.words.map(({ text }) => text).join(' ')).toBe('the boats in the boats out the boats gone');
    expect(all.ok && all.words.map(({ start }) => start)).toEqual(
      all.ok ? all.words.map(({ start }) => start).toSorted((a, b) => a - b) : [],
    );
    expect(all.ok && doubtsOf(all.words)).toEqual([]);
    expect(edit([0, 1], 2)).toEqual({ ok: false, reason: 'These words lie over one another.' });
  });
});
