import { describe, expect, it } from 'vitest';
import { overlap } from '#core/time';
import { sentences, spread } from '#core/words';
import { findShorts, layShorts, lengthOfShort, rankShorts, shortParts, shortsDefaults, type ShortsWish } from '.';
import { cosine, depthScores, topicBoundaries } from './topics';
import { idlePauses, repeatedStarts, Trimmed } from './trimmings';
import { judgeMaterial } from './material';
import { mostShared, sharedSeconds } from './find';
import { sentenceHook } from './hooks';
import { prepare } from '#core/moments';
import { longTalk, recording, say, subjects } from './testTalks';

describe('where the subject changes (TextTiling, Hearst 1997)', () => {
  const words = say(subjects.join(' '), 1);
  const all = sentences(words);
  it('four subjects have three boundaries, each within a sentence of the truth', () => {
    const counts = subjects.map((text) => text.match(/[.!?]/g)!.length);
    const truth = [counts[0]!, counts[0]! + counts[1]!, counts[0]! + counts[1]! + counts[2]!];
    const found = topicBoundaries(words, all).map(({ sentence }) => sentence);
    expect(found.length).toBe(3);
    found.forEach((sentence, index) => expect(Math.abs(sentence - truth[index]!)).toBeLessThanOrEqual(1));
  });
  it('one subject has none, and a short text is not parted', () => {
    expect(topicBoundaries(say(subjects[0]!, 1), sentences(say(subjects[0]!, 1)))).toEqual([]);
    expect(topicBoundaries(say('Hello there. Good day.', 0), sentences(say('Hello there. Good day.', 0)))).toEqual([]);
  });
  it('cosine and depth, worked by hand', () => {
    expect(
      cosine(
        new Map([
          ['a', 1],
          ['b', 2],
        ]),
        new Map([
          ['b', 2],
          ['c', 1],
        ]),
      ),
    ).toBeCloseTo(0.8, 9);
    expect(cosine(new Map(), new Map([['a', 1]]))).toBe(0);
    // From 0.2 likeness climbs to 0.9 on the left and to 0.7 on the right.
    expect(depthScores([0.5, 0.9, 0.2, 0.6, 0.7, 0.4])[2]).toBeCloseTo(0.7 + 0.5, 9);
  });
});

describe('what is heard doubtfully', () => {
  const talk = longTalk(3, 12);
  const mumbled = { ...talk, words: talk.words.map((word) => ({ ...word, confidence: 0.25 })) };
  const found = (from: typeof talk) => findShorts(layShorts(from, { ...shortsDefaults, material: 'talk' }));
  it('gives no titles, hooks or whole thoughts; sound, faces and motion decide, and it says so', () => {
    const said = new Set(talk.words.map((word) => word.text.toLowerCase().replace(/[^a-z]/g, '')));
    const [clear, doubtful] = [found(talk), found(mumbled)];
    expect(clear.every(({ reason }) => !reason.includes('doubtful'))).toBe(true);
    expect(doubtful.length).toBeGreaterThan(0);
    for (const short of doubtful) {
      expect(short.reason).toMatch(/its words are doubtful, so sound, faces and motion decided$/);
      expect(short.reason).not.toMatch(/question|strong line|figure|speaks to the viewer|whole thought|clear speech/);
      // Its title is made of what is seen, not of what may have been said.
      const spoken = clear.some(({ title }) => title === short.title);
      expect(spoken && short.title.split(' ').every((word) => said.has(word.toLowerCase()))).toBe(false);
    }
    expect(Math.max(...doubtful.map(({ score }) => score))).toBeLessThan(
      Math.max(...clear.map(({ score }) => score)) * 0.8,
    );
  });
});

describe('hooks, on worked sentences', () => {
  it.each([
    ['And what is the secret?', 'question'],
    ['How long did it take', 'question'],
    ['Nobody has a motor!', 'statement'],
    ['I regret nothing.', 'statement'],
    ['It carried four bags of flour.', 'number'],
    ['You can hear the water.', 'address'],
    ['The grass is green over there.', 'none'],
  ])('“%s” is a %s', (text, kind) => expect(sentenceHook(text).kind).toBe(kind));
  it('a question and a strong line are worth more than a plain one; one that leans on what was said, less', () => {
    expect(sentenceHook('What floats?').strength).toBeGreaterThan(sentenceHook('The boat floats.').strength);
    expect(sentenceHook('Nobody ever finished.').strength).toBeGreaterThan(
      sentenceHook('They finished late in the afternoon.').strength,
    );
    expect(sentenceHook('And nobody ever finished.').strength).toBeLessThan(
      sentenceHook('Nobody ever finished.').strength,
    );
  });
});

