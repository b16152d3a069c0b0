import { setTimeout } from 'node:timers/promises';
import { findContinuation, saveContinuation } from '#data/continuations';
import { findFile } from '#data/media';
import { storage } from '#data/storage';
import { isGlancing } from '#data/tasks';
import { MediaError } from '#media/process';
import { joinsWithoutBreak } from '#media/read/continuity';
import type { Work } from './runTask';

/** So long it waits for first looks, which somebody is waiting for. */
const mostPatience = 30_000;

/** Finds out whether a file goes on in another; the subject is "BEFORE AFTER", by content. */
export async function chainFiles({ task, signal }: Work): Promise<string | null> {
  const [before, after] = task.subject.split(' ') as [string, string];
  const from = Date.now();
  while (!signal.aborted && Date.now() - from < mostPatience && (await isGlancing())) await setTimeout(300);
  if ((await findContinuation(before, after)) !== null) return null;
  const files = [await findFile(before), await findFile(after)];
  if (!files[0] || !files[1]) return null;
  const [one, other] = [await storage().localPath(files[0].storageKey), await storage().localPath(files[1].storageKey)];
  const unbroken = await joinsWithoutBreak(one, other, signal).catch((error: unknown) => {
    // What is wrong with a file is said by its reading; a damaged end joins nothing.
    if (signal.aborted || !(error instanceof MediaError || /ended with/.test((error as Error).message))) throw error;
    return false;
  });
  await saveContinuation(before, after, unbroken);
  return null;
}
