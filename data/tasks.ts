import { rm } from 'node:fs/promises';
import { and, asc, desc, eq, gt, gte, inArray, lt, ne, not, notInArray, or, sql } from 'drizzle-orm';
import { percentile } from '#core/signal';
import { database, type Transaction } from './db';
import { dropRange } from './media';
import type { ReadingKey } from './readings';
import { samePost, type NewPost, type Post } from './posts';
import { posts, projects, renders, tasks } from './schema';
import { partsOf, renderPlace, storage, stretchPlace } from './storage';

export type Task = typeof tasks.$inferSelect;

export const findTask = async (id: string): Promise<Task | null> =>
  (await database().select().from(tasks).where(eq(tasks.id, id)))[0] ?? null;

/** A task names what it reads as "HASH PARAMETERS", and for words "HASH PARAMETERS LANGUAGE". */
export const subjectOf = ({ hash, parameters }: ReadingKey, language = ''): string =>
  `${hash} ${parameters} ${language}`.trim();
export function keyOfSubject(subject: string): ReadingKey & { language: string | null } {
  const [hash, parameters = '', language = null] = subject.split(' ');
  return { hash: hash!, parameters, language };
}

/** Kinds of work that wait for one another; what is in another lane goes on beside them. */
export const lanes = {
  /** Seconds each, and every file is looked at before one is read whole. */
  glance: ['glance'],
  /** Whether files go on in one another; nobody waits for it. */
  aside: ['chain'],
  reading: ['read'],
  rendering: ['render'],
  /** Somebody waits for these on a screen, and they are short. */
  short: ['match', 'hear', 'frame', 'sync', 'music'],
  /** These wait for a line, not for the processor. */
  line: ['post', 'fetch', 'join'],
  /** Words take as long as somebody speaks; nothing else waits for them. A text is aligned to what was heard, after it. */
  words: ['words', 'align', 'voices'],
} as const satisfies Record<string, readonly Task['kind'][]>;
export type Lane = keyof typeof lanes;
const laneOf = (kind: Task['kind']): readonly Task['kind'][] =>
  Object.values(lanes).find((kinds: readonly Task['kind'][]) => kinds.includes(kind)) ?? [kind];

/** How often the queue tries a task before it gives up. */
const maxAttempts = 4;
/** The queue's priorities are 16 bits wide. */
const lastRank = 32_000;
const isActive = inArray(tasks.state, ['queued', 'running']);

/** Puts a job for a task into the queue, in the place of any that is there; one that a dead worker holds is let go. */
const addJob = (tx: Transaction, { id, kind, rank }: Pick<Task, 'id' | 'kind' | 'rank'>) =>
  tx.execute(sql`select graphile_worker.add_job(${kind}::text, json_build_object('taskId', ${id}::text),
    job_key := ${id}::text, max_attempts := ${maxAttempts}::int, priority := ${Math.min(rank, lastRank)}::int)`);

/**
 * The place of a new task: behind the project's own ones, but no further back than where the lane stands, so that the
 * projects take turns (start-time fair queueing with weights of one: Goyal, Vin and Cheng 1996, from memory).
 */
async function nextRank(tx: Transaction, projectId: string | null, kind: Task['kind']): Promise<number> {
  const own = projectId === null ? sql`false` : eq(tasks.projectId, projectId);
  const [lane] = await tx
    .select({
      now: sql<number | null>`min(${tasks.rank})`,
      own: sql<number | null>`max(${tasks.rank}) filter (where ${own})`,
    })
    .from(tasks)
    .where(and(isActive, inArray(tasks.kind, [...laneOf(kind)])));
  return Math.max(lane?.now ?? 0, (lane?.own ?? -1) + 1);
}

export type NewTask = Pick<Task, 'projectId' | 'kind' | 'subject' | 'title'> & { workSeconds?: number | null };

