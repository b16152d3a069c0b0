import { describe, expect, it } from 'vitest';
import { flagWord, retimeWords, typeWords } from './edit';
import { parseSubtitles, correctWords, importWords, sentences, spread, type Word } from '.';

const word = (text: string, start: number, end: number, confidence = 0.9): Word => ({ text, start, end, confidence });

describe('sentences', () => {
  it('end at pauses when there is no punctuation', () => {
    const words = [word('the', 0, 0.2), word('boat', 0.25, 0.6), word('sank', 1.3, 1.7), word('twice', 1.75, 2)];
    expect(sentences(words).map(({ text, start, end }) => [text, start, end])).toEqual([
      ['the boat', 0, 0.6],
      ['sank twice', 1.3, 2],
    ]);
  });
  it('end at full stops when there is, and not at short pauses or abbreviations', () => {
    const words = [word('Dr.', 0, 0.3), word('Hull', 0.3, 0.6), word('waits.', 1.3, 1.7), word('Why?', 1.8, 2)];
    expect(sentences(words).map((each) => each.text)).toEqual(['Dr. Hull waits.', 'Why?']);
  });
  it('that never end are cut at their longest pause', () => {
    const words = Array.from({ length: 40 }, (_, i) =>
      word(`w${i}`, i * 0.4 + (i >= 18 ? 0.2 : 0), i * 0.4 + 0.35 + (i >= 18 ? 0.2 : 0)),
    );
    expect(sentences(words).map((each) => [each.from, each.to])).toEqual([
      [0, 18],
      [18, 40],
    ]);
  });
  it('cover every word once', () => {
    const words = Array.from({ length: 200 }, (_, i) => word(`w${i}`, i * 0.5, i * 0.5 + 0.2 + (i % 7) * 0.04));
    const all = sentences(words);
    expect(all[0]!.from).toBe(0);
    for (let index = 1; index < all.length; index++) expect(all[index]!.from).toBe(all[index - 1]!.to);
    expect(all.at(-1)!.to).toBe(200);
  });
  it('are as many as the words need where all lie upon each other, or no pause is between any', () => {
    const upon = Array.from({ length: 50_000 }, (_, i) => word(`w${i}`, 0, 360_000));
    const close = upon.map((each, i) => ({ ...each, start: i * 0.3, end: (i + 1) * 0.3 }));
    const shrinking = upon.map((each, i) => ({ ...each, start: i * 0.3, end: i * 0.3 + 0.2 + i * 1e-7 }));
    for (const words of [upon, close, shrinking]) {
      const lengths = sentences(words).map(({ from, to }) => to - from);
      expect(lengths.reduce((sum, each) => sum + each, 0)).toBe(50_000);
      expect(Math.max(...lengths)).toBeLessThanOrEqual(28);
      expect(Math.min(...lengths)).toBeGreaterThanOrEqual(3);
    }
  });
  it('are of like length where nothing says where they end', () => {
    const words = Array.from({ length: 100 }, (_, i) => word(`w${i}`, i * 0.25, (i + 1) * 0.25));
    for (const { from, to } of sentences(words)) expect(to - from).toBeGreaterThanOrEqual(20);
  });
});

describe('correcting', () => {
  const words = [word('for', 0, 0.4, 0.2), word('queens', 0.5, 1), word('of', 1.1, 1.2)];
  it('word for word keeps the times and is sure', () => {
    expect(correctWords(words, 0, 2, 'four queens')[0]).toEqual({ text: 'four', start: 0, end: 0.4, confidence: 1 });
  });
  it('more words share the stretch, none takes it out', () => {
    const more = correctWords(words, 0, 2, 'they are four queens');
    expect(more).toHaveLength(5);
    expect([more[0]!.start, more[3]!.end]).toEqual([0, 1]);
    for (let index = 1; index < 4; index++) expect(more[index]!.start).toBeCloseTo(more[index - 1]!.end, 9);
    expect(correctWords(words, 0, 2, '').map((each) => each.text)).toEqual(['of']);
  });
  it('longer words take longer', () => {
    const [a, b] = spread(['a', 'cardboard'], 0, 1.4);
    expect(b!.end - b!.start).toBeGreaterThan(3 * (a!.end - a!.start));
  });
});