describe('what is cut out inside', () => {
  it('starts that were begun again lose the first time; stress and lists stay', () => {
    const at = (text: string) => spread(text.split(' '), 0, text.length / 14);
    const words = at('we tested it we tested it with flour');
    expect(repeatedStarts(words)).toEqual([{ start: 0, end: words[3]!.start }]);
    expect(repeatedStarts(at('it was the the best'))).toHaveLength(1);
    for (const meant of [
      'it was very very cold',
      'Row, row to the pier',
      'no no that is wrong',
      'Nobody has a motor. Nobody has a plan.',
    ])
      expect(repeatedStarts(at(meant))).toEqual([]);
  });
  it('idle pauses are shortened to a breath, those in which something happens are kept', () => {
    const words = [...say('Here it comes.', 1), ...say('There it goes.', 5), ...say('Gone.', 9)];
    const own = recording(words, 12, (traces) => traces.bursts.fill(1, 60, 92));
    const pauses = idlePauses(words, prepare(own.footage));
    expect(pauses).toHaveLength(1);
    expect(pauses[0]!.start).toBeCloseTo(words[2]!.end + 0.4, 6);
    expect(pauses[0]!.end).toBeCloseTo(5 - 0.15, 6);
  });
  it('lengths and pieces of what is left agree', () => {
    const trimmed = new Trimmed([
      { start: 2, end: 3 },
      { start: 5, end: 7 },
      { start: 9, end: 9.1 },
    ]);
    expect(trimmed.shown({ start: 0, end: 10 })).toBeCloseTo(7, 9);
    expect(trimmed.shown({ start: 2.5, end: 6 })).toBeCloseTo(2, 9);
    expect(trimmed.pieces({ start: 1, end: 8 })).toEqual([
      { start: 1, end: 2 },
      { start: 3, end: 5 },
      { start: 7, end: 8 },
    ]);
  });
});

