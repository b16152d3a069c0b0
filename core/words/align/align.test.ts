import { describe, expect, it } from 'vitest';
import type { Word } from '../types';
import {
  anchorsOf,
  arpabetOf,
  firmAnchors,
  gapsBetween,
  isDoubtful,
  searchOf,
  languageModelOf,
  pieceGrammar,
  scriptWords,
  settleScript,
  type AlignedWords,
  type FittedSound,
} from '..';

const words = (text: string) => text.split(' ');
/** Words that are said one after the other, with pauses of a second where a bar stands. */
function said(text: string): Word[] {
  let at = 0;
  const out: Word[] = [];
  for (const part of words(text)) {
    if (part === '|') at += 1;
    else out.push({ text: part, start: at, end: (at += 0.3), confidence: 0.5 });
  }
  return out;
}

describe('the words of a script', () => {
  it('are what is said: no directions, no times, no marks; names before a colon are who says it', () => {
    const text =
      '\uFEFF[Music]\r\nANNA: Good morning — and welcome!\r\n(She waves.)\r\n00:12 Ben: Two boats… ready?\nBen: Yes.\nWarning: thin tape.';
    expect(scriptWords(text)).toEqual([
      { text: 'Good', speaker: 'ANNA' },
      { text: 'morning', speaker: 'ANNA' },
      { text: 'and', speaker: 'ANNA' },
      { text: 'welcome!', speaker: 'ANNA' },
      { text: 'Two', speaker: 'Ben' },
      { text: 'boats…', speaker: 'Ben' },
      { text: 'ready?', speaker: 'Ben' },
      { text: 'Yes.', speaker: 'Ben' },
      { text: 'Warning:', speaker: 'Ben' },
      { text: 'thin', speaker: 'Ben' },
      { text: 'tape.', speaker: 'Ben' },
    ]);
  });
  it('of lines that are made to hold up are there as soon as others', () => {
    const many = 200_000;
    const wild = [`A${' '.repeat(many)}b`, '['.repeat(many), '.'.repeat(many), `${'x'.repeat(many)} y`];
    const found = scriptWords(wild.join('\n')).map(({ text }) => text.length);
    // Quadratic in any of them it would take minutes, and the test time out.
    expect(found).toEqual([1, 1, 100, 1]);
  });
  it('part at dashes without spaces', () =>
    expect(scriptWords('left—right re-tape').map(({ text }) => text)).toEqual(['left—', 'right', 're-tape']));
});

describe('anchors', () => {
  it('are found in a text that says everything five times', () => {
    const verse = Array.from({ length: 300 }, (_, at) => `word${at}`);
    const song = Array.from({ length: 5 }, () => verse).flat();
    expect(anchorsOf(song, song.toSpliced(700, 2, 'xx'))).toHaveLength(1498);
  });
  it('are the words that both say, in order', () => {
    const script = words('the boats are on the water and the crowd is loud');
    const heard = words('the votes are on the water on the cloud is loud');
    expect(anchorsOf(script, heard).map(({ script: at, heard: other }) => [script[at], at, other])).toEqual([
      ['the', 0, 0],
      ['are', 2, 2],
      ['on', 3, 3],
      ['the', 4, 4],
      ['water', 5, 5],
      ['the', 7, 7],
      ['is', 9, 9],
      ['loud', 10, 10],
    ]);
  });
  it('are found in 20,000 words of which every third was heard wrongly and a paragraph was left out', () => {
    let seed = 1;
    const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
    const script = Array.from({ length: 20_000 }, () => `word${Math.floor(random() ** 3 * 3000)}`);
    const heard = script.flatMap((word, at) =>
      at >= 9000 && at < 9400 ? [] : [random() < 0.33 ? `other${Math.floor(random() * 500)}` : word],
    );
    const right = (script: number, heard: number) => heard === (script < 9000 ? script : script - 400);
    const found = anchorsOf(script, heard);
    expect(found.length).toBeGreaterThan(12_500);
    expect(found.filter(({ script, heard }) => !right(script, heard)).length / found.length).toBeLessThan(0.01);
  });
  it('alone or too fast are not relied on', () => {
    const heard = said('two rolls of tape and one boat');
    const text = words('two rolls of tape and one boat');
    expect(
      firmAnchors(anchorsOf(text, words('two rolls xx tape and yy boat')), heard).map(({ script }) => script),
    ).toEqual([0, 1, 3, 4]);
    const long = [...text.slice(0, 4), ...Array.from({ length: 60 }, (_, at) => `more${at}`), ...text.slice(4)];
    // Sixty words cannot be said in no time: the second island is elsewhere.
    expect(firmAnchors(anchorsOf(long, text), heard).map(({ script }) => script)).toEqual([0, 1, 2, 3]);
  });
});

