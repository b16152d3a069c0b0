import { makeWorkerUtils } from 'graphile-worker';
import { database } from '#data/db';
import { findFile } from '#data/media';
import { forgetReading, photosOfUnknownLie, setOrientation, type ReadingKey } from '#data/readings';
import { storage } from '#data/storage';
import { checkLink } from '#media/outlets/fetchLink';
import { probe } from '#media/probe/probe';
import { recognisers } from '#media/words/recognisers';
import { readOrientation } from '#media/probe/upright';
import { activeTask, queueTask, subjectOf, type Task } from '#data/tasks';

/** The queue's own tables. */
export async function migrateQueue(): Promise<void> {
  const utils = await makeWorkerUtils({ pgPool: database().$client });
  await utils.migrate();
}

/** How long a file that lies in the store is, as its probe says; null when it is not there or cannot be told. */
export async function lengthOf(hash: string): Promise<number | null> {
  const file = await findFile(hash);
  if (!file) return null;
  return probe(await storage().localPath(file.storageKey)).then(
    (info) => info.durationSeconds,
    () => null,
  );
}

/** Photos that were read by an earlier version as if they were upright are read again where their EXIF says otherwise. */
export async function renewTurnedPhotos(): Promise<void> {
  for (const { projectId, name, ...key } of await photosOfUnknownLie()) {
    const file = await findFile(key.hash);
    const orientation = file ? await readOrientation(await storage().localPath(file.storageKey)) : 1;
    if (orientation === 1) {
      await setOrientation(key, 1);
      continue;
    }
    await forgetReading(key);
    await enqueueReading(projectId, key, name, 1);
  }
}

/** Asks for a file to be read, once: a reading that waits or runs already is given back. */
export async function enqueueReading(
  projectId: string,
  key: ReadingKey,
  title: string,
  workSeconds: number | null = null,
): Promise<Task> {
  return queueTask({ projectId, kind: 'read', subject: subjectOf(key), title, workSeconds });
}

/** Languages that the recogniser of this machine has, as BCP 47 tags; the first is the usual one. */
export const hearingLanguages = (): { recogniser: string; languages: string[] } => {
  const { name, languages } = recognisers()[0]!;
  return { recogniser: name, languages };
};

/** The task in which the words of a file are being heard or wait for it, in whatever language. */
export async function activeHearing(key: ReadingKey): Promise<Task | null> {
  for (const language of hearingLanguages().languages) {
    const task = await activeTask('words', subjectOf(key, language));
    if (task) return task;
  }
  return null;
}

/** Asks for the words of a file, after everything else; in a language of `hearingLanguages`, else in the usual one. */
export async function enqueueWords(
  projectId: string,
  key: ReadingKey,
  title: string,
  wanted: string | null = null,
): Promise<Task> {
  const active = await activeHearing(key);
  if (active) return active;
  const { languages } = hearingLanguages();
  const language = languages.find((each) => each === wanted) ?? languages[0]!;
  return queueTask({ projectId, kind: 'words', subject: subjectOf(key, language), title });
}

/** Asks for the recordings of a bin to be brought into step, once. */
export async function enqueueSync(projectId: string, binId: string, title: string): Promise<Task> {
  return queueTask({ projectId, kind: 'sync', subject: binId, title });
}

/** Asks where one recording lies in another, by content, once. */
export async function enqueueMatch(projectId: string, reference: string, other: string, title: string): Promise<Task> {
  return queueTask({ projectId, kind: 'match', subject: `${reference} ${other}`, title });
}

/** Asks for the beats of a piece of music, once; the subject is its content. */
export async function enqueueHearing(projectId: string, hash: string, title: string): Promise<Task> {
  return queueTask({ projectId, kind: 'hear', subject: hash, title });
}

/** Asks for the pictures of a set of shorts to be framed, once. */
export async function enqueueFraming(projectId: string, setId: string, title: string): Promise<Task> {
  return queueTask({ projectId, kind: 'frame', subject: setId, title });
}

/** Brings a file in from an address, once at a time. @throws MediaError when it is no address that may be asked */
export async function enqueueLink(projectId: string, address: string, binId: string | null): Promise<Task> {
  const url = checkLink(address);
  return queueTask({
    projectId,
    kind: 'fetch',
    subject: `${binId ?? '-'} ${url.href}`,
    title: decodeURI(url.pathname.split('/').at(-1) ?? '') || url.hostname,
  });
}
