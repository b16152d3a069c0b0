import { describe, expect, it } from 'vitest';
import { percentile, seededRandom } from '#core/signal';
import { anchorsOf, scriptWords } from '#core/words';
import { testFolder } from '../testMedia';
import { promptTexts, talkOf, type PromptLanguage, type PromptTalk } from '../testSpeech';
import { alignScript } from './align';
import { pronounce } from './pronounce';

const folder = testFolder();

const align = (talk: PromptTalk, language: PromptLanguage) =>
  alignScript(talk.file, scriptWords(talk.said.map((each) => each.text).join('\n')), [], {
    within: { start: 0, end: talk.seconds },
    speech: [{ start: 0, end: talk.seconds }],
    folder: `${folder}/${talk.seconds}`,
    language,
  });

// Source: the recorded prompts and their texts in Debian's asterisk-core-sounds-en and -it; when each begins and ends is
// known because they were joined here.
describe('recordings whose times are known', () => {
  it('single words: half of them within 40 ms, nearly all within 150 ms', async () => {
    const random = seededRandom(3);
    const single = promptTexts('en').filter(
      ({ name, text }) => /^(digits|letters|phonetic)\//.test(name) && scriptWords(text).length === 1,
    );
    const list = Array.from({ length: 60 }, () => single[Math.floor(random() * single.length)]!);
    const talk = talkOf(folder, 'list', list, 'en', () => random() * 0.4);
    const { words, leftOut } = await align(talk, 'en');
    expect(leftOut).toBe(0);
    const errors = talk.said.flatMap(({ start, end }, at) => [
      Math.abs(words[at]!.start - start),
      Math.abs(words[at]!.end - end),
    ]);
    expect(percentile(Float32Array.from(errors), 0.5)).toBeLessThan(0.04);
    expect(percentile(Float32Array.from(errors), 0.95)).toBeLessThan(0.15);
  });

  it('Italian, by the sounds of English that are nearest: sentences begin where they do', async () => {
    const read = promptTexts('it').filter(({ text }) => text.split(' ').length >= 4 && !/\d/.test(text));
    const talk = talkOf(folder, 'it', read.filter((_, at) => at % 9 === 1).slice(0, 12), 'it', () => 0.6);
    const { words } = await align(talk, 'it');
    const texts = talk.said.map((each) => scriptWords(each.text).map((word) => word.text));
    const found = anchorsOf(
      texts.flat(),
      words.map((word) => word.text),
    );
    expect(found.length / texts.flat().length).toBeGreaterThan(0.85);
    const firsts = new Map(texts.map((_, at) => [texts.slice(0, at).flat().length, talk.said[at]!.start]));
    const errors = found.flatMap(({ script, heard }) => {
      const start = firsts.get(script);
      return start === undefined ? [] : [Math.abs(words[heard]!.start - start)];
    });
    expect(percentile(Float32Array.from(errors), 0.5)).toBeLessThan(0.1);
  });
});

// Source: the CMU Pronouncing Dictionary, as pocketsphinx-en-us ships it.
it('words are said as the dictionary has them, all others by rule', async () => {
  const said = await pronounce(['Either', '“boat’s”', 'well-known', '1998', 'Zephyrine', '***'], 'en-GB', folder);
  expect([...said.keys()]).toEqual(['either', "boat's", 'well-known', '1998', 'zephyrine']);
  expect(said.get('either')).toEqual(['IY DH ER', 'AY DH ER']);
  expect(said.get("boat's")).toEqual(['B OW T S']);
  expect(said.get('well-known')).toEqual(['W EH L N OW N']);
  expect(said.get('1998')![0]).toMatch(/^N AY N T IY N .*EY T/);
  expect(said.get('zephyrine')![0]).toMatch(/^Z EH F/);
  // A language that nobody has a voice for is said as English is.
  expect((await pronounce(['boat'], 'qq', folder)).get('boat')![0]).toMatch(/^B OW T/);
});
