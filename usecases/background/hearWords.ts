import { keyOfSubject } from '#data/tasks';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { counted } from '#core/sentences';
import { isDoubtful, takeBetter, type Word } from '#core/words';
import { MediaError } from '#media/process';
import { asSpoken } from '#media/words/models/whisperModel';
import { speechStretches } from '#media/words/speechStretches';
import { findFile, itemsOfReading } from '#data/media';
import { findProject } from '#data/projects';
import { scratchFolder, storage } from '#data/storage';
import { findRecognition, loadTranscript, saveRecognition, saveTranscript, touchRecognition } from '#data/words';
import { followingWords } from '../followWords';
import { recogniserInUse } from '../speechModels';
import { speechOf } from './speechOf';
import type { Work } from './runTask';

/**
 * Hears the words of a file, on its speech only. What was heard before costs nothing; where the project has names and terms
 * since, only the stretches with doubtful words are heard again.
 */
export async function hearWords({ task, signal, progress }: Work): Promise<string | null> {
  const { language: wanted, ...key } = keyOfSubject(task.subject);
  const recogniser = await recogniserInUse();
  const language = recogniser.languages.find((each) => each === wanted) ?? recogniser.languages[0]!;
  // What was heard in the usual language stands under the recogniser's name alone.
  const heardBy = language === recogniser.languages[0] ? recogniser.name : `${recogniser.name} (${language})`;
  const terms = (recogniser.takesTerms && task.projectId && (await findProject(task.projectId))?.terms) || [];
  const found = await findRecognition(key, heardBy);
  const before = found && found.revision >= recogniser.revision ? found : null;
  const known = new Set(before?.terms.map((term) => term.toLowerCase()));
  if (before && terms.every((term) => known.has(term.toLowerCase()))) {
    await followingWords(await itemsOfReading(key), () => touchRecognition(key, heardBy));
    return null;
  }
  const file = await findFile(key.hash);
  if (!file) throw new MediaError('The file is not in the store any more. Bring it in again.');
  const { speech, durationSeconds, sound, spent } = await speechOf(key, file, signal, progress);
  const all = speechStretches(speech, durationSeconds);
  const doubtful = before?.words.filter(isDoubtful) ?? [];
  const stretches = before
    ? all.filter(({ start, end }) => doubtful.some((word) => word.start < end && word.end > start))
    : all;
  const folder = join(scratchFolder(), `words-${task.id}`);
  await rm(folder, { recursive: true, force: true });
  try {
    let spoken = language === asSpoken ? null : language;
    const words = stretches.length
      ? await recogniser.recognise(await storage().localPath(file.storageKey), stretches, {
          sound,
          terms,
          folder,
          language,
          signal,
          onProgress: (share) => progress(spent + (1 - spent) * share),
          onLanguage: (tag) => (spoken = tag),
        })
      : [];
    const revision = {
      revision: recogniser.revision,
      terms: [...new Set([...(before?.terms ?? []), ...terms])],
      language: spoken ?? before?.language ?? null,
    };
    const items = await itemsOfReading(key);
    if (!before) {
      await followingWords(items, () => saveRecognition(key, heardBy, words, revision));
      return `${counted(words.length, 'word')} by ${heardBy}.`;
    }
    const better = takeBetter(before.words, words, stretches);
    await followingWords(items, async () => {
      await saveRecognition(key, heardBy, better.words, revision);
      await betterCorrected(task.projectId, key, words, stretches);
    });
    return `${counted(doubtful.length, 'doubtful word')} heard again; ${counted(better.taken, 'word')} ${better.taken === 1 ? 'is' : 'are'} new.`;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Words that somebody corrected in part: what is still doubtful of them is bettered too, what was typed stays. */
async function betterCorrected(
  projectId: string | null,
  key: Parameters<typeof findRecognition>[0],
  again: readonly Word[],
  stretches: readonly { start: number; end: number }[],
): Promise<void> {
  const items = (await itemsOfReading(key)).filter((item) => item.projectId === projectId);
  for (const item of items)
    for (;;) {
      const { words, source, version } = await loadTranscript(item);
      if (source !== 'corrected') break;
      const better = takeBetter(words, again, stretches);
      if (better.taken === 0 || (await saveTranscript(item.id, better.words, source, version))) break;
    }
}
