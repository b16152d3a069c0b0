import { and, asc, eq, gt, isNull, max, sql } from 'drizzle-orm';
import { database, type Transaction } from './db';
import { reels, renders, tasks, viewingComments, viewings, viewingVersions, type Approval } from './schema';
import { queueRenderIn, type NewRender } from './tasks';

export type Viewing = typeof viewings.$inferSelect;
export type ViewingComment = typeof viewingComments.$inferSelect;
export type { Approval };

export const viewingOfReel = async (reelId: string): Promise<Viewing | null> =>
  (await database().select().from(viewings).where(eq(viewings.reelId, reelId)))[0] ?? null;

/** By the part of its address that nobody can guess, with the name that its reel has now. */
export async function viewingByToken(token: string): Promise<(Viewing & { name: string }) | null> {
  const [row] = await database()
    .select({ viewing: viewings, name: reels.name })
    .from(viewings)
    .innerJoin(reels, eq(reels.id, viewings.reelId))
    .where(eq(viewings.token, token));
  return row ? { ...row.viewing, name: row.name } : null;
}

/** Opens the viewing of a reel: a new one, or the one that it had, with its versions and comments. */
export async function openViewing(
  values: Pick<Viewing, 'projectId' | 'reelId' | 'token'> & Partial<Viewing>,
): Promise<Viewing> {
  const { passwordHash = null, endsAt = null, mayDownload = false } = values;
  const [row] = await database()
    .insert(viewings)
    .values(values)
    .onConflictDoUpdate({
      target: viewings.reelId,
      set: { token: values.token, passwordHash, endsAt, mayDownload, closedAt: null, wrongGuesses: 0 },
    })
    .returning();
  return row!;
}

export const changeViewing = (
  id: string,
  values: Partial<
    Pick<Viewing, 'token' | 'passwordHash' | 'endsAt' | 'mayDownload' | 'closedAt' | 'wrongGuesses' | 'guessedAt'>
  >,
) => database().update(viewings).set(values).where(eq(viewings.id, id));

/** Notes one more wrong password. */
export const noteWrongGuess = (id: string) =>
  database()
    .update(viewings)
    .set({ wrongGuesses: sql`${viewings.wrongGuesses} + 1`, guessedAt: sql`now()` })
    .where(eq(viewings.id, id));

/** Versions, the first one first, with their files and how far these are. */
export const listViewingVersions = (viewingId: string) =>
  database()
    .select({
      version: viewingVersions,
      render: renders,
      task: { state: tasks.state, progress: tasks.progress, secondsLeft: tasks.secondsLeft, sentence: tasks.sentence },
    })
    .from(viewingVersions)
    .leftJoin(renders, eq(renders.id, viewingVersions.renderId))
    .leftJoin(tasks, eq(tasks.id, renders.taskId))
    .where(eq(viewingVersions.viewingId, viewingId))
    .orderBy(asc(viewingVersions.number));
export type ViewingVersionRow = Awaited<ReturnType<typeof listViewingVersions>>[number];

const inViewing = <T>(id: string, work: (tx: Transaction) => Promise<T>): Promise<T> =>
  database().transaction(async (tx) => {
    await tx.select({ id: viewings.id }).from(viewings).where(eq(viewings.id, id)).for('update');
    return work(tx);
  });

/** Shows one more version: its row and the render of its file, both or neither. */
export const addViewingVersion = (
  viewingId: string,
  { revision, note }: { revision: number; note: string },
  renderOf: (number: number) => NewRender,
): Promise<void> =>
  inViewing(viewingId, async (tx) => {
    const [last] = await tx
      .select({ number: max(viewingVersions.number) })
      .from(viewingVersions)
      .where(eq(viewingVersions.viewingId, viewingId));
    const number = (last?.number ?? 0) + 1;
    const renderId = await queueRenderIn(tx, renderOf(number));
    await tx.insert(viewingVersions).values({ viewingId, number, revision, note, renderId });
  });

