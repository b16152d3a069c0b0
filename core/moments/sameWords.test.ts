import { describe, expect, it } from 'vitest';
import { chooseForTarget, defaultLimits, defaultMix, defaultPieceLength, layGround, prepare } from '.';
import { numbered, wordsAgree, type SaidWord } from './sameWords';
import { footage } from './testFootage';

const words = (text: string, start = 0, each = 0.3): SaidWord[] =>
  text.split(' ').map((word, index) => ({
    text: word,
    start: start + index * each,
    end: start + index * each + 0.2,
  }));
const agree = (one: string, other: string) => wordsAgree(numbered(words(one)), numbered(words(other)));

describe('the same words', () => {
  // As the recogniser heard the demo by two microphones.
  it.each([
    [
      'if we reach the other side my goal to see as it is them',
      "if we reach the other side's michael to see us it is them",
    ],
    [
      'that is not sunk in the box that second one sunk cost of',
      'this looks onto the boss the second one sunk cost of',
    ],
    ['Did you ever think about giving up?', 'did you ever think about giving up'],
  ])('“%s” is “%s”', (one, other) => expect(agree(one, other)).toBe('same'));
  it.each([
    [
      "if we reach the other side my goal to see as it's them",
      'that like a result of all cases and the dots hot glue to the other side',
    ],
    ['so this is number three we had to', 'this year i got told the tag to be'],
  ])('“%s” is not “%s”, for all the short words that they share', (one, other) =>
    expect(agree(one, other)).toBe('unknown'),
  );
  it('a few words are said by chance once more', () => expect(agree('yes it is a', 'yes it is a')).toBe('unknown'));
  it('half heard ones may be the same: the sound decides', () =>
    expect(agree('the captain never folds his paper twice', 'the captain and a further bowl of rice')).toBe('perhaps'));
});

describe('a sentence that two cameras heard', () => {
  const line = 'we fold every box twice before it swims';
  // The levels of the two have nothing in common.
  const heard = (id: string, level: (t: number) => number) =>
    footage(
      12,
      { speech: (t) => (t >= 4 && t < 8 ? 1 : 0), faces: () => 1, faceArea: () => 0.05, wave: level },
      [
        { kind: 'scene', start: 0, end: 12 },
        { kind: 'speech', start: 4, end: 8 },
      ],
      id,
    );
  const files = [
    heard('a', (t) => (t >= 4 && t < 8 ? 0.3 + 0.3 * Math.sin(t * 9) : 0)),
    heard('b', (t) => (t >= 4 && t < 8 ? 0.3 + 0.3 * Math.cos(t * 23) : 0)),
  ];
  const choice = (spoken: Record<string, SaidWord[]>) =>
    chooseForTarget(
      files.map((file) =>
        layGround(prepare(file), { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength }, [], {
          words: spoken[file.id] ?? [],
        }),
      ),
      12,
    );
  const talks = ({ moments }: ReturnType<typeof choice>) => moments.filter(({ kind }) => kind === 'talk').length;

  it('is taken once, where the words are known', () => {
    expect(talks(choice({}))).toBe(2);
    const known = choice({ a: words(line, 4.2, 0.4), b: words(line, 4.3, 0.4) });
    expect(talks(known)).toBe(1);
    expect(known.doubles).toHaveLength(1);
    expect(known.doubles[0]!.of.media).not.toBe(known.doubles[0]!.media);
  });
  it('is taken once, where the cameras ran together', () => {
    const ran = (offsetSeconds: number) =>
      chooseForTarget(
        files.map((file) =>
          layGround(prepare(file), { mix: defaultMix, limits: defaultLimits, piece: defaultPieceLength }, [], {
            clock: { group: 'bin', offsetSeconds: file.id === 'b' ? offsetSeconds : 0 },
          }),
        ),
        12,
      );
    expect(talks(ran(0.4))).toBe(1);
    expect(talks(ran(60))).toBe(2);
  });
  it('another sentence is not left out, also when words come after the first choice', () => {
    choice({ a: words(line, 4.2, 0.4), b: words(line, 4.3, 0.4) });
    const other = words('the water came in through the second seam today', 4.3, 0.4);
    expect(talks(choice({ a: words(line, 4.2, 0.4), b: other }))).toBe(2);
  });
});
