import { and, desc, eq, max, sql } from 'drizzle-orm';
import type { Reel, ReelCommand } from '#core/reel';
import { database } from './db';
import { isId } from './projects';
import { reelRevisions, reels } from './schema';

export interface OpenReel {
  id: string;
  projectId: string;
  head: number;
  document: Reel;
  canUndo: boolean;
  canRedo: boolean;
}

export const listReels = (projectId: string) =>
  database().select({ id: reels.id, name: reels.name, updatedAt: reels.updatedAt, head: reels.head, document: reelRevisions.document })
    .from(reels).innerJoin(reelRevisions, and(eq(reelRevisions.reelId, reels.id), eq(reelRevisions.number, reels.head)))
    .where(eq(reels.projectId, projectId)).orderBy(desc(reels.updatedAt));

export async function createReel(projectId: string, document: Reel): Promise<string> {
  return database().transaction(async (tx) => {
    const [reel] = await tx.insert(reels).values({ projectId, name: document.name }).returning();
    await tx.insert(reelRevisions).values({ reelId: reel!.id, number: 0, document });
    return reel!.id;
  });
}

export async function openReel(id: string): Promise<OpenReel | null> {
  if (!isId(id)) return null;
  const [row] = await database().select({ reel: reels, revision: reelRevisions }).from(reels)
    .innerJoin(reelRevisions, and(eq(reelRevisions.reelId, reels.id), eq(reelRevisions.number, reels.head))).where(eq(reels.id, id));
  if (!row) return null;
  const [child] = await database().select({ number: max(reelRevisions.number) }).from(reelRevisions).where(and(eq(reelRevisions.reelId, id), eq(reelRevisions.parent, row.reel.head)));
  return { id, projectId: row.reel.projectId, head: row.reel.head, document: row.revision.document, canUndo: row.revision.parent !== null, canRedo: child?.number != null };
}

export const loadRevision = async (reelId: string, number: number) =>
  (await database().select().from(reelRevisions).where(and(eq(reelRevisions.reelId, reelId), eq(reelRevisions.number, number))))[0] ?? null;

/** Adds a revision on top of `head`. False when somebody else was quicker: nothing is overwritten. */
export async function saveRevision(reelId: string, head: number, document: Reel, command: ReelCommand): Promise<boolean> {
  return database().transaction(async (tx) => {
    const [reel] = await tx.select().from(reels).where(eq(reels.id, reelId)).for('update');
    if (!reel || reel.head !== head) return false;
    const [last] = await tx.select({ number: max(reelRevisions.number) }).from(reelRevisions).where(eq(reelRevisions.reelId, reelId));
    const number = (last?.number ?? 0) + 1;
    await tx.insert(reelRevisions).values({ reelId, number, parent: head, document, command });
    await tx.update(reels).set({ head: number, name: document.name, updatedAt: new Date() }).where(eq(reels.id, reelId));
    return true;
  });
}

/** Moves the head one revision back, or forward to its newest child. */
export async function stepRevision(reelId: string, direction: 'undo' | 'redo'): Promise<boolean> {
  return database().transaction(async (tx) => {
    const [reel] = await tx.select().from(reels).where(eq(reels.id, reelId)).for('update');
    if (!reel) return false;
    const own = and(eq(reelRevisions.reelId, reelId), direction === 'undo' ? eq(reelRevisions.number, reel.head) : eq(reelRevisions.parent, reel.head));
    const [row] = await tx.select().from(reelRevisions).where(own).orderBy(desc(reelRevisions.number)).limit(1);
    const target = direction === 'undo' ? row?.parent : row?.number;
    if (target == null) return false;
    const [next] = await tx.select().from(reelRevisions).where(and(eq(reelRevisions.reelId, reelId), eq(reelRevisions.number, target)));
    await tx.update(reels).set({ head: target, name: next!.document.name, updatedAt: sql`now()` }).where(eq(reels.id, reelId));
    return true;
  });
}

export const deleteReel = (projectId: string, id: string) => database().delete(reels).where(and(eq(reels.projectId, projectId), eq(reels.id, id)));
