import { describe, expect, it } from 'vitest';
import { prepare } from '#core/moments';
import { sentences } from '#core/words';
import type { Hook } from './hooks';
import { recording, say, subjects } from './testTalks';
import { reasonAfter, reasonOf, titleAfter, titleOf, Vocabulary } from './titles';
import { shortParts, type ShortPart } from './types';

const words = say(
  'And so it was in the water. The hull of a cardboard boat is folded from one sheet, and a wet seam opens. It is what it is. The boat floats.',
  0,
);
const told = sentences(words);
const vocabulary = new Vocabulary(told);
const from = (first: number, last: number) => [{ start: told[first]!.start, end: told[last]!.end }];

describe('how rare words are', () => {
  it('is the logarithm of sentences by sentences that hold them (inverse document frequency, Spärck Jones 1972)', () => {
    // Four sentences; "boat" in two of them, "hull" in one, "trumpet" in none.
    expect(vocabulary.rarity('boat')).toBeCloseTo(Math.log(5 / 3), 9);
    expect(vocabulary.rarity('hull')).toBeCloseTo(Math.log(5 / 2), 9);
    expect(vocabulary.rarity('trumpet')).toBeCloseTo(Math.log(5), 9);
  });
  it('of a text is the mean over its words that say something; of none it is nothing', () => {
    expect(vocabulary.weight('the hull and a boat')).toBeCloseTo(
      (Math.log(5 / 2) + Math.log(5 / 3)) / 2 / Math.log(5),
      9,
    );
    expect(vocabulary.weight('it is what it is')).toBe(0);
  });
  it('words are spelled as they were said first', () => {
    const spoken = new Vocabulary(sentences(say('Boats sink. A boat sinks.', 0)));
    expect(spoken.spelled('boat')).toBe('boats');
  });
});

describe('titles out of what is said', () => {
  it('are a clause of it that says much in few words, with a capital and without its full stop', () => {
    const title = titleOf(from(0, 3), told, vocabulary, new Set())!;
    expect(title).toMatch(/^[A-Z]/);
    expect(title).not.toMatch(/[.,]$/);
    expect(title.length).toBeLessThanOrEqual(44);
    expect(words.map((word) => word.text.toLowerCase().replace(/[.,]/g, '')).join(' ')).toContain(title.toLowerCase());
  });
  it('come only from sentences that are mostly in the short', () =>
    expect(titleOf(from(3, 3), told, vocabulary, new Set())).toBe('The boat floats'));
  it('never rest on a doubtful word: another clause is taken, or none', () => {
    const heard = words.map((word) => (/hull|floats|water/.test(word.text) ? { ...word, confidence: 0.2 } : word));
    const spoken = sentences(heard);
    const title = titleOf(from(0, 3), spoken, new Vocabulary(spoken), new Set())!;
    expect(title).not.toMatch(/hull|floats|water/i);
    expect(title).toBe('And a wet seam opens');
    const unsure = sentences(words.map((word) => ({ ...word, confidence: 0.2 })));
    expect(titleOf(from(0, 3), unsure, new Vocabulary(unsure), new Set())).toBeNull();
  });
  it('are not given twice while there is another', () => {
    const first = titleOf(from(0, 3), told, vocabulary, new Set())!;
    const second = titleOf(from(0, 3), told, vocabulary, new Set([first]))!;
    expect(second).not.toBe(first);
  });
  it('never hang in the air, even when one long sentence has to be cut', () => {
    const long = sentences(
      say(
        'The baker of the village by the pond kneads flour and water and salt for the bread of the regatta all night.',
        0,
      ),
    );
    const title = titleOf([{ start: 0, end: 20 }], long, new Vocabulary(long), new Set())!;
    expect(title.length).toBeLessThanOrEqual(44);
    expect(title).not.toMatch(/\b(a|an|the|of|to|in|on|at|and|or|for|with|by)$/i);
  });
  describe('after words were corrected', () => {
    const wrong = sentences(say('The yellow sale is in front already. Nobody ever expected that.', 0));
    const right = sentences(say('The yellow sail is in front already. Nobody ever expected that.', 0));
    const whole = [{ start: 0, end: 30 }];
    it('are the same clause as it reads now', () => {
      expect(titleAfter('The yellow sale is in front already', whole, wrong, right, new Set())).toBe(
        'The yellow sail is in front already',
      );
    });
    it('stay where they do not rest on what was corrected, or were typed by hand', () => {
      expect(titleAfter('Nobody ever expected that', whole, wrong, right, new Set())).toBeNull();
      expect(titleAfter('My own words', whole, wrong, right, new Set())).toBeNull();
      expect(
        titleAfter('The yellow sale is in front already', [{ start: 100, end: 110 }], wrong, right, new Set()),
      ).toBeNull();
    });
    it('a reason says how the short opens then', () => {
      const [before, after] = [
        say('Who is in front? The pond is full.', 0),
        say('She is in front. The pond is full.', 0),
      ].map((own) => sentences(own));
      expect(reasonAfter('Opens with a question, two faces', whole, before!, after!)).toBe('Two faces');
      expect(reasonAfter('Opens with a question', whole, before!, after!)).toBe('The best of what is left');
      expect(reasonAfter('Two faces', whole, before!, after!)).toBeNull();
      expect(reasonAfter('Opens with a question', whole, before!, before!)).toBeNull();
    });
  });
  it('without words there is none', () =>
    expect(titleOf([{ start: 100, end: 110 }], told, vocabulary, new Set())).toBeNull());
  it('a lecture’s subjects are named by their own words', () => {
    for (const [index, subject] of subjects.entries()) {
      const own = sentences(say(subject, 0));
      const title = titleOf(
        [{ start: 0, end: own.at(-1)!.end }],
        own,
        new Vocabulary(sentences(subjects.flatMap((text, at) => say(text, at * 60)))),
        new Set(),
      )!;
      expect(title.toLowerCase(), title).toMatch(
        [
          /hull|fold|seam|tape|cardboard/,
          /duck|nest|reed|heron|feather/,
          /bread|bak|flour|dough|oven|loaf|crumb/,
          /drum|trumpet|song|band|beat/,
        ][index]!,
      );
    }
  });
});