/** Row and job of a task, together with whatever else a transaction does; undefined when one on the subject is active. */
async function addTask(tx: Transaction, task: NewTask): Promise<Task | undefined> {
  const rank = await nextRank(tx, task.projectId, task.kind);
  const [row] = await tx
    .insert(tasks)
    .values({ ...task, rank })
    .onConflictDoNothing()
    .returning();
  if (row) await addJob(tx, row);
  return row;
}

/** Puts a task into the queue, row and job together; one that waits or runs on the same subject already is given back. */
export async function queueTask(task: NewTask): Promise<Task> {
  for (;;) {
    const made = await database().transaction((tx) => addTask(tx, task));
    // It may end between the two questions; then it is asked for anew.
    const found = made ?? (await activeTask(task.kind, task.subject));
    if (found) return found;
  }
}

/**
 * Work that is going on or waiting, oldest first, and what failed or ended lately; also readings of this project's files
 * that another project asked for.
 */
export async function listTasks(projectId: string): Promise<Task[]> {
  const recent = and(sql`${tasks.endedAt} > now() - interval '1 day'`, eq(tasks.putAway, false));
  const ofOurFiles = sql`${tasks.kind} = 'read' and ${tasks.subject} in (select trim(file_hash || ' ' || parameters) from media where project_id = ${projectId})`;
  return (
    database()
      .select()
      .from(tasks)
      // First looks are no news once they are over.
      .where(
        or(
          and(eq(tasks.projectId, projectId), or(isActive, and(recent, notInArray(tasks.kind, ['glance', 'chain'])))),
          and(isActive, ofOurFiles),
        ),
      )
      .orderBy(asc(tasks.createdAt))
  );
}

/** Takes a task that is over out of the list of its project. @returns whether there was one */
export async function putTaskAway(projectId: string, id: string): Promise<boolean> {
  const ofProject = and(eq(tasks.id, id), eq(tasks.projectId, projectId), not(isActive));
  return (
    (await database().update(tasks).set({ putAway: true }).where(ofProject).returning({ id: tasks.id })).length > 0
  );
}

/** What a waiting task waits for. */
export interface Ahead {
  /** How many of its lane go first. */
  count: number;
  /** What runs in its lane now; null when no worker has taken anything of it. */
  running: { kind: Task['kind']; title: string; project: string | null } | null;
  /** Until its turn comes, in seconds; null while that cannot be told. */
  seconds: number | null;
}

/** How long a task that waits will take, in seconds, without what it did in earlier turns; null where that is not known. */
export const guessOf = (
  { kind, workSeconds, progress }: Pick<Task, 'kind' | 'workSeconds' | 'progress'>,
  paces: Paces,
): number | null => (workSeconds === null ? null : workSeconds * (1 - progress) * (paces[kind] ?? 1));
/** How much longer than guessed tasks take here, see `paceOfKind`. */
export type Paces = Partial<Record<Task['kind'], number>>;

/** For every waiting task of the installation, what goes before it. */
export async function whatWaits(paces: Paces = {}): Promise<Map<string, Ahead>> {
  const { id, kind, state, title, secondsLeft, workSeconds, progress } = tasks;
  const rows = await database()
    .select({ id, kind, state, title, secondsLeft, workSeconds, progress, project: projects.name })
    .from(tasks)
    .leftJoin(projects, eq(projects.id, tasks.projectId))
    .where(isActive)
    .orderBy(asc(tasks.rank), asc(tasks.createdAt));
  return aheadOf(rows, paces);
}

type ActiveTask = Pick<Task, 'id' | 'kind' | 'state' | 'title' | 'secondsLeft' | 'workSeconds' | 'progress'> & {
  project: string | null;
};

