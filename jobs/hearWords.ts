import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { readerVersion, runsOf } from '#core/readings';
import { MediaError } from '#media/process';
import { recognisers, stretchesOf } from '#media/recognisers';
import { findFile } from '#data/media';
import { loadDerived } from '#data/readings';
import { scratchFolder, storage } from '#data/storage';
import { findRecognition, saveRecognition } from '#data/words';
import { keyOfSubject } from './queue';
import type { Work } from './runTask';

/** Hears the words of a file, on its speech runs only. What was heard before costs nothing. */
export async function hearWords({ task, signal, progress }: Work): Promise<string | null> {
  const key = keyOfSubject(task.subject);
  const recogniser = recognisers()[0]!;
  if (await findRecognition(key, recogniser.name)) return null;
  const file = await findFile(key.hash);
  if (!file) throw new MediaError('The file is not in the store any more. Bring it in again.');
  const derived = await loadDerived(key, readerVersion);
  if (!derived) throw new MediaError('The file has to be read before its words can be heard.');
  const stretches = stretchesOf(runsOf(derived.runs, 'speech'), derived.durationSeconds);
  const folder = join(scratchFolder(), `words-${task.id}`);
  await rm(folder, { recursive: true, force: true });
  try {
    const words = stretches.length ? await recogniser.recognise(await storage().localPath(file.storageKey), stretches, { folder, language: recogniser.languages[0]!, signal, onProgress: progress }) : [];
    await saveRecognition(key, recogniser.name, words);
    return `${words.length} words by ${recogniser.name}.`;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