// Source: the example in section 1.1 of WebVTT (W3C Candidate Recommendation, 2019), and the block form of SubRip, which has no
// published standard (common practice, no source).
describe('subtitles in', () => {
  it('reads WebVTT: hours left out, voices, notes, settings', () => {
    const text =
      'WEBVTT\n\nNOTE nothing\n\n00:11.000 --> 00:13.000 align:start\n<v Roger Bingham>We are in New York City\n\nid\n01:00:13.500 --> 01:00:16.000\n<i>We&apos;re actually</i>\nat the Lucern &amp; Hotel\n';
    expect(parseSubtitles(text)).toEqual([
      { start: 11, end: 13, text: 'We are in New York City' },
      { start: 3613.5, end: 3616, text: "We're actually at the Lucern & Hotel" },
    ]);
  });
  it('reads SubRip with a byte order mark and Windows line ends', () => {
    const words = importWords(
      '\uFEFF1\r\n00:00:01,000 --> 00:00:02,000\r\n{\\an8}Two words\r\n\r\n2\r\n00:00:03,5 --> 00:00:04,000\r\nEnd\r\n',
    );
    expect(words.map((each) => each.text)).toEqual(['Two', 'words', 'End']);
    expect(words[1]!.end).toBe(2);
    expect(words[2]!.start).toBe(3.5);
  });
  it('takes the times of heard words that say the same', () => {
    const heard = [word('the', 1.1, 1.3), word('boats', 1.4, 1.8), word('sank', 2.5, 2.9)];
    const words = importWords('1\n00:00:01,000 --> 00:00:03,000\nThe boat sank!', heard);
    expect([words[0]!.start, words[2]!.start, words[2]!.end]).toEqual([1.1, 2.5, 2.9]);
    expect(words[1]!.start).toBeCloseTo(1.3, 9);
    expect(words[1]!.end).toBeCloseTo(2.5, 9);
  });
  it('takes no longer for cues of hours than for others: their words are spread', () => {
    const heard = Array.from({ length: 20_000 }, (_, at) => word(`w${at}`, at * 0.36, at * 0.36 + 0.3));
    const said = heard.map(({ text }) => text).join(' ');
    const whole = importWords(`1\n00:00:00,000 --> 02:00:00,000\n${said}\n`, heard);
    expect(whole).toHaveLength(20_000);
    expect(whole[10_000]!.start).toBeGreaterThan(3000);
    const cue = (at: number) => `${at}\n00:00:00,000 --> 02:00:00,000\n${'w7 '.repeat(100)}\n`;
    // 200 million pairs, were they all compared; the first ones are.
    const many = importWords(Array.from({ length: 100 }, (_, at) => cue(at)).join('\n'), heard);
    expect(many).toHaveLength(10_000);
    const heardAt = ({ start }: Word) => start === heard[7]!.start;
    expect(many.slice(0, 100).filter(heardAt)).toHaveLength(1);
    expect(many.slice(-100).filter(heardAt)).toHaveLength(0);
  });
  it('keeps what an alignment said of words', () => {
    const text =
      '[{"text":"b","start":0,"end":1,"differs":"added"},{"text":"a","start":1,"end":2,"unsaid":"not this","differs":"else"}]';
    const [first, second] = importWords(text);
    expect(first).toMatchObject({ differs: 'added' });
    expect(second).toEqual({ text: 'a', start: 1, end: 2, confidence: 1, unsaid: 'not this' });
  });
  it('reads words as JSON and says what is wrong with others', () => {
    expect(
      importWords('{"words":[{"text":"b","start":2,"end":3},{"text":"a","start":0,"end":1,"confidence":0.4}]}').map(
        (each) => each.text,
      ),
    ).toEqual(['a', 'b']);
    expect(() => importWords('')).toThrow('The file is empty.');
    expect(() => importWords('hello')).toThrow(/No lines with times/);
    expect(() => importWords('{"words":[{"text":"b","start":2,"end":1}]}')).toThrow(/Word 1 needs/);
    expect(() => importWords('{"words":')).toThrow(/not valid JSON/);
    expect(() => importWords('{"text":"x"}')).toThrow(/no list of words/);
  });
});

describe('words of captions, changed in place', () => {
  const words = ['two', 'rolls', 'of', 'tape'].map((text, index) => ({
    text,
    start: index,
    end: index + 0.8,
    confidence: 0.3,
  }));
  it('a word is marked, unmarked, parted after, and left to the machine again', () => {
    const marked = flagWord(words, 1, { emphasis: true, breakAfter: false });
    expect(marked[1]).toMatchObject({ emphasis: true, breakAfter: false, start: 1 });
    expect(flagWord(marked, 1, { breakAfter: null })[1]).toEqual({ ...words[1], emphasis: true });
    expect(flagWord(marked, 1, { emphasis: false })[1]).toEqual({ ...words[1], breakAfter: false });
    expect(words[1]).not.toHaveProperty('emphasis');
  });
  it('tapped words begin at their taps and end where the next one begins; they are sure then', () => {
    const tapped = retimeWords(words, 1, [1.2, 1.9, 2.5], 3.1);
    expect(tapped.map(({ start, end }) => [start, end])).toEqual([
      [0, 0.8],
      [1.2, 1.9],
      [1.9, 2.5],
      [2.5, 3.1],
    ]);
    expect(tapped.map((word) => word.confidence)).toEqual([0.3, 1, 1, 1]);
  });
  it('typed words share their stretch and take the place of what lay in it', () => {
    const typed = typeWords(words, 'a roll', 0.9, 2.9);
    expect(typed.map((word) => word.text)).toEqual(['two', 'a', 'roll', 'tape']);
    expect(typed[1]!.start).toBeCloseTo(0.9, 9);
    expect(typed[2]!.end).toBeCloseTo(2.9, 9);
    expect(typeWords([], 'hello there', 1, 2)).toHaveLength(2);
  });
});