/** @param rows what waits and runs, in the order in which the queue takes it */
export function aheadOf(rows: readonly ActiveTask[], paces: Paces = {}): Map<string, Ahead> {
  const found = new Map<string, Ahead>();
  for (const kinds of Object.values(lanes) as (readonly Task['kind'][])[]) {
    const lane = rows.filter((row) => kinds.includes(row.kind));
    const first = lane.find((row) => row.state === 'running');
    const running = first ? { kind: first.kind, title: first.title, project: first.project } : null;
    const atWork = lane.filter((row) => row.state === 'running');
    let count = atWork.length;
    // What runs side by side is free when its own is done; the next goes where that is first.
    const free = atWork.map((row) => row.secondsLeft);
    for (const row of lane.filter((each) => each.state === 'queued')) {
      const known = free.filter((seconds): seconds is number => seconds !== null);
      const seconds = known.length > 0 && known.length === free.length ? Math.min(...known) : null;
      found.set(row.id, { count: count++, running, seconds });
      const takes = guessOf(row, paces);
      free[seconds === null ? 0 : free.indexOf(seconds)] = seconds === null || takes === null ? null : seconds + takes;
    }
  }
  return found;
}

/** Paces are learnt from so many tasks of a kind. */
const learntFrom = 9;

/** How much longer than guessed tasks of a kind took of late on this installation: the median; 1 while none was done. */
export async function paceOfKind(kind: Task['kind']): Promise<number> {
  const rows = await database()
    .select({
      ratio: sql<number>`extract(epoch from ${tasks.endedAt} - ${tasks.startedAt})::real / ${tasks.workSeconds}`,
    })
    .from(tasks)
    .where(
      and(
        eq(tasks.kind, kind),
        eq(tasks.state, 'done'),
        eq(tasks.attempts, 1),
        // What was over at once says nothing about the pace.
        gt(tasks.workSeconds, 1),
        sql`${tasks.endedAt} - ${tasks.startedAt} > interval '1 second'`,
      ),
    )
    .orderBy(desc(tasks.endedAt))
    .limit(learntFrom);
  return rows.length
    ? Math.min(
        20,
        Math.max(
          0.05,
          percentile(
            rows.map(({ ratio }) => Number(ratio)),
            0.5,
          ),
        ),
      )
    : 1;
}

/** Whether it is being found out which files of a project go on in one another. */
export async function isChaining(projectId: string): Promise<boolean> {
  const rows = await database()
    .select({ id: tasks.id })
    .from(tasks)
    .where(and(eq(tasks.projectId, projectId), eq(tasks.kind, 'chain'), isActive))
    .limit(1);
  return rows.length > 0;
}

/** Whether files are being looked at for the first time; one that waits counts while others are looked at. */
export async function isGlancing(): Promise<boolean> {
  const ofGlances = eq(tasks.kind, 'glance');
  const [row] = await database()
    .select({
      active: sql<boolean>`coalesce(bool_or(${isActive}), false)`,
      alive: sql<boolean>`coalesce(bool_or(${tasks.heartbeatAt} > now() - interval '5 seconds'), false)`,
    })
    .from(tasks)
    .where(and(ofGlances, or(isActive, sql`${tasks.endedAt} > now() - interval '5 seconds'`)));
  return Boolean(row?.active && row.alive);
}

export const activeTask = async (kind: Task['kind'], ...subjects: string[]): Promise<Task | null> =>
  (
    await database()
      .select()
      .from(tasks)
      .where(and(eq(tasks.kind, kind), inArray(tasks.subject, subjects), inArray(tasks.state, ['queued', 'running'])))
  )[0] ?? null;

export const lastTask = async (kind: Task['kind'], subject: string): Promise<Task | null> =>
  (
    await database()
      .select()
      .from(tasks)
      .where(and(eq(tasks.kind, kind), eq(tasks.subject, subject)))
      .orderBy(desc(tasks.createdAt))
      .limit(1)
  )[0] ?? null;

/**
 * Takes a task for a run. Null when it was cancelled or ended meanwhile. A run that had it before has lost it.
 * @param run names this run and no other
 */
export async function startTask(id: string, run: string): Promise<Task | null> {
  const [task] = await database()
    .update(tasks)
    .set({
      state: 'running',
      workerId: run,
      heartbeatAt: new Date(),
      startedAt: new Date(),
      secondsLeft: null,
      sentence: null,
      attempts: sql`${tasks.attempts} + 1`,
    })
    .where(and(eq(tasks.id, id), isActive, eq(tasks.cancelRequested, false)))
    .returning();
  return task ?? null;
}

