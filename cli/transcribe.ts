import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { mostTerms, termsIn, type Word } from '#core/words';
import { MediaError } from '#media/process';
import { recognisers } from '#media/words/recognisers';
import { speechStretches } from '#media/words/speechStretches';
import { roundedWords, spokenIn } from './spoken';

/**
 * The words of a file with their times, heard on its speech only.
 * @param termsFile a text with names and terms, one a line
 */
export async function transcribe(
  file: string,
  language: string | undefined,
  termsFile: string | undefined,
  onProgress?: (share: number) => void,
): Promise<{ recogniser: string; language: string; words: Word[] }> {
  const all = recognisers();
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
    const words = stretches.length
      ? await recogniser.recognise(file, stretches, {
          folder,
          sound,
          terms,
          language: language ?? spoken,
          ...(onProgress ? { onProgress } : {}),
        })
      : [];
    return {
      recogniser: recogniser.name,
      language: language ?? spoken,
      words: roundedWords(words),
    };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

const textOf = (file: string): Promise<string> =>
  readFile(file, 'utf8').catch((error: unknown) => {
    throw new MediaError(`${file} cannot be read as a list of names.`, { cause: error });
  });
