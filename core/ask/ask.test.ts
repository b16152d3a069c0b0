import { describe, expect, it } from 'vitest';
import { footage } from '../moments/testFootage';
import type { Run } from '#core/readings';
import type { Word } from '#core/words';
import { answerRequest, lexiconOf, parseRequest, stem, type AskContext } from '.';
import { describeTerm } from './describe';
import type { Node } from './types';

const words: Word[] = 'Hold the paddle low . Nobody sinks today .'.split(' ').reduce<Word[]>((list, text, index) => {
  if (text === '.') list.at(-1)!.text += '.';
  else list.push({ text, start: 40 + index * 0.5, end: 40.4 + index * 0.5, confidence: 1 });
  return list;
}, []);
const lexicon = lexiconOf(
  [
    { id: 'p1', name: 'Aunt Runa' },
    { id: 'p2', name: 'Person 2' },
  ],
  ['start of the race', 'boat sinks'],
  [words],
);
const parse = (text: string) => parseRequest(text, lexicon);
/** A tree as text: (a and (not b)). */
const draw = (node: Node | null): string =>
  !node
    ? ''
    : node.op === 'chip'
      ? describeTerm(node.chip.term)
      : node.op === 'not'
        ? `not ${draw(node.of)}`
        : `(${node.of.map(draw).join(` ${node.op} `)})`;

describe('grammar', () => {
  it.each([
    ['boats', 'boat'],
    ['boats close up', '(boat and close)'],
    ['show me all the shots of two faces and a dog', '(2 faces and dog)'],
    ['at least 3 people, not shaky', '(3 faces or more and not shaky)'],
    ['boats or dogs but no talking', '(boat or (dog and not talk))'],
    ['(boats or dogs) without talking', '((boat or dog) and not talk)'],
    ['not boats or dogs', '(not boat or dog)'],
    ['no one', 'nobody'],
    ['everyone laughing', 'smiling'],
    ['zoom in', 'zoom in'],
    ['whip pan left', 'whip pan left'],
    ['fast, loud, close-up', '(much motion and loud and close)'],
    ['first ten minutes', 'before 10:00'],
    ['last 90 seconds', 'after 1:30 before the end'],
    ['first half an hour', 'before 30:00'],
    ['after 1:20', 'after 1:20'],
    ['at 10:20:30', 'timecode 10:20:30'],
    ['boats at 10:20:30:12', '(boat and timecode 10:20:30:12)'],
    ['between 0:10 and 1:20', '0:10 to 1:20'],
    ['after the start of the race marker', 'after the marker “start of the race”'],
    ['before boat sinks', 'before the marker “boat sinks”'],
    ['Aunt Runa talking', '(Aunt Runa and talk)'],
    ['runa', 'Aunt Runa'],
    ['"nobody sinks"', '“nobody sink” is said'],
    ['paddle', '“paddle” is said'],
    ['says sinks', '“sink” is said'],
    ['three boats', '3 × boat'],
    ['calm water lilies', 'little motion'],
  ])('%s', (text, tree) => expect(draw(parse(text).tree)).toBe(tree));

  it('lists what it did not understand and passes over what only fills', () => {
    expect(parse('only the girl in the red hat').unknown).toEqual(['girl', 'red', 'hat']);
    expect(parse('show me the moments where boats are').unknown).toEqual([]);
    expect(parse('').tree).toBeNull();
    expect(parse('or and ) not (').tree).toBeNull();
  });
  it('says where each chip stands in the text, so that it can be changed there', () => {
    const text = 'boats, not  talking and "low"';
    expect(parse(text).chips.map((chip) => [text.slice(chip.start, chip.end), chip.not])).toEqual([
      ['boats', false],
      ['talking', true],
      ['"low"', false],
    ]);
  });
  it('offers other readings: a name that is also said', () => {
    const spoken = lexiconOf([], [], [[{ text: 'Boats', start: 0, end: 1, confidence: 1 }]]);
    expect(parseRequest('boats', spoken).chips[0]!.instead).toEqual([{ label: '“boats” is said', text: '"boats"' }]);
  });
  it('stems like the first steps of Porter (1980), whose own examples these are', () => {
    expect(['caresses', 'ponies', 'cats', 'plastered', 'motoring', 'hopping', 'sized'].map(stem)).toEqual([
      'caress',
      'pony',
      'cat',
      'plaster',
      'motor',
      'hop',
      'siz',
    ]);
  });
});