/** So much later than its turn, in places, a task may be done because others lie nearer; and of so many the nearest is looked for. */
const nearRanks = 8;
const nearTasks = 24;

/** Tasks that wait in the same lane and whose turn comes soon after, in their order. */
export const soonAfter = ({ id, kind, rank }: Task): Promise<Task[]> =>
  database()
    .select()
    .from(tasks)
    .where(
      and(
        eq(tasks.state, 'queued'),
        ne(tasks.id, id),
        inArray(tasks.kind, [...laneOf(kind)]),
        gte(tasks.rank, rank),
        lt(tasks.rank, rank + nearRanks),
      ),
    )
    .orderBy(asc(tasks.rank), asc(tasks.createdAt))
    .limit(nearTasks);

/**
 * Puts a task back whose job was just taken, and takes the job of another in its place.
 * @returns false when somebody else has taken that one meanwhile; then nothing was changed
 */
export const swapTurns = (own: Task, other: Task): Promise<boolean> =>
  database().transaction(async (tx) => {
    const { rows } = await tx.execute<{ free: boolean }>(
      sql`select locked_at is null as free from graphile_worker.jobs where key = ${other.id}::text`,
    );
    if (!rows[0]?.free) return false;
    const removed = await tx.execute<{ free: boolean }>(
      sql`select locked_at is null as free from graphile_worker.remove_job(${other.id}::text)`,
    );
    // It was taken between the two questions; whoever has it goes on with it.
    if (!removed.rows[0]?.free) return false;
    await addJob(tx, own);
    return true;
  });

const ofRun = (id: string, run: string) => and(eq(tasks.id, id), eq(tasks.workerId, run));

/** Writes progress and says how the run stands: 'cancel' when somebody asked to stop, 'lost' when another run has the task. */
export async function heartbeat(
  id: string,
  run: string,
  progress: number,
  secondsLeft: number | null,
): Promise<'on' | 'cancel' | 'lost'> {
  const [task] = await database()
    .update(tasks)
    .set({ progress, secondsLeft, heartbeatAt: new Date() })
    .where(ofRun(id, run))
    .returning({ cancel: tasks.cancelRequested });
  return task ? (task.cancel ? 'cancel' : 'on') : 'lost';
}

export const saySentence = async (id: string, run: string, sentence: string | null): Promise<void> =>
  void (await database().update(tasks).set({ sentence }).where(ofRun(id, run)));

/** Ends a task, unless another run has it by now. */
export const endTask = (
  id: string,
  run: string,
  state: 'done' | 'failed' | 'cancelled',
  sentence: string | null = null,
) =>
  database()
    .update(tasks)
    .set({ state, sentence, endedAt: new Date(), secondsLeft: null, ...(state === 'done' ? { progress: 1 } : {}) })
    .where(ofRun(id, run));

/** Puts a task back that its run could not end; its job is tried again by the queue. */
export const giveBack = (id: string, run: string) =>
  database()
    .update(tasks)
    .set({ state: 'queued', workerId: null, progress: 0, secondsLeft: null })
    .where(ofRun(id, run));

/** Puts a task back whose turn is over for now, behind what others wait for; what it has done stays done. */
export const yieldTurn = (id: string, run: string): Promise<void> =>
  database().transaction(async (tx) => {
    const [own] = await tx.select().from(tasks).where(ofRun(id, run)).for('update');
    if (!own) return;
    const rank = await nextRank(tx, own.projectId, own.kind);
    // Its next run is no first attempt: how long that takes says nothing about the pace.
    const [row] = await tx
      .update(tasks)
      .set({ state: 'queued', workerId: null, secondsLeft: null, rank, attempts: 1 })
      .where(eq(tasks.id, id))
      .returning();
    await addJob(tx, row!);
  });

