import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, join, resolve } from 'node:path';
import { mostTerms, termsIn, type Word } from '#core/words';
import { MediaError } from '#media/process';
import { readModelFile } from '#media/words/models/modelFile';
import { whisperModel } from '#media/words/models/whisperModel';
import type { Recogniser } from '#media/words/recogniser';
import { recognisers } from '#media/words/recognisers';
import { speechStretches } from '#media/words/speechStretches';
import { roundedWords, spokenIn } from './spoken';

interface HearingWish {
  language?: string | undefined;
  /** A text with names and terms, one a line. */
  terms?: string | undefined;
  /** A speech model to hear them with, in the layout of whisper.cpp. */
  model?: string | undefined;
}

/**
 * The words of a file with their times, heard on its speech only.
 */
export async function transcribe(
  file: string,
  { language, terms: termsFile, model: modelFile }: HearingWish,
  onProgress?: (share: number) => void,
): Promise<{ recogniser: string; language: string; words: Word[] }> {
  const all = modelFile === undefined ? recognisers() : [await modelOf(modelFile)];
  const recogniser = language
    ? all.find((each) =>
        each.languages.some((tag) => tag.toLowerCase().split('-')[0] === language.toLowerCase().split('-')[0]),
      )
    : all[0];
  if (!recogniser)
    throw new MediaError(
      `No recogniser here knows “${language}”. There ${all.length === 1 ? 'is' : 'are'}: ${all.map((each) => `${each.name} (${each.languages.join(', ')})`).join('; ')}.`,
    );
  const terms = termsFile === undefined ? [] : termsIn(await textOf(termsFile)).slice(0, mostTerms);
  if (terms.length > 0 && !recogniser.takesTerms)
    throw new MediaError(`${recogniser.name} cannot be told names; leave out --terms.`);
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-'));
  try {
    const { sound, speech, duration } = await spokenIn(file);
    const stretches = speechStretches(speech, duration);
    const spoken = recogniser.languages[0]!;
    let told = language ?? spoken;
    const words = stretches.length
      ? await recogniser.recognise(file, stretches, {
          folder,
          sound,
          terms,
          language: language ?? spoken,
          onLanguage: (tag) => (told = tag),
          ...(onProgress ? { onProgress } : {}),
        })
      : [];
    return {
      recogniser: recogniser.name,
      language: told,
      words: roundedWords(words),
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const modelOf = async (file: string): Promise<Recogniser> =>
  whisperModel({
    name: basename(file),
    facts: await readModelFile(file),
    locate: () => Promise.resolve(resolve(file)),
  });

const textOf = (file: string): Promise<string> =>
  readFile(file, 'utf8').catch((error: unknown) => {
    throw new MediaError(`${file} cannot be read as a list of names.`, { cause: error });
  });