describe('reasons', () => {
  const none: Hook = { kind: 'none', strength: 0 };
  const quiet = recording(say(subjects[0]!, 1), 60);
  const loud = recording(say(subjects[0]!, 1), 60, (traces) => traces.bursts.fill(0.8, 280, 300));
  const shares = (over: Partial<Record<ShortPart, number>>) =>
    ({ ...Object.fromEntries(shortParts.map((part) => [part, 0])), ...over }) as Record<ShortPart, number>;
  const reason = (
    from: typeof quiet,
    over: Partial<Record<ShortPart, number>>,
    hook: Hook = none,
    pieces = [{ start: 2, end: 30 }],
    theme: string | null = null,
  ) => reasonOf(prepare(from.footage), pieces, shares(over), hook, { theme, isDoubtful: false });

  it('say what is there, at most three things, and nothing that is not', () => {
    expect(reason(quiet, {})).toBe('The best of what is left');
    expect(reason(quiet, { whole: 0.9, speech: 0.9 })).toBe('A whole thought, clear speech');
    expect(reason(quiet, { speech: 0.9 }, { ...none, kind: 'question', strength: 0.8 })).toBe(
      'Opens with a question, clear speech',
    );
    expect(reason(quiet, { action: 0.9, reactions: 0.9, whole: 0.9, speech: 0.9 }).split(', ')).toHaveLength(3);
  });
  it('a weak hook is not praised', () =>
    expect(reason(quiet, { whole: 0.9 }, { ...none, kind: 'question', strength: 0.2 })).toBe('A whole thought'));
  it('a loud end is heard in the last seconds only', () => {
    expect(reason(loud, {})).toBe('Ends on a loud moment');
    expect(reason(loud, {}, none, [{ start: 2, end: 20 }])).toBe('The best of what is left');
  });
  it('of several pieces it says how many, in words, and about what', () =>
    expect(
      reason(
        quiet,
        {},
        none,
        [
          { start: 2, end: 8 },
          { start: 12, end: 18 },
          { start: 20, end: 30 },
        ],
        'seams',
      ),
    ).toBe('Three pieces about “seams”'));
});
