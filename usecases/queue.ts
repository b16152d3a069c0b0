import { isMirrored } from '#core/picture';
import { guessReading } from '#core/readings';
import { makeWorkerUtils } from 'graphile-worker';
import { database } from '#data/db';
import { findFile, itemsOfReading, keyOf, setFileProbe, type MediaRow } from '#data/media';
import {
  findBestReading,
  findReading,
  forgetReading,
  itemsOfUnknownCoding,
  parseParameters,
  setProbe,
  type ReadingKey,
} from '#data/readings';
import type { StoredProbe } from '#data/schema';
import { findScript } from '#data/scripts';
import { storage } from '#data/storage';
import { findRecognition } from '#data/words';
import { checkLink } from '#media/outlets/fetchLink';
import { MediaError } from '#media/process';
import { probe, type Probe } from '#media/probe/probe';
import { isPlainlyCoded } from '#media/probe/shown';
import { recognisers } from '#media/words/recognisers';
import { activeTask, queueTask, subjectOf, type Task } from '#data/tasks';
import { recogniserInUse } from './speechModels';
import { queueChains } from './splitRecordings';
import { storedProbe } from './storedProbe';

/** The queue's own tables. */
export async function migrateQueue(): Promise<void> {
  const utils = await makeWorkerUtils({ pgPool: database().$client });
  await utils.migrate();
}

/** How long a file that lies in the store is, as its probe says; null when it is not there or cannot be told. */
export async function lengthOf(hash: string): Promise<number | null> {
  const file = await findFile(hash);
  if (!file) return null;
  if (file.probe) return file.probe.durationSeconds;
  return storage()
    .localPath(file.storageKey)
    .then(probe)
    .then(
      (info) => info.durationSeconds,
      () => null,
    );
}

/**
 * Files that an earlier version read without minding how their pictures are coded: those that it showed as they are meant
 * get noted what they are, the others are read again.
 */
export async function renewMisread(): Promise<void> {
  for (const { projectId, name, probe: old, ...key } of await itemsOfUnknownCoding()) {
    const file = await findFile(key.hash);
    const info =
      file &&
      (await storage()
        .localPath(file.storageKey)
        .then(probe)
        .catch(() => null));
    if (!info) continue;
    if (wasShownRight(info, old)) await setProbe(key, { ...storedProbe(info), durationSeconds: old.durationSeconds });
    else {
      await forgetReading(key);
      await enqueueReading(projectId, key, name);
    }
  }
}

/** Earlier versions turned films by quarters and photos by their EXIF, and knew of nothing else. */
function wasShownRight(info: Probe, old: StoredProbe): boolean {
  if (info.copied || info.kind !== old.kind || info.width !== old.width || info.height !== old.height) return false;
  if (!info.coding) return true;
  const lies =
    info.kind === 'photo' ? info.coding.orientation === (old.orientation ?? 1) : !isMirrored(info.coding.orientation);
  return lies && isPlainlyCoded(info.coding) && !info.coding.alpha;
}

/** A file has arrived in a project: what it is gets noted, and it is asked to be read if it was not yet. */
export async function queueArrival({ projectId, fileHash, name, ...row }: MediaRow): Promise<void> {
  const key = keyOf({ fileHash, ...row });
  const file = await findFile(fileHash);
  let known = file?.probe ?? null;
  if (file && !known) {
    const info = await probe(await storage().localPath(file.storageKey)).catch((error: unknown) => {
      // What is wrong with it is said by its reading.
      if (error instanceof MediaError) return null;
      throw error;
    });
    known = info && storedProbe(info);
    if (known) await setFileProbe(fileHash, known);
  }
  await queueChains({ projectId, fileHash, name, ...row });
  if (await findReading(key)) return;
  if (known && known.kind !== 'photo' && !known.copied && known.durationSeconds >= glancedFromSeconds)
    await enqueueGlance(projectId, key, name);
  await enqueueReading(projectId, key, name);
}

/** Shorter files are read as quickly as they are looked at. */
const glancedFromSeconds = 8;

/** Asks for a first look at a file. */
const enqueueGlance = (projectId: string, key: ReadingKey, title: string): Promise<Task> =>
  queueTask({ projectId, kind: 'glance', subject: subjectOf(key), title });

