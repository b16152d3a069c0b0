import { keyOfSubject } from '#data/tasks';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { runsOf } from '#core/readings';
import { counted } from '#core/sentences';
import { MediaError } from '#media/process';
import { recognisers } from '#media/words/recognisers';
import { speechStretches } from '#media/words/speechStretches';
import { findFile } from '#data/media';
import { findBestReading, loadDerived } from '#data/readings';
import { scratchFolder, storage } from '#data/storage';
import { findRecognition, saveRecognition, touchRecognition } from '#data/words';
import type { Work } from './runTask';

/** Hears the words of a file, on its speech runs only. What was heard before costs nothing. */
export async function hearWords({ task, signal, progress }: Work): Promise<string | null> {
  const { language: wanted, ...key } = keyOfSubject(task.subject);
  const recogniser = recognisers()[0]!;
  const language = recogniser.languages.find((each) => each === wanted) ?? recogniser.languages[0]!;
  // What was heard in the usual language stands under the recogniser's name alone.
  const heardBy = language === recogniser.languages[0] ? recogniser.name : `${recogniser.name} (${language})`;
  if (await findRecognition(key, heardBy)) {
    await touchRecognition(key, heardBy);
    return null;
  }
  const file = await findFile(key.hash);
  if (!file) throw new MediaError('The file is not in the store any more. Bring it in again.');
  const heard = (await findBestReading(key))?.probe.heard;
  const derived = await loadDerived(key);
  if (!derived) throw new MediaError('The file has to be read before its words can be heard.');
  const stretches = speechStretches(runsOf(derived.runs, 'speech'), derived.durationSeconds);
  const folder = join(scratchFolder(), `words-${task.id}`);
  await rm(folder, { recursive: true, force: true });
  try {
    const words = stretches.length
      ? await recogniser.recognise(await storage().localPath(file.storageKey), stretches, {
          ...(heard ? { sound: heard } : {}),
          folder,
          language,
          signal,
          onProgress: progress,
        })
      : [];
    await saveRecognition(key, heardBy, words);
    return `${counted(words.length, 'word')} by ${heardBy}.`;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