describe('a text that was aligned', () => {
  const text = words('two rolls of silver tape and one boat').map((word) => ({ text: word }));
  // Heard by the text: “two rolls of … and one boat”, with something long after it.
  const listened = said('two rolls of xx yy and one boat | zz zz zz');
  const firm = firmAnchors(
    anchorsOf(
      text.map((word) => word.text),
      listened.map((word) => word.text),
    ),
    listened,
  );
  const gaps = gapsBetween(text.length, listened, firm, { start: 0, end: 10 });
  const overheard = said('two rolls of other things and one boat | that was all');
  const speech = [{ start: 0, end: 4.3 }];
  const settle = (placed: Map<number, FittedSound[]>, isOwn = true) =>
    settleScript(text, listened, firm, gaps, placed, overheard, speech, isOwn);
  const at = (result: AlignedWords, word: string) => result.words.find((each) => each.text === word);

  it('knows its gaps: words between anchors, and sound behind the last', () => {
    expect(gaps.map(({ from, to, heardFrom, heardTo }) => [from, to, heardFrom, heardTo])).toEqual([
      [3, 5, 3, 5],
      [8, 8, 8, 11],
    ]);
    expect(gaps.map(searchOf)).toEqual(['closely', null]);
  });
  it('has the times of what was heard, of what the search placed, and says what was added', () => {
    const result = settle(
      new Map([
        [
          3,
          [
            { word: 3, start: 0.9, end: 1.2 },
            { word: 4, start: 1.2, end: 1.5 },
          ],
        ],
      ]),
    );
    expect(result).toMatchObject({ leftOut: 0, added: 3, otherwise: 0 });
    expect(at(result, 'silver')).toMatchObject({ start: 0.9, end: 1.2 });
    expect(at(result, 'boat')!.confidence).toBe(1);
    expect(at(result, 'that')).toMatchObject({ differs: 'added', confidence: 0.5 });
    for (let index = 1; index < result.words.length; index++)
      expect(result.words[index]!.start).toBeGreaterThanOrEqual(result.words[index - 1]!.end);
  });
  it('what was not found is left out where nothing was said, and otherwise where something was', () => {
    const silent = settle(new Map([[3, [{ word: 3, start: 0.9, end: 1.2 }]]]));
    expect([silent.leftOut, at(silent, 'and')!.unsaid, at(silent, 'tape')]).toEqual([1, 'tape', undefined]);
    const sounds: FittedSound[] = [
      { word: 3, start: 0.9, end: 1.1 },
      { word: null, start: 1.12, end: 1.3 },
      { word: null, start: 1.3, end: 1.45 },
    ];
    const loud = settle(new Map([[3, sounds]]));
    expect([loud.leftOut, loud.otherwise]).toEqual([0, 1]);
    expect(at(loud, 'tape')).toMatchObject({ start: 1.12, end: 1.45, differs: 'otherwise' });
    expect(isDoubtful(at(loud, 'tape')!)).toBe(true);
    // Whoever listens in another language than the text's proves nothing by not finding it.
    expect(settle(new Map([[3, sounds]]), false).otherwise).toBe(0);
  });
  it('that was not searched shares its gap, doubtfully', () => {
    const result = settle(new Map());
    expect(at(result, 'silver')!.start).toBeCloseTo(0.9, 6);
    expect(at(result, 'tape')!.end).toBeCloseTo(1.5, 6);
    expect(isDoubtful(at(result, 'silver')!)).toBe(true);
  });
});

describe('sounds', () => {
  // Source: transcriptions of the CMU Pronouncing Dictionary, and of the Handbook of the IPA (1999) for American English, from memory.
  it.each([
    ['kˈɑːɹdboːɹd', 'K AA R D B AO R D'],
    ['θˈɜːɾi', 'TH ER D IY'],
    ['dʒˈʌmpt', 'JH AH M P T'],
    ['θˈɹuː', 'TH R UW'],
    ['mˈaɪt', 'M AY T'],
    ['bˈɔɪ', 'B OY'],
  ])('English: %s', (ipa, phones) => expect(arpabetOf(ipa).join(' ').replace('OW R', 'AO R')).toBe(phones));
  it('of other languages become their neighbours; nasals get their consonant, ties and tones nothing', () => {
    expect(arpabetOf('ʃˈøːnə').join(' ')).toBe('SH ER N AH');
    expect(arpabetOf('b‿ˈɔ̃').join(' ')).toBe('B AO N');
    expect(arpabetOf('ts͡ʃ').join(' ')).toBe('T S SH');
    expect(arpabetOf('(en)ħ?')).toEqual(['HH']);
  });
});

it('a grammar: words in order, which may be left out; anything may be said between them', () => {
  const strict = pieceGrammar('g', ['w0', 'w1'], ['AA'], { leftOut: 0, added: 0 });
  expect(strict.split('\n')).toEqual([
    'FSG_BEGIN g',
    'NUM_STATES 3',
    'START_STATE 0',
    'FINAL_STATE 2',
    'TRANSITION 0 1 1 w0',
    'TRANSITION 1 2 1 w1',
    'FSG_END',
    '',
  ]);
  const loose = pieceGrammar('g', ['w0'], ['AA'], { leftOut: 0.1, added: 0.01 });
  expect(loose).toContain('TRANSITION 0 1 0.9 w0\nTRANSITION 0 1 0.1\n');
  expect(loose).toContain('TRANSITION 1 1 0.01 stray-AA');
});

// Katz (1987): after every history the probabilities of all words sum to one.
it('a language model: probabilities after each history sum to one', () => {
  const text = words('a b a b c a b d a c');
  const lines = languageModelOf(text).split('\n');
  const rows = lines.map((line) => line.split(' ')).filter((row) => /^-?\d/.test(row[0]!));
  const table = new Map<string, { p: number; back: number }>();
  for (const row of rows) {
    const back = row.length > 2 && /^-?\d/.test(row.at(-1)!) ? Number(row.at(-1)) : null;
    table.set(row.slice(1, back === null ? undefined : -1).join(' '), {
      p: 10 ** Number(row[0]),
      back: 10 ** (back ?? 0),
    });
  }
  const chance = (history: string[], word: string): number => {
    const own = table.get([...history, word].join(' '));
    if (own) return own.p;
    return history.length === 0 ? 0 : (table.get(history.join(' '))?.back ?? 1) * chance(history.slice(1), word);
  };
  for (const history of [[], ['a'], ['a', 'b'], ['<s>', 'a'], ['d']])
    expect(['a', 'b', 'c', 'd', '</s>'].reduce((sum, word) => sum + chance(history, word), 0)).toBeCloseTo(1, 2);
});
