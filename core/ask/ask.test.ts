import { describe, expect, it } from 'vitest';
import { footage } from '../moments/testFootage';
import type { Run } from '#core/readings';
import type { Word } from '#core/words';
import { answerRequest, lexiconOf, loadThesaurus, parseRequest, stem, type AskContext } from '.';
import { describeTerm } from './describe';
import type { Node } from './types';

const words: Word[] = 'Hold the paddle low . Nobody sinks today .'.split(' ').reduce<Word[]>((list, text, index) => {
  if (text === '.') list.at(-1)!.text += '.';
  else list.push({ text, start: 40 + index * 0.5, end: 40.4 + index * 0.5, confidence: 1 });
  return list;
}, []);
const thesaurus = await loadThesaurus();
const lexicon = lexiconOf(
  {
    people: [
      { id: 'p1', name: 'Aunt Runa' },
      { id: 'p2', name: 'Person 2' },
    ],
    notes: ['start of the race', 'boat sinks'],
    names: [
      { what: 'file', name: 'captain-close.mp4', media: ['c'] },
      { what: 'file', name: 'IMG_2034.jpg', media: ['d'] },
      { what: 'bin', name: 'Prize giving', media: ['c', 'd'] },
    ],
    thesaurus,
  },
  [words],
);
const parse = (text: string) => parseRequest(text, lexicon);
/** A tree as text: (a and (not b)). */
const draw = (node: Node | null): string => {
  if (!node) return '';
  if (node.op === 'chip') return describeTerm(node.chip.term);
  if (node.op === 'not' || node.op === 'near') return `${node.op === 'near' ? node.where : 'not'} ${draw(node.of)}`;
  return `(${node.of.map(draw).join(` ${node.op} `)})`;
};

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
    ['everyone laughing', 'everyone smiling'],
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
    // Whole sentences, in a person's words.
    ['compile all the scenes with the boat', 'boat'],
    ['what did the captain say about the paddle', '“paddle” is said'],
    ['says nobody sinks today', '“nobody sink today” is said'],
    ['no people', 'nobody'],
    ['boats without people', '(boat and nobody)'],
    ['a girl, smiling', '(somebody and smiling)'],
    ['at least two people', '2 faces or more'],
    ['two or more faces', '2 faces or more'],
    ['more than two boats', '3 × boat'],
    ['everyone', '3 faces or more'],
    ['they cheered', 'cheering'],
    // WordNet 3.1: a yawl is a kind of boat, "serene" means calm, a "tape" may be a "videotape".
    ['yawls', 'boat'],
    ['serene', 'little motion'],
    // Damerau (1964): one letter wrong, missing, too many, or two that changed places.
    ['somone', 'somebody'],
    ['runs', ''],
    ['peddle boats', 'boat'],
    ['chering', 'cheering'],
    ['Aunt Rnua', 'Aunt Runa'],
    // Files, bins, days.
    ['captain', 'captain-close.mp4'],
    ['IMG_2034', 'IMG_2034.jpg'],
    ['boats in prize giving', '(boat and bin “Prize giving”)'],
    ['boats on Saturday 14 June 2026', '(boat and Saturday 14 June 2026)'],
    ['June 14th, in the morning', '14 June, morning'],
    ['2026-06-14', '14 June 2026'],
    // What lies beside something found; "near" alone is a size.
    ['faces near a boat', '(somebody and near boat)'],
    ['right before somebody laughs', 'before (somebody and smiling)'],
    ['boats near', '(boat and close)'],
    ['not after cheering', 'not after cheering'],
    ['photos of dogs', '(photo and dog)'],
  ])('%s', (text, tree) => expect(draw(parse(text).tree)).toBe(tree));

  it('lists what it did not understand and passes over what only fills', () => {
    expect(parse('only the girl in the paper hat').unknown).toEqual(['paper', 'hat']);
    expect(parse('only the girl in the red hat').unknown).toEqual([]);
    expect(parse('please compile the clips where boats are').passed).toEqual(['please', 'compile', 'clips']);
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
    const spoken = lexiconOf({}, [[{ text: 'Boats', start: 0, end: 1, confidence: 1 }]]);
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
  const ask = (text: string) => answerRequest(parseRequest(text, lexicon), context).hits;
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
      answerRequest(parse(`at ${code}`), { ...context, files: context.files.map((file) => ({ ...file, start })) }).hits;
    expect(counted('10:20:30')[0]).toMatchObject({ start: 30, end: 34, reasons: ['timecode 10:20:30'] });
    expect(counted('10:20:30:10')[0]!.start).toBeCloseTo(30.4, 1);
    expect([counted('09:00:00'), ask('at 10:20:30')]).toEqual([[], []]);
  });
  it('finds what lies before, after and near something', () => {
    expect(where('faces after zoom in')).toEqual(['a 40.0-46.0']);
    expect(where('before somebody speaks')).toEqual(['a 30.0-40.0']);
    expect(where('silence near smiling')).toEqual(['a 50.0-57.1']);
  });
  it('gives only the ones that are wanted, in their order', () => {
    expect(where('longest boats')).toEqual(['b 0.0-20.0']);
    expect(where('two longest boats')).toEqual(['a 5.0-15.0', 'b 0.0-20.0']);
    expect(where('the first boat')).toEqual(['a 5.0-15.0']);
    expect(where('most boats')).toEqual(['a 5.0-15.0']);
    expect(where('the loudest')).toEqual(['a 25.8-28.2']);
  });
  it('says what each part would find alone', () => {
    const { hits, alone } = answerRequest(parse('boats, smiling'), context);
    expect([hits.length, alone]).toEqual([0, [3, 1]]);
  });
  it('merges what is a second apart, and shows nothing under a second', () => {
    const flicker = footage(
      20,
      { faces: (t) => ((t >= 4 && t < 5) || (t >= 5.6 && t < 6) || (t >= 12 && t < 12.4) ? 1 : 0) },
      [],
    );
    const found = answerRequest(parse('somebody'), {
      files: [{ footage: flicker, offset: 0, words: [], people: new Map() }],
      totalSeconds: 20,
      markers: [],
    }).hits.map(({ start, end }) => `${start.toFixed(1)}-${end.toFixed(1)}`);
    expect(found.sort()).toEqual(['11.6-12.8', '4.0-6.0']);
  });
  it('gives nothing for nothing', () => expect(ask('the red hat')).toEqual([]));
});
