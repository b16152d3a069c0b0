import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { speechRuns } from '#core/sound';
import type { Word } from '#core/words';
import { probe } from '#media/probe/probe';
import { MediaError } from '#media/process';
import { recognisers } from '#media/words/recognisers';
import { speechStretches } from '#media/words/speechStretches';
import { voiceOf } from '#media/nets/voiceDetector';
import { listenForBest } from '#media/read/listen';

/** The words of a file with their times, heard on its speech only. */
export async function transcribe(
  file: string,
  language: string | undefined,
  onProgress?: (share: number) => void,
): Promise<{ recogniser: string; language: string; words: Word[] }> {
  const info = await probe(file);
  if (!info.hasSound) throw new MediaError('There is no sound in this file, so there are no words in it.');
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
    const { choice: sound } = await listenForBest(file, info);
    const voice = await voiceOf(file, sound);
    const stretches = speechStretches(speechRuns(voice.values, voice.hz, info.durationSeconds), info.durationSeconds);
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

/** Words with times to the millisecond. */
export function roundedWords(words: readonly Word[]): Word[] {
  const round = (value: number) => Math.round(value * 1000) / 1000;
  return words.map((word) => ({
    ...word,
    start: round(word.start),
    end: round(word.end),
    confidence: round(word.confidence),
  }));
}