/** Whether tasks of the same lane wait that may go first: those of other projects, and shorter ones of the same. */
export async function othersWait(id: string): Promise<boolean> {
  const task = await findTask(id);
  if (!task) return false;
  const left = (task.workSeconds ?? 0) * (1 - task.progress);
  const goesFirst = sql`(${tasks.projectId} is distinct from ${task.projectId} or ${tasks.workSeconds} is null or ${tasks.workSeconds} < ${left})`;
  const [other] = await database()
    .select({ id: tasks.id })
    .from(tasks)
    .where(and(eq(tasks.state, 'queued'), inArray(tasks.kind, [...laneOf(task.kind)]), ne(tasks.id, id), goesFirst))
    .limit(1);
  return other !== undefined;
}

/** Notes where an editor looks in the file of an active task. */
export const setFocus = (kind: Task['kind'], subject: string, seconds: number): Promise<unknown> =>
  database()
    .update(tasks)
    .set({ focusSeconds: seconds })
    .where(
      and(
        eq(tasks.kind, kind),
        eq(tasks.subject, subject),
        isActive,
        sql`(${tasks.focusSeconds} is null or abs(${tasks.focusSeconds} - ${seconds}) > 5)`,
      ),
    );

/** A waiting task ends at once; a running one when its worker hears of it. */
export async function requestCancel(projectId: string, id: string): Promise<void> {
  const own = and(eq(tasks.id, id), eq(tasks.projectId, projectId));
  const [asked] = await database().update(tasks).set({ cancelRequested: true }).where(and(own, isActive)).returning();
  await database()
    .update(tasks)
    .set({ state: 'cancelled', endedAt: new Date() })
    .where(and(own, eq(tasks.state, 'queued')));
  if (asked?.kind !== 'read') return;
  const [hash, parameters = ''] = asked.subject.split(' ');
  await dropRange({ hash: hash!, parameters });
}

/** A task that cost its worker so often is not tried again. */
const mostLosses = 5;

/**
 * Puts tasks back whose run has not been heard of for `seconds`, and those that wait without a job. Jobs of workers that
 * are alive are left alone: a run that turns out to be alive after all hears at its next heartbeat that it lost the task.
 * @returns what was put back, or ended because it lost its worker too often
 */
export async function takeUpLost(seconds: number): Promise<Task[]> {
  return database().transaction(async (tx) => {
    const stale = await tx
      .select()
      .from(tasks)
      .where(and(eq(tasks.state, 'running'), lt(tasks.heartbeatAt, sql`now() - make_interval(secs => ${seconds})`)))
      .for('update', { skipLocked: true });
    const jobless = await tx
      .select()
      .from(tasks)
      .where(
        and(
          eq(tasks.state, 'queued'),
          // A job that somebody took begins its task at once; who took it and has not begun is dead.
          sql`not exists (select 1 from graphile_worker.jobs j where j.key = ${tasks.id}::text and ((j.attempts < j.max_attempts and j.locked_at is null) or j.locked_at > now() - make_interval(secs => ${seconds})))`,
        ),
      )
      .for('update', { skipLocked: true });
    for (const task of [...stale, ...jobless]) {
      const own = eq(tasks.id, task.id);
      if (task.cancelRequested) {
        await tx
          .update(tasks)
          .set({ state: 'cancelled', workerId: null, secondsLeft: null, endedAt: new Date() })
          .where(own);
        continue;
      }
      if (task.attempts >= mostLosses) {
        const sentence = `The worker ended ${task.attempts} times while it did this. The file may be damaged; the log of the worker says more.`;
        await tx
          .update(tasks)
          .set({ state: 'failed', workerId: null, secondsLeft: null, endedAt: new Date(), sentence })
          .where(own);
        continue;
      }
      await tx.update(tasks).set({ state: 'queued', workerId: null, progress: 0, secondsLeft: null }).where(own);
      await addJob(tx, task);
    }
    return [...stale, ...jobless];
  });
}

