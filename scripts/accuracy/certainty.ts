import { join } from 'node:path';
import { seededRandom } from '#core/signal';
import { anchorsOf, bareWord, scriptWords, type Word } from '#core/words';
import { pocketsphinx } from '../../media/words/recognisers';
import { ffmpeg } from '../../media/testMedia';
import { promptTexts, talkOf, type PromptTalk } from '../../media/testSpeech';
import { add } from './table';

const source = 'prompts of asterisk-core-sounds-en, joined with pauses, with their text';
/** Of what is said, a little before and after is heard too. */
const edge = 0.2;

const hear = (talk: PromptTalk, file: string, folder: string, terms: readonly string[] = []): Promise<Word[]> =>
  pocketsphinx.recognise(
    file,
    talk.said.map(({ start, end }) => ({ start: Math.max(0, start - edge), end: end + edge })),
    { folder, language: 'en-US', terms },
  );

/** The heard words of each prompt beside what it says. */
const byPrompt = (talk: PromptTalk, words: readonly Word[]) =>
  talk.said.map(({ text, start, end }) => ({
    said: scriptWords(text).map((word) => word.text),
    heard: words.filter((word) => {
      const middle = (word.start + word.end) / 2;
      return middle >= start - edge && middle < end + edge;
    }),
  }));

/** Mean distance between how sure words are and how many of them are right, in ten classes (expected calibration error, Naeini et al. 2015). */
function calibrationError(judged: readonly { confidence: number; isRight: boolean }[]): number {
  const classes = Array.from({ length: 10 }, () => ({ sure: 0, right: 0 }));
  for (const { confidence, isRight } of judged) {
    const own = classes[Math.min(9, Math.floor(confidence * 10))]!;
    own.sure += confidence;
    own.right += isRight ? 1 : 0;
  }
  return classes.reduce((sum, { sure, right }) => sum + Math.abs(sure - right), 0) / judged.length;
}

const percent = (share: number) => `${(share * 100).toFixed(0)} %`;

/** Whether of words that are 80 % sure 80 % are right, on texts that had no part in the fit, clean and in noise. */
export async function checkCertainty(folder: string): Promise<void> {
  const all = promptTexts('en').filter(({ text }) => text.split(' ').length >= 4 && !/\d/.test(text));
  const random = seededRandom(13);
  // The fit was made on the others.
  const heldOut = all.filter((_, at) => at % 2 === 1).filter((_, at) => at % 3 === 0);
  const talk = talkOf(folder, 'sure', heldOut, 'en', () => 0.4 + random() * 0.6);
  const noisy = join(folder, 'noisy.wav');
  const noise = `anoisesrc=c=pink:r=16000:a=0.106:d=${talk.seconds}:seed=3[n];[0:a][n]amix=2:normalize=0`;
  ffmpeg('-i', talk.file, '-filter_complex', noise, '-ar', '16000', noisy);
  for (const [what, file] of [
    ['clean', talk.file],
    ['6 dB over pink noise', noisy],
  ] as const) {
    const began = Date.now();
    const words = await hear(talk, file, join(folder, 'work'));
    const took = (Date.now() - began) / 1000 / talk.seconds;
    const judged = byPrompt(talk, words).flatMap(({ said, heard }) => {
      const right = new Set(
        anchorsOf(
          said,
          heard.map(({ text }) => text),
        ).map((anchor) => anchor.heard),
      );
      return heard.map(({ confidence }, at) => ({ confidence, isRight: right.has(at) }));
    });
    const error = calibrationError(judged);
    const right = judged.filter(({ isRight }) => isRight).length / judged.length;
    add({
      reading: 'certainty',
      what: `of ${judged.length} words, ${what}`,
      ours: `${percent(error)} off on average; ${percent(right)} are right; hearing took ${took.toFixed(2)} of its length`,
      reference: 'the text',
      wanted: '≤ 10 % off',
      reached: error <= 0.1,
      source,
    });
  }
}

/** Words of the prompts that the recogniser's dictionary has not. */
const terms =
  'Digium PBX unmute unmuted semicolon touchtone IAX undelete undeleted prepend prepending uppercase lowercase rerecord caret backtick';

/** How many names and terms are heard that the recogniser was told of, and how many where nobody said them. */
export async function checkTerms(folder: string): Promise<void> {
  const list = terms.split(' ');
  const wanted = new Set(list.map(bareWord));
  const has = ({ text }: { text: string }) => scriptWords(text).some((word) => wanted.has(bareWord(word.text)));
  const all = promptTexts('en').filter(({ text }) => !/\d/.test(text));
  const others = all.filter((prompt) => !has(prompt) && prompt.text.split(' ').length >= 4);
  const prompts = [...all.filter(has), ...others.filter((_, at) => at % 6 === 0)];
  const talk = talkOf(folder, 'terms', prompts, 'en', () => 0.5);
  const counted = async (told: readonly string[]) => {
    let [hits, alarms, sayings] = [0, 0, 0];
    for (const { said, heard } of byPrompt(
      talk,
      await hear(talk, talk.file, join(folder, `told-${told.length}`), told),
    ))
      for (const term of wanted) {
        const [wantedHere, found] = [
          said.filter((text) => bareWord(text) === term).length,
          heard.filter(({ text }) => bareWord(text) === term).length,
        ];
        sayings += wantedHere;
        hits += Math.min(wantedHere, found);
        alarms += Math.max(0, found - wantedHere);
      }
    return { hits, falseAlarms: alarms, said: sayings };
  };
  const [without, withThem] = [await counted([]), await counted(list)];
  add({
    reading: 'names and terms',
    what: `${withThem.said} of ${list.length} terms, among ${prompts.length} prompts`,
    ours: `${withThem.hits} heard, ${withThem.falseAlarms} where nobody said them`,
    reference: `${without.hits} heard without the list`,
    wanted: 'half of them, few false ones',
    reached: withThem.hits >= withThem.said / 2 && withThem.falseAlarms <= withThem.said / 5,
    source,
  });
}
