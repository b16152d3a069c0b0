import { and, asc, desc, eq, isNull, max, ne, or, sql, type SQL } from 'drizzle-orm';
import type { Reel, ReelCommand } from '#core/reel';
import { database } from './db';
import { isId } from './projects';
import { reelRevisions, reelVersions, reels, type ReelRole } from './schema';

export interface OpenReel {
  id: string;
  projectId: string;
  head: number;
  document: Reel;
  canUndo: boolean;
  canRedo: boolean;
  /** Id of the edit that was saved last, as its sender named it. */
  lastEdit: string | null;
}

/** Reels that stand by themselves: those of shorts live in their set until one is opened as a reel. */
const standsAlone = or(isNull(reels.role), ne(reels.role, 'short'));

export const listReels = (projectId: string) =>
  database()
    .select({
      id: reels.id,
      name: reels.name,
      role: reels.role,
      updatedAt: reels.updatedAt,
      head: reels.head,
      document: reelRevisions.document,
    })
    .from(reels)
    .innerJoin(reelRevisions, and(eq(reelRevisions.reelId, reels.id), eq(reelRevisions.number, reels.head)))
    .where(and(eq(reels.projectId, projectId), standsAlone))
    .orderBy(desc(reels.updatedAt));

/** From now on it stands among the reels. */
export const letStandAlone = (id: string) =>
  database()
    .update(reels)
    .set({ role: null })
    .where(and(eq(reels.id, id), eq(reels.role, 'short')));

export async function createReel(projectId: string, document: Reel, role: ReelRole | null = null): Promise<string> {
  return database().transaction(async (tx) => {
    const [reel] = await tx.insert(reels).values({ projectId, name: document.name, role }).returning();
    await tx.insert(reelRevisions).values({ reelId: reel!.id, number: 0, document });
    return reel!.id;
  });
}

/** Makes several at once: all of them, or none. @returns their ids in order */
export const createReels = (projectId: string, documents: readonly Reel[]): Promise<string[]> =>
  database().transaction(async (tx) => {
    const ids: string[] = [];
    for (const document of documents) {
      const [reel] = await tx.insert(reels).values({ projectId, name: document.name }).returning();
      await tx.insert(reelRevisions).values({ reelId: reel!.id, number: 0, document });
      ids.push(reel!.id);
    }
    return ids;
  });

/** The project's pile of good pieces, if it has one. */
export async function findSelects(projectId: string): Promise<string | null> {
  const [row] = await database()
    .select({ id: reels.id })
    .from(reels)
    .where(and(eq(reels.projectId, projectId), eq(reels.role, 'selects')))
    .orderBy(desc(reels.createdAt))
    .limit(1);
  return row?.id ?? null;
}

/** Names of all reels, for choosing one; without their documents. */
export const reelNames = (projectId: string) =>
  database()
    .select({ id: reels.id, name: reels.name, role: reels.role })
    .from(reels)
    .where(and(eq(reels.projectId, projectId), standsAlone))
    .orderBy(desc(reels.updatedAt));

export async function openReel(id: string): Promise<OpenReel | null> {
  if (!isId(id)) return null;
  const [row] = await database()
    .select({ reel: reels, revision: reelRevisions })
    .from(reels)
    .innerJoin(reelRevisions, and(eq(reelRevisions.reelId, reels.id), eq(reelRevisions.number, reels.head)))
    .where(eq(reels.id, id));
  if (!row) return null;
  const [child] = await database()
    .select({ number: max(reelRevisions.number) })
    .from(reelRevisions)
    .where(and(eq(reelRevisions.reelId, id), eq(reelRevisions.parent, row.reel.head)));
  return {
    id,
    projectId: row.reel.projectId,
    head: row.reel.head,
    document: row.revision.document,
    canUndo: row.revision.parent !== null,
    canRedo: child?.number != null,
    lastEdit: row.reel.lastEdit,
  };
}

export const loadRevision = async (reelId: string, number: number) =>
  (
    await database()
      .select()
      .from(reelRevisions)
      .where(and(eq(reelRevisions.reelId, reelId), eq(reelRevisions.number, number)))
  )[0] ?? null;

/** The revision to which a step forth leads from another one; null when there is none. */
export const revisionAfter = (reelId: string, number: number) =>
  newestRevision(reelId, eq(reelRevisions.parent, number));
/** The revision that an edit made, by the id that its sender gave it; null when there is none. */
export const revisionOfEdit = (reelId: string, edit: string) => newestRevision(reelId, eq(reelRevisions.edit, edit));

const newestRevision = async (reelId: string, which: SQL) =>
  (
    await database()
      .select()
      .from(reelRevisions)
      .where(and(eq(reelRevisions.reelId, reelId), which))
      .orderBy(desc(reelRevisions.number))
      .limit(1)
  )[0] ?? null;

/**
 * Adds a revision on top of `head`. False when somebody else was quicker: nothing is overwritten.
 * @param edit by which one that comes twice is known
 */