/** Makes the file of a version again, whose file was deleted. */
export const renderVersionAgain = (viewingId: string, versionId: string, render: NewRender): Promise<void> =>
  inViewing(viewingId, async (tx) => {
    const renderId = await queueRenderIn(tx, render);
    await tx
      .update(viewingVersions)
      .set({ renderId })
      .where(and(eq(viewingVersions.viewingId, viewingId), eq(viewingVersions.id, versionId)));
  });

/** Changes who approved a version, whoever else does so at the same time. */
export const changeApprovals = (
  viewingId: string,
  versionId: string,
  change: (now: readonly Approval[]) => Approval[],
): Promise<void> =>
  inViewing(viewingId, async (tx) => {
    const own = and(eq(viewingVersions.viewingId, viewingId), eq(viewingVersions.id, versionId));
    const [row] = await tx.select({ approvals: viewingVersions.approvals }).from(viewingVersions).where(own);
    if (row)
      await tx
        .update(viewingVersions)
        .set({ approvals: change(row.approvals) })
        .where(own);
  });

/** Comments and their answers in the order in which they were written, without those that were taken back. */
export const listComments = (viewingId: string): Promise<ViewingComment[]> =>
  database()
    .select()
    .from(viewingComments)
    .where(and(eq(viewingComments.viewingId, viewingId), isNull(viewingComments.removedAt)))
    .orderBy(asc(viewingComments.createdAt));

/** One that comes twice, by its id, is there once. */
export const addComment = (values: typeof viewingComments.$inferInsert) =>
  database().insert(viewingComments).values(values).onConflictDoNothing();

/** @param key only when it was written with this one; anybody's when missing. @returns whether there was such a comment */
export async function changeComment(
  viewingId: string,
  id: string,
  values: Partial<Pick<ViewingComment, 'doneAt' | 'removedAt'>>,
  key?: string,
): Promise<boolean> {
  const own = and(eq(viewingComments.viewingId, viewingId), eq(viewingComments.id, id));
  const rows = await database()
    .update(viewingComments)
    .set(values)
    .where(key === undefined ? own : and(own, eq(viewingComments.key, key)))
    .returning({ id: viewingComments.id });
  return rows.length > 0;
}

/** How many comments there are, and how many of them came in the last minute, from whomever. */
export async function countComments(viewingId: string): Promise<{ all: number; lately: number }> {
  const of = eq(viewingComments.viewingId, viewingId);
  const [all, lately] = await Promise.all([
    database().$count(viewingComments, of),
    database().$count(viewingComments, and(of, gt(viewingComments.createdAt, sql`now() - interval '1 minute'`))),
  ]);
  return { all, lately };
}

/** Ids of the files that are shown under a link. */
export async function shownRenders(projectId: string): Promise<Set<string>> {
  const rows = await database()
    .select({ id: viewingVersions.renderId })
    .from(viewingVersions)
    .innerJoin(viewings, eq(viewings.id, viewingVersions.viewingId))
    .where(eq(viewings.projectId, projectId));
  return new Set(rows.flatMap(({ id }) => id ?? []));
}

/** How many comments of visitors are not ticked off, by reel. */
export async function openCommentsByReel(projectId: string): Promise<Map<string, number>> {
  const rows = await database()
    .select({ reelId: viewings.reelId, count: sql<number>`count(*)::int` })
    .from(viewingComments)
    .innerJoin(viewings, eq(viewings.id, viewingComments.viewingId))
    .where(
      and(
        eq(viewings.projectId, projectId),
        isNull(viewingComments.removedAt),
        isNull(viewingComments.doneAt),
        isNull(viewingComments.answers),
        eq(viewingComments.fromEditor, false),
      ),
    )
    .groupBy(viewings.reelId);
  return new Map(rows.map(({ reelId, count }) => [reelId, count]));
}
