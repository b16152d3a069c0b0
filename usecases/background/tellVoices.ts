import { counted } from '#core/sentences';
import { overlapsIn, turnRule, voicesIn, withOverlaps, type turnsOf, type VoiceTurn } from '#core/voices';
import { MediaError } from '#media/process';
import { voiceFrames } from '#media/words/voiceFrames';
import { findFile, findMedia, keyOf } from '#data/media';
import { Threads } from '../threads/threads';
import { findSpeakers, saveSpeakers } from '#data/speakers';
import { storage } from '#data/storage';
import type { TaskOutcome, Work } from './runTask';
import { speechOf } from './speechOf';

/** Of the time, what listening takes; the rest is telling the voices apart. */
const listeningShare = 0.3;

/** Finds who speaks when in an item, by voice. The subject is "ITEM" or "ITEM VOICES". */
export async function tellVoices({ task, signal, progress }: Work): Promise<TaskOutcome> {
  const [mediaId, wanted] = task.subject.split(' ');
  const item = await findMedia(mediaId!);
  if (!item) return null;
  const key = keyOf(item);
  const file = await findFile(key.hash);
  if (!file) throw new MediaError('The file is not in the store any more. Bring it in again.');
  const { speech, music, durationSeconds, sound, spent } = await speechOf(key, file, signal, progress);
  const { cepstra, periods } = await voiceFrames(await storage().localPath(file.storageKey), sound, signal, (seconds) =>
    progress(spent + (1 - spent) * listeningShare * Math.min(1, seconds / Math.max(1, durationSeconds))),
  );
  const rule = { ...turnRule, ...(wanted ? { voices: Number(wanted) } : {}) };
  const told = await inOwnThread([cepstra, speech, rule], signal);
  const turns = withOverlaps(told, overlapsIn(periods, speech, music));
  for (;;) {
    signal.throwIfAborted();
    // What the voices were called goes: the numbers are of other voices now.
    const before = await findSpeakers(item.id);
    if (await saveSpeakers(item.id, { turns, names: {} }, before?.version ?? 0)) break;
  }
  return `${counted(voicesIn(turns).length, 'speaker')} told apart.`;
}

/** Finds turns in a thread that ends with them, or with the task: of two hours that takes minutes, and the worker has other tasks. */
async function inOwnThread(given: Parameters<typeof turnsOf>, signal: AbortSignal): Promise<VoiceTurn[]> {
  const threads = new Threads(undefined, 1);
  const end = () => void threads.close();
  signal.addEventListener('abort', end, { once: true });
  try {
    signal.throwIfAborted();
    return (await threads.call('findTurns', given)) as VoiceTurn[];
  } catch (error) {
    signal.throwIfAborted();
    throw error;
  } finally {
    signal.removeEventListener('abort', end);
    await threads.close();
  }
}
