import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { counted, listOf } from '#core/sentences';
import { scriptWords } from '#core/words';
import { MediaError } from '#media/process';
import { alignScript } from '#media/words/align';
import { findFile, findMedia, keyOf } from '#data/media';
import { parseParameters } from '#data/readings';
import { dropScript, findScript } from '#data/scripts';
import { scratchFolder, storage } from '#data/storage';
import { findRecognition, loadTranscript, showText } from '#data/words';
import { followingWords } from '../followWords';
import { later, type TaskOutcome, type Work } from './runTask';
import { speechOf } from './speechOf';

/** Gives the words of a text that was brought in without times the times at which they are said. */
export async function alignText({ task, signal, progress }: Work): Promise<TaskOutcome> {
  const item = await findMedia(task.subject);
  const script = item && (await findScript(item.id));
  if (!item || !script) return null;
  const key = keyOf(item);
  const [file, heard] = await Promise.all([findFile(key.hash), findRecognition(key)]);
  if (!file) throw new MediaError('The file is not in the store any more. Bring it in again.');
  const { speech, durationSeconds, sound, spent } = await speechOf(key, file, signal, progress);
  const { range } = parseParameters(key.parameters);
  const folder = join(scratchFolder(), `align-${task.id}`);
  await rm(folder, { recursive: true, force: true });
  try {
    const { words, leftOut, added, otherwise } = await alignScript(
      await storage().localPath(file.storageKey),
      scriptWords(script.text),
      heard?.words ?? [],
      {
        within: { start: range?.start ?? 0, end: Math.min(range?.end ?? Infinity, durationSeconds) },
        speech,
        sound,
        folder,
        language: script.language,
        signal,
        onProgress: (share) => progress(spent + (1 - spent) * share),
      },
    );
    await followingWords([item], async () => {
      for (;;) {
        // What was corrected meanwhile is kept beside it.
        const { version } = await loadTranscript(item);
        const result = await showText(item.id, { words, language: script.language }, version);
        if (result !== 'conflict') return;
      }
    });
    await dropScript(script);
    // Another text came meanwhile; it would have no task of its own.
    if (await findScript(item.id)) return later;
    const unlike = [
      ...(leftOut > 0 ? [`${counted(leftOut, 'word')} left out`] : []),
      ...(added > 0 ? [`${added} added`] : []),
      ...(otherwise > 0 ? [`${otherwise} said otherwise`] : []),
    ];
    return `${counted(words.length, 'word')} have their times${unlike.length > 0 ? `; ${listOf(unlike)}` : ''}.`;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
