import { speechRuns, type SoundChoice } from '#core/sound';
import type { Range } from '#core/time';
import type { Word } from '#core/words';
import { voiceOf } from '#media/nets/voiceDetector';
import { probe } from '#media/probe/probe';
import { MediaError } from '#media/process';
import { listenForBest } from '#media/read/listen';

/** Where somebody speaks in a file, and in which of its sound. @throws MediaError when it has none */
export async function spokenIn(file: string): Promise<{ sound: SoundChoice; speech: Range[]; duration: number }> {
  const info = await probe(file);
  if (!info.hasSound) throw new MediaError('There is no sound in this file, so there are no words in it.');
  const { choice: sound } = await listenForBest(file, info);
  const voice = await voiceOf(file, sound);
  const duration = info.durationSeconds;
  return { sound, speech: speechRuns(voice.values, voice.hz, duration), duration };
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