/** Asks for a file to be read, once: a reading that waits or runs already is given back. */
export async function enqueueReading(projectId: string, key: ReadingKey, title: string): Promise<Task> {
  const known = (await findFile(key.hash))?.probe;
  const { range } = parseParameters(key.parameters);
  const workSeconds = known
    ? guessReading(known, range ? Math.min(range.end, known.durationSeconds) - range.start : known.durationSeconds)
    : null;
  return queueTask({ projectId, kind: 'read', subject: subjectOf(key), title, workSeconds });
}

/** What words are heard with now, and the languages it has, as BCP 47 tags; the first is the usual one. */
export async function hearingLanguages(): Promise<{ recogniser: string; languages: string[]; takesTerms: boolean }> {
  const { name, languages, takesTerms } = await recogniserInUse();
  return { recogniser: name, languages, takesTerms };
}

/** The task in which the words of a file are being heard or wait for it, in whatever language. */
export async function activeHearing(key: ReadingKey): Promise<Task | null> {
  // Also what was asked for before another recogniser came into use.
  const languages = [...(await recogniserInUse()).languages, ...recognisers().flatMap((each) => each.languages)];
  return activeTask('words', ...new Set(languages.map((language) => subjectOf(key, language))));
}

/** The task in which a text is given its times, or waits for it. */
export const activeAlignment = (mediaId: string): Promise<Task | null> => activeTask('align', mediaId);

/** What aligning a second of speech takes on a usual machine, about. */
const aligningSeconds = 0.06;

/** Asks for the times of the text that was brought in for a file; nothing of it need have been read. */
export async function enqueueAlignment(item: MediaRow): Promise<void> {
  const spoken = await spokenSeconds(keyOf(item));
  const workSeconds = spoken && spoken * aligningSeconds;
  await queueTask({ projectId: item.projectId, kind: 'align', subject: item.id, title: item.name, workSeconds });
}

/** What hearing a second of speech takes on a usual machine, about. */
const hearingSeconds = 0.15;

/** Asks for the words of a file, after everything else; in a language of `hearingLanguages`, else in the usual one. */
export async function enqueueWords(
  projectId: string,
  key: ReadingKey,
  title: string,
  wanted: string | null = null,
): Promise<Task> {
  const active = await activeHearing(key);
  if (active) return active;
  const { languages } = await recogniserInUse();
  const language = languages.find((each) => each === wanted) ?? languages[0]!;
  const spoken = await spokenSeconds(key);
  const workSeconds = spoken && spoken * hearingSeconds;
  return queueTask({ projectId, kind: 'words', subject: subjectOf(key, language), title, workSeconds });
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

/** What a task brings in and where to: "BIN ADDRESS"; without a bin the project stands there, behind a dash: two may want the same. */
export const fetchSubject = (projectId: string, binId: string | null, address: string): string =>
  `${binId ?? `-${projectId}`} ${address}`;

/** Brings a file in from an address, once at a time. @throws MediaError when it is no address that may be asked */
export async function enqueueLink(projectId: string, address: string, binId: string | null): Promise<Task> {
  const url = checkLink(address);
  return queueTask({
    projectId,
    kind: 'fetch',
    subject: fetchSubject(projectId, binId, url.href),
    title: decodeURI(url.pathname.split('/').at(-1) ?? '') || url.hostname,
  });
}

/** How long somebody speaks in a file, about; null when nothing is known of it. */
async function spokenSeconds(key: ReadingKey): Promise<number | null> {
  const read = await findBestReading(key);
  return read && read.summary.speechShare * read.probe.durationSeconds;
}

/**
 * What is asked for by itself once a file was read: its words, unless they were heard before, and the times of texts that came
 * without. Whoever wants them sooner asks for them: with the reading beside it, both take as long as one after the other.
 */
export async function enqueueSpoken(
  { projectId, title }: Task,
  key: ReadingKey,
  { kind, hasSound }: Probe,
): Promise<void> {
  const isHeard = async () => (await findRecognition(key, (await recogniserInUse()).name)) !== null;
  if (projectId && hasSound && kind === 'video' && !(await isHeard())) await enqueueWords(projectId, key, title);
  for (const item of await itemsOfReading(key)) if (await findScript(item.id)) await enqueueAlignment(item);
}