/** Jobs that nobody tries again: of tasks that failed, and of workers that died. @returns how many were deleted */
export async function forgetDeadJobs(olderThanDays: number): Promise<number> {
  const { rows } = await database().execute<{ count: string }>(
    sql`select count(*) as count from graphile_worker.complete_jobs(array(
      select id from graphile_worker.jobs where attempts >= max_attempts and coalesce(locked_at, run_at) < now() - make_interval(days => ${olderThanDays})))`,
  );
  return Number(rows[0]?.count ?? 0);
}

export type NewRender = Omit<typeof renders.$inferInsert, 'id' | 'createdAt' | 'taskId'>;

/** Puts renders into the queue: rows, tasks and the ties between them, all of them or none. @returns their ids */
export const queueRenders = (wanted: readonly NewRender[]): Promise<string[]> =>
  database().transaction(async (tx) => {
    const ids: string[] = [];
    for (const render of wanted) ids.push(await queueRenderIn(tx, render));
    return ids;
  });
/** The same as part of something else. @returns its id */
export async function queueRenderIn(tx: Transaction, render: NewRender): Promise<string> {
  const [row] = await tx.insert(renders).values(render).returning();
  await tieTask(tx, row!);
  return row!.id;
}

/** Puts a render that failed or was cancelled into the queue again; one that is active is left as it is. */
export const queueRenderAgain = (id: string): Promise<void> =>
  database().transaction(async (tx) => {
    const [render] = await tx.select().from(renders).where(eq(renders.id, id)).for('update');
    if (render && !render.storageKey) await tieTask(tx, render);
  });

async function tieTask(tx: Transaction, { id, projectId, name, seconds }: typeof renders.$inferSelect): Promise<void> {
  const task = await addTask(tx, { projectId, kind: 'render', subject: id, title: name, workSeconds: seconds });
  if (task) await tx.update(renders).set({ taskId: task.id }).where(eq(renders.id, id));
}

/**
 * Hands a finished file to an outlet: its post, its task and the tie between them, all or nothing.
 * @returns the same post that is there or on its way already; null when this one is on its way now
 */
export const queuePost = (post: NewPost): Promise<Post | null> =>
  database().transaction(async (tx) => {
    // Two who press at once come one after the other.
    await tx.select({ id: renders.id }).from(renders).where(eq(renders.id, post.renderId)).for('update');
    const before = await samePost(post.renderId, post.outlet, post.account, tx);
    if (before) return before;
    const [row] = await tx.insert(posts).values(post).returning();
    await tiePost(tx, row!);
    return null;
  });
/** Tries a post again that did not get there; one that is active, or there, is left as it is. */
export const queuePostAgain = (id: string): Promise<void> =>
  database().transaction(async (tx) => {
    const [post] = await tx.select().from(posts).where(eq(posts.id, id)).for('update');
    if (post?.link === null) await tiePost(tx, post);
  });
async function tiePost(tx: Transaction, { id, projectId, title }: Post): Promise<void> {
  const task = await addTask(tx, { projectId, kind: 'post', subject: id, title });
  if (task) await tx.update(posts).set({ taskId: task.id }).where(eq(posts.id, id));
}

export const findRender = async (id: string) =>
  (await database().select().from(renders).where(eq(renders.id, id)))[0] ?? null;
export const setRender = (id: string, values: Partial<typeof renders.$inferInsert>) =>
  database().update(renders).set(values).where(eq(renders.id, id));
/** Forgets a render with its file and what was made of it. */
export async function deleteRender(projectId: string, id: string): Promise<void> {
  const [render] = await database()
    .delete(renders)
    .where(and(eq(renders.id, id), eq(renders.projectId, projectId)))
    .returning();
  if (!render) return;
  if (render.storageKey) await storage().remove(render.storageKey);
  await storage().remove(stretchPlace(id));
  await rm(partsOf(renderPlace(render)), { recursive: true, force: true });
}

export const listRenders = (projectId: string) =>
  database()
    .select({ render: renders, task: tasks })
    .from(renders)
    .leftJoin(tasks, eq(tasks.id, renders.taskId))
    .where(eq(renders.projectId, projectId))
    .orderBy(desc(renders.createdAt));