describe('the shorts of a recording', () => {
  const wishes: [string, Partial<ShortsWish>][] = [
    ['usual', {}],
    ['up to 30 s', { minSeconds: 8, maxSeconds: 30 }],
    ['long ones', { minSeconds: 60, maxSeconds: 180 }],
    ['uncut', { cutPauses: false, cutRepeats: false }],
    ['of pieces', { form: 'pieces' }],
    ['of a part', { range: { start: 200, end: 500 } }],
    ['sport', { material: 'sport', minSeconds: 8, maxSeconds: 20 }],
  ];
  it.each(wishes)('%s: as long as wished, no cut word, little in common, scores add up', (_, more) => {
    for (const seed of [1, 2]) {
      const own = longTalk(seed, 10);
      const wish = { ...shortsDefaults, ...more };
      const found = findShorts(layShorts(own, wish));
      expect(found.length).toBeGreaterThanOrEqual(wish.range ? 2 : 3);
      for (const [index, short] of found.entries()) {
        expect(lengthOfShort(short)).toBeGreaterThanOrEqual(wish.minSeconds - 1e-6);
        expect(lengthOfShort(short)).toBeLessThanOrEqual(wish.maxSeconds + 1e-6);
        for (const { start, end } of short.pieces) {
          expect(start).toBeGreaterThanOrEqual(wish.range?.start ?? 0);
          expect(end).toBeLessThanOrEqual(wish.range?.end ?? own.footage.durationSeconds);
          // Every word is either in a piece or out of it.
          expect(
            own.words.filter((word) => [start, end].some((edge) => edge > word.start + 1e-6 && edge < word.end - 1e-6)),
          ).toEqual([]);
        }
        short.pieces.slice(1).forEach((piece, at) => expect(overlap(piece, short.pieces[at]!)).toBe(0));
        for (const other of found.slice(0, index))
          expect(sharedSeconds(short.pieces, other.pieces)).toBeLessThanOrEqual(
            mostShared * Math.min(lengthOfShort(short), lengthOfShort(other)) + 1e-6,
          );
        expect(shortParts.reduce((sum, part) => sum + short.parts[part], 0)).toBeCloseTo(short.score, 6);
        expect(short.title.length).toBeGreaterThan(2);
        expect(short.reason).toMatch(/^\p{Lu}/u);
      }
    }
  });
  it('a range beyond the end of the recording ends with it', () => {
    const own = recording(
      say('What floats? Nobody knows. The boat lies in the water. It stays dry all day long.', 1),
      9.2,
    );
    const found = findShorts(
      layShorts(own, { ...shortsDefaults, minSeconds: 3, maxSeconds: 9, range: { start: 0, end: 1e9 } }),
    );
    expect(found.length).toBeGreaterThan(0);
    for (const short of found) expect(short.pieces.at(-1)!.end).toBeLessThanOrEqual(9.2);
  });
  it('one that answers a request comes before one that does not', () => {
    const own = longTalk(4, 12);
    const asked = [{ start: 400, end: 420 }];
    const found = findShorts(layShorts(own, { ...shortsDefaults, asked }));
    expect(sharedSeconds(found[0]!.pieces, asked)).toBeGreaterThan(3);
  });
  it('begins with a hook: of two like stretches the one with the question first', () => {
    const plain =
      'The water in the pond is green today. A boat of cardboard lies on the grass near the pier. The rower carries the paddle over to the water.';
    const words = [...say(plain, 2), ...say(`What is the secret of the boat? ${plain}`, 40)];
    const found = findShorts(layShorts(recording(words, 80), { ...shortsDefaults, minSeconds: 5, maxSeconds: 14 }));
    expect(found[0]!.pieces[0]!.start).toBeGreaterThan(39);
    expect(found[0]!.reason).toMatch(/question/i);
  });
  it('offers other endings, each with the words it ends on', () => {
    const found = findShorts(layShorts(longTalk(5, 10), shortsDefaults));
    for (const { endings, pieces } of found) {
      expect(endings.length).toBe(3);
      expect(endings.some(({ end }) => Math.abs(end - pieces.at(-1)!.end) < 0.02)).toBe(true);
      expect(endings.every(({ says }) => says.length > 3)).toBe(true);
    }
  });
  it('without a word: the loud and fast places, cut at quiet points', () => {
    const own = recording(
      [],
      300,
      (traces) => {
        for (let index = 0; index < traces.motion.length; index++)
          traces.motion[index] = 0.1 + 0.05 * Math.sin(index / 9);
        for (const at of [60, 150, 240]) {
          traces.bursts.fill(0.9, at * 10, at * 10 + 40);
          traces.motion.fill(0.9, at * 10 - 30, at * 10 + 20);
        }
      },
      Array.from({ length: 60 }, (_, index) => ({ kind: 'scene' as const, start: index * 5, end: index * 5 + 5 })),
    );
    const found = findShorts(
      layShorts(own, { ...shortsDefaults, material: 'sport', count: 3, minSeconds: 8, maxSeconds: 15 }),
    );
    expect(found.length).toBeGreaterThanOrEqual(3);
    for (const at of [60, 150, 240])
      expect(found.slice(0, 3).some((short) => sharedSeconds(short.pieces, [{ start: at, end: at + 4 }]) > 2)).toBe(
        true,
      );
  });
  it('two hours take well under the three seconds after reading (ratio to the footage, not a timing)', () => {
    const own = longTalk(6, 120);
    expect(own.words.length).toBeGreaterThan(10_000);
    expect(findShorts(layShorts(own, { ...shortsDefaults, count: 10 })).length).toBeGreaterThanOrEqual(10);
  });
});

describe('see for yourself', () => {
  it('takes a talk for a talk and a race for sport, and says why', () => {
    const talk = longTalk(7, 5);
    expect(judgeMaterial(talk)).toMatchObject({ material: 'talk' });
    expect(judgeMaterial(talk).because).toMatch(/% of it is speech/);
    const race = recording([], 120, (traces) => {
      traces.motion.fill(0.6);
      for (let at = 0; at < 1200; at += 60) traces.bursts.fill(0.8, at, at + 12);
    });
    expect(judgeMaterial(race)).toMatchObject({ material: 'sport' });
    const ride = recording([], 120, () => undefined, [{ kind: 'smooth', start: 0, end: 100 }]);
    expect(judgeMaterial(ride)).toMatchObject({ material: 'travel' });
  });
});

describe('thumbs', () => {
  const short = (id: string, score: number, hook: number, faces: number) => ({
    id,
    score,
    parts: { hook, speech: 5, faces, action: 0, reactions: 0, whole: 5, picture: 5 },
  });
  const list = [short('a', 60, 20, 2), short('b', 58, 2, 20), short('c', 56, 18, 3), short('d', 54, 3, 18)];
  it('without them the score decides', () =>
    expect(rankShorts([...list].reverse(), new Map()).map(({ id }) => id)).toEqual(['a', 'b', 'c', 'd']));
  it('praise comes first, what is unwanted last, and what is alike follows at once', () => {
    expect(rankShorts(list, new Map([['b', 'up']])).map(({ id }) => id)).toEqual(['b', 'd', 'a', 'c']);
    expect(rankShorts(list, new Map([['a', 'down']])).map(({ id }) => id)).toEqual(['b', 'd', 'c', 'a']);
  });
});
