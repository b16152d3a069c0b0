import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Word } from '#core/words';
import { MediaError } from '#media/process';
import { recognisers } from '#media/words/recognisers';
import { speechStretches } from '#media/words/speechStretches';
import { roundedWords, spokenIn } from './spoken';

/** The words of a file with their times, heard on its speech only. */
export async function transcribe(
  file: string,
  language: string | undefined,
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
  const folder = await mkdtemp(join(tmpdir(), 'bright-reel-'));
  try {
    const { sound, speech, duration } = await spokenIn(file);
    const stretches = speechStretches(speech, duration);
    const spoken = recogniser.languages[0]!;
    const words = stretches.length
      ? await recogniser.recognise(file, stretches, {
          folder,
          sound,
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
