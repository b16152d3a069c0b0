import { join } from 'node:path';
import { percentile, seededRandom } from '#core/signal';
import { anchorsOf, scriptWords, type AlignedWords, type Word } from '#core/words';
import { alignScript } from '../../media/words/align';
import { languageNames, promptTexts, talkOf, type PromptLanguage, type PromptTalk } from '../../media/testSpeech';
import { add } from './table';

const source = 'prompts of asterisk-core-sounds, joined with pauses; from their first to their last sound';

const aligned = (talk: PromptTalk, text: string, folder: string, language: PromptLanguage): Promise<AlignedWords> =>
  alignScript(talk.file, scriptWords(text), [], {
    within: { start: 0, end: talk.seconds },
    speech: [{ start: 0, end: talk.seconds }],
    folder,
    language,
  });

/** How far aligned words begin and end from where they do, where that is known: at the beginning and the end of each prompt. */
function errorsOf(talk: PromptTalk, words: readonly Word[]): number[] {
  const texts = talk.said.map(({ text }) => scriptWords(text).map((word) => word.text));
  const found = new Map(
    anchorsOf(
      texts.flat(),
      words.map((word) => word.text),
    ).map(({ script, heard }) => [script, words[heard]!]),
  );
  const errors: number[] = [];
  let at = 0;
  for (const [index, { start, end }] of talk.said.entries()) {
    const first = found.get(at);
    const last = found.get(at + texts[index]!.length - 1);
    if (first) errors.push(Math.abs(first.start - start));
    if (last) errors.push(Math.abs(last.end - end));
    at += texts[index]!.length;
  }
  return errors;
}

const milliseconds = (seconds: number) => `${Math.round(seconds * 1000)} ms`;

function row(what: string, errors: readonly number[], more: string, wanted: readonly [number, number]): void {
  const [middle, most] = [0.5, 0.95].map((share) => percentile(Float32Array.from(errors), share)) as [number, number];
  add({
    reading: 'alignment',
    what,
    ours: `${milliseconds(middle)}, 95 % within ${milliseconds(most)}${more}`,
    reference: 'the recordings',
    wanted: `${milliseconds(wanted[0])}, 95 % within ${milliseconds(wanted[1])}`,
    reached: middle <= wanted[0] && most <= wanted[1],
    source,
  });
}

/** When words of a known text are said: single words, sentences, other languages than the recogniser's, and a text that differs. */
export async function checkAlignment(folder: string): Promise<void> {
  const random = seededRandom(11);
  const single = promptTexts('en').filter(
    ({ name, text }) => /^(digits|letters|phonetic)\//.test(name) && scriptWords(text).length === 1,
  );
  const list = Array.from({ length: 200 }, () => single[Math.floor(random() * single.length)]!);
  const talk = talkOf(folder, 'list', list, 'en', () => random() * 0.4);
  const text = talk.said.map((said) => said.text).join(' ');
  row(
    '200 single words',
    errorsOf(talk, (await aligned(talk, text, join(folder, 'list'), 'en')).words),
    '',
    [0.04, 0.15],
  );
  for (const language of ['en', 'it', 'es', 'fr'] as const) {
    // Figures are read otherwise in each language; what is left is read as it is written.
    const all = promptTexts(language).filter((prompt) => prompt.text.split(' ').length >= 4 && !/\d/.test(prompt.text));
    const chosen = all.filter((_, at) => at % 3 === 1).slice(0, 60);
    const read = talkOf(folder, language, chosen, language, () => 0.3 + random() * 0.8);
    const began = Date.now();
    const said = read.said.map((each) => each.text).join('\n');
    const result = await aligned(read, said, join(folder, `${language}-work`), language);
    const share = (Date.now() - began) / 1000 / read.seconds;
    const count = scriptWords(said).length;
    row(
      `${count} words of read ${languageNames[language]}`,
      errorsOf(read, result.words),
      `; ${result.leftOut} lost; took ${share.toFixed(2)} of its length`,
      language === 'en' ? [0.04, 0.15] : [0.1, 1],
    );
    if (language === 'en') await checkDifferences(read, join(folder, 'differs'));
  }
}

/** Words that no prompt says. */
const foreign = ['umbrella', 'cardboard', 'yellow', 'kitchen', 'harbour'];

/** Of ten sentences one is missing in the text, one is too much, and one has another word in it. */
async function checkDifferences(talk: PromptTalk, folder: string): Promise<void> {
  const script: string[] = [];
  let [unsaid, changed] = [0, 0];
  for (const [index, { text }] of talk.said.entries()) {
    const words = scriptWords(text).map((word) => word.text);
    if (index % 10 === 3) continue;
    if (index % 10 === 6) {
      script.push(...foreign, 'boats', 'paddle');
      unsaid += foreign.length + 2;
    }
    if (index % 10 === 8) {
      words[2] = foreign[index % foreign.length]!;
      changed++;
    }
    script.push(...words);
  }
  const { words, leftOut, otherwise } = await aligned(talk, script.join(' '), folder, 'en');
  const marked = words.filter((word) => word.differs === 'otherwise' && foreign.includes(word.text)).length;
  const passedOver = words.filter((word) => word.differs === undefined && foreign.includes(word.text)).length;
  add({
    reading: 'alignment',
    what: `of ${unsaid} words that were not said, ${changed} said otherwise`,
    ours: `${leftOut + marked} marked, ${passedOver} not; ${otherwise - marked} of ${words.length} others too`,
    reference: 'the text as changed',
    wanted: '9 of 10 marked',
    reached: passedOver <= (unsaid + changed) * 0.1,
    source,
  });
}