export async function saveRevision(
  reelId: string,
  head: number,
  document: Reel,
  command: ReelCommand,
  edit: string | null = null,
): Promise<boolean> {
  return database().transaction(async (tx) => {
    const [reel] = await tx.select().from(reels).where(eq(reels.id, reelId)).for('update');
    if (!reel || reel.head !== head) return false;
    const [last] = await tx
      .select({ number: max(reelRevisions.number) })
      .from(reelRevisions)
      .where(eq(reelRevisions.reelId, reelId));
    const number = (last?.number ?? 0) + 1;
    await tx.insert(reelRevisions).values({ reelId, number, parent: head, document, command, edit });
    await tx
      .update(reels)
      .set({ head: number, name: document.name, lastEdit: edit, updatedAt: new Date() })
      .where(eq(reels.id, reelId));
    return true;
  });
}

/**
 * Gives a reel another name wherever it has one, in all its revisions: for a name that nobody typed and that follows
 * from something else. Revisions with another name stay.
 */
export async function renameThroughout(reelId: string, from: string, to: string): Promise<void> {
  await database().transaction(async (tx) => {
    await tx
      .update(reelRevisions)
      .set({ document: sql`jsonb_set(${reelRevisions.document}, '{name}', to_jsonb(${to}::text))` })
      .where(and(eq(reelRevisions.reelId, reelId), sql`${reelRevisions.document} ->> 'name' = ${from}`));
    await tx
      .update(reels)
      .set({ name: to })
      .where(and(eq(reels.id, reelId), eq(reels.name, from)));
  });
}

/** A reel as it was when a piece first stood in it; null when it never did. */
export async function firstWith(reelId: string, clip: string): Promise<Reel | null> {
  const holds = sql`jsonb_path_exists(${reelRevisions.document}, '$.tracks[*].items[*] ? (@.id == $id)', jsonb_build_object('id', ${clip}::text))`;
  const [row] = await database()
    .select({ document: reelRevisions.document })
    .from(reelRevisions)
    .where(and(eq(reelRevisions.reelId, reelId), holds))
    .orderBy(asc(reelRevisions.number))
    .limit(1);
  return row?.document ?? null;
}

/** Puts something else in the place of a reel's first version while nobody has changed it yet. False when somebody has. */
export async function replaceFirst(reelId: string, document: Reel): Promise<boolean> {
  return database().transaction(async (tx) => {
    const [reel] = await tx.select().from(reels).where(eq(reels.id, reelId)).for('update');
    if (!reel || reel.head !== 0) return false;
    await tx
      .update(reelRevisions)
      .set({ document })
      .where(and(eq(reelRevisions.reelId, reelId), eq(reelRevisions.number, 0)));
    return true;
  });
}

/** Moves the head one revision back, or forward to its newest child. False when it is not where it was, or at an end. */
export async function stepRevision(
  reelId: string,
  head: number,
  direction: 'undo' | 'redo',
  edit: string | null = null,
): Promise<boolean> {
  return database().transaction(async (tx) => {
    const [reel] = await tx.select().from(reels).where(eq(reels.id, reelId)).for('update');
    if (reel?.head !== head) return false;
    const own = and(
      eq(reelRevisions.reelId, reelId),
      direction === 'undo' ? eq(reelRevisions.number, reel.head) : eq(reelRevisions.parent, reel.head),
    );
    const [row] = await tx.select().from(reelRevisions).where(own).orderBy(desc(reelRevisions.number)).limit(1);
    const target = direction === 'undo' ? row?.parent : row?.number;
    if (target == null) return false;
    const [next] = await tx
      .select()
      .from(reelRevisions)
      .where(and(eq(reelRevisions.reelId, reelId), eq(reelRevisions.number, target)));
    await tx
      .update(reels)
      .set({ head: target, name: next!.document.name, lastEdit: edit, updatedAt: sql`now()` })
      .where(eq(reels.id, reelId));
    return true;
  });
}

export const deleteReel = (projectId: string, id: string) =>
  database()
    .delete(reels)
    .where(and(eq(reels.projectId, projectId), eq(reels.id, id)));

/** Named versions of a reel, newest first. */
export const listVersions = (reelId: string) =>
  database().select().from(reelVersions).where(eq(reelVersions.reelId, reelId)).orderBy(desc(reelVersions.createdAt));
export const nameVersion = (reelId: string, number: number, name: string) =>
  database().insert(reelVersions).values({ reelId, number, name });
export const forgetVersion = (reelId: string, id: string) =>
  database()
    .delete(reelVersions)
    .where(and(eq(reelVersions.reelId, reelId), eq(reelVersions.id, id)));

/** What was done to a reel lately, newest first: the way from its head back to its beginning. */
export async function listSteps(
  reelId: string,
  head: number,
  count: number,
): Promise<{ number: number; command: ReelCommand | null; createdAt: Date; before: Reel | null }[]> {
  const { rows } = await database().execute<{
    number: number;
    command: ReelCommand | null;
    created_at: string;
    before: Reel | null;
  }>(sql`
    with recursive way as (
      select r.number, r.parent, r.command, r.created_at, 1 as depth from reel_revisions r where r.reel_id = ${reelId} and r.number = ${head}
      union all select r.number, r.parent, r.command, r.created_at, way.depth + 1 from reel_revisions r join way on r.number = way.parent where r.reel_id = ${reelId} and way.depth < ${count}
    ) select way.number, way.command, way.created_at, parent.document as before from way left join reel_revisions parent on parent.reel_id = ${reelId} and parent.number = way.parent order by way.depth`);
  return rows.map((row) => ({
    number: row.number,
    command: row.command,
    createdAt: new Date(row.created_at),
    before: row.before,
  }));
}
