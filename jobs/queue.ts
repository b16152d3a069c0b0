import { makeWorkerUtils, type WorkerUtils } from 'graphile-worker';
import { database } from '#data/db';
import type { ReadingKey } from '#data/readings';
import { checkLink } from '#media/fetchLink';
import { outlets, type OutletAccount } from '#media/outlets/index';
import { recognisers } from '#media/recognisers';
import { activeTask, createTask, type Task } from '#data/tasks';

/** Putting work into the queue; the worker takes it out. The web application imports this file and no other of this room. */
let utils: Promise<WorkerUtils> | null = null;
const queue = () => (utils ??= makeWorkerUtils({ pgPool: database().$client }));

export async function migrateQueue(): Promise<void> {
  await (await queue()).migrate();
}

/** Lower goes first: somebody waits for a render, words come after everything. */
const priorities: Record<Task['kind'], number> = { match: -20, hear: -20, frame: -20, post: -15, fetch: -15, render: -10, sync: -5, read: 0, words: 10 };

async function enqueue(task: Task): Promise<void> {
  await (await queue()).addJob(task.kind, { taskId: task.id }, { jobKey: task.id, maxAttempts: 4, priority: priorities[task.kind] });
}

/** A task names what it reads as "HASH PARAMETERS", and for words "HASH PARAMETERS LANGUAGE". */
export const subjectOf = ({ hash, parameters }: ReadingKey, language = ''): string => `${hash} ${parameters} ${language}`.trim();
export function keyOfSubject(subject: string): ReadingKey & { language: string | null } {
  const [hash, parameters = '', language = null] = subject.split(' ');
  return { hash: hash!, parameters, language };
}

/** Asks for a file to be read, once: a reading that waits or runs already is given back. */
export async function enqueueReading(projectId: string, key: ReadingKey, title: string, workSeconds: number | null = null): Promise<Task> {
  const active = await activeTask('read', subjectOf(key));
  if (active) return active;
  const task = await createTask({ projectId, kind: 'read', subject: subjectOf(key), title, workSeconds });
  await enqueue(task);
  return task;
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
export async function enqueueWords(projectId: string, key: ReadingKey, title: string, wanted: string | null = null): Promise<Task> {
  const active = await activeHearing(key);
  if (active) return active;
  const { languages } = hearingLanguages();
  const language = languages.find((each) => each === wanted) ?? languages[0]!;
  const task = await createTask({ projectId, kind: 'words', subject: subjectOf(key, language), title, workSeconds: null });
  await enqueue(task);
  return task;
}

/** A task on a subject, or the one that waits or runs on it already. */
async function enqueueOnce(kind: Task['kind'], projectId: string, subject: string, title: string): Promise<Task> {
  const active = await activeTask(kind, subject);
  if (active) return active;
  const task = await createTask({ projectId, kind, subject, title, workSeconds: null });
  await enqueue(task);
  return task;
}

/** Asks for the recordings of a bin to be brought into step, once. */
export async function enqueueSync(projectId: string, binId: string, title: string): Promise<Task> {
  return enqueueOnce('sync', projectId, binId, title);
}

/** Asks where one recording lies in another, by content, once. */
export async function enqueueMatch(projectId: string, reference: string, other: string, title: string): Promise<Task> {
  return enqueueOnce('match', projectId, `${reference} ${other}`, title);
}

/** Asks for the beats of a piece of music, once; the subject is its content. */
export async function enqueueHearing(projectId: string, hash: string, title: string): Promise<Task> {
  return enqueueOnce('hear', projectId, hash, title);
}

/** Asks for the pictures of a set of shorts to be framed, once. */
export async function enqueueFraming(projectId: string, setId: string, title: string): Promise<Task> {
  return enqueueOnce('frame', projectId, setId, title);
}

/** Hands a finished file to an outlet. */
export async function enqueuePost(projectId: string, postId: string, title: string): Promise<Task> {
  return enqueueOnce('post', projectId, postId, title);
}

/** Accounts of all outlets of this installation, with what each takes; of an outlet that is away nothing, and why. */
export async function outletAccounts(): Promise<{ accounts: (OutletAccount & { outlet: string })[]; problem: string | null }> {
  const known = outlets();
  const found = await Promise.allSettled(known.map(async (outlet) => (await outlet.accounts()).map((account) => ({ ...account, outlet: outlet.id }))));
  return { accounts: found.flatMap((each) => (each.status === 'fulfilled' ? each.value : [])), problem: known.length === 0 ? 'No outlet is set up here.' : found.some((each) => each.status === 'rejected') ? 'The outlet does not answer. Posts that wait are tried again.' : null };
}

/** Brings a file in from an address, once at a time. @throws MediaError when it is no address that may be asked */
export async function enqueueLink(projectId: string, address: string, binId: string | null): Promise<Task> {
  const url = checkLink(address);
  return enqueueOnce('fetch', projectId, `${binId ?? '-'} ${url.href}`, decodeURI(url.pathname.split('/').at(-1) ?? '') || url.hostname);
}

export async function enqueueRender(projectId: string, renderId: string, title: string, workSeconds: number): Promise<Task> {
  const task = await createTask({ projectId, kind: 'render', subject: renderId, title, workSeconds });
  await enqueue(task);
  return task;
}

/** Puts a task back that lost its worker. */
export async function enqueueAgain(task: Task): Promise<void> {
  await (await queue()).addJob(task.kind, { taskId: task.id }, { jobKey: task.id, maxAttempts: 4, priority: priorities[task.kind] });
}