describe('answers', () => {
  const runs: Run[] = [
    { kind: 'scene', start: 0, end: 60 },
    { kind: 'object', label: 'boat', start: 5, end: 15, amount: 2, size: 0.3 },
    { kind: 'object', label: 'boat', start: 20, end: 30, amount: 1, size: 0.02 },
    { kind: 'shaky', start: 12, end: 18 },
    { kind: 'smooth', label: 'in', start: 33, end: 36 },
    { kind: 'speech', start: 40, end: 44 },
    { kind: 'silence', start: 50, end: 60 },
  ];
  const file = footage(
    60,
    {
      motion: (t) => (t >= 5 && t < 10 ? 0.9 : 0.02),
      faces: (t) => (t >= 40 && t < 48 ? 2 : 0),
      faceArea: (t) => (t >= 40 && t < 48 ? 0.1 : 0),
      loudness: (t) => (t < 50 ? -24 : -60),
      bursts: (t) => (t >= 26 && t < 28 ? 1 : 0),
      smile: (t) => (t >= 44 && t < 47 ? 0.9 : 0),
    },
    runs,
  );
  const other = footage(
    20,
    { motion: () => 0.9 },
    [
      { kind: 'scene', start: 0, end: 20 },
      { kind: 'object', label: 'boat', start: 0, end: 20, amount: 1, size: 0.3 },
    ],
    'b',
  );
  const context: AskContext = {
    files: [
      { footage: file, offset: 0, words, people: new Map([['p1', [{ start: 45, end: 48 }]]]) },
      { footage: other, offset: 60, words: [], people: new Map() },
    ],
    totalSeconds: 80,
    markers: [{ note: 'start of the race', seconds: 22 }],
  };
  const ask = (text: string) => answerRequest(parseRequest(text, lexicon), context);
  const where = (text: string) =>
    ask(text)
      .map(({ media, start, end }) => `${media} ${start.toFixed(1)}-${end.toFixed(1)}`)
      .sort();

  it('by hand', () => {
    expect(where('boats')).toEqual(['a 20.0-30.0', 'a 5.0-15.0', 'b 0.0-20.0']);
    expect(where('boats close up')).toEqual(['a 5.0-15.0', 'b 0.0-20.0']);
    expect(where('boats not shaky')).toEqual(['a 20.0-30.0', 'a 5.0-12.0', 'b 0.0-20.0']);
    expect(where('two boats')).toEqual(['a 5.0-15.0']);
    expect(where('zoom in or silence')).toEqual(['a 33.0-36.0', 'a 50.0-60.0']);
    expect(where('runa')).toEqual(['a 45.0-48.0']);
    expect(where('boats after the start of the race marker')).toEqual(['a 22.0-30.0', 'b 0.0-20.0']);
    expect(where('boats in the last 15 seconds')).toEqual(['b 5.0-20.0']);
    expect(where('smiling')).toEqual(['a 43.9-47.1']);
  });
  it('finds spoken words with the sentence around them', () => {
    expect(where('"paddle low"')).toEqual(['a 39.8-42.1']);
    expect(ask('"paddle low"')[0]!.reasons).toEqual(['“paddle low” is said at 0:41']);
    expect(where('"low paddle"')).toEqual([]);
  });
  it('ranks with reasons: much motion throughout stands above motion for a moment', () => {
    const hits = ask('boats, fast');
    expect(hits.every((hit, index) => index === 0 || hit.fit <= hits[index - 1]!.fit)).toBe(true);
    expect(hits[0]!.reasons).toContain('boat');
    expect(hits.flatMap((hit) => hit.reasons)).toEqual(expect.arrayContaining([expect.stringMatching(/much motion/)]));
    expect(ask('boats without shaky').find((hit) => hit.start === 5)!.reasons).toEqual(['2 × boat', 'not shaky']);
  });
  it('"not" and "or" keep to de Morgan: not (a or b) finds what not a and not b finds', () => {
    expect(where('not (boats or talking)')).toEqual(where('not boats and not talking'));
    expect(where('not (boats and talking)')).toEqual(where('not boats or not talking'));
  });
  it('finds what the camera’s own count says, in the files that have it', () => {
    // 25 frames a second, from 10:20:00:00 on; nothing of it is asked of files that do not count.
    const start = { timecode: '10:20:00:00', seconds: 37_200, rate: { num: 25, den: 1 } };
    const counted = (code: string) =>
      answerRequest(parse(`at ${code}`), { ...context, files: context.files.map((file) => ({ ...file, start })) });
    expect(counted('10:20:30')[0]).toMatchObject({ start: 30, end: 34, reasons: ['timecode 10:20:30'] });
    expect(counted('10:20:30:10')[0]!.start).toBeCloseTo(30.4, 1);
    expect([counted('09:00:00'), ask('at 10:20:30')]).toEqual([[], []]);
  });
  it('gives nothing for nothing', () => expect(ask('the red hat')).toEqual([]));
});
